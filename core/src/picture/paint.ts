import type { SurfaceState } from '../drying/state.js';
import { blurred, smoothstep } from '../geometry/field.js';
import { type Cover, coverOf, distanceWithin, type Frame, noiseAt, smoothNoise } from './raster.js';
import type { Piece, Scene } from './scene.js';

/** A picture: four bytes a pixel, red, green, blue and how much of it is there. */
export interface Picture {
  readonly width: number;
  readonly height: number;
  readonly rgba: Uint8ClampedArray<ArrayBuffer>;
}

/** What a biscuit looks like, from its middle to its baked rim. */
const BISCUIT = [226, 186, 131] as const;
const PARCHMENT = [243, 236, 221] as const;
const BISCUIT_RIM = [183, 133, 79] as const;
/** Its crumb: how uneven it is, and how coarse, mm. */
const CRUMB = [0.09, 0.45] as const;
const BISCUIT_MM = 5;
const BISCUIT_EDGE_MM = 1.6;
const RIM_MM = 1.8;

/** How a surface in a state takes the light. All *assumed* by eye against the words of the trade: wet mirrors, dry is like paper. */
interface Finish {
  /** how bright the lamp's mirror image is, where its edge begins and is whole, as the cosine of the angle off it */
  readonly lamp: readonly [strength: number, from: number, to: number];
  /** the window's image on what is nearly flat: strength and softness */
  readonly window: readonly [strength: number, soft: number];
  /** how much of its roundness shows */
  readonly relief: number;
  /** grain: how much it lightens and darkens, and how fine it is, mm */
  readonly grain: readonly [strength: number, sizeMm: number];
  /** unevenness of the mirror, and its size, mm */
  readonly ripple: readonly [strength: number, sizeMm: number];
  /** what the room mirrored in it takes from its colour where it is flat, and how much more below */
  readonly room: readonly [flat: number, below: number];
}
const FINISHES: Readonly<Record<SurfaceState, Finish>> = {
  wet: { lamp: [0.95, 0.93, 0.97], window: [0.42, 0.02], relief: 0.8, grain: [0, 1], ripple: [0, 1], room: [0.035, 0.12] },
  thickening: { lamp: [0.6, 0.86, 0.97], window: [0.27, 0.06], relief: 0.85, grain: [0, 1], ripple: [0.008, 3], room: [0.025, 0.08] },
  skinned: { lamp: [0.5, 0.84, 0.96], window: [0.28, 0.04], relief: 0.9, grain: [0.008, 0.5], ripple: [0.09, 1.3], room: [0.015, 0.04] },
  crusted: { lamp: [0.24, 0.6, 1], window: [0.1, 0.2], relief: 0.95, grain: [0.012, 0.4], ripple: [0.03, 0.9], room: [0.005, 0.02] },
  set: { lamp: [0.07, 0.5, 1], window: [0, 1], relief: 1, grain: [0.03, 0.45], ripple: [0, 1], room: [0, 0] },
  firm: { lamp: [0.02, 0.5, 1], window: [0, 1], relief: 0.9, grain: [0.048, 0.28], ripple: [0, 1], room: [0, 0] },
  dry: { lamp: [0, 0.5, 1], window: [0, 1], relief: 0.7, grain: [0.014, 0.2], ripple: [0, 1], room: [0, 0] },
};
const STATES = Object.keys(FINISHES) as SurfaceState[];
const BARE = 255;

/** The lamp stands to the upper left. */
const LIGHT = unit(-0.5, -0.62, 0.62);
/** Slopes in which the window is mirrored: it hangs over the upper left of the bench. */
const WINDOW = { fromX: -0.44, toX: -0.035, fromY: -0.52, toY: -0.03 } as const;
/** How far the mirror images on wet icing lie aside, as they do for who moves a little before it: lamp and window, *assumed* by eye. */
export const gleams = [-1, 0, 1] as const;
export type Gleam = (typeof gleams)[number];
const GLEAM_LAMP = 0.12;
const GLEAM_WINDOW = 0.035;
const SMALL_PX = 160;

/**
 * A cookie painted from its heights, `px` pixels wide. The same scene gives the same bytes on every machine. Small pictures
 * are worked out larger and averaged, so that grain becomes tone and not noise. `gleam` moves the highlights of what is wet, and nothing
 * else: they move on wet icing and stand still on all other.
 */
