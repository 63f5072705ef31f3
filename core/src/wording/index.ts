/** What others may use of this folder. */
export * from './dried-through.js';
export * from './late.js';
export * from './refusal.js';
export * from './span.js';
export * from './why.js';
