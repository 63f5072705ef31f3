import type { WetMark } from '@kestfog/core/design';
import type { Shape } from '@kestfog/core/geometry';
import { type WetPreview, wetPreview } from '@kestfog/core/marbling';
import { expose } from 'comlink';

const work = {
  preview: (section: Shape, marks: readonly WetMark[], upTo: number): WetPreview => wetPreview(section, marks, upTo),
};
export type WetPreviewWork = typeof work;
expose(work);
