/** What others may use of this folder. */
export * from './drying-factors.js';
export * from './pace.js';
export * from './thinning-curve.js';
export * from './touch.js';
