/**
 * How far a wet mark spreads beyond where it was laid, mm on each side, by its own consistency and that of the flood it is
 * laid in, reference seconds: loose icing runs, outline icing stays, and a stiff flood holds what is laid in it. It is over
 * within the mark's own count (that is what the count is: the time in which the surface levels), and ends for good at
 * *thickening*. *Assumed*; common practice tells only that flood spreads and outline stays small and sharp.
 */
export const markSpreadMm = (seconds: number, floodSeconds: number): number => 1.2 * Math.exp(-(seconds + floodSeconds) / 40);

/** The spread of a mark in a flood of its own consistency. */
export const spreadMm = (seconds: number): number => markSpreadMm(seconds, seconds);
