import type { GuideKind } from '../../design/technique-names.js';
import type { CautionId } from '../cautions/caution.js';
import type { Pace } from '../pace.js';
import { type Extent, technique, WAITING_ONLY_COSTS_TIME } from './technique.js';

interface GuideWay {
  readonly label: string;
  readonly verb: string;
  readonly tool: string;
  readonly badlyDone: string;
  readonly cautions: readonly CautionId[];
  readonly seconds: (extent: Extent, pace: Pace) => number;
}

const along = ({ lengthMm }: Extent, pace: Pace) => lengthMm / pace.traceMmPerS;

/** One definition a way of guiding the hands: each presses on what bears it, but for a picture of light. */
const guide = <const Kind extends GuideKind>(kind: Kind, way: GuideWay) =>
  technique({
    id: `guide-${kind}`,
    kind: 'detail',
    leaves: 'film',
    asks: 'guide',
    icing: null,
    openingMm: null,
    until: null,
    tooEarly: kind === 'projected' ? 'what is piped along it sinks' : 'it dents the surface',
    tooLate: WAITING_ONLY_COSTS_TIME,
    hands: () => ['only as far as what is laid over it hides it'],
    ...way,
  });

export const guideTraced = guide('traced', {
  label: 'template traced',
  verb: 'trace',
  tool: 'template and edible pen, on the firm surface or the bare cookie',
  badlyDone: 'the template slips: hold it with a weight, not with a thumb',
  cautions: ['edible-only', 'print-paper'],
  seconds: (e, pace) => pace.templateS + along(e, pace),
});
export const guideScratched = guide('scratched', {
  label: 'line scratched',
  verb: 'scratch',
  tool: 'scribe, lightly',
  badlyDone: 'scratched too deep it shows',
  cautions: ['tools-food-only'],
  seconds: along,
});
export const guideRuled = guide('ruled', {
  label: 'line ruled',
  verb: 'rule',
  tool: 'ruler of steel and edible pen',
  badlyDone: 'a ruler that rocks rules a bent line',
  cautions: ['edible-only', 'tools-food-only'],
  seconds: (e, pace) => e.count * pace.ruleS + along(e, pace),
});
export const guideStencil = guide('stencil', {
  label: 'outline through a stencil',
  verb: 'mark through the stencil',
  tool: 'stencil as a template, scribe or edible pen',
  badlyDone: 'marked on the inside of the edge it comes out small',
  cautions: ['edible-only', 'tools-food-only'],
  seconds: (e, pace) => pace.templateS + along(e, pace),
});
export const guideCutter = guide('cutter', {
  label: 'ring of a cutter',
  verb: 'press lightly',
  tool: 'cutter as a template',
  badlyDone: 'pressed hard it cuts',
  cautions: ['tools-food-only'],
  seconds: ({ count }, pace) => count * pace.pokeS,
});
export const guideCentre = guide('centre', {
  label: 'centre poked',
  verb: 'poke',
  tool: 'scribe',
  badlyDone: 'a hole that is too wide fills with air',
  cautions: ['tools-food-only'],
  seconds: ({ count }, pace) => count * pace.pokeS,
});
export const guideProjected = guide('projected', {
  label: 'picture of light laid on',
  verb: 'line up',
  tool: 'projector, cookie at the marks',
  badlyDone: 'a cookie that moved is out of line all round',
  cautions: [],
  seconds: (_extent, pace) => pace.projectS,
});
export const guideSheet = guide('sheet', {
  label: 'guide sheet laid beside',
  verb: 'line up with the sheet',
  tool: 'printed sheet under parchment',
  badlyDone: 'held askew every line follows it',
  cautions: ['print-paper'],
  seconds: (_extent, pace) => pace.projectS,
});
export const guides = [
  guideTraced,
  guideScratched,
  guideRuled,
  guideStencil,
  guideCutter,
  guideCentre,
  guideProjected,
  guideSheet,
] as const;
