import type { GuideKind } from '../../design/technique-names.js';
import { msg } from '../../words/index.js';
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
    tooEarly: kind === 'projected' ? msg`what is piped along it sinks` : msg`it dents the surface`,
    tooLate: WAITING_ONLY_COSTS_TIME,
    hands: () => [msg`only as far as what is laid over it hides it`],
    ...way,
  });

export const guideTraced = guide('traced', {
  label: msg`template traced`,
  verb: msg`trace`,
  tool: msg`template and edible pen, on the firm surface or the bare cookie`,
  badlyDone: msg`the template slips: hold it with a weight, not with a thumb`,
  cautions: ['edible-only', 'print-paper'],
  seconds: (e, pace) => pace.templateS + along(e, pace),
});
export const guideScratched = guide('scratched', {
  label: msg`line scratched`,
  verb: msg`scratch`,
  tool: msg`scribe, lightly`,
  badlyDone: msg`scratched too deep it shows`,
  cautions: ['tools-food-only'],
  seconds: along,
});
export const guideRuled = guide('ruled', {
  label: msg`line ruled`,
  verb: msg`rule`,
  tool: msg`ruler of steel and edible pen`,
  badlyDone: msg`a ruler that rocks rules a bent line`,
  cautions: ['edible-only', 'tools-food-only'],
  seconds: (e, pace) => e.count * pace.ruleS + along(e, pace),
});
export const guideStencil = guide('stencil', {
  label: msg`outline through a stencil`,
  verb: msg`mark through the stencil`,
  tool: msg`stencil as a template, scribe or edible pen`,
  badlyDone: msg`marked on the inside of the edge it comes out small`,
  cautions: ['edible-only', 'tools-food-only'],
  seconds: (e, pace) => pace.templateS + along(e, pace),
});
export const guideCutter = guide('cutter', {
  label: msg`ring of a cutter`,
  verb: msg`press lightly`,
  tool: msg`cutter as a template`,
  badlyDone: msg`pressed hard it cuts`,
  cautions: ['tools-food-only'],
  seconds: ({ count }, pace) => count * pace.pokeS,
});
export const guideCentre = guide('centre', {
  label: msg`centre poked`,
  verb: msg`poke`,
  tool: msg`scribe`,
  badlyDone: msg`a hole that is too wide fills with air`,
  cautions: ['tools-food-only'],
  seconds: ({ count }, pace) => count * pace.pokeS,
});
export const guideProjected = guide('projected', {
  label: msg`picture of light laid on`,
  verb: msg`line up`,
  tool: msg`projector, cookie at the marks`,
  badlyDone: msg`a cookie that moved is out of line all round`,
  cautions: [],
  seconds: (_extent, pace) => pace.projectS,
});
export const guideSheet = guide('sheet', {
  label: msg`guide sheet laid beside`,
  verb: msg`line up with the sheet`,
  tool: msg`printed sheet under parchment`,
  badlyDone: msg`held askew every line follows it`,
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
