import { offset, shapeFromRings, strokeInside } from '../geometry/clip.js';
import { type Point, polylineLengthMm } from '../geometry/point.js';
import { boundingBox, type Ring, type Shape } from '../geometry/shape.js';
import { type Place, placesAlong } from '../geometry/way.js';
import { msg } from '../words/index.js';
import { circleAt } from './patterns/index.js';

/** Borders as a hand pipes them round an edge, one piece after another (common practice, no published source). */
export const borders = [
  { id: 'dots', label: msg`dots` },
  { id: 'pearls', label: msg`pearls, touching` },
  { id: 'shells', label: msg`shells` },
  { id: 'stars', label: msg`stars` },
  { id: 'teardrops', label: msg`teardrops` },
  { id: 'scallops', label: msg`scallops` },
  { id: 'zigzag', label: msg`zigzag` },
  { id: 'waves', label: msg`waves` },
  { id: 'rope', label: msg`rope` },
] as const;
export type BorderId = (typeof borders)[number]['id'];

/** An edge that turns by more than this is a corner, and gets a piece of its own: degrees, *assumed*. */
const CORNER_DEG = 35;
/** Pieces of a border, in their own sizes: from one middle to the next. */
const PITCH: Readonly<Record<BorderId, number>> = {
  dots: 1.5,
  pearls: 1,
  shells: 1.1,
  stars: 1.15,
  teardrops: 1.9,
  scallops: 2,
  zigzag: 0.8,
  waves: 2,
  rope: 0.75,
};
/** Pieces that are pressed out at one place, each by one touch. */
const FILLED: readonly BorderId[] = ['dots', 'pearls', 'shells', 'stars'];
/** Points of a star, as an open star tip has them, and how deep its hollows are, as a share of its radius. *Assumed*. */
const STAR_POINTS = 8;
const STAR_HOLLOW = 0.7;
/** Bars and uprights that would be shorter are left out: they would be blobs, mm. */
const SHORTEST_MM = 2;

/** A weave in breadths of its bar: from upright to upright, a row, and how far a bar reaches to each side in uprights. */
const UPRIGHTS_APART = 3;
const ROW = 2;
const BAR_REACH = 0.85;
/** Length of a weave's strokes over so much of a region, mm: its uprights, and bars in every other row. */
export const woveMm = (areaMm2: number, barMm: number): number => (areaMm2 / barMm) * (1 / UPRIGHTS_APART + (2 * BAR_REACH) / (2 * ROW));

/** One border: its strokes in the order of the hand, and how many pieces it has. */
export interface Border {
  readonly strokes: readonly { readonly points: readonly Point[]; readonly closed: boolean }[];
  readonly pieces: number;
  /** its strokes go round small areas that are filled: dots, which take a touch each */
  readonly filled: boolean;
}

/**
 * A border along a closed edge, pieces of `sizeMm`: between corners the spacing is adjusted so that the last meets the
 * first and every corner gets a piece.
 */
export function borderAlong(edge: Ring, id: BorderId, sizeMm: number): Border {
  const stretches = betweenCorners(edge);
  const strokes: { points: Point[]; closed: boolean }[] = [];
  let pieces = 0;
  // What goes on from piece to piece is one stroke round the whole.
  const ways: Point[] = [];
  for (const way of stretches) {
    const total = polylineLengthMm(way);
    const n = Math.max(1, Math.round(total / (PITCH[id] * sizeMm)));
    pieces += n;
    const pitch = total / n;
    for (let i = 0; i < n; i++) {
      const [from, middle, to] = [i * pitch, (i + 0.5) * pitch, (i + 1) * pitch].map((s) => frameAt(way, s)) as [Frame, Frame, Frame];
      switch (id) {
        case 'dots':
        case 'pearls':
          strokes.push({ points: circleAt(from.at, sizeMm), closed: true });
          break;
        case 'shells':
          strokes.push({ points: shell(from, to, sizeMm), closed: true });
          break;
        case 'stars':
          strokes.push({ points: star(from, sizeMm), closed: true });
          break;
        case 'teardrops':
          // Pressed at its head, drawn thin along the edge.
          strokes.push({ points: [from.at, frameAt(way, i * pitch + 0.72 * pitch).at], closed: false });
          break;
        case 'scallops':
          strokes.push({ points: bow(from, middle, to, sizeMm * 0.55), closed: false });
          break;
        case 'rope':
          // Each turn of the rope an S across the edge, laid under the one before.
          strokes.push({
            points: [
              moved(from, -0.35 * sizeMm, -0.4 * sizeMm),
              moved(from, 0, -0.15 * sizeMm),
              moved(from, 0.1 * sizeMm, 0.15 * sizeMm),
              moved(from, 0.45 * sizeMm, 0.4 * sizeMm),
            ],
            closed: false,
          });
          break;
        case 'zigzag':
          ways.push(moved(from, 0, sizeMm / 2), moved(middle, 0, -sizeMm / 2));
          break;
        case 'waves':
          for (let k = 0; k < 8; k++) {
            const f = frameAt(way, i * pitch + (k / 8) * pitch);
            ways.push(moved(f, 0, (sizeMm / 2) * Math.sin((k / 4) * Math.PI)));
          }
          break;
      }
    }
  }
  if (ways.length > 2) strokes.push({ points: ways, closed: true });
  return { strokes, pieces, filled: FILLED.includes(id) };
}

