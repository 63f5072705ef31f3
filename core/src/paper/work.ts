import { colourName } from '../design/colour-names.js';
import { linesOf, marksOf } from '../design/design.js';
import { cookiesMade } from '../formats/order.js';
import type { Plan, PlanTask } from '../formats/plan.js';
import { planIndex } from '../formats/plan-index.js';
import { gradeOfSeconds } from '../icing/grade.js';
import { baseWaterFrac, type OwnRecipe, scaleRecipe, USUAL_RECIPES } from '../icing/recipe.js';
import { DROPS_PER_ML } from '../icing/thinning.js';
import { type Bowl, bowlsOf } from '../planning/bowls.js';
import { type OrderBag, orderBags } from '../planning/order-bags.js';
import { type CartonSize, orderCost, type Prices, packing } from '../planning/order-cost.js';
import { bagKey } from '../steps/step.js';
import { TIPLESS } from '../steps/tips.js';
import { BadInput } from '../units/bad-input.js';
import type { StepId } from '../units/id.js';
import { span } from '../wording/span.js';
import type { PaperAsk, PrintedSheet } from './page.js';
import { type Block, type Cell, CLOSE, flowing } from './table.js';

/** What sheets to work from are made with besides the paper. */
export interface WorkAsk extends PaperAsk {
  /** "14:35" of a moment, ms since 1970 */
  readonly clock: (ms: number) => string;
  /** "Tuesday 1 December" */
  readonly day: (ms: number) => string;
  /** "346 g", "12.2 oz" */
  readonly grams: (g: number) => string;
  /** what the kitchen calls a colour; the nearest common name where it says nothing */
  readonly nameOf?: (colour: string) => string;
  readonly kitchen?: {
    readonly mix?: OwnRecipe | null;
    readonly prices?: Prices;
    readonly carton?: CartonSize;
    /** what the baked cookie is made of, in the kitchen's own words */
    readonly bakedOf?: string;
    /** what was learned of how water thins, for the water of each bag */
    readonly slope?: number;
    /** what of a bag is still to be mixed, by {@link bagKey}, where left-over icing brings some of it, g */
    readonly toMixG?: Readonly<Record<string, number>>;
  };
}

export const workKinds = ['run', 'trays', 'mixing', 'labels', 'shopping', 'boxes', 'care', 'offer'] as const;
export type WorkKind = (typeof workKinds)[number];

const nameIn = (ask: WorkAsk) => ask.nameOf ?? colourName;
const capital = (s: string) => s.charAt(0).toUpperCase() + s.slice(1);

/** The sheet of one kind for a planned order. Throws {@link BadInput} where what it needs is missing. */
export function workSheet(kind: WorkKind, plan: Plan, ask: WorkAsk): PrintedSheet {
  switch (kind) {
    case 'run':
      return runSheet(plan, ask);
    case 'trays':
      return trayCards(plan, ask);
    case 'mixing':
      return mixingSheet(plan, ask);
    case 'labels':
      return bagLabels(plan, ask);
    case 'shopping':
      return shoppingList(plan, ask);
    case 'boxes':
      return boxLabels(plan, ask);
    case 'care':
      return careLabels(plan, ask);
    case 'offer':
      return offer(plan, ask);
  }
}

/** When what a task does must have been done: so long after each cookie's own flood, and by a moment; null where neither shuts. */
export interface Closes {
  readonly withinS: number | null;
  readonly byS: number | null;
}
export function closesOf(plan: Plan, task: PlanTask): Closes {
  const own = new Set(task.motions.map((m) => m.stepId));
  const windows = task.motions.flatMap(({ windowS, windowFrom }) => (windowS === null || windowFrom === null ? [] : [{ windowS, windowFrom }]));
  const within = windows.flatMap((w) => (own.has(w.windowFrom) ? [w.windowS] : []));
  const by = windows.flatMap((w) => {
    const from = own.has(w.windowFrom) ? null : endOf(plan, task, w.windowFrom);
    return from === null ? [] : [from + w.windowS];
  });
  return { withinS: within.length > 0 ? Math.min(...within) : null, byS: by.length > 0 ? Math.min(...by) : null };
}
/** When a step ended on the first cookie a task works on; null where nobody does it. */
function endOf(plan: Plan, task: PlanTask, stepId: StepId): number | null {
  for (const t of task.lotId === null ? [] : planIndex(plan).tasksOnLot(task.lotId)) {
    const motion = t.motions.find((m) => m.stepId === stepId);
    if (motion && t.cookies[0] <= task.cookies[0] && task.cookies[0] < t.cookies[1]) return t.startS + (motion.endS[task.cookies[0] - t.cookies[0]] as number);
  }
  return null;
}

