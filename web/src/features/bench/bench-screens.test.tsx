import { bagChangeAt, benchView, foldRun, mayTouch, type RunEvent, runIndex, type StoredEvent } from '@kestfog/core/bench';
import { readDesign } from '@kestfog/core/design';
import { type Plan, parseOrder } from '@kestfog/core/formats';
import { planOrder } from '@kestfog/core/planning';
import { QueryClient, QueryClientProvider } from '@tanstack/react-query';
import { cleanup, fireEvent, render, screen, within } from '@testing-library/react';
import type { ReactElement } from 'react';
import { MemoryRouter } from 'react-router';
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { outbox } from '../../outbox/index.js';
import { BagChanges } from '../../ui/BagChanges.js';
import { NO_MICROPHONE } from '../notebook/use-speech.js';
import { TaskDetail } from '../rack/TaskDetail.js';
import { REHEARSAL } from '../rehearsal/rehearsal-id.js';
import { ClosingList, Lost, NextList } from './Aside.js';
import { Bench } from './Bench.js';
import { DefectSheet } from './DefectSheet.js';
import { AllDone, BeforeStart, Morning } from './Ends.js';
import { InsecureNotice } from './InsecureNotice.js';
import { KeepSheet } from './KeepSheet.js';
import { RackStrip } from './RackStrip.js';
import { type Asking, Reports, WhichBag } from './Reports.js';
import { ShutSheet } from './ShutSheet.js';
import { TraySheet } from './TraySheet.js';
import { DEAD_MS } from './use-one-action.js';
import type { Run } from './use-run.js';

const svg = `<svg xmlns="http://www.w3.org/2000/svg" width="60mm" height="60mm" viewBox="0 0 60 60">
    <path id="left" data-name="left half" d="M4 4H30V56H4Z" fill="#ffffff"/><path id="right" data-name="right half" d="M30 4H56V56H30Z" fill="#f4f0e0"/>
    <circle id="dot" data-part="mark" data-technique="wet-drop" data-name="dots" cx="17" cy="30" r="3" fill="#22343c"/>
  </svg>`;
const buoy = readDesign(svg, 'Buoy');
const redBuoy = readDesign(svg.replace('#ffffff', '#cc3322').replace('#22343c', '#ffdd66'), 'Red buoy');
const plan: Plan = planOrder({
  order: parseOrder({
    format: 'kestfog-order/3',
    designs: [{ file: 'buoy.svg', count: 3, spares: 1 }],
    trays: [{ id: 'A', places: 4 }],
    openingHours: [
      ['2026-06-05T14:00:00Z', '2026-06-05T22:00:00Z'],
      ['2026-06-06T07:00:00Z', '2026-06-06T19:00:00Z'],
    ],
  }),
  designs: [buoy],
  passes: 20,
});
const EPOCH = Date.parse(plan.epoch as string);
const lotId = plan.trays[0]?.lots[0]?.id as string;
const wetIndex = plan.tasks.findIndex((t) => t.motions.some((m) => m.kind === 'mark'));
const wet = plan.tasks[wetIndex] as Plan['tasks'][number];

