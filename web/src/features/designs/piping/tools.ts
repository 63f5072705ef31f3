import type { DetailTechnique, MarkTechnique, SectionTechnique } from '@kestfog/core/design';
import { gramsOf } from '@kestfog/core/icing';
import { ASSUMED_PACE } from '@kestfog/core/steps';

/** How a tool is led: round an area, along a stroke, one dot after another, or straight from here to there. */
export type Lead = 'area' | 'stroke' | 'dots' | 'pull';

export interface Tool {
  readonly id: string;
  /** what is done, in a word or two */
  readonly label: string;
  readonly technique: SectionTechnique | MarkTechnique | DetailTechnique;
  readonly lead: Lead;
  readonly layer?: boolean;
  /** the area is filled with uprights and bars */
  readonly woven?: boolean;
  /** breadth of the bead or line, or a dot's diameter, mm: what it begins with */
  readonly widthMm: number;
  /** least and most of it, mm */
  readonly widths: readonly [number, number];
  /** hands-on seconds for so many mm along, mm² over and strokes, as paces assume them */
  readonly seconds: (lengthMm: number, areaMm2: number, strokes: number) => number;
  /** icing it lays, mm³ */
  readonly mm3: (lengthMm: number, areaMm2: number, strokes: number, widthMm: number) => number;
}

const P = ASSUMED_PACE;
const none = () => 0;
const bead = (lengthMm: number, _a: number, _n: number, widthMm: number) => (Math.PI / 4) * widthMm * widthMm * lengthMm;
const beadS = (lengthMm: number, _a: number, strokes: number) => lengthMm / P.beadMmPerS + strokes * P.liftS;
/** A flood's own dam, and what it holds at its usual depth. */
const USUAL_DEPTH_MM = 2.5;

/** By what is done, not by what shape it has. */
export const tools = [
  {
    id: 'flood',
    label: 'flood',
    technique: 'flood',
    lead: 'area',
    widthMm: 12,
    widths: [4, 120],
    seconds: (l, a) => l / P.beadMmPerS + (a / 100) * P.floodSPerCm2,
    mm3: (_l, a) => a * USUAL_DEPTH_MM,
  },
  {
    id: 'layer',
    label: 'flood on top',
    technique: 'flood',
    lead: 'area',
    layer: true,
    widthMm: 10,
    widths: [3, 120],
    seconds: (l, a) => l / P.beadMmPerS + (a / 100) * P.floodSPerCm2,
    mm3: (_l, a) => a * USUAL_DEPTH_MM,
  },
  { id: 'line', label: 'line', technique: 'piped-line', lead: 'stroke', widthMm: 1.5, widths: [0.5, 6], seconds: beadS, mm3: bead },
  {
    id: 'dots',
    label: 'dots',
    technique: 'piped-line',
    lead: 'dots',
    widthMm: 2,
    widths: [0.8, 8],
    seconds: (_l, _a, n) => n * P.dropS,
    mm3: (_l, _a, n, w) => (n * Math.PI * w ** 3) / 12,
  },
  {
    id: 'wet-drops',
    label: 'wet drops',
    technique: 'wet-drop',
    lead: 'dots',
    widthMm: 3,
    widths: [0.8, 30],
    seconds: (_l, _a, n) => n * P.dropS,
    mm3: (_l, _a, n, w) => n * (Math.PI / 4) * w * w * 1.2,
  },
  { id: 'wet-line', label: 'wet line', technique: 'wet-line', lead: 'stroke', widthMm: 1.4, widths: [0.5, 8], seconds: beadS, mm3: bead },
  { id: 'pull', label: 'pull', technique: 'drag', lead: 'pull', widthMm: 1, widths: [0.5, 4], seconds: (_l, _a, n) => n * (P.dragS + P.wipeS), mm3: none },
  {
    id: 'sugar',
    label: 'sugar',
    technique: 'sprinkle',
    lead: 'area',
    widthMm: 10,
    widths: [3, 120],
    seconds: (_l, a) => P.sprinkleS + (a / 100) * P.sprinkleSPerCm2,
    mm3: none,
  },
  {
    id: 'dipped',
    label: 'sugared line',
    technique: 'dipped-bead',
    lead: 'stroke',
    widthMm: 2,
    widths: [1, 6],
    seconds: (l, a, n) => beadS(l, a, n) + P.dipS,
    mm3: bead,
  },
  {
    id: 'raised',
    label: 'raised piece',
    technique: 'relief',
    lead: 'area',
    widthMm: 5,
    widths: [1.5, 40],
    seconds: (l) => l / P.beadMmPerS,
    mm3: (_l, a) => a * 1.4,
  },
  {
    id: 'weave',
    label: 'weave',
    technique: 'piped-line',
    lead: 'area',
    woven: true,
    widthMm: 2,
    widths: [1, 5],
    seconds: (_l, a) => a / 4 / P.beadMmPerS,
    mm3: (_l, a, _n, w) => (a / 4) * (Math.PI / 4) * w * w,
  },
  {
    id: 'pen',
    label: 'pen',
    technique: 'pen',
    lead: 'stroke',
    widthMm: 0.6,
    widths: [0.3, 2],
    seconds: (l, _a, n) => l / P.traceMmPerS + n * P.liftS,
    mm3: none,
  },
  { id: 'dust', label: 'dust', technique: 'dust', lead: 'area', widthMm: 10, widths: [3, 120], seconds: (_l, a) => (a / 100) * P.brushSPerCm2, mm3: none },
  {
    id: 'airbrush',
    label: 'airbrush',
    technique: 'airbrush',
    lead: 'area',
    widthMm: 14,
    widths: [4, 150],
    seconds: (_l, a) => P.airbrushS + (a / 100) * P.airbrushSPerCm2,
    mm3: none,
  },
  { id: 'stencil', label: 'stencil', technique: 'stencil', lead: 'area', widthMm: 10, widths: [2, 120], seconds: () => P.stencilS, mm3: (_l, a) => a * 0.5 },
  { id: 'wafer', label: 'wafer paper', technique: 'wafer', lead: 'area', widthMm: 15, widths: [4, 120], seconds: () => P.waferS, mm3: none },
] as const satisfies readonly Tool[];
export type ToolId = (typeof tools)[number]['id'];
export const toolById = (id: ToolId): Tool => tools.find((t) => t.id === id) as Tool;

/** What a tool would cost on one cookie, while it is being drawn. */
export const costOf = (tool: Tool, lengthMm: number, areaMm2: number, strokes: number, widthMm: number) => ({
  seconds: tool.seconds(lengthMm, areaMm2, strokes),
  grams: gramsOf(tool.mm3(lengthMm, areaMm2, strokes, widthMm) / 1000),
});
