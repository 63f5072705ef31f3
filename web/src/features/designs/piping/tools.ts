import type { DetailTechnique, MarkTechnique, SectionTechnique, Symmetry } from '@kestfog/core/design';
import { msg } from '@kestfog/core/words';

/** How a tool is led: round an area, along a stroke, one dot after another, or straight from here to there. */
export type Lead = 'area' | 'stroke' | 'dots' | 'pull';

export interface Tool {
  readonly id: string;
  /** what is done, in a word or two */
  readonly label: string;
  readonly technique: SectionTechnique | MarkTechnique | DetailTechnique | 'guide';
  readonly lead: Lead;
  readonly layer?: boolean;
  /** the area is filled with uprights and bars */
  readonly woven?: boolean;
  /** breadth of the bead or line, a dot's diameter, or that of the round a tap makes, mm: what it begins with */
  readonly widthMm: number;
  /** least and most of it, mm */
  readonly widths: readonly [number, number];
}

/** By what is done, not by what shape it has. */
export const tools = [
  { id: 'flood', label: msg`flood`, technique: 'flood', lead: 'area', widthMm: 12, widths: [4, 120] },
  { id: 'layer', label: msg`flood on top`, technique: 'flood', lead: 'area', layer: true, widthMm: 10, widths: [3, 120] },
  { id: 'thin-coat', label: msg`thin coat`, technique: 'thin-coat', lead: 'area', widthMm: 20, widths: [4, 120] },
  { id: 'line', label: msg`line`, technique: 'piped-line', lead: 'stroke', widthMm: 1.5, widths: [0.5, 6] },
  { id: 'dots', label: msg`dots`, technique: 'piped-line', lead: 'dots', widthMm: 2, widths: [0.8, 8] },
  { id: 'wet-drops', label: msg`wet drops`, technique: 'wet-drop', lead: 'dots', widthMm: 3, widths: [0.8, 30] },
  { id: 'wet-line', label: msg`wet line`, technique: 'wet-line', lead: 'stroke', widthMm: 1.4, widths: [0.5, 8] },
  { id: 'laid-in', label: msg`wet lay-in`, technique: 'lay-in', lead: 'dots', widthMm: 4, widths: [1, 60] },
  { id: 'pull', label: msg`pull`, technique: 'drag', lead: 'pull', widthMm: 1, widths: [0.5, 4] },
  { id: 'sugar', label: msg`sugar`, technique: 'sprinkle', lead: 'area', widthMm: 10, widths: [3, 120] },
  { id: 'dipped', label: msg`sugared line`, technique: 'dipped-bead', lead: 'stroke', widthMm: 2, widths: [1, 6] },
  { id: 'raised', label: msg`raised piece`, technique: 'relief', lead: 'area', widthMm: 5, widths: [1.5, 40] },
  { id: 'closing', label: msg`closing line`, technique: 'closing-outline', lead: 'stroke', widthMm: 1.5, widths: [0.5, 6] },
  { id: 'crackle', label: msg`crackle`, technique: 'crackle', lead: 'area', widthMm: 12, widths: [3, 120] },
  { id: 'glued', label: msg`glued piece`, technique: 'glued-transfer', lead: 'area', widthMm: 15, widths: [3, 120] },
  { id: 'weave', label: msg`weave`, technique: 'piped-line', lead: 'area', woven: true, widthMm: 2, widths: [1, 5] },
  { id: 'pen', label: msg`pen`, technique: 'pen', lead: 'stroke', widthMm: 0.6, widths: [0.3, 2] },
  { id: 'paint', label: msg`paint`, technique: 'paint', lead: 'area', widthMm: 10, widths: [1, 120] },
  { id: 'dust', label: msg`dust`, technique: 'dust', lead: 'area', widthMm: 10, widths: [3, 120] },
  { id: 'airbrush', label: msg`airbrush`, technique: 'airbrush', lead: 'area', widthMm: 14, widths: [4, 150] },
  { id: 'stencil', label: msg`stencil`, technique: 'stencil', lead: 'area', widthMm: 10, widths: [2, 120] },
  { id: 'wafer', label: msg`wafer paper`, technique: 'wafer', lead: 'area', widthMm: 15, widths: [4, 120] },
  { id: 'guide', label: msg`guide`, technique: 'guide', lead: 'stroke', widthMm: 0.4, widths: [0.2, 1] },
] as const satisfies readonly Tool[];
/** Cuts a flood in two where it is drawn; no piping, so nothing is left of it but the seam. */
export const KNIFE: Tool & { readonly id: 'cut' } = {
  id: 'cut',
  label: msg`cut in two`,
  technique: 'trace',
  lead: 'stroke',
  widthMm: 0.6,
  widths: [0.6, 0.6],
};
export type ToolId = (typeof tools)[number]['id'] | 'cut';
/** What can be picked: a tool that is led over the cookie, words that are typed, or another design. */
export type PickedTool = ToolId | 'letters' | 'design';
export const isLed = (id: PickedTool | null): id is ToolId => id !== null && id !== 'letters' && id !== 'design';
export const toolById = (id: ToolId): Tool => tools.find((t) => t.id === id) ?? KNIFE;

/** One operation holds so many strokes: as many as its edit may. */
export const MOST_STROKES = 600;

/** What is piped next, and how. */
export interface Piping {
  readonly toolId: PickedTool | null;
  readonly widthMm: number;
  readonly colour: string;
  readonly symmetry: Symmetry;
  /** areas close narrow gaps to their neighbours, strokes end on the edges they come near */
  readonly meets: boolean;
  /** what a tap of a tool that goes round areas makes: a round one, or the whole place it is in */
  readonly tap: 'round' | 'fill';
}
