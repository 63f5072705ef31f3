import type { WetMark } from '../design/design.js';
import { markSpreadMm } from '../design/patterns/spread.js';
import type { DropWay } from '../design/technique-names.js';
import { difference, intersection, offset, shapeFromRings, strokeShape } from '../geometry/clip.js';
import { smoothstep } from '../geometry/field.js';
import { overlap } from '../geometry/overlap.js';
import { type Point, polylineLengthMm } from '../geometry/point.js';
import { areaMm2, type Box, boundingBox, boxesMeet, centroid, contains, type Ring, type Shape, signedRingArea } from '../geometry/shape.js';
import { beginningOf, pointsAlong, stepped } from '../geometry/way.js';
import { beadMl, dropDepthMm, floodMl } from '../icing/amounts.js';
import { Drag } from './drag.js';
import { type Motion, movedRing, thinned } from './outline.js';
import type { WetPool } from './pools.js';
import { cleared, putRight } from './put-right.js';
import { type ScribeFlow, screeningMm, scribeFlow } from './scribe-flow.js';
import { Wall } from './wall.js';

/** One body of colour in the wet icing, as it lies after every motion so far. */
export interface WetInk {
  readonly markId: string;
  readonly colour: string;
  /** outer rings positive, holes negative; mm of the drawing */
  readonly shape: Shape;
  /** what it covered when it had spread, mm² */
  readonly laidAreaMm2: number;
}

export type WetTrouble = 'torn' | 'stiff' | 'full' | 'edge';

export interface WetPicture {
  /** from the bottom up; none lies over another but where flush floods were drawn along */
  readonly inks: readonly WetInk[];
  /** motions there are in all; the picture may stop before the last */
  readonly motions: number;
  /** ml the marks add to the pool, and by how much that raises it, mm: this is what overflows */
  readonly addedMl: number;
  readonly raisedMm: number;
  /** why it would not come out as drawn, with the marks it was found at */
  readonly troubles: readonly { readonly kind: WetTrouble; readonly markIds: readonly string[] }[];
}

export interface WetAsk {
  /** motions to make, all where nothing is said; 3.4 is four tenths along the fourth */
  readonly after?: number;
  /** scribe's thickness for every drag, mm; each drag's own where nothing is said */
  readonly scribeMm?: number;
  readonly depthMm?: number;
  readonly drops?: DropWay;
  /** whether the scribe is wiped before each pull */
  readonly wiped?: (drag: WetMark) => boolean;
  /** how far the flood has dried at a motion, as a share of *thickening*: past 1 a pull tears */
  readonly dried?: (motion: number) => number;
  /** consistency of the flood, reference seconds */
  readonly floodSeconds?: number;
  /** asked before each motion: true ends it with {@link FlowStopped} */
  readonly stop?: () => boolean;
}

/** The flow was ended before its last motion: whoever asked had no more time for it. */
export class FlowStopped extends Error {}

/** Consistency of a flood or mark nobody said anything of, reference seconds: the usual flood. */
const USUAL_SECONDS = 15;
/** Marks fill at most this share of a pool as they are; more is squeezed together. */
const FULLEST = 0.9;
/** A mark that stiff, in times of the flood's count, follows a pull less and less; at twice that not at all. *Assumed*. */
const STIFF_FROM = 2.5;
/** Past *thickening* threads under this are torn off, and by so much more for each further share of it, mm. *Assumed*. */
const TEARS_MM = 0.3;
const TEARS_MORE_MM = 1.2;
/** How fast icing slips past the scribe beyond *thickening*: at this inverse share past it follows half as far. *Assumed*. */
const SLIPS = 1.5;
/** Floods so nearly of one depth flow as one; and a way is looked at so finely for where the depth changes, mm. */
const SAME_DEPTH_MM = 0.05;
const DEPTH_STEP_MM = 0.5;
/** A smear on an unwiped scribe marks the first millimetres of the next pull: common practice, no published source. */
const SMEAR_MM = 4;
/** Little drops a wet line is made of, to each of its widths. */
const BEADS_PER_WIDTH = 2;
/**
 * Within so many radii a drop pushes aside what lies there, beyond so many nothing: its room comes from the unmarked icing
 * about it, which gives way and rises. *Assumed*.
 */
