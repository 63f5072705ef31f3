import type { RunTask } from '@kestfog/core/bench';
import { type Because, type Plan, type PlanTask, planIndex } from '@kestfog/core/formats';
import { gradeOfSeconds } from '@kestfog/core/icing';
import type { Bag } from '@kestfog/core/steps';
import { reasonOf } from '@kestfog/core/wording';
import { msg } from '@kestfog/core/words';
import type { NameOf } from '../app/colour-names.js';
import { span } from './time.js';

/** "cookies 1–4", "all 8 cookies", for a task */
export function cookiesText(plan: Plan, task: RunTask): string {
  const lot = planIndex(plan).lot(task.lotId);
  if (!lot) return msg`the whole tray`;
  const [from, to] = task.cookies;
  const n = to - from;
  const without = task.without?.length ? msg` without ${task.without.map((c) => c + 1).join(', ')}` : '';
  if (n === lot.cookies) return n === 1 ? msg`one cookie` : msg`all ${n}${without}`;
  return n === 1 ? msg`cookie ${from + 1} of ${lot.cookies}` : msg`cookies ${from + 1}–${to} of ${lot.cookies}${without}`;
}

export const designName = (plan: Plan, task: PlanTask): string => planIndex(plan).designOf(task)?.drawing.name ?? '';

export function becauseText(plan: Plan, because: Because): string {
  const from = 'fromTask' in because ? planIndex(plan).task(because.fromTask) : undefined;
  switch (because.kind) {
    case 'first':
      return msg`the first thing to do`;
    case 'drying':
      return msg`waits ${span(because.waitS)}: ${reasonOf(because)}`;
    case 'pieces':
      return msg`its pieces cannot be lifted from their parchment sooner`;
    case 'hands':
      return from ? msg`the hands are at tray ${from.trayId} before (${from.title})` : msg`the hands are elsewhere before`;
    case 'tray':
      return from ? msg`the tray is worked on before (${from.title})` : msg`the tray is worked on before`;
    case 'place':
      return because.where === 'fan'
        ? msg`the place before the fan is taken until then`
        : msg`the place in the dehydrator is taken until then`;
    case 'bags':
      return msg`no more bags may be open before`;
    case 'round':
      return msg`the other trays have this round first`;
    case 'pin':
      return because.label === null ? msg`not before then, as you asked` : msg`nobody is at the bench before (${because.label})`;
    case 'opening-hours':
      return msg`the bench does not open sooner`;
    case 'unhurried':
      return msg`nothing would be won by doing it sooner`;
  }
}

export const capital = (s: string): string => s.charAt(0).toUpperCase() + s.slice(1);

/** The motions of a visit in the order they are made; `intro` says how the cookies take turns. */
export function motionLines(task: PlanTask): { intro: string; lines: string[] } {
  if (task.kind !== 'wet') return { intro: '', lines: [] };
  const floods = task.motions.filter((m) => m.kind === 'flood').map((m) => m.label);
  const inParts = task.parts ? msg`, in ${task.parts} parts one into the other, ` : ' ';
  const dam = task.motions.some((m) => m.kind === 'dam') ? msg`outline and flood${inParts}` : msg`flood `;
  const marks = [...new Set(task.motions.filter((m) => m.kind === 'mark').map((m) => m.label))];
  const cookies = task.cookies[1] - task.cookies[0];
  const lines = [dam + floods.join(', '), ...marks];
  if (marks.length === 0) return { intro: '', lines: [] };
  if (cookies === 1) return { intro: '', lines };
  return task.way === 'cookie-by-cookie'
    ? { intro: msg`One cookie after the other:`, lines }
    : { intro: '', lines: [msg`${lines[0]} on all ${cookies}`, ...marks.map((m) => msg`${m} on those ${cookies}`)] };
}

/** "flood 15 s" */
export const consistencyText = (bag: Bag): string => msg`${gradeOfSeconds(bag.seconds).label} ${bag.seconds} s`;
/** "teal flood 15 s" */
export const bagText = (bag: Bag, nameOf: NameOf): string => `${nameOf(bag.colour)} ${consistencyText(bag)}`;

/** Bags by colour: one dab, its name and the consistencies beside it. */
export function bagsByColour(bags: readonly Bag[], nameOf: NameOf): { colour: string; text: string }[] {
  const out = new Map<string, string[]>();
  for (const b of bags) out.set(b.colour, [...(out.get(b.colour) ?? []), consistencyText(b)]);
  return [...out].map(([colour, list]) => ({ colour, text: `${nameOf(colour)}: ${list.join(', ')}` }));
}

const SMALL = [
  msg`none`,
  msg`one`,
  msg`two`,
  msg`three`,
  msg`four`,
  msg`five`,
  msg`six`,
  msg`seven`,
  msg`eight`,
  msg`nine`,
  msg`ten`,
  msg`eleven`,
  msg`twelve`,
];
/** "three", "14" */
export const countWord = (n: number): string => SMALL[n] ?? String(n);
