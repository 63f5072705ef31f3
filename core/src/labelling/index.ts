/** What others may use of this folder. */
export * from './allergens.js';
export * from './label.js';
