import type { Shape } from '../../geometry/shape.js';
import { seededRng } from '../../time/rng.js';
import { dragPatterns } from './drags.js';
import { dropPatterns } from './drops.js';
import { linePatterns } from './lines.js';
import { type PatternAsk, type PatternDefinition, type PatternStroke, roomOf } from './pattern.js';
import { recipePatterns } from './recipes.js';
import { spreadMm } from './spread.js';

export { circleAt, type PatternAsk, type PatternDefinition, type PatternStroke } from './pattern.js';
export { spreadMm } from './spread.js';

export const patterns = [...recipePatterns, ...dropPatterns, ...linePatterns, ...dragPatterns] as const;
export type PatternId = (typeof patterns)[number]['id'];
export const patternIds: readonly PatternId[] = patterns.map((p) => p.id);

export function patternById(id: PatternId): PatternDefinition<PatternId> {
  const found = patterns.find((p) => p.id === id);
  if (!found) throw new Error(`no pattern "${id}"`);
  return found;
}

/** Least distance between the middles of neighbours so that they do not run into each other: size and both their spreads. */
export const leastSpacingMm = (sizeMm: number, seconds: number): number => sizeMm + 2 * spreadMm(seconds);

/** The strokes of a pattern on a section; marks keep their distance by what their icing spreads, drags as asked. */
export function strokesOf(id: PatternId, shape: Shape, ask: PatternAsk, seconds: number): PatternStroke[] {
  const definition = patternById(id);
  const spacingMm =
    definition.kind === 'drags' ? Math.max(ask.spacingMm, ask.sizeMm) : Math.max(ask.spacingMm, leastSpacingMm(ask.sizeMm, seconds));
  return definition.strokes(roomOf(shape), { ...ask, spacingMm }, seededRng(ask.seed));
}