const PUSHES_FULLY_RADII = 2;
const PUSHES_RADII = 5;
/** A wall takes from a push over this, mm: *assumed*. */
const GIVES_WAY_MM = 4.5;
/** One that was wrong by more may have grown over what lies beside it. */
const GROWS_OVER = 0.02;
/** While marks are laid all of them are squeezed together again when there is by so much less room for them. */
const SQUEEZES = 0.97;
/** Outlines begin with edges no longer than this, mm. */
const EDGE_MM = 2;
/** What is kept of an outline shows no corner at the size of a screen, mm. */
const KEPT_MM = 0.012;
const KEPT_EDGE_MM = 50;

interface Ink {
  readonly markId: string;
  readonly colour: string;
  rings: Ring[];
  box: Box;
  readonly laidMm2: number;
  /** share of the flow it heeds */
  readonly follows: number;
  /** a mark of its own, which keeps its area; not so a flush flood drawn along, grains, or a smear off the scribe */
  readonly isMark: boolean;
}

/**
 * What wet marks and drags do in one pool of icing, motion by motion, in the order they are made. Drops and lines push
 * aside what lies there, drags carry it along by {@link scribeFlow}; nothing crosses the pool's edge, and every mark keeps
 * the area it had when it had spread, to about 1 %: the room for new ones is taken from the unmarked icing.
 */
export function wetPicture(pool: WetPool, ask: WetAsk = {}): WetPicture {
  return wetPictures(pool, [ask.after ?? pool.marks.length], ask)[0] as WetPicture;
}

/** The pictures after each of several counts of motions, ascending, in one go. */
export function wetPictures(pool: WetPool, afters: readonly number[], ask: WetAsk = {}): WetPicture[] {
  const flow = new WetFlow(pool, ask);
  return afters.map((after) => flow.at(after));
}

/** A pool whose motions are made one by one: going on from where it is costs only what is new, going back begins anew. */
export class WetFlow {
  private inks: Ink[] = [];
  private made = 0;
  private addedMl = 0;
  private readonly poolMm2: number;
  private readonly depthMm: number;
  private readonly floodSeconds: number;
  private edge: Wall | null = null;
  private readonly troubles = new Map<WetTrouble, Set<string>>();
  private smearColour: string | null = null;
  /** how much all marks were last squeezed together */
  private squeezed = 1;

  constructor(
    readonly pool: WetPool,
    private readonly ask: WetAsk,
  ) {
    this.poolMm2 = areaMm2(pool.shape);
    this.depthMm = ask.depthMm ?? pool.depthMm;
    this.floodSeconds = ask.floodSeconds ?? pool.seconds ?? USUAL_SECONDS;
    this.begin();
  }

  /** The picture after so many motions, or part of the way through one. */
  at(after: number): WetPicture {
    const whole = Math.floor(Math.min(after, this.pool.marks.length));
    if (whole < this.made) this.begin();
    this.makeUpTo(whole);
    const part = after - whole;
    return part > 1e-6 && whole < this.pool.marks.length ? this.peek(part) : this.picture();
  }

  private begin(): void {
    this.inks = [];
    this.made = 0;
    this.addedMl = 0;
    this.smearColour = null;
    this.squeezed = 1;
    this.troubles.clear();
    for (const s of this.pool.sections.slice(1))
      this.inks.push(this.ink(s.id, s.colour, s.shape, areaMm2(s.shape), this.floodSeconds, false));
  }

