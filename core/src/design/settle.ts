import { difference, intersection, offset, strokeInside } from '../geometry/clip.js';
import type { Point } from '../geometry/point.js';
import { ofPair } from '../geometry/remembered.js';
import { areaMm2, type Box, boxesMeet, boxOf, contains, type Ring, type Shape } from '../geometry/shape.js';
import { msg } from '../words/index.js';
import type { Design, DesignNote, Guide, Part, PipedLine, Section, WetMark } from './design.js';
import { footprintOf, meetsOver } from './footprint.js';

/** A part as it was drawn: nothing knocked out, nothing known of what lies under it. */
export type DrawnPart = Part & { readonly over?: 'layer' | 'inlay' };
export type Note = (code: DesignNote['code'], place: string, text: string, answers?: DesignNote['answers']) => void;

const SLIVER_MM2 = 0.3;
/** A section lying on another is an inlay if it covers at least this share of it or reaches its edge. */
const INLAY_SHARE = 0.25;
const EDGE_REACH_MM = 0.5;
/** What is left of a mark on a second section is dropped below this. */
const LEAST_PIECE_MM2 = 1;
/** A drop lies in a bead where at least this share of it does. */
const IN_BEAD_SHARE = 0.5;
/** Details that leave a bead of icing, wet for a while: a drop may go into it. */
const BEADS: readonly PipedLine['technique'][] = ['piped-line', 'lettering', 'relief', 'closing-outline', 'dipped-bead'];

/**
 * The stack with everything found out that follows from its order: floods knocked out under inlays or left whole under
 * layers, what every detail rests on, what every mark lies in. A mark over several floods that are not flush is cut.
 */
export function settled(drawn: readonly DrawnPart[], note: Note): Part[] {
  const drafts = drawn
    .filter((p): p is Section & { over?: 'layer' | 'inlay' } => p.role === 'section')
    .map((s) => ({ ...s, layerOn: [...s.layerOn], from: s as DrawnPart }));
  layOver(drafts, note);
  const joins = flushBothWays(drafts, note);
  const floods = new Map(
    drafts.map(({ over: _over, flushWith: _flushWith, from, ...s }): [string, Section] => {
      const own = [...(joins.get(s.id) as Set<string>)];
      return [s.id, asBefore<Section>(from, own.length > 0 ? { ...s, flushWith: own } : s)];
    }),
  );
  const below = new Covered();
  const out: Part[] = [];
  const names = new Set(drawn.map((p) => p.id));
  for (const part of drawn) {
    if (part.role === 'section') {
      const flood = floods.get(part.id) as Section;
      if (areaMm2(flood.shape) < SLIVER_MM2) continue;
      out.push(flood);
      below.lay(flood, flood.shape);
    } else if (part.role === 'mark') out.push(...markIn(part, below, floods, note, names).map((m) => asBefore(part, m)));
    else {
      const { over: _over, ...rest } = part;
      const ground = footprintOf(part);
      const placed = asBefore<PipedLine | Guide>(part, { ...rest, restsOn: below.under(ground) });
      out.push(placed);
      if (placed.role === 'line' && BEADS.includes(placed.technique)) below.lay(placed, ground);
    }
  }
  return out;
}

const settledBefore = new WeakMap<DrawnPart, Part>();
/** The very object a drawn part was settled as before, where it lies on the same again: what is known of it stays known. */
function asBefore<P extends Part>(drawn: DrawnPart, now: P): P {
  const known = settledBefore.get(drawn) as P | undefined;
  if (known && known.id === now.id && liesAlike(known, now)) return known;
  settledBefore.set(drawn, now);
  return now;
}
const alike = (a: readonly string[] = [], b: readonly string[] = []) => a.length === b.length && a.every((v, i) => v === b[i]);
function liesAlike(a: Part, b: Part): boolean {
  if (a.role === 'section' && b.role === 'section')
    return a.shape === b.shape && alike(a.layerOn, b.layerOn) && alike(a.flushWith, b.flushWith);
  if (a.role === 'mark' && b.role === 'mark') return a.sectionId === b.sectionId && a.points === b.points && alike(a.alsoIn, b.alsoIn);
  return (a.role === 'line' || a.role === 'guide') && (b.role === 'line' || b.role === 'guide') && alike(a.restsOn, b.restsOn);
}