export function paint(scene: Scene, px: number, gleam: Gleam = 0): Picture {
  const widthMm = scene.box.maxX - scene.box.minX;
  const heightMm = scene.box.maxY - scene.box.minY;
  const finer = px <= 60 ? 3 : px <= SMALL_PX ? 2 : 1;
  const width = Math.max(1, Math.round(px)) * finer;
  const height = Math.max(1, Math.round((px * heightMm) / widthMm)) * finer;
  const frame: Frame = { x0Mm: scene.box.minX, y0Mm: scene.box.minY, pxPerMm: width / widthMm, width, height };
  const ground = new Ground(frame);
  if (scene.ground === 'parchment') ground.parchment(scene);
  else ground.biscuit(scene);
  for (const piece of scene.pieces) ground.add(piece);
  for (const flaw of scene.flaws) ground.spoil(flaw);
  return averaged(ground.shaded(gleam), width, height, finer);
}

class Ground {
  private readonly n: number;
  private readonly s: number;
  /** mm */
  private readonly high: Float32Array;
  private readonly red: Float32Array;
  private readonly green: Float32Array;
  private readonly blue: Float32Array;
  private readonly there: Float32Array;
  private readonly state: Uint8Array;
  private crumb: readonly [number, number] = CRUMB;

  constructor(private readonly frame: Frame) {
    this.n = frame.width * frame.height;
    this.s = frame.pxPerMm;
    this.high = new Float32Array(this.n);
    this.red = new Float32Array(this.n);
    this.green = new Float32Array(this.n);
    this.blue = new Float32Array(this.n);
    this.there = new Float32Array(this.n);
    this.state = new Uint8Array(this.n).fill(BARE);
  }

  biscuit({ cookie }: Scene): void {
    const cover = coverOf(cookie, this.frame);
    if (!cover) return;
    const far = distanceWithin(cover);
    this.each(cover, (i, k, c, xMm, yMm) => {
      const d = (far[k] as number) / this.s;
      const crumb = smoothNoise(xMm * 1.1, yMm * 1.1, 5) * 0.5 + smoothNoise(xMm * 3, yMm * 3, 6) * 0.5;
      const baked = Math.max(0, 1 - d / RIM_MM) * 0.9;
      this.there[i] = c;
      this.high[i] = BISCUIT_MM * rounded(d, BISCUIT_EDGE_MM) * 0.4;
      const tone = 1 + crumb * 0.035;
      this.red[i] = (BISCUIT[0] * (1 - baked) + BISCUIT_RIM[0] * baked) * tone;
      this.green[i] = (BISCUIT[1] * (1 - baked) + BISCUIT_RIM[1] * baked) * tone;
      this.blue[i] = (BISCUIT[2] * (1 - baked) + BISCUIT_RIM[2] * baked) * tone;
    });
  }

  /** A sheet under a transfer: flat, pale, a little see-through. */
  parchment({ cookie }: Scene): void {
    const cover = coverOf(cookie, this.frame);
    if (!cover) return;
    this.crumb = [0, 1];
    this.each(cover, (i, _k, c, xMm, yMm) => {
      const fibre = 1 + 0.012 * smoothNoise(xMm * 0.9, yMm * 0.5, 7);
      this.there[i] = c * 0.82;
      this.red[i] = PARCHMENT[0] * fibre;
      this.green[i] = PARCHMENT[1] * fibre;
      this.blue[i] = PARCHMENT[2] * fibre;
    });
  }

  add(piece: Piece): void {
    const cover = coverOf(piece.shape, this.frame);
    if (!cover) return;
    const [r, g, b] = rgbOf(piece.colour);
    const state = STATES.indexOf(piece.state);
    switch (piece.kind) {
      case 'wet':
        // A thread thinner than a pixel is still a thread: the eye finds it on the cookie, too.
        this.each(cover, (i, _k, c) => this.colour(i, r, g, b, 1 - (1 - c) ** 1.7, state));
        return;
      case 'line':
        this.each(cover, (i, _k, c) => this.colour(i, r, g, b, c, STATES.indexOf('dry')));
        return;
      case 'film':
        this.film(cover, piece, r, g, b);
        return;
      case 'grains':
        this.grains(cover, piece, r, g, b);
        return;
      case 'cracks':
        this.cracks(cover, piece);
        return;
      default:
        this.body(cover, piece, r, g, b, state);
    }
  }

