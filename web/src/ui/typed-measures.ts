import { celsiusFromFahrenheit, fahrenheitFromCelsius } from '@kestfog/core/units';
import type { Units } from '../app/units.js';
import { G_PER_OZ } from '../text/amounts.js';
import { numberIn } from './NumberField.js';

const tenth = (x: number) => Math.round(x * 10) / 10;

/** A temperature ready to be changed, and what was typed for one, in °C. */
export const warmthText = (c: number, units: Units): string => (units === 'us' ? fahrenheitFromCelsius(c).toFixed(0) : String(tenth(c)));
export const celsiusIn = (text: string, units: Units): number => (units === 'us' ? celsiusFromFahrenheit(numberIn(text)) : numberIn(text));

/** An amount of icing ready to be changed, and what was typed for one, in grams. */
export const massText = (g: number, units: Units): string => (units === 'us' ? (g / G_PER_OZ).toFixed(2) : String(tenth(g)));
export const gramsIn = (text: string, units: Units): number => numberIn(text) * (units === 'us' ? G_PER_OZ : 1);

/** What was typed in other units; what is no number yet stays as it is. */
export const turnedBy = (text: string, turn: (text: string) => string): string => (Number.isFinite(numberIn(text)) ? turn(text) : text);
export const warmthTurned = (text: string, from: Units, to: Units): string => turnedBy(text, (t) => warmthText(celsiusIn(t, from), to));
export const massTurned = (text: string, from: Units, to: Units): string => turnedBy(text, (t) => massText(gramsIn(t, from), to));
