/** What others may use of this folder. */
export * from './evening.js';
export * from './evenings.js';
export * from './guess.js';
export * from './judge.js';
export * from './kitchen.js';
export * from './lessons.js';
export * from './play.js';
export * from './proof.js';
export * from './spoilt.js';
export * from './truth.js';
