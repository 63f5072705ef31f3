import type { WetMark } from '@kestfog/core/design';
import type { Shape } from '@kestfog/core/geometry';
import { type WetPreview, wetPreview } from '@kestfog/core/marbling';
import type { School } from '@kestfog/core/steps';
import { expose } from 'comlink';

const work = {
  preview: (section: Shape, marks: readonly WetMark[], upTo: number, drops: School['drops']): WetPreview => wetPreview(section, marks, upTo, drops),
};
export type WetPreviewWork = typeof work;
expose(work);