function cookiesWords(plan: Plan, task: PlanTask): string {
  const lot = planIndex(plan).lot(task.lotId);
  if (!lot) return '';
  const [from, to] = task.cookies;
  if (to - from === lot.cookies) return lot.cookies === 1 ? 'one' : `all ${lot.cookies}`;
  return to - from === 1 ? `cookie ${from + 1} of ${lot.cookies}` : `${from + 1}–${to} of ${lot.cookies}`;
}

function icingWords(task: PlanTask, ask: WorkAsk): string {
  const byColour = new Map<string, number[]>();
  for (const b of task.bags) byColour.set(b.colour, [...(byColour.get(b.colour) ?? []), b.seconds]);
  return [...byColour].map(([colour, seconds]) => `${nameIn(ask)(colour)} ${seconds.join(', ')} s`).join('; ');
}

function whatWords(plan: Plan, task: PlanTask): string {
  const design = planIndex(plan).designOf(task);
  return [capital(task.title), design ? `${design.drawing.name}, ${cookiesWords(plan, task)}` : ''].filter(Boolean).join('; ');
}

/** So many trays have a column of boxes each; more of them share one. */
const MOST_TRAY_COLUMNS = 12;

/** The evening on paper: by the clock, a column of boxes for each tray, windows and nights named. */
export function runSheet(plan: Plan, ask: WorkAsk): PrintedSheet {
  const { msOf } = planIndex(plan);
  const trays = plan.trays.map((t) => t.id);
  const inColumns = trays.length <= MOST_TRAY_COLUMNS;
  const many = plan.order.decorators.length > 1;
  const columns = [
    { title: 'from – to', widthMm: 22 },
    ...(inColumns
      ? trays.map((id) => ({ title: id, widthMm: 5, align: 'middle' as const }))
      : [
          { title: '', widthMm: 5 },
          { title: 'tray', widthMm: 12 },
        ]),
    ...(many ? [{ title: 'who', widthMm: 14 }] : []),
    { title: 'what' },
    { title: 'icing', widthMm: 40 },
    { title: 'done by', widthMm: 18 },
  ];
  const done = (task: PlanTask): string => {
    const { byS, withinS } = closesOf(plan, task);
    const each = withinS === null ? '' : `each in ${withinS < 180 ? `${Math.floor(withinS)} s` : `${Math.floor(withinS / 60)} min`}`;
    return [byS === null ? '' : ask.clock(msOf(byS)), each].filter(Boolean).join('; ');
  };
  const spanOf = (fromS: number, toS: number): string => {
    const [from, to] = [ask.clock(msOf(fromS)), ask.clock(msOf(toS))];
    // "2:00 – 2:03 pm": the half of the day is said once.
    const half = /\s[ap]\.?m\.?$/i.exec(to)?.[0];
    return from === to ? from : `${half && from.endsWith(half) ? from.slice(0, -half.length) : from} – ${to}`;
  };
  const rowOf = (t: PlanTask): Cell[] => [
    spanOf(t.startS, t.endS),
    ...(inColumns ? trays.map((id): Cell => (id === t.trayId ? { tick: true } : '')) : [{ tick: true } as const, { text: t.trayId, bold: true }]),
    ...(many ? [t.by] : []),
    // Said in full on the tray cards: here every line counts.
    t.kind === 'prepare' ? whatWords(plan, { ...t, title: 'cool? bags open' }) : whatWords(plan, t),
    icingWords(t, ask),
    { text: done(t), bold: true },
  ];
  const blocks: Block[] = [];
  const days = new Map<string, PlanTask[]>();
  for (const t of [...plan.tasks].sort((a, b) => a.startS - b.startS || a.endS - b.endS)) {
    const day = ask.day(msOf(t.startS));
    days.set(day, [...(days.get(day) ?? []), t]);
  }
  for (const [day, tasks] of days) {
    const rows: Cell[][] = [];
    for (const [i, t] of tasks.entries()) {
      const before = tasks[i - 1];
      const night = before && nightBetween(plan, before.endS, t.startS);
      if (night)
        rows.push([
          `${ask.clock(msOf(night[0]))} – ${ask.clock(msOf(night[1]))}`,
          ...columns.slice(1).map((c): Cell => (c.title === 'what' ? { text: 'nobody at the bench', tone: 'grey' } : '')),
        ]);
      rows.push(rowOf(t));
    }
    blocks.push({ kind: 'table', caption: day, columns, rows });
    const last = tasks.at(-1) as PlanTask;
    const next = [...plan.tasks].filter((t) => t.startS > last.startS && !tasks.includes(t)).sort((a, b) => a.startS - b.startS)[0];
    const night = next && nightBetween(plan, last.endS, next.startS);
    if (night)
      blocks.push({
        kind: 'text',
        text: `Then nobody is at the bench until ${ask.day(msOf(night[1]))}, ${ask.clock(msOf(night[1]))}: trays dry on their shelves.`,
      });
  }
  blocks.push(
    {
      kind: 'text',
      text: `Packed ${ask.day(msOf(plan.endS))}, ${ask.clock(msOf(plan.endS))}. “Each in” counts from that cookie’s own flood; a time is the latest for the first cookie of the tray.`,
    },
    {
      kind: 'text',
      text: 'Waits are planned for the air that was said. A finger decides: where icing is not yet as it should be, wait, whatever stands here.',
    },
  );
  return flowing(ask, 'run sheet', blocks, CLOSE);
}

