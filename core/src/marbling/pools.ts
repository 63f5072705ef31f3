import { bodiesOfMark, type Design, marksOf, type Section, sectionsOf, type WetMark } from '../design/design.js';
import { union } from '../geometry/clip.js';
import { areaMm2, type Shape } from '../geometry/shape.js';

/** Flush sections that are wet together, and what is done in them: one pool of icing with one edge. */
export interface WetPool {
  /** id of its first section */
  readonly id: string;
  readonly sections: readonly Section[];
  readonly shape: Shape;
  /** mean depth, mm; a pull goes by that of each section it crosses */
  readonly depthMm: number;
  /** consistency of the flood, reference seconds; undefined where nobody said */
  readonly seconds?: number;
  /** marks and drags in the order they are made */
  readonly marks: readonly WetMark[];
}

/** The pools of a design that anything is done in while they are wet, in the order of the stack. */
export function wetPools(design: Pick<Design, 'parts'>): WetPool[] {
  const sections = sectionsOf(design);
  const marks = marksOf(design);
  const of = new Map(sections.map((s) => [s.id, s.id]));
  const join = (a: string, b: string) => {
    const [from, to] = [of.get(b), of.get(a)];
    if (from === undefined || to === undefined || from === to) return;
    for (const [id, pool] of of) if (pool === from) of.set(id, to);
  };
  for (const s of sections) for (const other of s.flushWith ?? []) join(s.id, other);
  for (const m of marks) for (const other of m.alsoIn ?? []) join(m.sectionId, other);
  const out: WetPool[] = [];
  for (const pool of new Set(of.values())) {
    const mine = sections.filter((s) => of.get(s.id) === pool);
    const own = marks.filter((m) => bodiesOfMark(m).some((id) => of.get(id) === pool));
    const first = mine[0];
    if (!first || own.length === 0) continue;
    const shape = mine.length === 1 ? first.shape : mine.slice(1).reduce((all, s) => union(all, s.shape), first.shape);
    const areas = mine.map((s) => areaMm2(s.shape));
    const total = areas.reduce((a, b) => a + b, 0);
    out.push({
      id: first.id,
      sections: mine,
      shape,
      depthMm: mine.reduce((sum, s, i) => sum + s.depthMm * (areas[i] as number), 0) / (total || 1),
      ...(first.seconds === undefined ? {} : { seconds: first.seconds }),
      marks: own,
    });
  }
  return out;
}