/** What showed under a ground, by what lay there: found again as long as that is the same. */
const shownBefore = new WeakMap<
  Shape,
  { readonly over: readonly Shape[]; readonly shown: readonly { readonly k: number; readonly common: Shape }[] }
>();

/** Something that shows under a ground, with the common ground and its place from the bottom up. */
interface Shown {
  readonly part: Section | PipedLine;
  readonly common: Shape;
  readonly at: number;
}
/** The topmost flood or bead at a place: what a drop that is begun there is laid into. */
export function wetBodyAt(design: Pick<Design, 'parts'>, at: Point): Section | PipedLine | undefined {
  return design.parts.findLast((p): p is Section | PipedLine => wetGround(p) !== null && contains(wetGround(p) as Shape, at));
}
/** The ground of what a drop may be laid into, a flood or a bead; null of anything else. */
export function wetGround(part: Part): Shape | null {
  if (part.role === 'section') return part.shape;
  return part.role === 'line' && BEADS.includes(part.technique) ? footprintOf(part) : null;
}

/** The largest common ground first; of equal ones the lower, however the drawing is turned. */
const mostFirst = (a: Shown, b: Shown): number => {
  const [x, y] = [areaMm2(a.common), areaMm2(b.common)];
  return Math.abs(x - y) > 0.01 * Math.max(x, y) ? y - x : a.at - b.at;
};

/** What has been laid so far, from the bottom up, and what of it still shows. */
class Covered {
  private readonly laid: { part: Section | PipedLine; shape: Shape; box: Box }[] = [];

  lay(part: Section | PipedLine, shape: Shape): void {
    this.laid.push({ part, shape, box: boxOf(shape) });
  }

  /** Ids of the floods that still show under a ground, those it lies on most first. */
  under(ground: Shape): string[] {
    const smaller = areaMm2(ground);
    return this.showing(ground)
      .filter(({ part, common }) => part.role === 'section' && meetsOver(common, smaller))
      .sort(mostFirst)
      .map(({ part }) => part.id);
  }

  /** Everything that shows under a ground, topmost first, with the common ground. A bead hides nothing of its flood. */
  showing(ground: Shape): Shown[] {
    const box = boxOf(ground);
    const near: number[] = [];
    for (let i = this.laid.length - 1; i >= 0; i--) if (boxesMeet((this.laid[i] as (typeof this.laid)[number]).box, box)) near.push(i);
    const laidAt = (k: number) => this.laid[near[k] as number] as (typeof this.laid)[number];
    const known = shownBefore.get(ground);
    if (known && known.over.length === near.length && known.over.every((shape, k) => shape === laidAt(k).shape))
      return known.shown.map(({ k, common }) => ({ part: laidAt(k).part, common, at: near[k] as number }));
    let open = ground;
    const shown: { k: number; common: Shape }[] = [];
    for (let k = 0; k < near.length && open.length > 0; k++) {
      const { part, shape } = laidAt(k);
      const common = intersection(open, shape);
      if (areaMm2(common) <= 1e-6) continue;
      shown.push({ k, common });
      if (part.role === 'section') open = difference(open, shape);
    }
    shownBefore.set(ground, { over: near.map((_, k) => laidAt(k).shape), shown });
    return shown.map(({ k, common }) => ({ part: laidAt(k).part, common, at: near[k] as number }));
  }
}

