/** What others may use of this folder. */
export * from './amounts.js';
export * from './gels.js';
export * from './grade.js';
export * from './recipe.js';
export * from './split.js';
export * from './thinning.js';
export * from './water.js';
