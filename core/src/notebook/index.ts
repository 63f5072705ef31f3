/** What others may use of this folder. */

export * from './account.js';
export * from './across.js';
export * from './counts.js';
export { type Honesty, type HonestyWord, honestyWord, longEnough, type WaitKnown } from './honesty.js';
export * from './lessons.js';
export * from './rate.js';
export * from './recordings.js';
export * from './run-table.js';
