import { describe, expect, it } from 'vitest';
import { planOrder } from '../planning/index.js';
import { judge } from './judge.js';
import { LESSONS, type Lesson, orderOfLesson } from './lessons.js';
import { IMPATIENT, PERFECT, type Player, playEvening, TRUSTING } from './play.js';
import { isMistimed } from './spoilt.js';
import { truthOf } from './truth.js';

const planned = new Map(
  LESSONS.map((l) => [l.id, planOrder({ ...orderOfLesson(l, '2026-06-05T14:00:00Z'), passes: 20, timeUsed: () => 0 })]),
);
const played = (l: Lesson, player: Player) => {
  const plan = planned.get(l.id);
  if (!plan) throw new Error(l.id);
  const truth = truthOf(l.kitchen, l.seed);
  return judge(plan, playEvening(plan, truth, player), truth);
};

describe('lessons', () => {
  it('are at least twelve, each with a name of its own and words of its own', () => {
    expect(LESSONS.length).toBeGreaterThanOrEqual(12);
    for (const of of ['id', 'title', 'notice', 'teaches'] as const) expect(new Set(LESSONS.map((l) => l[of])).size).toBe(LESSONS.length);
  });
  it.each(LESSONS)('$id: fits its hours, and is won by who goes by the finger, twice alike', (l) => {
    expect(planned.get(l.id)?.late).toBeNull();
    const [one, other] = [played(l, PERFECT), played(l, PERFECT)];
    expect(one).toEqual(other);
    expect(one.score).toBeGreaterThanOrEqual(90);
  });
  it.each(LESSONS.filter((l) => !['dots', 'call', 'seven-trays', 'cracks'].includes(l.id)))(
    '$id: who waits half as long spoils most of it, and is shown by which rule',
    (l) => {
      const verdict = played(l, IMPATIENT);
      expect(verdict.saved).toBeLessThanOrEqual(verdict.cookies / 2);
      expect(verdict.score).toBeLessThan(played(l, PERFECT).score - 20);
      expect(new Set(verdict.spoilt.filter(isMistimed).map((s) => s.why.rule)).size).toBeGreaterThan(0);
    },
  );
  it('the damp evening spoils who goes by the clock; on the dry one the clock only wastes time', () => {
    const of = (id: string) => LESSONS.find((l) => l.id === id) as Lesson;
    expect(played(of('damp'), TRUSTING).saved).toBeLessThan(4);
    const [clock, finger] = [played(of('dry'), TRUSTING), played(of('dry'), PERFECT)];
    expect([clock.saved, clock.needlessS > 300, finger.needlessS < 60]).toEqual([8, true, true]);
  });
});
