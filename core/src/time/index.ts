/** What others may use of this folder. */
export * from './interval.js';
export * from './month.js';
export * from './rng.js';