/** The closed hours that lie between two moments; null where the bench is open all the while. */
function nightBetween(plan: Plan, fromS: number, toS: number): readonly [number, number] | null {
  for (const [i, [, shutS]] of plan.openingHours.entries()) {
    const next = plan.openingHours[i + 1];
    if (next && next[0] > shutS && shutS >= fromS - 1 && next[0] <= toS + 1) return [shutS, next[0]];
  }
  return null;
}

function trayCards(plan: Plan, ask: WorkAsk): PrintedSheet {
  const index = planIndex(plan);
  const blocks = plan.trays
    .filter((t) => t.lots.length > 0)
    .flatMap((tray): Block[] => [
      { kind: 'heading', text: `Tray ${tray.id}: ${tray.lots.map((l) => `${l.cookies} ${index.design(l.designId)?.drawing.name}`).join(', ')}` },
      {
        kind: 'table',
        columns: [{ title: '', widthMm: 6 }, { title: 'from', widthMm: 34 }, { title: 'what' }, { title: 'icing', widthMm: 52 }],
        rows: plan.tasks
          .filter((t) => t.trayId === tray.id)
          .map((t): Cell[] => [
            { tick: true },
            `${ask.day(index.msOf(t.startS)).split(' ')[0]} ${ask.clock(index.msOf(t.startS))}`,
            whatWords(plan, t),
            icingWords(t, ask),
          ]),
      },
    ]);
  return flowing(ask, 'tray cards', blocks);
}

/** Bags of a planned order, with the colours that share one. */
export const bagsOf = (plan: Plan): OrderBag[] =>
  orderBags(
    plan.designs.map((d) => ({ design: d.drawing, count: cookiesMade(d) })),
    plan.order.school,
    plan.order.merges,
    plan.order.tips,
  );

function bowls(plan: Plan, ask: WorkAsk): { readonly bowls: readonly Bowl[]; readonly recipe: OwnRecipe; readonly baseG: number } {
  const recipe = ask.kitchen?.mix ?? USUAL_RECIPES.dried;
  const all = bowlsOf(bagsOf(plan), baseWaterFrac(recipe), ask.kitchen?.slope, (b) => ask.kitchen?.toMixG?.[bagKey(b)] ?? b.mixG);
  return { bowls: all, recipe, baseG: all.reduce((s, b) => s + b.baseG, 0) };
}