  private makeUpTo(motions: number): void {
    while (this.made < motions) {
      if (this.ask.stop?.()) throw new FlowStopped('The flow was stopped before its last motion.');
      this.make(this.pool.marks[this.made] as WetMark, 1);
      this.made += 1;
    }
  }

  /** The picture part of the way through the next motion; nothing is kept of it. */
  private peek(part: number): WetPicture {
    const kept = { inks: this.inks.map((i) => ({ ...i })), addedMl: this.addedMl, smear: this.smearColour, squeezed: this.squeezed };
    const troubles = [...this.troubles].map(([k, v]) => [k, new Set(v)] as const);
    this.make(this.pool.marks[this.made] as WetMark, part);
    const picture = this.picture();
    this.inks = kept.inks;
    this.addedMl = kept.addedMl;
    this.smearColour = kept.smear;
    this.squeezed = kept.squeezed;
    this.troubles.clear();
    for (const [k, v] of troubles) this.troubles.set(k, v);
    return picture;
  }

  private picture(): WetPicture {
    const shrink = this.shrink();
    this.squeeze(shrink);
    return {
      inks: this.inks.map((i) => ({
        markId: i.markId,
        colour: i.colour,
        shape: i.rings,
        laidAreaMm2: i.laidMm2 * (i.isMark ? shrink : 1),
      })),
      motions: this.pool.marks.length,
      addedMl: this.addedMl,
      raisedMm: this.poolMm2 > 0 ? (this.addedMl * 1000) / this.poolMm2 : 0,
      troubles: [...this.troubles].map(([kind, ids]) => ({ kind, markIds: [...ids] })),
    };
  }

  private make(mark: WetMark, part: number): void {
    const dried = this.ask.dried?.(this.made) ?? 0;
    switch (mark.technique) {
      case 'drag':
        this.drag(mark, part, dried);
        return;
      case 'wet-line': {
        const way = firstPart(mark.points, mark.closed, part);
        const closed = mark.closed && part >= 1;
        const widthMm = mark.widthMm + 2 * this.spread(mark, dried);
        this.lay(mark, strokeShape(way, widthMm, closed), beadsOf(way, closed, widthMm));
        this.addedMl += beadMl(polylineLengthMm(way, closed), mark.widthMm);
        return;
      }
      case 'wet-drop': {
        const drawn = signedRingArea(mark.points) < 0 ? [...mark.points].reverse() : mark.points;
        const area = areaMm2([drawn]);
        if (!(area > 0)) return;
        const middle = centroid([drawn]);
        const grown =
          part >= 1
            ? drawn
            : drawn.map((p) => ({ x: middle.x + (p.x - middle.x) * Math.sqrt(part), y: middle.y + (p.y - middle.y) * Math.sqrt(part) }));
        const laid = offset([grown], this.spread(mark, dried));
        const radiusMm = Math.sqrt(areaMm2(laid) / Math.PI);
        this.lay(mark, laid, [{ centre: middle, radiusMm, reachMm: PUSHES_RADII * radiusMm }]);
        this.addedMl += floodMl(area, dropDepthMm(mark.words?.drop ?? this.ask.drops ?? 'injected')) * part;
        return;
      }
      default:
        // Grains and pieces lie on the icing and push nothing aside.
        this.inks.push(
          this.ink(
            mark.id,
            mark.colour,
            intersection(shapeFromRings([mark.points], 'nonzero'), this.pool.shape),
            0,
            this.floodSeconds,
            false,
          ),
        );
    }
  }

  /** How far a mark runs out beyond where it is laid: less, the nearer the flood is to standing. */
  private spread(mark: WetMark, dried: number): number {
    return markSpreadMm(mark.seconds ?? this.floodSeconds, this.floodSeconds) * Math.max(0, 1 - dried);
  }

