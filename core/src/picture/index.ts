/** What others may use of this folder. */

export { flawsOn } from './flaws.js';
export { type Gleam, gleams, type Picture, paint } from './paint.js';
export { type Flaw, PICTURE_PAD_MM, type Piece, type Scene, sceneOf } from './scene.js';
export { type PoolInPlay, stagesAsWorked, type WetMotion, WetPlay } from './wet-play.js';