  /** Icing with a height: a meniscus at its edge and a slight dome over all, or a round bead. */
  private body(cover: Cover, piece: Piece, r: number, g: number, b: number, state: number): void {
    const poolCover = piece.pool ? (coverOf(piece.pool, this.frame) ?? cover) : cover;
    const far = distanceWithin(poolCover);
    let deepest = 0;
    for (const d of far) if (d > deepest) deepest = d;
    const deepestMm = deepest / this.s;
    const isFlood = piece.kind === 'flood';
    const rise = Math.max(0.15, Math.min(piece.edgeMm, deepestMm));
    const dome = isFlood || piece.kind === 'raised' ? domeOf(poolCover, Math.max(0.3, Math.min(3.5, 0.45 * deepestMm)) * this.s) : null;
    const own = piece.dam ? distanceWithin(cover) : far;
    const [dr, dg, db] = piece.dam ? rgbOf(piece.dam.colour) : [0, 0, 0];
    const shift = (cover.y - poolCover.y) * poolCover.width + cover.x - poolCover.x;
    const isShared = poolCover !== cover;
    this.each(cover, (i, k, c) => {
      const row = Math.floor(k / cover.width);
      const at = isShared ? shift + row * poolCover.width + (k - row * cover.width) : k;
      const d = (far[at] as number) / this.s;
      const edge = rounded(d, rise);
      const swell = dome ? 0.78 * edge + 0.22 * (dome[at] as number) : edge;
      const dam = piece.dam ? (own[k] as number) / this.s / piece.dam.widthMm : 2;
      this.high[i] = (this.high[i] as number) + piece.heightMm * swell * c;
      if (dam < 1) {
        this.high[i] = (this.high[i] as number) + 0.35 * Math.sqrt(Math.max(0, 1 - (2 * dam - 1) ** 2)) * c;
        this.colour(i, dr, dg, db, c, state);
      } else this.colour(i, r, g, b, c, state);
    });
  }

  /** Mist, dust and paint: colour without height, soft at its edge. */
  private film(cover: Cover, piece: Piece, r: number, g: number, b: number): void {
    const soft = blurred(cover.data.slice(), cover.width, cover.height, piece.edgeMm * 0.5 * this.s);
    this.each(cover, (i, k, _c, xMm, yMm) => {
      const speck = 0.9 + 0.1 * smoothNoise(xMm * 2.4, yMm * 2.4, piece.seed + 11);
      const c = 0.62 * (soft[k] as number) * speck;
      this.red[i] = (this.red[i] as number) * (1 - c) + r * c;
      this.green[i] = (this.green[i] as number) * (1 - c) + g * c;
      this.blue[i] = (this.blue[i] as number) * (1 - c) + b * c;
    });
  }

  /** Grains of sugar: one to each cell of a shaken lattice; where they are smaller than a pixel, their tone. */
  private grains(cover: Cover, piece: Piece, r: number, g: number, b: number): void {
    const cell = 0.95;
    const dry = STATES.indexOf('dry');
    const isFine = this.s < 2.5;
    this.each(cover, (i, _k, c, xMm, yMm) => {
      if (isFine) {
        const lit = noiseAt(Math.floor(xMm * 1.4), Math.floor(yMm * 1.4), piece.seed);
        this.colour(i, r * 0.75 + 255 * 0.25 * lit, g * 0.75 + 255 * 0.25 * lit, b * 0.75 + 255 * 0.25 * lit, c * 0.7, dry);
        return;
      }
      const [cx, cy] = [Math.floor(xMm / cell), Math.floor(yMm / cell)];
      let best = 9;
      let lit = 0;
      for (let dy = -1; dy <= 1; dy++)
        for (let dx = -1; dx <= 1; dx++) {
          const gx = (cx + dx + 0.15 + 0.7 * noiseAt(cx + dx, cy + dy, piece.seed)) * cell;
          const gy = (cy + dy + 0.15 + 0.7 * noiseAt(cx + dx, cy + dy, piece.seed + 1)) * cell;
          const d = Math.hypot(xMm - gx, yMm - gy);
          if (d < best) {
            best = d;
            lit = noiseAt(cx + dx, cy + dy, piece.seed + 2);
          }
        }
      const radius = 0.36 + 0.12 * lit;
      if (best > radius) return;
      this.high[i] = (this.high[i] as number) + 0.5 * Math.sqrt(1 - (best / radius) ** 2) * c;
      const white = 0.35 + 0.4 * lit;
      this.colour(i, r * (1 - white) + 255 * white, g * (1 - white) + 255 * white, b * (1 - white) + 255 * white, c, dry);
    });
  }