/** A run in which the first `done` steps were done when they were planned, seen some seconds later. */
function runAt(done: number, afterS: number, more: readonly Pick<RunEvent, 'type' | 'data'>[] = [], saidAfterS = afterS) {
  const events: StoredEvent[] = [];
  const add = (atMs: number, body: Pick<RunEvent, 'type' | 'data'>) =>
    events.push({
      id: `e${events.length}`,
      deviceId: 'd',
      deviceSeq: events.length + 1,
      seq: events.length + 1,
      atMs,
      ...body,
    } as StoredEvent);
  add(EPOCH, { type: 'runStarted', data: {} });
  for (const t of plan.tasks.slice(0, done)) {
    add(EPOCH + t.startS * 1000, { type: 'taskBegun', data: { taskId: t.id } });
    add(EPOCH + t.endS * 1000, { type: 'taskDone', data: { taskId: t.id } });
  }
  const nowMs = EPOCH + (done > 0 ? (plan.tasks[done - 1] as Plan['tasks'][number]).endS : 0) * 1000 + afterS * 1000;
  for (const m of more) add(nowMs - (afterS - saidAfterS) * 1000, m);
  const sent: Pick<RunEvent, 'type' | 'data'>[] = [];
  const state = foldRun(plan, events);
  const bench: Run = {
    run: { id: 'r', orderId: 'o', orderName: 'Buoys', plan, events, serverNowMs: nowMs },
    state,
    nowMs,
    waiting: 0,
    online: true,
    failure: null,
    refusal: null,
    send: (body) => void sent.push(body),
    undo: vi.fn(),
    canUndo: true,
    log: events,
    lastSeq: events.length,
    retry: vi.fn(),
  };
  return { bench, state, sent, nowMs, view: benchView(runIndex(state), nowMs) };
}
/** The wet visit in hand, so many seconds into it. */
const inWet = (afterS: number) =>
  runAt(wetIndex, wet.startS - (plan.tasks[wetIndex - 1]?.endS ?? 0) + afterS, [{ type: 'taskBegun', data: { taskId: wet.id } }]);

/** What comes after it in hand, once its flood has dried for an hour, so many seconds into it. */
const onCrust = (afterS: number) =>
  runAt(wetIndex + 1, 3600 + afterS, [{ type: 'taskBegun', data: { taskId: plan.tasks[wetIndex + 1]?.id as string } }], 3600);

const show = (ui: ReactElement) =>
  render(
    <QueryClientProvider client={new QueryClient({ defaultOptions: { queries: { retry: false } } })}>
      <MemoryRouter>{ui}</MemoryRouter>
    </QueryClientProvider>,
  );
const press = (name: string | RegExp) => fireEvent.click(screen.getByRole('button', { name, hidden: true }));
const choose = (name: string | RegExp) => fireEvent.click(screen.getByRole('radio', { name, hidden: true }));

beforeEach(() => {
  localStorage.clear();
  vi.stubGlobal('fetch', async () => new Response(JSON.stringify({ code: 'offline', message: 'no server' }), { status: 503 }));
});
afterEach(() => {
  cleanup();
  vi.unstubAllGlobals();
});

describe('reports', () => {
  const reports = (r: ReturnType<typeof runAt>, touch = mayTouch(runIndex(r.state), r.view, r.nowMs)) => {
    const asked: Asking[] = [];
    show(<Reports bench={r.bench} state={r.state} view={r.view} touch={touch} onAsk={(a) => asked.push(a)} />);
    const names = within(screen.getByLabelText('Reports'))
      .getAllByRole('button', { hidden: true })
      .map((b) => b.textContent);
    return { asked, names };
  };
  it('are those that make sense now: dry already while it waits, skinning while wet work is in hand, still wet just after', () => {
    const waiting = runAt(wetIndex + 1, 5);
    expect(waiting.view.waiting).toBe(true);
    const { names } = reports(waiting);
    expect(names).toContain('cookie 4 crusted already');
    expect(names).not.toContain('skinning');
    cleanup();
    expect(reports(inWet(5)).names).toEqual(
      expect.arrayContaining(['skinning', 'trouble with a bag', 'a defect', 'cookie broken', 'phone call']),
    );
    cleanup();
    expect(reports(onCrust(5)).names).toContain('cookie 4 not crusted yet');
    cleanup();
    expect(reports(onCrust(150)).names.some((name) => name?.includes('not crusted yet'))).toBe(false);
  });
  it('say at once what needs no more asking, and ask for the rest', () => {
    const r = inWet(5);
    const { asked } = reports(r);
    const tap = (name: string) => fireEvent.click(within(screen.getByLabelText('Reports')).getByRole('button', { name, hidden: true }));
    for (const name of ['phone call', 'skinning', 'trouble with a bag', 'cookie broken']) tap(name);
    expect(r.sent).toEqual([{ type: 'paused', data: {} }]);
    expect(asked.map((a) => a.kind)).toEqual(['shut', 'bag', 'defect']);
    cleanup();
    const late = onCrust(5);
    reports(late);
    tap('cookie 4 not crusted yet');
    // The body a finger goes to first: the one furthest from what is asked.
    const data = {
      taskId: plan.tasks[wetIndex + 1]?.id,
      cookie: 3,
      part: expect.stringMatching(/^flood/),
      state: 'crusted',
      found: 'not-yet',
    };
    expect(late.sent).toEqual([{ type: 'touched', data }]);
  });
  it('another step first puts this one down; nothing is offered before the beginning or while paused', () => {
    const r = inWet(5);
    reports(r);
    press(/first$/);
    expect(r.sent[0]).toMatchObject({ type: 'swapped', data: { insteadOf: wet.id } });
    cleanup();
    const paused = runAt(1, 5, [{ type: 'paused', data: {} }]);
    show(<Reports bench={paused.bench} state={paused.state} view={paused.view} touch={null} onAsk={() => {}} />);
    expect(screen.queryByLabelText('Reports')).toBeNull();
  });
  it('which bag it is, is known by its dab and its count', () => {
    const picked: number[] = [];
    show(<WhichBag bags={wet.bags} onBag={(b) => picked.push(b.seconds)} onClose={() => {}} />);
    fireEvent.click(screen.getAllByRole('button', { name: /flood 15 s/, hidden: true })[0] as HTMLElement);
    expect(picked).toEqual([15]);
  });
});