const openings = (bag: OrderBag): string => bag.openings.map((o) => `${o.name} ${o.openingMm} mm`).join(', then ');

function mixingSheet(plan: Plan, ask: WorkAsk): PrintedSheet {
  const made = bowls(plan, ask);
  const base = scaleRecipe(made.baseG, made.recipe);
  const blocks: Block[] = [
    {
      kind: 'text',
      text: `Base: ${ask.grams(made.baseG)}, of ${ask.grams(base.sugarG)} powdered sugar, ${ask.grams(base.eggG)} ${made.recipe.egg} egg white, ${ask.grams(base.waterG)} water${base.lemonG > 0 ? `, ${ask.grams(base.lemonG)} lemon juice` : ''}. ${capital(made.recipe.mixing)}.`,
    },
    ...(base.caution ? [{ kind: 'text' as const, text: base.caution, bold: true }] : []),
    {
      kind: 'table',
      columns: [
        { title: '', widthMm: 6 },
        { title: '', widthMm: 5 },
        { title: 'bowl and bag', widthMm: 46 },
        { title: 'base', widthMm: 18, align: 'end' },
        { title: 'stir in water', widthMm: 30, align: 'end' },
        { title: 'fill', widthMm: 18, align: 'end' },
        { title: 'through, for' },
      ],
      rows: made.bowls.flatMap((bowl): Cell[][] => [
        [{ tick: true }, { dab: bowl.colour }, { text: nameIn(ask)(bowl.colour), bold: true }, ask.grams(bowl.baseG), '', '', 'colour the whole bowl first'],
        ...bowl.bags.map(({ bag, waterG, toMixG }): Cell[] => [
          { tick: true },
          '',
          `${gradeOfSeconds(bag.seconds).label}, counts ${bag.seconds} s`,
          '',
          waterG < 0.05 ? 'none' : `${ask.grams(waterG)} (${Math.round(waterG * DROPS_PER_ML)} drops)`,
          ask.grams(toMixG),
          `${openings(bag)}; ${bag.designs.join(', ')}`,
        ]),
      ]),
    },
    {
      kind: 'text',
      text: 'Pale before dark, stiff before thin: water is only ever added. A few drops before the last, then count: the count decides, not the drops.',
    },
  ];
  return flowing(ask, 'mixing sheet', blocks);
}

function bagLabels(plan: Plan, ask: WorkAsk): PrintedSheet {
  const bags = bowls(plan, ask).bowls.flatMap((b) => b.bags.map(({ bag }) => bag));
  const text = (b: OrderBag) => `${nameIn(ask)(b.colour)}, ${gradeOfSeconds(b.seconds).label}`;
  return flowing(ask, 'bag labels, to cut apart', [
    {
      kind: 'table',
      columns: [
        { title: '', widthMm: 6 },
        { title: 'bag', widthMm: 52 },
        { title: 'counts', widthMm: 16, align: 'end' },
        { title: 'opening', widthMm: 54 },
        { title: 'for' },
        { title: 'date', widthMm: 24 },
      ],
      rows: bags.map((b): Cell[] => [{ dab: b.colour }, { text: text(b), bold: true }, `${b.seconds} s`, openings(b), b.designs.join(', '), ask.date]),
    },
  ]);
}

