import type { Plan, PlanTask } from '../formats/plan.js';
import { planIndex } from '../formats/plan-index.js';
import type { StepId } from '../units/id.js';
import { msg } from '../words/index.js';
import type { PrintedSheet } from './page.js';
import { type Block, type Cell, CLOSE, flowing } from './table.js';
import { capital, nameIn, type WorkAsk } from './work-ask.js';

/** When what a task does must have been done: so long after each cookie's own flood, and by a moment; null where neither shuts. */
export interface Closes {
  readonly withinS: number | null;
  readonly byS: number | null;
}
export function closesOf(plan: Plan, task: PlanTask): Closes {
  const own = new Set(task.motions.map((m) => m.stepId));
  const windows = task.motions.flatMap(({ windowS, windowFrom }) =>
    windowS === null || windowFrom === null ? [] : [{ windowS, windowFrom }],
  );
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
    if (motion && t.cookies[0] <= task.cookies[0] && task.cookies[0] < t.cookies[1])
      return t.startS + (motion.endS[task.cookies[0] - t.cookies[0]] as number);
  }
  return null;
}

function cookiesWords(plan: Plan, task: PlanTask): string {
  const lot = planIndex(plan).lot(task.lotId);
  if (!lot) return '';
  const [from, to] = task.cookies;
  if (to - from === lot.cookies) return lot.cookies === 1 ? msg`one` : msg`all ${lot.cookies}`;
  return to - from === 1 ? msg`cookie ${from + 1} of ${lot.cookies}` : msg`${from + 1}–${to} of ${lot.cookies}`;
}

function icingWords(task: PlanTask, ask: WorkAsk): string {
  const byColour = new Map<string, number[]>();
  for (const b of task.bags) byColour.set(b.colour, [...(byColour.get(b.colour) ?? []), b.seconds]);
  return [...byColour].map(([colour, seconds]) => msg`${nameIn(ask)(colour)} ${seconds.join(', ')} s`).join('; ');
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
  const what = { title: msg`what` };
  const columns = [
    { title: msg`from – to`, widthMm: 22 },
    ...(inColumns
      ? trays.map((id) => ({ title: id, widthMm: 5, align: 'middle' as const }))
      : [
          { title: '', widthMm: 5 },
          { title: msg`tray`, widthMm: 12 },
        ]),
    ...(many ? [{ title: msg`who`, widthMm: 14 }] : []),
    what,
    { title: msg`icing`, widthMm: 40 },
    { title: msg`done by`, widthMm: 18 },
  ];
  const done = (task: PlanTask): string => {
    const { byS, withinS } = closesOf(plan, task);
    const each =
      withinS === null ? '' : msg`each in ${withinS < 180 ? msg`${Math.floor(withinS)} s` : msg`${Math.floor(withinS / 60)} min`}`;
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
    ...(inColumns
      ? trays.map((id): Cell => (id === t.trayId ? { tick: true } : ''))
      : [{ tick: true } as const, { text: t.trayId, bold: true }]),
    ...(many ? [t.by] : []),
    // Said in full on the tray cards: here every line counts.
    t.kind === 'prepare' ? whatWords(plan, { ...t, title: msg`cool? bags open` }) : whatWords(plan, t),
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
          ...columns.slice(1).map((c): Cell => (c === what ? { text: msg`nobody at the bench`, tone: 'grey' } : '')),
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
        text: msg`Then nobody is at the bench until ${ask.day(msOf(night[1]))}, ${ask.clock(msOf(night[1]))}: trays dry on their shelves.`,
      });
  }
  blocks.push(
    {
      kind: 'text',
      text: msg`Packed ${ask.day(msOf(plan.endS))}, ${ask.clock(msOf(plan.endS))}. “Each in” counts from that cookie’s own flood; a time
        is the latest for the first cookie of the tray.`,
    },
    {
      kind: 'text',
      text: msg`Waits are planned for the air that was said. A finger decides: where icing is not yet as it should be, wait, whatever
        stands here.`,
    },
  );
  return flowing(ask, msg`run sheet`, blocks, CLOSE);
}

/** The closed hours that lie between two moments; null where the bench is open all the while. */
function nightBetween(plan: Plan, fromS: number, toS: number): readonly [number, number] | null {
  for (const [i, [, shutS]] of plan.openingHours.entries()) {
    const next = plan.openingHours[i + 1];
    if (next && next[0] > shutS && shutS >= fromS - 1 && next[0] <= toS + 1) return [shutS, next[0]];
  }
  return null;
}

/** What each tray gets, one after the other. */
export function trayCards(plan: Plan, ask: WorkAsk): PrintedSheet {
  const index = planIndex(plan);
  const blocks = plan.trays
    .filter((t) => t.lots.length > 0)
    .flatMap((tray): Block[] => [
      {
        kind: 'heading',
        text: msg`Tray ${tray.id}: ${tray.lots.map((l) => `${l.cookies} ${index.design(l.designId)?.drawing.name}`).join(', ')}`,
      },
      {
        kind: 'table',
        columns: [{ title: '', widthMm: 6 }, { title: msg`from`, widthMm: 34 }, { title: msg`what` }, { title: msg`icing`, widthMm: 52 }],
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
  return flowing(ask, msg`tray cards`, blocks);
}