/** A mark with what it lies in: a bead, one flood, several that are flush, or pieces of it one to a flood. */
function markIn(mark: WetMark, below: Covered, floods: ReadonlyMap<string, Section>, note: Note, names: Set<string>): WetMark[] {
  const ground = footprintOf(mark);
  const area = areaMm2(ground);
  const showing = below.showing(ground);
  const bead = showing.find((s) => s.part.role === 'line' && areaMm2(s.common) >= IN_BEAD_SHARE * area);
  if (bead) return [{ ...mark, sectionId: bead.part.id }];
  let under = showing
    .filter((s) => s.part.role === 'section')
    .map((s) => ({ ...s, section: s.part as Section }))
    .sort(mostFirst);
  if (under.length === 0) {
    // Drawn before its flood it would be hidden; it was meant to lie in it all the same.
    const all = new Covered();
    for (const f of floods.values()) if (f.shape.length > 0) all.lay(f, f.shape);
    under = all
      .showing(ground)
      .map((s) => ({ ...s, section: s.part as Section }))
      .sort(mostFirst);
  }
  const [main] = under;
  if (!main) {
    note('skipped', mark.id, msg`The wet mark "${mark.id}" lies on no section and was skipped: move it onto flooded icing.`);
    return [];
  }
  const level = flushGroup(main.section, floods);
  const large = under.filter((u) => areaMm2(u.common) >= Math.min(LEAST_PIECE_MM2, 0.5 * area));
  const within = large.filter((u) => level.has(u.section.id)).map((u) => u.section.id);
  const others = large.filter((u) => u !== main && !level.has(u.section.id));
  const own: WetMark = {
    ...mark,
    sectionId: main.section.id,
    ...(within.length > 1 ? { alsoIn: within.filter((id) => id !== main.section.id) } : {}),
  };
  if (others.length === 0) return [own];
  const isStroke = mark.technique === 'drag' || mark.technique === 'wet-line' || !mark.closed;
  const piecesOn = (shape: Shape): { points: Ring; closed: boolean }[] =>
    isStroke
      ? strokeInside(mark.points, mark.closed, shape).map((points) => ({ points, closed: false }))
      : intersection([mark.points], shape)
          .filter((r) => areaMm2([r]) >= LEAST_PIECE_MM2)
          .map((points) => ({ points, closed: true }));
  const levelShape = [...level].flatMap((id) => floods.get(id)?.shape ?? []);
  let n = 1;
  const fresh = () => {
    const base = mark.id.replace(/\.\d+$/, '');
    do n += 1;
    while (names.has(`${base}.${n}`));
    names.add(`${base}.${n}`);
    return `${base}.${n}`;
  };
  const cut = [
    ...piecesOn(levelShape).map((p) => ({ p, mark: own })),
    ...others.flatMap((u) => piecesOn(u.section.shape).map((p) => ({ p, mark: { ...mark, sectionId: u.section.id } as WetMark }))),
  ].filter(({ p, mark: m }) => areaMm2(footprintOf({ ...m, ...p })) >= LEAST_PIECE_MM2);
  if (cut.length === 0) return [own];
  if (new Set(cut.map((c) => c.mark.sectionId)).size > 1)
    note(
      'repaired',
      mark.id,
      msg`"${mark.id}" lies over ${[main, ...others].map((u) => `"${u.section.id}"`).join(msg` and `)}, which are not flooded together: it
        was cut into one for each.`,
    );
  return cut.map(({ p, mark: m }, i): WetMark => ({ ...m, ...p, id: i === 0 ? mark.id : fresh() }));
}

/** Everything that lies level with a section, itself among it. */
function flushGroup(of: Section, floods: ReadonlyMap<string, Section>): Set<string> {
  const out = new Set([of.id]);
  for (const id of out) for (const other of floods.get(id)?.flushWith ?? []) out.add(other);
  return out;
}

