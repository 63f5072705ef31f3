import { type Shape, type WetMark, type WetPreview, wetPreview } from '@kestfog/core';
import { expose } from 'comlink';

const work = {
  preview: (section: Shape, marks: readonly WetMark[], upTo: number): WetPreview => wetPreview(section, marks, upTo),
};
export type WetPreviewWork = typeof work;
expose(work);
