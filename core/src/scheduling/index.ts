/** What others may use of this folder. */
export * from './parse-problem.js';
export * from './problem.js';
export * from './search-spans.js';
export * from './solution-format.js';
export * from './solve.js';
export * from './solve-options.js';
