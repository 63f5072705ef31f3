import { execFile } from 'node:child_process';
import { mkdtemp, readFile, rm, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { brokenConstraints } from '../../test/check-solution.js';
import { epochOf, made } from '../../test/play.js';
import { brokenRules } from './check-plan.js';

// The real launcher, as npm links it.
const BIN = fileURLToPath(new URL('../../../node_modules/.bin/kestfog', import.meta.url));
const demo = (file: string) => fileURLToPath(new URL(`../../../server/demo/${file}`, import.meta.url));
const fixture = (file: string) => fileURLToPath(new URL(`../../test/fixtures/problems/${file}`, import.meta.url));
const run = (...args: string[]) =>
  new Promise<{ code: number; out: string; err: string }>((resolve) => {
    execFile(BIN, args, { maxBuffer: 1e8 }, (error, out, err) => resolve({ code: error ? Number(error.code) : 0, out, err }));
  });
let dir = '';
beforeAll(async () => {
  dir = await mkdtemp(join(tmpdir(), 'kestfog-cli-'));
});
afterAll(() => rm(dir, { recursive: true }));
const file = async (name: string, body: unknown) => {
  await writeFile(join(dir, name), typeof body === 'string' ? body : JSON.stringify(body));
  return join(dir, name);
};

describe('kestfog', () => {
  it('rehearse works a plan on many evenings, the same ones for the same seed, beside the chance the plan gives', async () => {
    const planned = await file('rehearsed.json', made(['mackerel', 'sea-glass']));
    const ask = ['rehearse', planned, '--evenings', '20', '--seed', '5'];
    const [one, again, damp] = [await run(...ask), await run(...ask), await run(...ask, '--kitchen', 'damp')];
    expect([one.code, again.out === one.out]).toEqual([0, true]);
    const [usual, slow] = [JSON.parse(one.out), JSON.parse(damp.out)];
    expect(usual).toMatchObject({ evenings: 20, seed: 5, kitchen: 'believed', works: 'sees' });
    expect(usual.windows.length).toBeGreaterThan(0);
    for (const w of usual.windows) expect([w.held >= 0 && w.held <= 1, typeof w.chance]).toEqual([true, 'number']);
    expect(usual.chance.onTime).toBeGreaterThan(0.5);
    expect(slow.endS.median).toBeGreaterThanOrEqual(usual.endS.median);
    expect((await run('rehearse', planned, '--kitchen', 'hot')).code).toBe(3);
  });
  it('dry prints the reference', async () => {
    const { code, out } = await run('dry', '--seconds', '15', '--depth-mm', '2.5', '--temp-c', '22', '--humidity', '50', '--air', '0.1');
    const j = JSON.parse(out);
    expect(code).toBe(0);
    expect(Object.keys(j.statesMin)).toEqual(['thickening', 'skinned', 'crusted', 'set', 'firm', 'dry']);
    expect(j.fluxGPerM2H).toBeCloseTo(54, -0.5);
    expect(j.statesMin.dry).toBeCloseTo(480, 0);
    expect(j.why).toBeUndefined();
  });
  it('dry says why it never dries', async () => {
    const j = JSON.parse((await run('dry', '--humidity', '87')).out);
    expect(j.statesMin.crusted).toBeNull();
    expect(j.why.crusted).toMatchObject({ code: 'humid' });
  });
  it('dry takes the fan, the dehydrator, the margin and parchment', async () => {
    const dryWith = async (...args: string[]) => JSON.parse((await run('dry', ...args)).out);
    const [plain, fan, dehydrator, paper, careful] = [
      await dryWith(),
      await dryWith('--help-by', 'fan', '--fan-m', '0.5'),
      await dryWith('--help-by', 'dehydrator', '--dehydrator-c', '35'),
      await dryWith('--on', 'parchment'),
      await dryWith('--margin', 'careful'),
    ];
    expect(fan.statesMin.crusted).toBeLessThanOrEqual(12);
    expect(dehydrator.statesMin.crusted).toBeLessThan(fan.statesMin.crusted);
    expect(paper.statesMin.dry).toBeGreaterThan(plain.statesMin.dry);
    expect(plain.p50).toEqual(plain.statesMin);
    expect(careful.plannedMin.set).toBeGreaterThan(plain.plannedMin.set);
    expect(careful.statesMin).toEqual(plain.statesMin);
  });
  it('wet tells where marks lie, after all motions and after some, and refuses what it cannot use', async () => {
    const wet = async (...args: string[]) => JSON.parse((await run('wet', demo('mackerel.svg'), ...args)).out);
    const [all, none, thick] = [await wet(), await wet('--after', '0'), await wet('--scribe-mm', '2')];
    expect(all).toMatchObject({ format: 'kestfog-wet/1', motions: 10, troubles: [] });
    for (const m of all.marks) expect(Math.abs(m.areaMm2 / m.laidAreaMm2 - 1), m.id).toBeLessThan(0.01);
    expect(none.marks).toEqual([]);
    expect(none.addedMl).toBe(0);
    expect(all.raisedMm).toBeGreaterThan(0.02);
    expect(thick.marks).not.toEqual(all.marks);
    expect(await run('wet', demo('mackerel.svg'), '--scribe-mm', '9')).toMatchObject({
      code: 3,
      err: expect.stringContaining('--scribe-mm must be a number from 0.3 to 4'),
    });
    expect(JSON.parse((await run('wet', demo('signal-flag.svg'))).out).marks).toEqual([]);
  });
  it('picture writes a PNG of the width asked for, the same every time', async () => {
    const picture = (...args: string[]) =>
      new Promise<Buffer>((done, fail) =>
        execFile(BIN, ['picture', ...args], { encoding: 'buffer' }, (error, out) => (error ? fail(error) : done(out))),
      );
    const [wet, dry] = [
      await picture(demo('mackerel.svg'), '--state', 'wet', '--px', '120'),
      await picture(demo('mackerel.svg'), '--px', '120'),
    ];
    // The PNG signature and the width in its header (PNG, third edition, 5.2 and 11.2.1).
    expect([...wet.subarray(0, 8)]).toEqual([137, 80, 78, 71, 13, 10, 26, 10]);
    expect(wet.readUInt32BE(16)).toBe(120);
    expect(wet.equals(dry)).toBe(false);
    expect((await picture(demo('mackerel.svg'), '--state', 'wet', '--px', '120')).equals(wet)).toBe(true);
    expect(await run('picture', demo('mackerel.svg'), '--state', 'damp')).toMatchObject({
      code: 3,
      err: expect.stringContaining('--state must be one of wet'),
    });
  });
  it('thin and amounts print their worked examples', async () => {
    expect(JSON.parse((await run('thin', '--grams', '200', '--from-s', '40', '--to-s', '15')).out)).toEqual({
      waterG: 4.6,
      firstG: 3.2,
      ml: 4.6,
      tsp: 0.93,
      drops: 92,
    });
    const j = JSON.parse((await run('amounts', demo('lighthouse.svg'), '--count', '24')).out);
    expect(j.bags[0]).toMatchObject({ colour: '#6f7c85', grade: 'flood', seconds: 15 });
    expect(j.bags[0].g).toBeCloseTo(j.bags[0].ml * 1.4, 1);
    expect(j.mixing[0].colour).toBe('#f6f3ea');
  });
  it('steps prints sections, rounds, steps and gaps', async () => {
    const j = JSON.parse((await run('steps', demo('mackerel.svg'), '--school', 'patient')).out);
    expect(j).toMatchObject({ format: 'kestfog-steps/1', rounds: 3, school: 'patient' });
    expect(j.sections[0]).toMatchObject({ id: 'back', touches: expect.arrayContaining(['belly', 'head', 'tail']) });
    expect(j.gaps.every((g: { reason: string }) => g.reason.length > 0)).toBe(true);
  });
  it('plan reads files beside the order and keeps the rules', async () => {
    const order = await file('order.json', {
      format: 'kestfog-order/3',
      designs: [{ file: demo('lighthouse.svg'), count: 5 }],
      trays: [{ id: 'A', places: 6 }],
      openingHours: [
        [0, 28_800],
        [61_200, 90_000],
      ],
      fan: { places: 1 },
    });
    const { code, out } = await run('plan', order, '--seconds', '4');
    expect(code).toBe(0);
    expect(brokenRules(JSON.parse(out))).toEqual([]);
    const checked = await run('plan', order, '--seconds', '1', '--check');
    expect([checked.code, checked.err]).toEqual([0, expect.stringMatching(/^check: every wait, .* is kept on \d+ cookies\.$/m)]);
  });
  it('solve keeps every constraint and explains what is impossible with exit 2', async () => {
    const { code, out } = await run('solve', fixture('ft06.json'), '--seconds', '3');
    expect(code).toBe(0);
    expect(JSON.parse(out)).toMatchObject({ format: 'kestfog-solution/1', makespan: 55 });
    const p = {
      format: 'kestfog-problem/1',
      resources: [{ id: 'hands', capacity: 1 }],
      tasks: [
        { id: 'a', duration: 9, uses: { hands: 1 } },
        { id: 'b', duration: 9, uses: { hands: 1 } },
      ],
      links: [{ from: 'a', to: 'b', anchor: 'start', min: 0, max: 3 }],
      objective: 'makespan',
    };
    const bad = await run('solve', await file('p.json', p));
    expect(bad.code).toBe(2);
    expect(JSON.parse(bad.out)).toMatchObject({ infeasible: true, because: { kind: 'resource', tasks: ['a', 'b'] } });
    expect(bad.err.trim().split('\n')).toHaveLength(1);
    const free = await run('solve', await file('q.json', { ...p, links: [] }), '--seed', '3');
    expect(brokenConstraints({ ...p, links: [] }, JSON.parse(free.out).start)).toEqual([]);
  });
  it.each([
    [['dance'], /not a command/],
    [['dry', '--humidity', '140'], /--humidity must be a number from 0 to 100/],
    [['dry', '--temp-c', '-30'], /--temp-c/],
    [['dry', '--seconds', ''], /--seconds/],
    [['dry', '--colour', 'red'], /colour/],
    [['thin', '--grams', '-3', '--from-s', '40', '--to-s', '15'], /--grams must be a number from 1/],
    [['thin', '--grams', '200', '--from-s', '0', '--to-s', '15'], /--from-s/],
    [['amounts', 'PLACEHOLDER', '--count', '2.5'], /whole number/],
    [['steps'], /one file must be named/],
    [['steps', '/nowhere/x.svg'], /cannot be read/],
    [['steps', 'PLACEHOLDER', '--school', 'academy'], /--school must be one of/],
    [['solve', fixture('../../play.ts')], /is not JSON/],
  ])('bad input %# exits 3 with one line', async (args, text) => {
    const { code, out, err } = await run(...args.map((a) => (a === 'PLACEHOLDER' ? demo('mackerel.svg') : a)));
    expect(code).toBe(3);
    expect(out).toBe('');
    expect(err).toMatch(text);
    expect(err.trim().split('\n')).toHaveLength(1);
  });
  it('replay shows a run as it stood, learn what several teach', async () => {
    const plan = made(['mackerel']);
    const epoch = epochOf(plan);
    const events = plan.tasks.map((t, i) => ({
      id: `e${i}`,
      deviceId: 'd',
      deviceSeq: i + 1,
      seq: i + 1,
      atMs: epoch + t.endS * 1000,
      type: 'taskDone',
      data: { taskId: t.id },
    }));
    const whole = await file('run.json', { format: 'kestfog-run/2', plan, events });
    const early = JSON.parse(
      (await run('replay', whole, '--at', new Date(epoch + (plan.tasks[2]?.endS as number) * 1000).toISOString())).out,
    );
    expect(early).toMatchObject({ tasksDone: 3, tasks: plan.tasks.length, otherModel: null });
    expect(early.bodies.every((b: { state: string }) => b.state !== 'dry')).toBe(true);
    const all = JSON.parse((await run('replay', whole)).out);
    expect(all.waits).toEqual([]);
    // What is packed was dry by the plan.
    expect(all.bodies.length).toBeGreaterThan(0);
    expect(all.bodies.every((b: { state: string }) => b.state === 'dry')).toBe(true);
    const both = JSON.parse((await run('learn', whole, whole)).out);
    expect(both).toMatchObject({ runs: 2, touches: 2 * all.touches.length });
    expect(both.learned.factors.crusted.sigma).toBeLessThan(all.learned.factors.crusted.sigma);
    const refused = async (...args: string[]) => {
      const { code, err } = await run(...args);
      expect(code).toBe(3);
      expect(err.trim().split('\n')).toHaveLength(1);
      return err;
    };
    expect(await refused('replay', whole, '--at', '2026-06-05 16:00')).toMatch(/with its offset/);
    expect(await refused('replay', await file('old.json', { format: 'kestfog-run/1', events: [] }))).toMatch(/plan: is missing/);
    expect(await refused('learn')).toMatch(/at least one file/);
  });
  it('every command explains itself', async () => {
    for (const c of ['dry', 'steps', 'plan', 'solve', 'thin', 'amounts'])
      expect((await run(c, '--help')).out).toMatch(new RegExp(`^kestfog ${c} `));
  });
  it('sheet, calendar and table: a PDF, an iCalendar file and rows of an order; what cannot be is said', async () => {
    const paper = fileURLToPath(new URL('../../test/fixtures/paper/order.json', import.meta.url));
    const card = fileURLToPath(new URL('../../test/fixtures/cards/', import.meta.url));
    const order = JSON.parse(await readFile(paper, 'utf8'));
    const asked = await file('paper-order.json', { ...order, designs: [{ file: `${card}hills.svg`, count: 6 }] });
    const planned = await file('paper-plan.json', (await run('plan', asked, '--seconds', '2')).out);
    const sheet = await run('sheet', planned, '--kind', 'run');
    expect([sheet.code, sheet.out.slice(0, 5)]).toEqual([0, '%PDF-']);
    expect((await run('sheet', `${card}hills.svg`, '--kind', 'template', '--paper', 'letter', '--mirrored')).out.slice(0, 5)).toBe('%PDF-');
    const calendar = await run('calendar', planned, '--sequence', '2');
    expect([calendar.code, calendar.out.split('\r\n')[0], /SEQUENCE:2/.test(calendar.out)]).toEqual([0, 'BEGIN:VCALENDAR', true]);
    const rows = (await run('table', planned)).out.split('\r\n');
    expect(rows[0]).toBe('start,end,tray,who,design,cookies,round,kind,what,bags,done by,done within s');
    expect(rows.length).toBeGreaterThan(5);
    for (const [args, sentence] of [
      [['sheet', `${card}hills.svg`, '--kind', 'run'], '--kind run is made of an order or a plan, not of a drawing'],
      [['sheet', planned, '--kind', 'poster'], '--kind must be one of'],
      [['sheet', `${card}hills.svg`, '--kind', 'transfers', '--count', '600'], '600 pieces cannot be put on sheets'],
      [['sheet', `${card}hills.svg`, '--kind', 'template', '--measured-mm', '50'], 'that is another scale'],
      [['sheet', planned, '--kind', 'run', '--mirrored'], '--mirrored says nothing to --kind run: leave it out.'],
      [['table', planned, '--kind', 'stars'], '--kind must be one of'],
    ] as const) {
      const refused = await run(...args);
      expect([refused.code, refused.err.includes(sentence), refused.out]).toEqual([3, true, '']);
    }
  });
});
