/**
 * How far a wet mark spreads beyond where it was laid, mm on each side, by its consistency in reference seconds: loose
 * icing runs, outline icing stays. *Assumed*; common practice tells only that flood spreads and outline stays small and sharp.
 */
export const spreadMm = (seconds: number): number => 1.2 * Math.exp(-seconds / 20);