/** A flush join goes both ways; one with a section that is not there is reported and left out. */
function flushBothWays(sections: readonly Section[], note: Note): Map<string, Set<string>> {
  const joins = new Map<string, Set<string>>(sections.map((s) => [s.id, new Set()]));
  for (const s of sections) {
    for (const other of s.flushWith ?? []) {
      if (!joins.has(other) || other === s.id)
        note('skipped', s.id, msg`"${s.id}" is to lie flush with "${other}", which is no other section: name a section.`);
      else {
        joins.get(s.id)?.add(other);
        joins.get(other)?.add(s.id);
      }
    }
  }
  return joins;
}

interface Draft {
  readonly id: string;
  shape: Shape;
  readonly layerOn: string[];
  readonly over?: 'layer' | 'inlay';
  readonly technique?: string;
}

const commonMm2 = ofPair((upper: Shape, lower: Shape) => areaMm2(intersection(upper, lower)));
const liesWellWithin = ofPair((upper: Shape, lower: Shape) => areaMm2(difference(upper, offset(lower, -EDGE_REACH_MM))) < SLIVER_MM2);
const liesWhollyOn = ofPair((upper: Shape, lower: Shape) => areaMm2(difference(upper, lower)) < SLIVER_MM2);
const without = ofPair((lower: Shape, upper: Shape) => difference(lower, upper));
const withoutSlivers = ofPair((lower: Shape, upper: Shape) =>
  without(lower, upper).filter((ring) => Math.abs(areaMm2([ring])) >= SLIVER_MM2),
);

/** Decides for each section lying on an earlier one whether it is an inlay (knocked out, side by side) or a second layer. */
function layOver(sections: readonly (Section & { over?: 'layer' | 'inlay' })[], note: Note): void {
  const drafts = sections as unknown as readonly Draft[];
  const boxes = drafts.map((d) => boxOf(d.shape));
  for (const [u, upper] of drafts.entries()) {
    for (let l = u - 1; l >= 0; l--) {
      const lower = drafts[l] as Draft;
      if (lower.shape.length === 0 || !boxesMeet(boxes[u] as Box, boxes[l] as Box)) continue;
      const common = commonMm2(upper.shape, lower.shape);
      if (common < SLIVER_MM2) {
        if (common > 0) lower.shape = without(lower.shape, upper.shape);
        continue;
      }
      const within = liesWellWithin(upper.shape, lower.shape);
      // A background coat is spread whole: what is drawn on it lies on it, however large.
      const coat = lower.technique === 'thin-coat' && !(upper.technique === 'thin-coat');
      const guess = !coat && (common >= INLAY_SHARE * areaMm2(lower.shape) || !within) ? 'inlay' : 'layer';
      const kind = upper.over ?? guess;
      if (!upper.over) {
        const meaning = kind === 'inlay' ? msg`side by side, knocked out` : msg`a second layer`;
        note(
          'guessed',
          upper.id,
          msg`"${upper.id}" lies on "${lower.id}": read as ${meaning}. If it is ${
            kind === 'inlay'
              ? msg`a second layer`
              : msg`side by
            side`
          }, say so of that part.`,
          {
            right: { over: kind },
            otherwise:
              kind === 'inlay'
                ? { label: msg`a second layer`, said: { over: 'layer' } }
                : { label: msg`side by side`, said: { over: 'inlay' } },
          },
        );
      }
      const whollyOn = liesWhollyOn(upper.shape, lower.shape);
      if (kind === 'layer') {
        upper.layerOn.push(lower.id);
        // What lies wholly on this one has nothing to do with what lies beneath it.
        if (whollyOn) break;
      } else {
        lower.shape = withoutSlivers(lower.shape, upper.shape);
        if (areaMm2(lower.shape) < SLIVER_MM2) {
          lower.shape = [];
          note('repaired', lower.id, msg`"${lower.id}" is wholly covered by what lies on it and was left out.`);
        }
        if (whollyOn) {
          // Side by side with its ground, it lies on whatever that ground lies on.
          upper.layerOn.push(...lower.layerOn.filter((id) => !upper.layerOn.includes(id)));
          break;
        }
      }
    }
  }
}