  private lay(mark: WetMark, drawn: Shape, drops: readonly Drop[]): void {
    const laid = intersection(drawn, this.pool.shape);
    const wantedMm2 = areaMm2(drawn);
    if (laid.length === 0 || !(areaMm2(laid) > 0)) return;
    if (wantedMm2 - areaMm2(laid) > 0.01 * wantedMm2) this.trouble('edge', mark.id);
    const push = new Push(drops, this.wall());
    for (const ink of this.inks) ink.rings = ink.rings.map((r) => movedRing(r, push));
    const fresh = this.ink(mark.id, mark.colour, laid, wantedMm2, mark.seconds ?? this.floodSeconds, true);
    this.inks.push(fresh);
    const room = this.shrink();
    if (room < 1) this.trouble('full', mark.id);
    const isTighter = room < this.squeezed * SQUEEZES;
    // A mark far from the newest need not be squeezed by a hair more for each that comes.
    const shrink = isTighter ? room : this.squeezed;
    this.restore(fresh, shrink, null);
    // From the newest down: what was put right by much may have grown over what lies beside it, which gives way in turn.
    const moved: Ink[] = [fresh];
    for (const ink of [...this.inks].reverse()) {
      if (ink === fresh) continue;
      ink.box = boundingBox(ink.rings.flat());
      // What lies where a newer mark lies is under it, and gives it its room.
      const over = (ink.isMark ? moved : [fresh]).filter((m) => boxesMeet(ink.box, m.box, 0.1));
      const beside = over.length > 0 ? over.flatMap((m) => m.rings) : null;
      const under = over.filter((m) => overlap(ink.rings, m.rings, ink.box, m.box)).flatMap((m) => m.rings);
      if (under.length > 0) ink.rings = cleared(difference(ink.rings, under));
      if (ink.isMark && this.restore(ink, shrink, beside) > GROWS_OVER) moved.push(ink);
    }
    if (isTighter) this.squeeze(room);
  }

  /** All marks alike, to what room there is for them. */
  private squeeze(shrink: number): void {
    if (shrink === this.squeezed) return;
    this.squeezed = shrink;
    for (const ink of this.inks) if (ink.isMark) this.restore(ink, shrink, null);
  }

  private drag(mark: WetMark, part: number, dried: number): void {
    const way = firstPart(mark.points, mark.closed, part);
    if (way.length < 2) return;
    const radiusMm = (this.ask.scribeMm ?? mark.widthMm) / 2;
    const { wiped } = this.ask;
    if (wiped) {
      if (!wiped(mark) && this.smearColour) this.smear(mark, way, radiusMm);
      this.smearColour = this.lastCrossed(way);
    }
    const late = Math.max(0, dried - 1);
    for (const ink of this.inks) if (ink.follows < 1 && boxesMeet(ink.box, boundingBox(way), radiusMm)) this.trouble('stiff', ink.markId);
    for (const stretch of this.stretches(way)) this.pull(stretch.way, scribeFlow(radiusMm, stretch.depthMm), 1 / (1 + SLIPS * late));
    for (const ink of this.inks) {
      if (late > 0 && ink.isMark && boxesMeet(boundingBox(ink.rings.flat()), boundingBox(way), 2)) this.tear(ink, late);
      ink.box = boundingBox(ink.rings.flat());
      if (ink.isMark && late === 0) this.restore(ink, this.squeezed, null);
    }
  }

  /** Carries everything along as the pin goes one way through icing of one depth. */
  private pull(way: readonly Point[], flow: ScribeFlow, follow: number): void {
    const wall = this.wall();
    const motions = new Map<number, Drag>();
    for (const ink of this.inks) {
      const motion = motions.get(ink.follows) ?? new Drag(way, flow, wall, follow * ink.follows);
      motions.set(ink.follows, motion);
      ink.rings = ink.rings.map((r) => movedRing(r, motion));
    }
  }