  /** A crackled crust: it parts along lines that bound shaken cells. */
  private cracks(cover: Cover, piece: Piece): void {
    const cell = 5.2;
    this.each(cover, (i, _k, c, x, y) => {
      const xMm = x + 0.8 * smoothNoise(x * 0.4, y * 0.4, piece.seed + 3);
      const yMm = y + 0.8 * smoothNoise(x * 0.4, y * 0.4, piece.seed + 4);
      const [cx, cy] = [Math.floor(xMm / cell), Math.floor(yMm / cell)];
      let [first, second] = [99, 99];
      for (let dy = -1; dy <= 1; dy++)
        for (let dx = -1; dx <= 1; dx++) {
          const d = Math.hypot(
            xMm - (cx + dx + noiseAt(cx + dx, cy + dy, piece.seed)) * cell,
            yMm - (cy + dy + noiseAt(cx + dx, cy + dy, piece.seed + 1)) * cell,
          );
          if (d < first) [first, second] = [d, first];
          else if (d < second) second = d;
        }
      const open = Math.max(0, 1 - (second - first) / Math.max(0.35, 0.9 / this.s)) * c;
      if (open === 0) return;
      this.high[i] = (this.high[i] as number) - 0.5 * open;
      const dark = 1 - 0.42 * open;
      this.red[i] = (this.red[i] as number) * dark;
      this.green[i] = (this.green[i] as number) * dark;
      this.blue[i] = (this.blue[i] as number) * dark;
    });
  }

  spoil(flaw: Scene['flaws'][number]): void {
    const [r, g, b] = flaw.colour ? rgbOf(flaw.colour) : [0, 0, 0];
    const reach = flaw.sizeMm / 2;
    const from = (v: number, zero: number) => Math.floor((v - zero) * this.s);
    for (
      let y = Math.max(0, from(flaw.y - 2 * reach, this.frame.y0Mm));
      y < Math.min(this.frame.height, from(flaw.y + 2 * reach, this.frame.y0Mm) + 1);
      y++
    )
      for (
        let x = Math.max(0, from(flaw.x - 2 * reach, this.frame.x0Mm));
        x < Math.min(this.frame.width, from(flaw.x + 2 * reach, this.frame.x0Mm) + 1);
        x++
      ) {
        const i = y * this.frame.width + x;
        const dx = (x + 0.5) / this.s + this.frame.x0Mm - flaw.x;
        const dy = (y + 0.5) / this.s + this.frame.y0Mm - flaw.y;
        const d = Math.hypot(dx, flaw.kind === 'smudge' ? dy * 2 : dy) / reach;
        if (d >= 2 || (this.there[i] as number) === 0) continue;
        const inside = Math.max(0, 1 - d);
        if (flaw.kind === 'crater')
          this.high[i] = (this.high[i] as number) - 1.6 * inside * (2 - inside) + 0.25 * Math.max(0, 1 - Math.abs(d - 1.2) / 0.4);
        else if (flaw.kind === 'dent') this.high[i] = (this.high[i] as number) - 0.7 * inside * inside * (3 - 2 * inside);
        else if (flaw.kind === 'ridge')
          this.high[i] = (this.high[i] as number) + 0.5 * Math.max(0, 1 - Math.abs(dy / reach) * 3) * (d < 1 ? 1 - d * d : 0);
        else {
          const wavy = d * (1 + 0.35 * smoothNoise(dx * 1.3, dy * 1.3, 17));
          const c = 0.75 * Math.max(0, 1 - wavy);
          this.red[i] = (this.red[i] as number) * (1 - c) + r * c;
          this.green[i] = (this.green[i] as number) * (1 - c) + g * c;
          this.blue[i] = (this.blue[i] as number) * (1 - c) + b * c;
        }
      }
  }