describe('the rescue card', () => {
  it('asks what is seen and what the surface is, and offers what is still open', () => {
    const r = inWet(200);
    const onClose = vi.fn();
    show(<DefectSheet bench={r.bench} lotId={lotId} cookie={1} seen={null} onClose={onClose} />);
    expect(screen.queryByLabelText('Rescue')).toBeNull();
    press('details stand up');
    choose('a skin, it wrinkles');
    expect(screen.getByLabelText('Rescue').textContent).toMatch(/Press them in with the scribe/);
    choose('set, it holds a touch');
    expect(screen.getByLabelText('Rescue').textContent).toMatch(/Nothing cures it/);
    press('something else');
    press('a dent, a poke, a smudge');
    expect(screen.getByLabelText('Rescue').textContent).toMatch(/Cover it with a detail/);
    press('covered');
    expect(r.sent).toEqual([{ type: 'defect', data: { lotId, cookie: 1, part: null, seen: 'dent', surface: 'set', outcome: 'covered' } }]);
    expect(onClose).toHaveBeenCalledOnce();
  });
  it('a broken cookie takes the spare while there is one, and then makes the order short', () => {
    const first = runAt(1, 5);
    show(<DefectSheet bench={first.bench} lotId={lotId} cookie={0} seen="broken" onClose={() => {}} />);
    expect(screen.queryByLabelText('The surface now')).toBeNull();
    choose('3');
    press('it is out: 1 spare');
    expect(first.sent[0]).toMatchObject({ data: { cookie: 2, outcome: 'spare' } });
    cleanup();
    const then = runAt(1, 5, [first.sent[0] as Pick<RunEvent, 'type' | 'data'>]);
    show(<DefectSheet bench={then.bench} lotId={lotId} cookie={0} seen="broken" onClose={() => {}} />);
    press('it is out: the order is one short');
    expect(then.sent[0]).toMatchObject({ data: { cookie: 0, outcome: 'shorter' } });
  });
});

describe('a window that shut', () => {
  it('is asked about the cookies the planned pace has not reached, and decided', () => {
    const r = inWet(1);
    show(<ShutSheet bench={r.bench} taskId={wet.id} found={false} onClose={() => {}} />);
    const chosen = () => screen.getAllByRole('button', { pressed: true, hidden: true }).map((b) => b.textContent);
    expect(chosen()).toEqual(['1', '2', '3', '4']);
    press('1');
    press('4');
    expect(chosen()).toEqual(['2', '3']);
    press(/in relief/);
    expect(r.sent).toEqual([{ type: 'windowShut', data: { taskId: wet.id, cookies: [1, 2], choice: 'relief' } }]);
    cleanup();
    const late = inWet(wet.endS - wet.startS - 1);
    show(<ShutSheet bench={late.bench} taskId={wet.id} found={false} onClose={() => {}} />);
    expect(chosen()).toEqual(['4']);
    press('4');
    expect((screen.getByRole('button', { name: /begin again/, hidden: true }) as HTMLButtonElement).disabled).toBe(true);
  });
});

