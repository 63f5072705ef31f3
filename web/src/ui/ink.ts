import { lightnessAndChroma } from '@kestfog/core/design';

/** Ink that reads on a colour. */
export const inkOn = (colour: string): string => (lightnessAndChroma(colour).lightness > 58 ? '#1d252c' : '#ffffff');