/** Everything that has to be in the house; what is laid on comes by its own colour. */
export function supplies(plan: Plan, ask: WorkAsk): { readonly what: string; readonly amount: string; readonly dab?: string }[] {
  const made = bowls(plan, ask);
  const base = scaleRecipe(made.baseG, made.recipe);
  const name = nameIn(ask);
  const all = plan.designs.flatMap((d) => [...linesOf(d.drawing), ...marksOf(d.drawing)].map((p) => ({ p, d })));
  const laid = (techniques: readonly string[], what: (colour: string) => string) =>
    [...new Set(all.filter(({ p }) => techniques.includes(p.technique)).map(({ p }) => p.colour))].map((colour) => ({
      what: what(name(colour)),
      amount: '',
      dab: colour,
    }));
  const bags = bagsOf(plan);
  const tips = new Map(
    bags
      .flatMap((b) => b.openings)
      .filter((o) => o.name !== TIPLESS)
      .map((o) => [`${o.name}, ${o.openingMm} mm`, o]),
  );
  const cookies = plan.designs.reduce((n, d) => n + cookiesMade(d), 0);
  const cartons = ask.kitchen?.carton ? plan.designs.map((d) => packing(d.drawing.cookie, d.count, ask.kitchen?.carton as CartonSize)) : [];
  return [
    ...plan.designs.map((d) => ({ what: `baked cookies, ${d.drawing.name}`, amount: String(cookiesMade(d)) })),
    { what: 'powdered sugar', amount: ask.grams(base.sugarG) },
    { what: `${made.recipe.egg} egg white`, amount: ask.grams(base.eggG) },
    ...(base.lemonG > 0 ? [{ what: 'lemon juice', amount: ask.grams(base.lemonG) }] : []),
    ...made.bowls.map((b) => ({ what: `colour for ${name(b.colour)}`, amount: `for ${ask.grams(b.grams)}`, dab: b.colour })),
    { what: 'piping bags and ties', amount: String(bags.length) },
    ...[...tips.keys()].map((what) => ({ what, amount: '' })),
    ...laid(['pen'], (c) => `edible pen, ${c}`),
    ...laid(['dust'], (c) => `dust, ${c}`),
    ...laid(['paint'], (c) => `edible paint, ${c}`),
    ...laid(['airbrush'], (c) => `airbrush colour, ${c}`),
    ...laid(['sprinkle', 'dipped-bead'], (c) => `sanding sugar or sprinkles, ${c}`),
    ...laid(['wafer'], (c) => `wafer paper, ${c}`),
    ...(all.some(({ p }) => p.technique === 'stencil') ? [{ what: 'stencils', amount: '' }] : []),
    ...(plan.designs.some((d) => d.drawing.transfer) ? [{ what: 'parchment for transfers', amount: '' }] : []),
    ...(cartons.every((c) => c.cartons !== null) && cartons.length > 0
      ? [{ what: `cartons, ${ask.kitchen?.carton?.name}`, amount: String(cartons.reduce((n, c) => n + (c.cartons ?? 0), 0)) }]
      : []),
    { what: 'bags or wraps for single cookies, where they are sold so', amount: String(cookies) },
  ];
}

function shoppingList(plan: Plan, ask: WorkAsk): PrintedSheet {
  return flowing(ask, 'shopping list', [
    {
      kind: 'table',
      columns: [{ title: '', widthMm: 6 }, { title: '', widthMm: 6 }, { title: 'what' }, { title: 'how much', widthMm: 34, align: 'end' }],
      rows: supplies(plan, ask).map((s): Cell[] => [{ tick: true }, s.dab ? { dab: s.dab } : '', s.what, s.amount]),
    },
  ]);
}

/** The cartons of each design. Throws {@link BadInput} where one does not fit. */
const cartonsOf = (plan: Plan, carton: CartonSize) =>
  plan.designs.map((design) => {
    const { perCarton, cartons } = packing(design.drawing.cookie, design.count, carton);
    if (cartons === null)
      throw new BadInput(
        'carton',
        `${design.drawing.name} does not fit the carton ${carton.name} (${carton.widthMm} × ${carton.depthMm} mm): choose a larger one in Kitchen.`,
      );
    return { design, perCarton, cartons };
  });

/** A label for every carton: what is in it, how many, which of how many. */
function boxLabels(plan: Plan, ask: WorkAsk): PrintedSheet {
  const { carton } = ask.kitchen ?? {};
  if (!carton) throw new BadInput('no-carton', 'Labels for boxes need your carton: say its size in Kitchen first.');
  const rows = cartonsOf(plan, carton).flatMap(({ design: d, perCarton, cartons }): Cell[][] => {
    return [...Array(cartons).keys()].map((i) => [
      { text: d.drawing.name, bold: true },
      String(Math.min(perCarton, d.count - i * perCarton)),
      `box ${i + 1} of ${cartons}`,
      d.for ?? '',
      `Contains EGG. Decorated ${ask.date}. Keep dry, lay flat.`,
    ]);
  });
  return flowing(ask, 'box labels, to cut apart', [
    {
      kind: 'table',
      columns: [
        { title: 'what', widthMm: 50 },
        { title: 'cookies', widthMm: 16, align: 'end' },
        { title: 'box', widthMm: 26 },
        { title: 'for', widthMm: 30 },
        { title: '' },
      ],
      rows,
    },
  ]);
}

