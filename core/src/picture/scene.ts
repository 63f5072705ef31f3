import type { Design, Guide, PipedLine, Section, WetMark } from '../design/design.js';
import type { SurfaceState } from '../drying/state.js';
import { offset, shapeFromRings, strokeShape, union } from '../geometry/clip.js';
import { type Box, boundingBox, type Shape } from '../geometry/shape.js';
import { stageFor, type WetStage } from '../marbling/stages.js';
import type { WetInk } from '../marbling/wet-flow.js';
import type { CookieLook } from '../planning/look.js';

/** One body or film of a cookie, from the bottom up: where it lies, how it stands and in which state it is. */
export interface Piece {
  readonly kind: 'flood' | 'wet' | 'bead' | 'raised' | 'flat' | 'film' | 'grains' | 'cracks' | 'line';
  readonly shape: Shape;
  readonly colour: string;
  readonly state: SurfaceState;
  /** how high it stands where it is highest, mm */
  readonly heightMm: number;
  /** how fast it rises from its edge, mm */
  readonly edgeMm: number;
  /** the edge of the pool a flood shares with others it is flush with; its own where it has none */
  readonly pool?: Shape;
  /** wall of another colour round a flood */
  readonly dam?: { readonly colour: string; readonly widthMm: number };
  readonly seed: number;
}

/** Something that went wrong, at a place. */
export interface Flaw {
  readonly kind: 'crater' | 'dent' | 'ridge' | 'bleed' | 'smudge';
  readonly x: number;
  readonly y: number;
  readonly sizeMm: number;
  /** what bled or was smudged there */
  readonly colour?: string;
}

export interface Scene {
  readonly box: Box;
  /** what everything lies on: a cookie, or the parchment a transfer is piped on */
  readonly ground: 'biscuit' | 'parchment';
  readonly cookie: Shape;
  readonly pieces: readonly Piece[];
  readonly flaws: readonly Flaw[];
}

/** Air round a cookie in its picture, mm. */
export const PICTURE_PAD_MM = 2;
/** How high things stand, mm: *assumed*, from the size of what is piped. */
const STENCIL_MM = 0.5;
const PIECE_MM = 1.4;
const SHEET_MM = 0.2;
const USUAL_DEPTH_MM = 2.5;

/** The cookie at one moment as bodies with heights; what was done in wet icing lies where it flowed to. */
export function sceneOf(design: Design, look: CookieLook, stages: readonly WetStage[], flaws: readonly Flaw[] = []): Scene {
  const outline = boundingBox(design.cookie.flat());
  const box = {
    minX: outline.minX - PICTURE_PAD_MM,
    minY: outline.minY - PICTURE_PAD_MM,
    maxX: outline.maxX + PICTURE_PAD_MM,
    maxY: outline.maxY + PICTURE_PAD_MM,
  };
  const done = new Set(look.marks);
  const stageOf = new Map(stages.map((s) => [s.pool, stageFor(stages, s.pool, done)]));
  const poolOf = new Map(stages.flatMap((s) => s.sections.map((id) => [id, s.pool])));
  const drawnMarks = new Set<string>();
  const pieces: Piece[] = [];
  const sections = new Map(design.parts.filter((p): p is Section => p.role === 'section').map((s) => [s.id, s]));
  for (const [seed, part] of design.parts.entries()) {
    if (part.role === 'section') {
      const state = look.sections[part.id];
      if (state) pieces.push(flood(part, state, look, seed, sections));
      const stage = stageOf.get(poolOf.get(part.id) ?? '');
      if (!stage || !state) continue;
      // Colours that flowed lie in the pool: over its last flood, so that none of them covers them.
      const last = stage.sections.filter((id) => look.sections[id]).at(-1);
      if (last !== part.id) continue;
      for (const ink of stage.inks) {
        drawnMarks.add(ink.markId);
        if (sections.has(ink.markId) && stage.count === 0) continue;
        pieces.push(inkPiece(ink, design, state, seed));
      }
    } else if (part.role === 'mark') {
      const isFlowed = stageOf.has(poolOf.get(part.sectionId) ?? '') && part.technique !== 'sprinkle' && part.technique !== 'lay-in';
      if (done.has(part.id) && !isFlowed && !drawnMarks.has(part.id))
        pieces.push(...markPieces(part, look.sections[part.sectionId] ?? 'wet', seed));
    } else if (part.role === 'guide') {
      if (look.lines[part.id]) pieces.push(guidePiece(part, seed));
    } else if (look.lines[part.id]) pieces.push(...detailPieces(part, look.lines[part.id] as SurfaceState, seed));
  }
  return { box, ground: design.transfer ? 'parchment' : 'biscuit', cookie: design.cookie, pieces, flaws };
}