describe('for the notebook', () => {
  it('says why nothing can be recorded or read here, and keeps nothing', async () => {
    const r = inWet(5);
    show(<KeepSheet bench={r.bench} view={r.view} onClose={() => {}} />);
    expect(screen.getByText(/^About: .*dots/)).toBeTruthy();
    press('say it');
    expect(await screen.findByText(NO_MICROPHONE)).toBeTruthy();
    vi.stubGlobal('createImageBitmap', () => Promise.reject(new Error('no picture')));
    fireEvent.change(screen.getByLabelText('take a photo'), { target: { files: [new File(['words'], 'notes.txt')] } });
    expect(await screen.findByText(/notes.txt is no photo this page can read/)).toBeTruthy();
    expect(screen.queryByText(NO_MICROPHONE)).toBeNull();
    expect(outbox.all()).toEqual([]);
  });
  it('is not offered in a rehearsal, of which nothing stays', () => {
    const r = inWet(5);
    const labels = (id: string) => {
      cleanup();
      const bench = { ...r.bench, run: { ...(r.bench.run as NonNullable<Run['run']>), id } };
      show(<Reports bench={bench} state={r.state} view={r.view} touch={null} onAsk={() => {}} />);
      return screen.queryAllByRole('button', { name: 'a photo or a word', hidden: true }).length;
    };
    expect([labels('r'), labels(REHEARSAL)]).toEqual([1, 0]);
  });
});

describe('a tray', () => {
  it('shows its cookies and its steps; the picture one is at says so, what is done is not asked again', () => {
    const r = runAt(wetIndex + 1, 400, [
      { type: 'defect', data: { lotId, cookie: 2, part: null, seen: 'broken', surface: 'set', outcome: 'spare' } },
    ]);
    const cookies: number[] = [];
    show(<TraySheet bench={r.bench} trayId="A" onCookie={(_, c) => cookies.push(c)} onClose={() => {}} />);
    expect(screen.getByRole('button', { name: /cookie 3, out, a spare instead/, hidden: true })).toHaveProperty('disabled', true);
    press(/cookie 2: report/);
    expect(cookies).toEqual([1]);
    expect(screen.getByRole('button', { name: /open and knead/, hidden: true })).toHaveProperty('disabled', true);
    press(/Pack/);
    const pack = plan.tasks.find((t) => t.kind === 'pack');
    expect(r.sent).toEqual([{ type: 'imHere', data: { taskId: pack?.id } }]);
  });
  it('says what a finger found on it in passing, of the cookie that is furthest behind; not while it is in hand', () => {
    const r = runAt(wetIndex + 1, 400);
    show(<TraySheet bench={r.bench} trayId="A" onCookie={() => {}} onClose={() => {}} />);
    press('not crusted yet');
    press('crusted already');
    const data = { taskId: plan.tasks[wetIndex + 1]?.id, cookie: 3, state: 'crusted' };
    expect(r.sent).toMatchObject([
      { type: 'touched', data: { ...data, found: 'not-yet' } },
      { type: 'touched', data: { ...data, found: 'reached' } },
    ]);
    cleanup();
    show(<TraySheet bench={inWet(5).bench} trayId="A" onCookie={() => {}} onClose={() => {}} />);
    expect(screen.queryByLabelText('Touched in passing')).toBeNull();
  });
  it('on the strip is as it is now, and opens when it is touched', () => {
    const r = runAt(wetIndex + 1, 3600);
    const opened: string[] = [];
    show(<RackStrip plan={plan} index={runIndex(r.state)} nowMs={r.nowMs} onTray={(id) => opened.push(id)} />);
    const tray = screen.getByRole('button', { name: /A/ });
    expect(tray.textContent).toMatch(/crusted|set/);
    fireEvent.click(tray);
    expect(opened).toEqual(['A']);
  });
});