/** Regulation (EU) 1169/2011, annex II, and the US FALCPA both list eggs. */
function careLabels(plan: Plan, ask: WorkAsk): PrintedSheet {
  const recipe = ask.kitchen?.mix ?? USUAL_RECIPES.dried;
  const name = nameIn(ask);
  const { bakedOf } = ask.kitchen ?? {};
  return flowing(ask, 'ingredients and care', [
    ...plan.designs.flatMap((d): Block[] => [
      { kind: 'heading', text: d.drawing.name },
      {
        kind: 'text',
        text: `Icing: powdered sugar, ${recipe.egg} egg white, water${recipe.lemonG > 0 ? ', lemon juice' : ''}, food colours (${[...new Set(d.drawing.parts.filter((p) => p.role === 'section').map((p) => name(p.colour)))].join(', ')}).`,
      },
      { kind: 'text', text: bakedOf ? `Cookie: ${bakedOf}.` : 'Cookie: ____________________________________________ (write in what it was baked of)' },
      { kind: 'text', text: 'Contains EGG (icing). Add what the cookie brings: wheat, milk, soya, nuts.', bold: true },
      { kind: 'text', text: `Keep dry, in the dark, at room temperature; not in a refrigerator. Decorated ${ask.date}.` },
      ...([...linesOf(d.drawing), ...marksOf(d.drawing)].some((p) => p.technique === 'dust')
        ? [{ kind: 'text' as const, text: 'Dust must be sold as edible; “non-toxic” is not enough.', bold: true }]
        : []),
    ]),
    { kind: 'text', text: 'What must stand on a label, and who may sell, is decided by local food law: ask before you sell.' },
  ]);
}

function offer(plan: Plan, ask: WorkAsk): PrintedSheet {
  const { prices, carton } = ask.kitchen ?? {};
  if (!prices) throw new BadInput('no-prices', 'An offer needs your prices: say them in Kitchen first.');
  const sold = plan.designs.reduce((n, d) => n + d.count, 0);
  const made = plan.designs.reduce((n, d) => n + cookiesMade(d), 0);
  const icingG = bagsOf(plan).reduce((g, b) => g + b.mixG, 0);
  const cartons = carton ? cartonsOf(plan, carton).reduce((n, c) => n + c.cartons, 0) : 0;
  const cost = orderCost({ handsOnS: plan.handsOnS, icingG, made, sold, cartons }, prices);
  const money = (x: number) => `${x.toFixed(2)} ${prices.currency}`;
  return flowing(ask, 'offer', [
    { kind: 'text', text: plan.designs.map((d) => `${d.count} ${d.drawing.name}`).join(', ') },
    {
      kind: 'table',
      columns: [{ title: 'for' }, { title: 'how much', widthMm: 40, align: 'end' }, { title: 'price', widthMm: 36, align: 'end' }],
      rows: [
        ['decorating by hand', span(plan.handsOnS), money(cost.hands)],
        ['icing', ask.grams(icingG), money(cost.icing)],
        ['baked cookies', String(made), money(cost.cookies)],
        ['cartons', String(cartons), money(cost.cartons)],
        [{ text: 'together', bold: true }, `${money(cost.each)} each`, { text: money(cost.total), bold: true }],
      ],
    },
    { kind: 'text', text: 'Taxes are added as the law asks for.' },
  ]);
}

/** Parts of a drawing by the numbers of the order they are piped in. */
export const numbersOf = (steps: readonly { readonly kind: string; readonly parts: readonly string[] }[]): Map<string, number> => {
  const out = new Map<string, number>();
  for (const s of steps) if (s.kind === 'flood' || s.kind === 'detail') for (const id of s.parts) if (!out.has(id)) out.set(id, out.size + 1);
  return out;
};