interface Frame {
  readonly at: Point;
  /** along the edge, and to its right-hand side: outward, where the ring turns from x to y */
  readonly along: Point;
  readonly out: Point;
}

const moved = ({ at, along, out }: Frame, alongMm: number, outMm: number): Point => ({
  x: at.x + along.x * alongMm + out.x * outMm,
  y: at.y + along.y * alongMm + out.y * outMm,
});

/** A star tip lifted straight up. */
function star({ at, along }: Frame, sizeMm: number): Point[] {
  const first = Math.atan2(along.y, along.x);
  return [...Array(2 * STAR_POINTS).keys()].map((k) => {
    const r = (sizeMm / 2) * (k % 2 === 0 ? 1 : STAR_HOLLOW);
    const a = first + (k * Math.PI) / STAR_POINTS;
    return { x: at.x + r * Math.cos(a), y: at.y + r * Math.sin(a) };
  });
}

/** A star tip pressed and drawn away: round at its head, running out under the head of the next. */
function shell(from: Frame, to: Frame, sizeMm: number): Point[] {
  const r = sizeMm / 2;
  const head = [...Array(11).keys()].map((k) => {
    const a = Math.PI / 2 + (k * Math.PI) / 10;
    return moved(from, r * Math.cos(a), r * Math.sin(a));
  });
  return [...head, moved(from, 0.5 * r, -0.8 * r), to.at, moved(from, 0.5 * r, 0.8 * r)];
}

function bow(from: Frame, middle: Frame, to: Frame, highMm: number): Point[] {
  const top = moved(middle, 0, highMm);
  return [...Array(9).keys()].map((k) => {
    const t = k / 8;
    const [a, b, c] = [(1 - t) * (1 - t), 2 * t * (1 - t), t * t];
    // Through the top: a quadratic curve's middle is half way to its handle.
    const handle = { x: 2 * top.x - (from.at.x + to.at.x) / 2, y: 2 * top.y - (from.at.y + to.at.y) / 2 };
    return { x: a * from.at.x + b * handle.x + c * to.at.x, y: a * from.at.y + b * handle.y + c * to.at.y };
  });
}

/** A closed edge cut at its corners; one stretch round the whole where it has none. */
function betweenCorners(edge: Ring): Point[][] {
  const n = edge.length;
  const corners = edge.flatMap((p, i) => {
    const [a, b] = [edge[(i + n - 1) % n] as Point, edge[(i + 1) % n] as Point];
    const turn = Math.abs(
      Math.atan2((p.x - a.x) * (b.y - p.y) - (p.y - a.y) * (b.x - p.x), (p.x - a.x) * (b.x - p.x) + (p.y - a.y) * (b.y - p.y)),
    );
    return turn > (CORNER_DEG * Math.PI) / 180 ? [i] : [];
  });
  if (corners.length === 0) return [[...edge, edge[0] as Point]];
  return corners.map((from, k) => {
    const to = corners[(k + 1) % corners.length] as number;
    const way: Point[] = [];
    for (let i = from; ; i = (i + 1) % n) {
      way.push(edge[i] as Point);
      if (i === to && way.length > 1) return way;
      if (corners.length === 1 && way.length > n) return way;
    }
  });
}

function frameAt(way: readonly Point[], s: number): Frame {
  const { at, along } = placesAlong(way, [s])[0] as Place;
  return { at, along, out: { x: along.y, y: -along.x } };
}

/**
 * A basket weave over a region (rings of any turn, even–odd), in the order of the hand: an upright, the bars across it from
 * top to bottom, the next upright, its bars half a step lower. Ends shorter than 2 mm are left out.
 */
export function weave(rings: Shape, barMm: number): Border {
  const inside = offset(shapeFromRings(rings, 'evenodd'), -barMm / 2 - 0.3);
  const box = boundingBox(inside.flat());
  const strokes: { points: Point[]; closed: boolean }[] = [];
  const put = (a: Point, b: Point) => {
    for (const piece of strokeInside([a, b], false, inside))
      if (polylineLengthMm(piece) >= SHORTEST_MM)
        strokes.push({ points: [...piece].sort((p, q) => p.x - q.x || p.y - q.y), closed: false });
  };
  const [step, row] = [barMm * UPRIGHTS_APART, barMm * ROW];
  if (inside.length === 0) return { strokes: [], pieces: 0, filled: false };
  const uprights = Math.max(1, Math.round((box.maxX - box.minX) / step));
  const apart = (box.maxX - box.minX) / uprights;
  for (let i = 0; i <= uprights; i++) {
    const x = Math.min(box.maxX - 1e-3, Math.max(box.minX + 1e-3, box.minX + i * apart));
    put({ x, y: box.minY - 1 }, { x, y: box.maxY + 1 });
    for (let y = box.minY + (i % 2 === 0 ? row / 2 : row * 1.5); y < box.maxY; y += row * 2)
      put({ x: x - apart * BAR_REACH, y }, { x: x + apart * BAR_REACH, y });
  }
  return { strokes, pieces: strokes.length, filled: false };
}