describe('beside the step', () => {
  it('windows run out soonest first; one that is over is decided there', () => {
    const r = inWet(wet.endS - wet.startS);
    const over = { ...r.view, closing: r.view.closing.map((c) => ({ ...c, closesAtMs: r.nowMs - 1000 })) };
    const decided: string[] = [];
    show(
      <ClosingList
        view={over}
        inDehydrator={[{ trayId: 'A', where: 'dehydrator', stayId: 'A.dehydrator.r1', outAtMs: r.nowMs - 61_000 }]}
        nowMs={r.nowMs}
        onDecide={(id) => decided.push(id)}
      />,
    );
    expect(screen.getByText('take tray A out of the dehydrator')).toBeDefined();
    expect(screen.getByText('1:01 over')).toBeDefined();
    fireEvent.click(screen.getAllByRole('button', { name: 'decide' })[0] as HTMLElement);
    expect(decided).toEqual([wet.id]);
  });
  it('what cannot be held any more says what happens, and is decided', () => {
    const chosen: string[] = [];
    show(
      <Lost
        plan={plan}
        lost={[
          {
            taskId: wet.id,
            bySeconds: 90,
            why: { rule: 'wet-window', facts: { kind: 'wet', work: 'dots', into: 'sail', technique: 'wet-drop' } },
          },
        ]}
        onChoose={(id) => chosen.push(id)}
      />,
    );
    expect(screen.getByText(/stands proud on the skin/)).toBeDefined();
    press('decide');
    expect(chosen).toEqual([wet.id]);
  });
  it('what the others are at leads to their hands', () => {
    const r = inWet(5);
    const hands: string[] = [];
    show(<NextList plan={plan} next={r.view.next} nowMs={r.nowMs} title="The others" onHands={(by) => hands.push(by)} />);
    fireEvent.click(screen.getAllByRole('button', { name: /^hands of/ })[0] as HTMLElement);
    expect(hands).toEqual([r.view.next[0]?.task.by]);
  });
  it('begins, wakes and ends with where it stands', () => {
    show(<BeforeStart plan={plan} epochMs={EPOCH} />);
    expect(screen.getByText(/Only icing, colours and pens sold as edible/)).toBeDefined();
    cleanup();
    show(<Morning stand={{ awayMs: 9 * 3_600_000, left: 1, trays: [{ trayId: 'A', least: 'dry', next: plan.tasks.at(-1) ?? null }] }} />);
    expect(screen.getByText(/After 9 h away, 1 step left/)).toBeDefined();
    expect(screen.getByText(/dry; next: pack/)).toBeDefined();
    cleanup();
    show(<AllDone run={{ id: 'r', orderId: 'o' }} plan={plan} packed={3} nowMs={EPOCH} startedAtMs={EPOCH} />);
    expect(screen.getByText(/1 did not make it/)).toBeDefined();
    expect(screen.getByText('Save the run as a file').getAttribute('href')).toBe('/api/runs/r/export');
  });
  it('an address that is not secure says what is missing, once', () => {
    vi.stubGlobal('isSecureContext', false);
    show(<InsecureNotice />);
    expect(screen.getByRole('status').textContent).toMatch(/screen may go to sleep/);
    press('understood');
    expect(screen.queryByRole('status')).toBeNull();
    cleanup();
    vi.stubGlobal('isSecureContext', true);
    show(<InsecureNotice />);
    expect(screen.queryByRole('status')).toBeNull();
  });
});

