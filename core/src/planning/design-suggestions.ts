import { type Design, linesOf, type Part, sectionById, sectionsOf } from '../design/design.js';
import type { DesignDocument, DesignEdit } from '../design/document/document.js';
import { foldDesign } from '../design/document/fold.js';
import { isBead } from '../design/meetings.js';
import type { Air } from '../drying/air.js';
import type { Margin } from '../drying/uncertainty.js';
import { sharedEdge } from '../geometry/contact.js';
import { deriveSteps, type StepGraph } from '../steps/derive.js';
import type { School } from '../steps/school.js';
import { BadInput } from '../units/bad-input.js';
import { msg } from '../words/index.js';
import { designTotals } from './design-totals.js';

/** A change that saves rounds of drying, computed, with what it saves and the edits that make it. */
export interface DesignSuggestion {
  readonly kind: 'flush-join' | 'dividing-line' | 'lines-over-one-flood' | 'dividing-part' | 'thin-part-as-line' | 'transfer';
  readonly text: string;
  readonly savesRounds: number;
  readonly savesS: number;
  readonly edits: readonly DesignEdit[];
}

const DIVIDING_LINE_MM = 1.5;
/** A part narrower than this may as well be a bead: *assumed*. */
const BEAD_WIDE_MM = 4;
/** So many candidates are tried; each one is a fold and a colouring. */
const MOST_TRIED = 40;

export function suggestFewerRounds(doc: DesignDocument, school: School, air: Air, margin: Margin): DesignSuggestion[] {
  const design = foldDesign(doc);
  const graph = deriveSteps(design, school);
  const now = designTotals(graph, air, margin);
  const out: DesignSuggestion[] = [];
  for (const c of candidates(design, graph, school).slice(0, MOST_TRIED)) {
    try {
      const changed = foldDesign({ ...doc, edits: [...doc.edits, ...c.edits] });
      const then = designTotals(deriveSteps(changed, school), air, margin);
      const savesRounds = now.rounds - then.rounds;
      const savesS = now.throughS !== null && then.throughS !== null ? Math.round(now.throughS - then.throughS) : 0;
      if (savesRounds > 0) out.push({ ...c, savesRounds, savesS });
    } catch (error) {
      // A join that a layer forbids is simply no suggestion.
      if (!(error instanceof BadInput)) throw error;
    }
  }
  return out.sort((a, b) => b.savesRounds - a.savesRounds || b.savesS - a.savesS).slice(0, 6);
}

type Candidate = Pick<DesignSuggestion, 'kind' | 'text' | 'edits'>;

function candidates(design: Design, graph: StepGraph, school: School): Candidate[] {
  const nameOf = (id: string) => graph.sections.find((s) => s.id === id)?.name ?? id;
  const section = (id: string) => sectionById(design, id);
  const pairs = graph.sections.flatMap((a) => a.touches.filter((b) => a.id < b).map((b) => [a.id, b] as const));
  const joined = (a: string, b: string): DesignEdit => ({
    type: 'say',
    part: a,
    said: { flush: [...(section(a)?.flushWith ?? []), b].join(' ') },
  });
  const thin = graph.sections.filter((s) => s.inscribedDiameterMm < BEAD_WIDE_MM);
  const layers = sectionsOf(design).filter((s) => s.layerOn.length > 0);
  const alike = pairs.filter(([a, b]) => section(a)?.colour === section(b)?.colour);
  const lineBetween = (a: string, b: string): DesignEdit => ({
    type: 'detail',
    id: `line-${a}-${b}`.slice(0, 60),
    name: msg`dividing line`,
    technique: 'piped-line',
    points: sharedEdge(section(a)?.shape ?? [], section(b)?.shape ?? []),
    closed: false,
    area: false,
    colour: section(a)?.colour ?? '#ffffff',
    widthMm: DIVIDING_LINE_MM,
  });
  const drawable = (c: Candidate) => c.edits.every((e) => e.type !== 'detail' || e.points.length > 1);
  return [
    ...alike
      .map(
        ([a, b]): Candidate => ({
          kind: 'dividing-line',
          text: msg`flood ${nameOf(a)} and ${nameOf(b)} as one and pipe the line between them later`,
          edits: [joined(a, b), lineBetween(a, b)],
        }),
      )
      .filter(drawable),
    // Petals, planks, tiles of one colour: one flood, and the lines piped over it, instead of phase after phase.
    ...groupsOf(alike)
      .filter((ids) => ids.length > 2)
      .map((ids): Candidate => {
        const own = alike.filter(([a, b]) => ids.includes(a) && ids.includes(b));
        const flush = (a: string): DesignEdit => ({
          type: 'say',
          part: a,
          said: { flush: [...new Set([...(section(a)?.flushWith ?? []), ...own.filter((p) => p[0] === a).map((p) => p[1])])].join(' ') },
        });
        return {
          kind: 'lines-over-one-flood',
          text: msg`flood all ${ids.length} of ${nameOf(ids[0] as string)} and its like as one, and pipe the lines over it later`,
          edits: [...new Set(own.map(([a]) => a))].map(flush).concat(own.map(([a, b]) => lineBetween(a, b))),
        };
      })
      .filter(drawable),
    ...pairs.map(
      ([a, b]): Candidate => ({
        kind: 'flush-join',
        text: msg`let ${nameOf(a)} and ${nameOf(b)} meet wet and lie level, a needle along the join`,
        edits: [joined(a, b)],
      }),
    ),
    // A bead all along the edge of two floods, laid first, parts them: both can then share a round.
    ...linesOf(design)
      .filter((l) => isBead(l) && l.restsOn.length >= 2)
      .map((l): Candidate => {
        const first = design.parts.find((p) => l.restsOn.includes(p.id)) as Part;
        return {
          kind: 'dividing-part',
          text: msg`pipe ${l.name} first: it parts ${l.restsOn.map(nameOf).join(msg` and `)}, and both sides can share a round`,
          edits: [{ type: 'move', part: l.id, before: first.id }],
        };
      }),
    ...thin.map(
      (s): Candidate => ({
        kind: 'thin-part-as-line',
        text: msg`pipe ${s.name} as a line: it is ${s.inscribedDiameterMm.toFixed(1)} mm wide, and both its sides can then share a round`,
        edits: [{ type: 'say', part: s.id, said: { part: 'line', technique: 'piped-line' } }],
      }),
    ),
    ...layers.map(
      (s): Candidate => ({
        kind: 'transfer',
        text:
          school.transfer === 'laid-wet'
            ? msg`make ${s.name} a transfer the day before and lay it in wet`
            : msg`make ${s.name} a transfer the day before and glue it on`,
        edits: [
          {
            type: 'say',
            part: s.id,
            said: school.transfer === 'laid-wet' ? { part: 'mark', technique: 'lay-in' } : { part: 'line', technique: 'glued-transfer' },
          },
        ],
      }),
    ),
  ];
}

/** Sections that hang together by pairs. */
function groupsOf(pairs: readonly (readonly [string, string])[]): string[][] {
  const groups: string[][] = [];
  for (const id of new Set(pairs.flat())) {
    if (groups.some((g) => g.includes(id))) continue;
    const seen = new Set([id]);
    for (const x of seen) for (const [a, b] of pairs) if (a === x || b === x) seen.add(a).add(b);
    groups.push([...seen]);
  }
  return groups;
}