  /**
   * A way in the pieces that lie in icing of one depth: where floods of two depths are flush, the deeper is drawn from wider. Exact, since
   * what flows depends on where the pin is and goes at that moment alone.
   */
  private stretches(way: readonly Point[]): { readonly way: readonly Point[]; readonly depthMm: number }[] {
    const { sections } = this.pool;
    if (this.ask.depthMm !== undefined || sections.every((s) => Math.abs(s.depthMm - this.depthMm) < SAME_DEPTH_MM))
      return [{ way, depthMm: this.depthMm }];
    const out: { way: Point[]; readonly depthMm: number }[] = [];
    let last: Point | null = null;
    for (const p of stepped(way, DEPTH_STEP_MM)) {
      const here = sections.find((s) => contains(s.shape, p))?.depthMm ?? out.at(-1)?.depthMm ?? this.depthMm;
      const open = out.at(-1);
      if (open && Math.abs(open.depthMm - here) < SAME_DEPTH_MM) open.way.push(p);
      else out.push({ way: last ? [last, p] : [p], depthMm: here });
      last = p;
    }
    return out.filter((s) => s.way.length > 1);
  }

  /** Threads that are thinner than stiffening icing holds together are left out: broken ends are what the hands would get. */
  private tear(ink: Ink, late: number): void {
    const byMm = (TEARS_MM + TEARS_MORE_MM * Math.min(1, late)) / 2;
    const kept = offset(offset(ink.rings, -byMm), byMm);
    if (areaMm2(kept) < areaMm2(ink.rings) * 0.999) this.trouble('torn', ink.markId);
    if (kept.length > 0) ink.rings = [...kept];
  }

  /** The last colour the pin went through on its way, which is what hangs on it. */
  private lastCrossed(way: readonly Point[]): string | null {
    const from = this.pool.sections[0];
    let last: string | null = null;
    for (const p of stepped(way, 0.5)) {
      const over = this.inks.findLast((i) => inBox(i.box, p) && contains(i.rings, p));
      if (over) last = over.colour;
      else if (from && contains(this.pool.shape, p)) last ??= from.colour;
    }
    return last;
  }

  private smear(mark: WetMark, way: readonly Point[], radiusMm: number): void {
    const colour = this.smearColour as string;
    const first = way[0] as Point;
    const under = this.inks.findLast((i) => contains(i.rings, first))?.colour ?? this.pool.sections[0]?.colour;
    if (under === colour) return;
    const head = beginningOf(way, SMEAR_MM);
    const shape = intersection(strokeShape(head, 1.2 * radiusMm, false), this.pool.shape);
    if (shape.length === 0) return;
    for (const ink of this.inks) if (boxesMeet(ink.box, boundingBox(shape.flat()))) ink.rings = cleared(difference(ink.rings, shape));
    this.inks.push(this.ink(mark.id, colour, shape, areaMm2(shape), this.floodSeconds, false));
  }

  /** How much all marks are squeezed together, where they leave the flood too little room. */
  private shrink(): number {
    const marks = this.inks.reduce((sum, i) => sum + (i.isMark ? i.laidMm2 : 0), 0);
    return marks > FULLEST * this.poolMm2 ? (FULLEST * this.poolMm2) / marks : 1;
  }

  /** Puts a mark's area right, beside what was just laid (`beside`). Returns the share of its area it was wrong by. */
  private restore(ink: Ink, shrink: number, beside: Shape | null): number {
    const wanted = ink.laidMm2 * shrink;
    const wrongBy = Math.abs(wanted - areaMm2(ink.rings)) / wanted;
    ink.rings = putRight(ink.rings, wanted, { pool: this.pool.shape, wall: this.wall(), beside });
    ink.box = boundingBox(ink.rings.flat());
    return wrongBy;
  }

  private wall(): Wall {
    this.edge ??= new Wall(this.pool.shape, screeningMm(this.depthMm));
    return this.edge;
  }