describe('the whole bench', () => {
  it('goes forward by one touch, cookie by cookie where that is wanted, and says what is not saved', () => {
    const r = inWet(20);
    show(<Bench bench={{ ...r.bench, waiting: 2 }} />);
    expect(screen.getByRole('heading', { level: 1 }).textContent).toMatch(/^Flood/);
    expect(screen.getByText('2 taps not saved yet, trying again')).toBeDefined();
    expect(screen.getByText(/3 of|1 of|2 of/)).toBeDefined();
    press('Done');
    expect(r.sent).toEqual([{ type: 'taskDone', data: { taskId: wet.id } }]);
    cleanup();
    localStorage.setItem('kestfog.bench', JSON.stringify({ byCookie: true }));
    const each = inWet(20);
    show(<Bench bench={each.bench} />);
    press('Done: cookie 1');
    expect(each.sent).toEqual([{ type: 'cookieDone', data: { taskId: wet.id, cookie: 0 } }]);
  });
  it('before the beginning, paused and waiting it says so', async () => {
    const fresh = runAt(0, 0);
    const notBegun: Run = { ...fresh.bench, state: foldRun(plan, []), log: [], lastSeq: 0 };
    show(<Bench bench={notBegun} />);
    press('Begin the run');
    expect(fresh.sent).toEqual([{ type: 'runStarted', data: {} }]);
    cleanup();
    // A day early it asks first.
    show(<Bench bench={{ ...notBegun, nowMs: EPOCH - 26 * 3_600_000 }} />);
    press('Begin the run');
    expect(screen.getByText(/That is 26 h from now/)).toBeDefined();
    expect(fresh.sent).toHaveLength(1);
    press('Begin now all the same');
    expect(fresh.sent).toHaveLength(2);
    cleanup();
    const paused = runAt(1, 5, [{ type: 'paused', data: {} }]);
    show(<Bench bench={paused.bench} />);
    expect(screen.getByText('Paused. Icing goes on drying.')).toBeDefined();
    press('Go on');
    expect(paused.sent).toEqual([{ type: 'resumed', data: {} }]);
    cleanup();
    const waiting = runAt(wetIndex + 1, 5);
    show(<Bench bench={waiting.bench} />);
    expect(screen.getByText(/Nothing until/)).toBeDefined();
    // A press too many is asked about; whoever means it says so.
    press('Begin already');
    expect(waiting.sent).toEqual([]);
    press('Wait');
    expect(waiting.sent).toEqual([]);
    await new Promise((done) => setTimeout(done, DEAD_MS + 50));
    press('Begin already');
    press('Begin it all the same');
    expect(waiting.sent[0]?.type).toBe('taskBegun');
  });
});

describe('where only so many bags may lie open', () => {
  const order = parseOrder({
    format: 'kestfog-order/3',
    designs: ['buoy', 'red buoy'].map((file) => ({ file, count: 2 })),
    trays: ['A', 'B'].map((id) => ({ id, places: 2 })),
    openingHours: plan.openingHours,
    openBags: Math.max(...plan.tasks.map((t) => t.bags.length)),
  });
  const limited = planOrder({ order, designs: [buoy, redBuoy], passes: 20 });
  const opening = limited.tasks.find((t) => t.opening) as Plan['tasks'][number];
  it('a step that needs one that was put away says so first, on the rack and at the bench', () => {
    show(
      <>
        <TaskDetail
          plan={limited}
          task={opening}
          epochMs={EPOCH}
          slackS={0}
          isOnChain={false}
          whole
          onWhole={vi.fn()}
          onChoose={vi.fn()}
          onPin={null}
        />
        <BagChanges change={bagChangeAt(runIndex(foldRun(limited, [])), opening)} />
      </>,
    );
    const lists = screen.getAllByRole('list', { name: 'bags to put away and to open' });
    expect(lists).toHaveLength(2);
    for (const list of lists) expect(list.textContent).toMatch(/Open again/);
  });
  it('and without a limit nothing is said', () => {
    expect(bagChangeAt(runIndex(foldRun(plan, [])), wet)).toBeNull();
    show(
      <TaskDetail
        plan={plan}
        task={wet}
        epochMs={EPOCH}
        slackS={0}
        isOnChain={false}
        whole
        onWhole={vi.fn()}
        onChoose={vi.fn()}
        onPin={null}
      />,
    );
    expect(screen.queryByRole('list', { name: 'bags to put away and to open' })).toBeNull();
  });
});