function flood(s: Section, state: SurfaceState, look: CookieLook, seed: number, sections: ReadonlyMap<string, Section>): Piece {
  const laid = look.laid?.[s.id];
  const depth = laid?.depthMm ?? s.depthMm ?? USUAL_DEPTH_MM;
  const short = laid?.edgeMm ?? s.words?.edgeMm ?? 0;
  const shape = short > 0 ? offset(s.shape, -short) : s.shape;
  // Flush floods that are on already have no edge between them.
  const flush = (s.flushWith ?? []).filter((id) => look.sections[id] !== undefined).flatMap((id) => sections.get(id) ?? []);
  const isThin = s.technique === 'thin-coat';
  const dam =
    laid?.damColour != null && laid.damColour !== s.colour && laid.damMm > 0 ? { colour: laid.damColour, widthMm: laid.damMm } : null;
  return {
    kind: 'flood',
    shape,
    colour: s.colour,
    state,
    heightMm: depth,
    edgeMm: Math.max(0.4, isThin ? 0.4 : 0.62 * depth),
    ...(flush.length > 0 ? { pool: flush.reduce((all, f) => union(all, f.shape), shape) } : {}),
    ...(dam ? { dam } : {}),
    seed,
  };
}

function inkPiece(ink: WetInk, design: Design, state: SurfaceState, seed: number): Piece {
  const mark = design.parts.find((p) => p.id === ink.markId);
  const isGrains = mark?.role === 'mark' && mark.technique === 'sprinkle';
  const isLaid = mark?.role === 'mark' && mark.technique === 'lay-in';
  // An order may have given the mark another bag since its flow was worked out; a smear on a pull has its own.
  const colour = mark && !(mark.role === 'mark' && mark.technique === 'drag') ? mark.colour : ink.colour;
  return {
    kind: isGrains ? 'grains' : isLaid ? 'raised' : 'wet',
    shape: ink.shape,
    colour,
    state: isLaid ? 'dry' : state,
    heightMm: isGrains ? 0.5 : isLaid ? PIECE_MM : 0,
    edgeMm: 0.8,
    seed,
  };
}

/** A mark in something that is no flood (a drop on a bead), or grains on it. */
function markPieces(m: WetMark, state: SurfaceState, seed: number): Piece[] {
  if (m.technique === 'drag') return [];
  const shape = m.closed ? shapeFromRings([m.points], 'nonzero') : strokeShape(m.points, m.widthMm, false);
  const kind = m.technique === 'sprinkle' ? 'grains' : m.technique === 'lay-in' ? 'raised' : 'wet';
  return [
    { kind, shape, colour: m.colour, state, heightMm: kind === 'raised' ? PIECE_MM : kind === 'grains' ? 0.5 : 0, edgeMm: 0.8, seed },
  ];
}

function guidePiece(g: Guide, seed: number): Piece {
  return { kind: 'line', shape: strokeShape(g.points, 0.4, g.closed), colour: g.colour, state: 'dry', heightMm: 0, edgeMm: 0.2, seed };
}

function detailPieces(l: PipedLine, state: SurfaceState, seed: number): Piece[] {
  const area = l.area === true;
  const shape = area ? shapeFromRings([l.points, ...(l.holes ?? [])], 'evenodd') : strokeShape(l.points, l.widthMm, l.closed);
  const piece = (kind: Piece['kind'], heightMm: number, edgeMm: number, as: SurfaceState = state): Piece => ({
    kind,
    shape,
    colour: l.colour,
    state: as,
    heightMm,
    edgeMm,
    seed,
  });
  const round = l.widthMm / 2;
  switch (l.technique) {
    case 'pen':
    case 'trace':
      return [piece('line', 0, 0.2, 'dry')];
    case 'airbrush':
    case 'dust':
    case 'paint':
      return [piece('film', 0, l.technique === 'airbrush' ? 1.6 : 0.8)];
    case 'crackle':
      return [piece('cracks', 0, 0.3)];
    case 'stencil':
      return [piece('flat', STENCIL_MM, 0.2)];
    case 'wafer':
      return [piece('flat', SHEET_MM, 0.15, 'dry')];
    case 'glued-transfer':
    case 'assembly':
      return [piece('raised', PIECE_MM, 1)];
    case 'dipped-bead':
      return [piece('bead', area ? 1.2 : l.widthMm * 0.8, area ? 1.2 : round), piece('grains', 0.4, 0.4)];
    default:
      return [area ? piece('raised', PIECE_MM, 1.2) : piece('bead', l.widthMm * 0.8, round)];
  }
}
