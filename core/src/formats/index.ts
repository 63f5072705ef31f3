/** What others may use of this folder. */
export * from './ids.js';
export * from './order.js';
export * from './plan.js';
export * from './plan-format.js';
export * from './plan-index.js';
