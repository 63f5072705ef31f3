/** What others may use of this folder. */
export * from './clip.js';
export * from './contact.js';
export * from './flatten.js';
export * from './homography.js';
export * from './point.js';
export * from './shape.js';
