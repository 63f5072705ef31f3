import type { Design, WetMark } from '../design/design.js';
import { wetPools } from './pools.js';
import { compactInks, type WetAsk, type WetInk, wetPictures } from './wet-flow.js';

/** A pool after some of its motions: what is kept with a design, so that nothing is worked out where it is shown. */
export interface WetStage {
  readonly pool: string;
  readonly sections: readonly string[];
  /** marks made, in the order they are made */
  readonly made: readonly string[];
  /** motions in all */
  readonly count: number;
  readonly inks: readonly WetInk[];
}

/** Hands go on with one bag, or with the scribe, before they change: a picture is wanted after each of those. */
function runEnds(marks: readonly WetMark[]): number[] {
  return marks.flatMap((m, i) => {
    const next = marks[i + 1];
    return next && next.technique === m.technique && (m.technique === 'drag' || next.colour === m.colour) ? [] : [i + 1];
  });
}

/** Every pool of a design, untouched and after each run of like motions. */
export function wetStages(design: Pick<Design, 'parts'>, ask: WetAsk = {}): WetStage[] {
  return wetPools(design).flatMap((pool) => {
    const counts = [0, ...runEnds(pool.marks)];
    const pictures = wetPictures(pool, counts, ask);
    return counts.map((count, i) => ({
      pool: pool.id,
      sections: pool.sections.map((s) => s.id),
      made: pool.marks.slice(0, count).map((m) => m.id),
      count,
      inks: compactInks(pictures[i]?.inks ?? []),
    }));
  });
}

/** The last stage of a pool all of whose marks are made; undefined where a design has no such pool. */
export function stageFor(stages: readonly WetStage[], pool: string, made: ReadonlySet<string>): WetStage | undefined {
  return stages
    .filter((s) => s.pool === pool && s.made.every((id) => made.has(id)))
    .reduce<WetStage | undefined>((best, s) => (!best || s.count >= best.count ? s : best), undefined);
}

/** A design with where its wet marks flow, as the server keeps it with each version. */
export interface FlowedDesign extends Design {
  readonly wet?: readonly WetStage[];
}