  private ink(markId: string, colour: string, shape: Shape, laidMm2: number, seconds: number, isMark: boolean): Ink {
    const stiff = Math.max(0, seconds / this.floodSeconds / STIFF_FROM - 1);
    const rings = shape.map((r) => stepped([...r, r[0] as Point], EDGE_MM).slice(0, -1));
    return { markId, colour, rings, box: boundingBox(rings.flat()), laidMm2, follows: Math.max(0, 1 - stiff), isMark };
  }

  private trouble(kind: WetTrouble, markId: string): void {
    const ids = this.troubles.get(kind) ?? new Set();
    this.troubles.set(kind, ids.add(markId));
  }
}

const inBox = (b: Box, p: Point) => p.x >= b.minX && p.x <= b.maxX && p.y >= b.minY && p.y <= b.maxY;
/** A round drop, or one of the little ones a wet line is made of. */
interface Drop {
  readonly centre: Point;
  readonly radiusMm: number;
  /** how far it pushes */
  readonly reachMm: number;
}

/**
 * Drops laid one after another, each pushing what lies there outward: p ↦ c + (p − c) √(1 + r²/|p − c|²), which keeps its area
 * (Lu, Jaffer, Jin, Zhao & Mao, "Mathematical Marbling", IEEE CG&A 2012); less with the distance, and near a wall.
 */
class Push implements Motion {
  x = 0;
  y = 0;
  nearMm = 0;
  constructor(
    private readonly drops: readonly Drop[],
    private readonly wall: Wall,
  ) {}
  move(x0: number, y0: number): void {
    let [x, y, near] = [x0, y0, Number.POSITIVE_INFINITY];
    for (const { centre, radiusMm, reachMm } of this.drops) {
      const dx = x - centre.x;
      const dy = y - centre.y;
      const d2 = dx * dx + dy * dy;
      if (d2 === 0) {
        x = centre.x + radiusMm;
        continue;
      }
      const d = Math.sqrt(d2);
      if (d < near) near = d;
      if (d >= reachMm) continue;
      const room =
        smoothstep(this.wall.distanceMm(x, y) / GIVES_WAY_MM) *
        smoothstep((reachMm - d) / (reachMm * (1 - PUSHES_FULLY_RADII / PUSHES_RADII)));
      const f = Math.sqrt(1 + (room * radiusMm * radiusMm) / d2);
      x = centre.x + dx * f;
      y = centre.y + dy * f;
    }
    this.x = x;
    this.y = y;
    this.nearMm = near;
  }
}

/** The first share of a mark's way; a closed one goes back to where it began. */
function firstPart(points: readonly Point[], closed: boolean, part: number): Point[] {
  if (part >= 1) return [...points];
  const way = closed && points[0] ? [...points, points[0]] : points;
  return beginningOf(way, polylineLengthMm(way) * part);
}

function beadsOf(way: readonly Point[], closed: boolean, widthMm: number): Drop[] {
  const length = polylineLengthMm(way, closed);
  const n = Math.max(1, Math.round((length / widthMm) * BEADS_PER_WIDTH));
  const radiusMm = Math.sqrt((widthMm * Math.max(length, widthMm * 0.8)) / n / Math.PI);
  return pointsAlong(closed && way[0] ? [...way, way[0]] : way, n).map((centre) => ({
    centre,
    radiusMm,
    reachMm: PUSHES_RADII * (widthMm / 2),
  }));
}

/** A picture small enough to be kept and sent: points left out that show nowhere, hundredths of a millimetre. */
export function compactInks(inks: readonly WetInk[]): WetInk[] {
  const r = (v: number) => Math.round(v * 100) / 100;
  return inks.map((i) => ({
    ...i,
    laidAreaMm2: r(i.laidAreaMm2),
    shape: i.shape
      .map((ring) => thinned(ring, KEPT_MM, KEPT_EDGE_MM).map((p) => ({ x: r(p.x), y: r(p.y) })))
      .filter((ring) => ring.length > 2),
  }));
}
