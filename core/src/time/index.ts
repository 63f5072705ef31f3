/** What others may use of this folder. */
export * from './interval.js';
export * from './rng.js';