  /** Every pixel with the light on it, four numbers each. */
  shaded(gleam: Gleam): Float32Array {
    const wet = STATES.indexOf('wet');
    const moved = unit(LIGHT[0] + GLEAM_LAMP * gleam, LIGHT[1] - GLEAM_LAMP * gleam, LIGHT[2]);
    const { width: w, height: h } = this.frame;
    const { s, high } = this;
    // At least a pixel, so that the lamp is not mirrored in steps of pixels.
    blurred(high, w, h, Math.max(0.9, Math.min(0.18 * s, 1.6)));
    // What lies lower than what is around it is darker: grooves, the foot of a bead.
    const around = blurred(high.slice(), w, h, Math.max(1, 0.9 * s));
    const out = new Float32Array(4 * this.n);
    for (let y = 0; y < h; y++)
      for (let x = 0; x < w; x++) {
        const i = y * w + x;
        const there = this.there[i] as number;
        if (there === 0) continue;
        const state = this.state[i] as number;
        const finish = state === BARE ? FINISHES.dry : FINISHES[STATES[state] as SurfaceState];
        let dx = (((high[x < w - 1 ? i + 1 : i] as number) - (high[x > 0 ? i - 1 : i] as number)) * s) / 2;
        let dy = (((high[y < h - 1 ? i + w : i] as number) - (high[y > 0 ? i - w : i] as number)) * s) / 2;
        const hollow = Math.max(-0.3, Math.min(0, ((high[i] as number) - (around[i] as number)) * 0.5));
        const xMm = x / s;
        const yMm = y / s;
        const [ripple, rippleMm] = state === BARE ? this.crumb : finish.ripple;
        if (ripple > 0) {
          dx += ripple * smoothNoise(xMm / rippleMm, yMm / rippleMm, 21);
          dy += ripple * smoothNoise(xMm / rippleMm, yMm / rippleMm, 22);
        }
        const isSteep = Math.hypot(dx, dy);
        const most = isSteep > 2.2 ? 2.2 / isSteep : 1;
        const [nx, ny, nz] = unit(-dx * most, -dy * most, 1);
        const lit = (nx * LIGHT[0] + ny * LIGHT[1] + nz * LIGHT[2]) / LIGHT[2];
        const [grain, grainMm] = finish.grain;
        const grains =
          grain > 0
            ? 1 + grain * Math.min(1, grainMm * s) * (2 * noiseAt(Math.floor(xMm / grainMm), Math.floor(yMm / grainMm), 31) - 1)
            : 1;
        const bareRelief = state === BARE ? 0.9 : finish.relief;
        const shade = Math.max(0.42, 1 + bareRelief * 0.42 * (Math.min(1.35, lit) - 1) + hollow * 0.7) * grains;
        let shine = 0;
        let mirrored = 1;
        if (state !== BARE) {
          const [rx, ry, rz] = [2 * nz * nx, 2 * nz * ny, 2 * nz * nz - 1];
          const [flat, below] = finish.room;
          mirrored = 1 - flat - below * Math.max(0, rx * 0.6 + ry * 0.8);
          const [lamp, from, to] = finish.lamp;
          const lampAt = state === wet ? moved : LIGHT;
          if (lamp > 0) shine = lamp * ramp(from, to, rx * lampAt[0] + ry * lampAt[1] + rz * lampAt[2]);
          const [pane, soft] = finish.window;
          if (pane > 0) {
            const aside = state === wet ? GLEAM_WINDOW * gleam : 0;
            const [px, py] = [rx - aside, ry + aside];
            const inX = ramp(WINDOW.fromX - soft, WINDOW.fromX + soft, px) * (1 - ramp(WINDOW.toX - soft, WINDOW.toX + soft, px));
            const inY = ramp(WINDOW.fromY - soft, WINDOW.fromY + soft, py) * (1 - ramp(WINDOW.toY - soft, WINDOW.toY + soft, py));
            const broken = ripple > 0.1 ? 0.55 + 0.45 * Math.sign(smoothNoise(xMm / 0.8, yMm / 0.8, 41)) : 1;
            shine += pane * inX * inY * broken;
          }
        }
        shine = Math.min(0.92, shine);
        const j = 4 * i;
        out[j] = (this.red[i] as number) * shade * mirrored * (1 - shine) + 255 * shine;
        out[j + 1] = (this.green[i] as number) * shade * mirrored * (1 - shine) + 255 * shine;
        out[j + 2] = (this.blue[i] as number) * shade * mirrored * (1 - shine) + 255 * shine;
        out[j + 3] = 255 * there;
      }
    return out;
  }

