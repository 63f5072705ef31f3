/** What others may use of this folder. */
export { type Picture, paint } from './paint.js';
export { type Flaw, type Piece, type Scene, sceneOf } from './scene.js';
