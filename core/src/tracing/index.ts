/** What others may use of this folder. */
export * from './cutter.js';
export * from './trace.js';