  private colour(i: number, r: number, g: number, b: number, c: number, state: number): void {
    this.red[i] = (this.red[i] as number) * (1 - c) + r * c;
    this.green[i] = (this.green[i] as number) * (1 - c) + g * c;
    this.blue[i] = (this.blue[i] as number) * (1 - c) + b * c;
    if (c > 0.5) {
      this.state[i] = state;
      if ((this.there[i] as number) > 0) this.there[i] = Math.max(this.there[i] as number, c);
    }
  }

  private each(cover: Cover, at: (i: number, k: number, c: number, xMm: number, yMm: number) => void): void {
    const { width } = this.frame;
    for (let y = 0; y < cover.height; y++)
      for (let x = 0; x < cover.width; x++) {
        const k = y * cover.width + x;
        const c = cover.data[k] as number;
        if (c > 0)
          at(
            (cover.y + y) * width + cover.x + x,
            k,
            c,
            (cover.x + x + 0.5) / this.s + this.frame.x0Mm,
            (cover.y + y + 0.5) / this.s + this.frame.y0Mm,
          );
      }
  }
}

/** Height over the edge of a round brim: 0 at it, 1 from `rise` inward. */
function rounded(d: number, rise: number): number {
  const t = Math.min(1, d / rise);
  return Math.sqrt(1 - (1 - t) * (1 - t));
}

/** A smooth swelling: how much of what lies around is covered too. */
function domeOf(cover: Cover, spreadPx: number): Float32Array {
  const pad = Math.ceil(spreadPx * 2);
  const [w, h] = [cover.width + 2 * pad, cover.height + 2 * pad];
  const wide = new Float32Array(w * h);
  for (let y = 0; y < cover.height; y++) wide.set(cover.data.subarray(y * cover.width, (y + 1) * cover.width), (y + pad) * w + pad);
  blurred(wide, w, h, spreadPx);
  const out = new Float32Array(cover.width * cover.height);
  for (let y = 0; y < cover.height; y++)
    for (let x = 0; x < cover.width; x++) {
      const u = Math.min(1, Math.max(0, ((wide[(y + pad) * w + x + pad] as number) - 0.4) / 0.6));
      out[y * cover.width + x] = 1 - (1 - u) * (1 - u);
    }
  return out;
}

function averaged(from: Float32Array, width: number, height: number, by: number): Picture {
  const [w, h] = [width / by, height / by];
  const rgba = new Uint8ClampedArray(w * h * 4);
  for (let y = 0; y < h; y++)
    for (let x = 0; x < w; x++) {
      let [r, g, b, a] = [0, 0, 0, 0];
      for (let v = 0; v < by; v++)
        for (let u = 0; u < by; u++) {
          const j = 4 * ((y * by + v) * width + x * by + u);
          const alpha = from[j + 3] as number;
          r += (from[j] as number) * alpha;
          g += (from[j + 1] as number) * alpha;
          b += (from[j + 2] as number) * alpha;
          a += alpha;
        }
      const k = 4 * (y * w + x);
      if (a === 0) continue;
      rgba[k] = r / a;
      rgba[k + 1] = g / a;
      rgba[k + 2] = b / a;
      rgba[k + 3] = a / (by * by);
    }
  return { width: w, height: h, rgba };
}

const ramp = (from: number, to: number, v: number): number => smoothstep((v - from) / (to - from));

function unit(x: number, y: number, z: number): readonly [number, number, number] {
  const l = Math.sqrt(x * x + y * y + z * z);
  return [x / l, y / l, z / l];
}

function rgbOf(hex: string): readonly [number, number, number] {
  const n = Number.parseInt(hex.slice(1, 7), 16);
  return Number.isNaN(n) ? [255, 255, 255] : [(n >> 16) & 255, (n >> 8) & 255, n & 255];
}
