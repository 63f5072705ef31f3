import { type Design, type Guide, type PipedLine, type Section, sectionsOf, type WetMark } from '../design/design.js';
import type { Meeting } from '../design/meetings.js';
import { type TechniqueId, techniqueById } from './techniques/index.js';
import type { TechniqueDefinition } from './techniques/technique.js';

/**
 * What is done in one go on one cookie and ordered as a whole: a flood with its dam and all that lies wet in it, or a run of like
 * details.
 */
export interface Item {
  /** its first part's id */
  readonly id: string;
  readonly name: string;
  /** place in the stack of its first part */
  readonly at: number;
  readonly technique: TechniqueDefinition<TechniqueId>;
  readonly section: Section | null;
  readonly run: readonly (PipedLine | Guide)[];
  /** what lies wet in it, in the order it is laid */
  readonly marks: readonly WetMark[];
}

export const techniqueOf = (p: Section | PipedLine | Guide | WetMark): TechniqueId =>
  p.role === 'guide' ? `guide-${p.kind}` : p.role === 'section' ? (p.technique ?? 'flood') : p.technique;

/**
 * The stack as items. Like details that follow each other are one run; `across` allows floods between them that none of
 * them meets, so that the same bag is taken up once.
 */
export function itemsOf(design: Design, meetings: readonly Meeting[], across: boolean): Item[] {
  const met = new Map<string, Set<string>>();
  for (const m of meetings) for (const [x, y] of [[m.a, m.b] as const, [m.b, m.a] as const]) met.set(x, (met.get(x) ?? new Set()).add(y));
  const runs: { at: number; parts: (PipedLine | Guide)[] }[] = [];
  let between: string[] = [];
  for (const [at, p] of design.parts.entries()) {
    if (p.role === 'section') between.push(p.id);
    if (p.role !== 'line' && p.role !== 'guide') continue;
    const last = runs.at(-1);
    const free = across ? !between.some((id) => last?.parts.some((x) => met.get(x.id)?.has(id))) : between.length === 0;
    if (last && free && alike(last.parts[0] as PipedLine | Guide, p)) last.parts.push(p);
    else {
      runs.push({ at, parts: [p] });
      between = [];
    }
  }
  const wetIn = new Map<string, { at: number; mark: WetMark }[]>();
  for (const [at, p] of design.parts.entries()) {
    if (p.role !== 'mark') continue;
    const own = wetIn.get(p.sectionId);
    if (own) own.push({ at, mark: p });
    else wetIn.set(p.sectionId, [{ at, mark: p }]);
  }
  const marksIn = (ids: readonly string[]) =>
    sortedMarks(
      ids
        .flatMap((id) => wetIn.get(id) ?? [])
        .sort((a, b) => a.at - b.at)
        .map((w) => w.mark),
    );
  const floods = sectionsOf(design).map(
    (s): Item => ({
      id: s.id,
      name: s.name,
      at: design.parts.indexOf(s),
      technique: techniqueById(techniqueOf(s)),
      section: s,
      run: [],
      marks: marksIn([s.id]),
    }),
  );
  const details = runs.map(({ at, parts }): Item => {
    const [first] = parts as [PipedLine | Guide];
    return {
      id: first.id,
      name: first.name,
      at,
      technique: techniqueById(techniqueOf(first)),
      section: null,
      run: parts,
      marks: marksIn([...new Set(parts.map((p) => p.id))]),
    };
  });
  return [...floods, ...details].sort((a, b) => a.at - b.at);
}

const alike = (a: PipedLine | Guide, b: PipedLine | Guide): boolean =>
  techniqueOf(a) === techniqueOf(b) &&
  a.colour === b.colour &&
  a.seconds === b.seconds &&
  (a.role === 'guide' || b.role === 'guide' || a.widthMm === b.widthMm) &&
  JSON.stringify(a.words) === JSON.stringify(b.words) &&
  JSON.stringify(a.guides) === JSON.stringify(b.guides);

/** Marks in the order of the stack, but for those that are to come after others. */
function sortedMarks(marks: readonly WetMark[]): WetMark[] {
  if (!marks.some((m) => m.words?.after)) return [...marks];
  const out: WetMark[] = [];
  let open = [...marks];
  while (open.length > 0) {
    const next =
      open.find((m) => !open.some((o) => o !== m && m.words?.after?.some((id) => o.id === id || o.id.startsWith(`${id}.`)))) ??
      (open[0] as WetMark);
    out.push(next);
    open = open.filter((m) => m !== next);
  }
  return out;
}

/** Whether an item bears this name: its own, or that of one of its parts. */
export const isNamed = (item: Item, id: string): boolean =>
  (item.section ? [item.section.id] : item.run.map((p) => p.id)).some(
    (own) => own === id || (own.startsWith(`${id}.`) && /^[\d.]+$/.test(own.slice(id.length + 1))),
  );
