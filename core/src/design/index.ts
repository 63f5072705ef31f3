/** What others may use of this folder. */
export * from './bags.js';
export * from './colour-names.js';
export * from './contrast.js';
export * from './design.js';
export * from './divide.js';
export * from './document/design-format.js';
export * from './document/document.js';
export * from './document/fold.js';
export * from './footprint.js';
export * from './meetings.js';
export * from './patterns/index.js';
export * from './read-design.js';
export * from './simpler-drawing.js';
export * from './starting-shapes.js';
export * from './svg-tree.js';
export * from './technique-names.js';
export * from './words.js';
