/** What others may use of this folder. */
export * from './plan-calendar.js';
