import { offset, type Shape } from '@kestfog/core/geometry';

/** A shape shrunk by so many millimetres. */
export const inset = (shape: Shape, byMm: number): Shape => offset(shape, -byMm);
