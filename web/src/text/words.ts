import { type Bag, type Because, gradeOfSeconds, lightnessAndChroma, type Plan, type PlanTask } from '@kestfog/core';
import { span } from './time.js';

/** "cookies 1–4", "all 8 cookies", for a task */
export function cookiesText(plan: Plan, task: PlanTask): string {
  const lot = plan.trays.flatMap((t) => t.lots).find((l) => l.id === task.lotId);
  if (!lot) return 'the whole tray';
  const [from, to] = task.cookies;
  const n = to - from;
  if (n === lot.cookies) return n === 1 ? 'one cookie' : `all ${n}`;
  return n === 1 ? `cookie ${from + 1} of ${lot.cookies}` : `cookies ${from + 1}–${to} of ${lot.cookies}`;
}

export function designName(plan: Plan, task: PlanTask): string {
  const lot = plan.trays.flatMap((t) => t.lots).find((l) => l.id === task.lotId);
  return plan.designs.find((d) => d.id === lot?.designId)?.drawing.name ?? '';
}

/** "flood, 15 s" */
export const bagText = (bag: Bag): string => `${gradeOfSeconds(bag.seconds).label}, ${bag.seconds} s`;

export function becauseText(plan: Plan, because: Because): string {
  const from = 'fromTask' in because ? plan.tasks.find((t) => t.id === because.fromTask) : undefined;
  switch (because.kind) {
    case 'first':
      return 'the first thing to do';
    case 'drying':
      return `waits ${span(because.waitS)}: ${because.reason}`;
    case 'hands':
      return from ? `the hands are at tray ${from.trayId} before (${from.title})` : 'the hands are elsewhere before';
    case 'bench':
      return 'nothing can be done sooner within the bench’s hours';
  }
}

/** Ink that reads on a colour. */
export const inkOn = (colour: string): string => (lightnessAndChroma(colour).lightness > 58 ? '#1d252c' : '#ffffff');

export const capital = (s: string): string => s.charAt(0).toUpperCase() + s.slice(1);

/** The motions of a visit in the order they are made, one line each. */
export function motionLines(task: PlanTask): string[] {
  if (task.kind !== 'wet') return [];
  const floods = task.motions.filter((m) => m.technique === 'flood').map((m) => m.label);
  const dam = task.motions.some((m) => m.technique === 'outline') ? 'outline and flood ' : 'flood ';
  const marks = [
    ...new Set(task.motions.filter((m) => m.technique === 'wet-drop' || m.technique === 'wet-line' || m.technique === 'drag').map((m) => m.label)),
  ];
  const cookies = task.cookies[1] - task.cookies[0];
  const lines = [dam + floods.join(', '), ...marks];
  if (marks.length === 0 || cookies === 1) return lines;
  return task.way === 'cookie-by-cookie'
    ? [...lines, 'all of it on one cookie, then the next']
    : [`${lines[0]} on all ${cookies}`, ...marks.map((m) => `${m} on those ${cookies}`)];
}
