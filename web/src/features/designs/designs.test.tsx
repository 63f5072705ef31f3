import { type Design, type DesignDocument, type DesignEdit, foldDesign } from '@kestfog/core/design';
import type { DesignSuggestion } from '@kestfog/core/planning';
import { deriveSteps, schoolById } from '@kestfog/core/steps';
import { BadInput } from '@kestfog/core/units';
import type { DesignView } from '@kestfog/core/wire';
import { QueryClient, QueryClientProvider } from '@tanstack/react-query';
import { act, cleanup, fireEvent, render, renderHook, screen, waitFor } from '@testing-library/react';
import type { ReactNode } from 'react';
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { earlierEdits, outbox, putEdits } from '../../outbox/index.js';
import { ChecksPanel } from './ChecksPanel.js';
import { paletteOf } from './parts.js';
import { useEditor } from './use-editor.js';

const sail: DesignDocument = {
  format: 'kestfog-design/3',
  name: 'Sail',
  svg: '<svg xmlns="http://www.w3.org/2000/svg" width="60mm" height="60mm" viewBox="0 0 60 60"><rect id="left" width="30" height="60" fill="#f5ead7"/><rect id="right" x="30" width="30" height="60" fill="#1f4e79"/></svg>',
  edits: [],
};
const viewOf = (edits: readonly DesignEdit[]): DesignView => {
  const document = { ...sail, edits };
  const drawing = foldDesign(document);
  return {
    id: 'd1',
    name: drawing.name,
    rounds: 2,
    sections: 2,
    version: 1,
    edits: edits.length,
    handsOnS: 60,
    transfer: false,
    problem: null,
    drawing,
    document,
    pinned: false,
  };
};
const rename: DesignEdit = { type: 'rename', name: 'Mainsail' };
const inOrder = (design: Design) => void deriveSteps(design, schoolById('two-bags'));
const begin = (view = viewOf([])) =>
  renderHook(() => useEditor(view, inOrder), {
    wrapper: ({ children }: { children: ReactNode }) => <QueryClientProvider client={new QueryClient()}>{children}</QueryClientProvider>,
  });
const answers = (status: number, body: unknown) =>
  vi.stubGlobal(
    'fetch',
    vi.fn(async () => new Response(JSON.stringify(body), { status })),
  );

beforeEach(() => localStorage.clear());
afterEach(() => {
  cleanup();
  for (const e of outbox.all()) outbox.letGo(e.id);
  vi.unstubAllGlobals();
});

describe('work on a design', () => {
  it('is seen at once, kept by the server, undone and redone', async () => {
    answers(200, viewOf([rename]));
    const { result } = begin();
    act(() => void result.current.apply(rename));
    expect(result.current.design.name).toBe('Mainsail');
    await waitFor(() => expect(result.current.saved).toBe('saved'), { timeout: 3000 });
    expect(outbox.all()).toEqual([]);
    act(() => result.current.undo());
    expect([result.current.design.name, result.current.canUndo, result.current.canRedo]).toEqual(['Sail', false, true]);
    act(() => result.current.redo());
    expect(result.current.design.name).toBe('Mainsail');
  });
  it('what another device did meanwhile is gone on from, where nothing waits here', () => {
    answers(200, viewOf([]));
    const { result, rerender } = renderHook(({ view }) => useEditor(view, inOrder), {
      initialProps: { view: viewOf([]) },
      wrapper: ({ children }: { children: ReactNode }) => <QueryClientProvider client={new QueryClient()}>{children}</QueryClientProvider>,
    });
    rerender({ view: viewOf([rename]) });
    expect([result.current.design.name, result.current.edits.length]).toEqual(['Mainsail', 1]);
    act(() => void result.current.apply({ type: 'rename', name: 'Jib' }));
    // What was typed here is not thrown away for it.
    rerender({ view: viewOf([rename, { type: 'transfer', on: true }]) });
    expect(result.current.edits.at(-1)).toEqual({ type: 'rename', name: 'Jib' });
  });
  it('an order that contradicts itself is refused here, in one sentence, and nothing is lost', () => {
    answers(200, viewOf([]));
    const { result } = begin();
    act(() => void result.current.apply({ type: 'say', part: 'left', said: { after: 'right' } }));
    act(() => void result.current.apply({ type: 'say', part: 'right', said: { after: 'left' } }));
    expect(result.current.problem).toMatch(
      /"right" comes after "left" .* and "left" comes after "right" .*, which contradict each other|"left" comes after "right" .* and "right" comes after "left"/,
    );
    expect(result.current.edits).toHaveLength(1);
  });
  it('a stroke is shown at once and kept once it is looked through; one that makes an order impossible is taken back', async () => {
    answers(503, { code: 'busy', message: 'later' });
    const stroke = (id: string): DesignEdit => ({
      type: 'draw',
      id,
      name: 'dots',
      technique: 'wet-drop',
      strokes: [{ points: [3, 5, 7].map((x) => ({ x, y: x === 5 ? 9 : 4 })), closed: true }],
      area: true,
      layer: false,
      colour: '#b3261e',
      widthMm: 1,
    });
    const looked: number[] = [];
    const view = viewOf([]);
    const { result } = renderHook(
      () =>
        useEditor(view, (design) => {
          looked.push(design.parts.length);
          if (design.parts.some((p) => p.id.startsWith('bad'))) throw new BadInput('order-impossible', 'That order cannot be kept.');
        }),
      {
        wrapper: ({ children }: { children: ReactNode }) => (
          <QueryClientProvider client={new QueryClient()}>{children}</QueryClientProvider>
        ),
      },
    );
    act(() => void result.current.apply(stroke('good-1')));
    expect([result.current.edits.length, looked.length, outbox.all().length]).toEqual([1, 0, 0]);
    // Not "kept" before it is.
    expect(result.current.saved).toBe('waiting');
    await waitFor(() => expect(outbox.all()).toMatchObject([{ request: { body: { edits: [stroke('good-1')] } } }]));
    act(() => void result.current.apply(stroke('bad-1')));
    act(() => void result.current.apply(stroke('good-2')));
    expect(result.current.edits).toHaveLength(3);
    await waitFor(() => expect(result.current.problem).toBe('That order cannot be kept.'));
    expect(result.current.edits).toEqual([stroke('good-1')]);
    expect(outbox.all()).toMatchObject([{ request: { body: { edits: [stroke('good-1')] } } }]);
    // Leaving the page does not wait for a picture.
    act(() => void result.current.apply(stroke('good-3')));
    window.dispatchEvent(new Event('pagehide'));
    expect(outbox.all()).toMatchObject([{ request: { body: { edits: [stroke('good-1'), stroke('good-3')] } } }]);
  });
  it('waits on this device while the network is dead, and is there again after the page was closed', async () => {
    vi.stubGlobal(
      'fetch',
      vi.fn(async () => {
        throw new TypeError('no network');
      }),
    );
    const { result, unmount } = begin();
    act(() => void result.current.apply(rename));
    await waitFor(() => expect(fetch).toHaveBeenCalled(), { timeout: 3000 });
    await waitFor(() => expect(result.current.saved).toBe('waiting'));
    unmount();
    const again = begin();
    expect(again.result.current.design.name).toBe('Mainsail');
    expect(again.result.current.saved).toBe('waiting');
  });
  it('is sent though the page of the design was left at once', async () => {
    answers(200, viewOf([rename]));
    const { result, unmount } = begin();
    act(() => void result.current.apply(rename));
    unmount();
    await waitFor(() => expect(fetch).toHaveBeenCalledTimes(1), { timeout: 3000 });
    await waitFor(() => expect(outbox.all()).toEqual([]));
  });
  it('goes on from what was typed in another tab, so that neither takes the other’s place', () => {
    answers(503, { code: 'busy', message: 'later' });
    const { result } = begin();
    const next: DesignEdit = { type: 'rename', name: 'Jib' };
    act(() => putEdits('d1', 'Sail', [rename]));
    expect(result.current.design.name).toBe('Mainsail');
    act(() => void result.current.apply(next));
    expect(outbox.all()).toMatchObject([{ request: { body: { edits: [rename, next] } } }]);
  });
  it('of an earlier release is taken over, and what cannot be read is left where it is', () => {
    localStorage.setItem('kestfog.design.d1', JSON.stringify([rename]));
    localStorage.setItem('kestfog.design.d2', 'no JSON');
    const found = earlierEdits();
    expect(found.map((f) => [f.id, f.edits])).toEqual([['d1', [rename]]]);
    found[0]?.done();
    expect(localStorage).toHaveLength(1);
  });
  it('that someone else has changed meanwhile is not laid over theirs', () => {
    putEdits('d1', 'Sail', [rename]);
    expect(begin(viewOf([{ type: 'rename', name: 'Jib' }])).result.current.design.name).toBe('Jib');
  });
  it('the server refuses is taken back, with its sentence', async () => {
    answers(400, { code: 'bad-input', message: 'The name is taken: choose another.' });
    const { result } = begin();
    act(() => void result.current.apply(rename));
    await waitFor(() => expect(result.current.saved).toBe('refused'), { timeout: 3000 });
    expect(result.current.problem).toBe('The name is taken: choose another.');
    expect(result.current.design.name).toBe('Sail');
    expect(outbox.all()).toMatchObject([{ what: 'edits of Sail', refused: { reason: 'The name is taken: choose another.' } }]);
  });
});

describe('checks', () => {
  const found = (value: readonly DesignSuggestion[]) => ({ value, pending: false, failure: null });
  const totals = { rounds: 2, handsOnS: 95, throughS: null, bags: [] } as never;
  it('say when there is nothing to say, and when it would never dry', () => {
    render(
      <ChecksPanel
        totals={totals}
        checks={[]}
        suggestions={found([])}
        cautions={[]}
        air="22 °C, 50 %"
        shown={null}
        onShow={() => {}}
        onTake={() => {}}
      />,
    );
    expect(screen.getByText(/Nothing stands out/)).toBeTruthy();
    expect(screen.getByText('never in this air')).toBeTruthy();
  });
  it('lead to their part, and a suggestion is taken with its own edits', () => {
    const [onShow, onTake] = [vi.fn(), vi.fn()];
    render(
      <ChecksPanel
        totals={totals}
        checks={[{ kind: 'crater', part: 'left', word: 'likely', change: 'flood it thicker', text: 'a small deep flood sinks' } as never]}
        suggestions={found([{ text: 'take right first', savesRounds: 1, savesS: 1200, edits: [rename] } as never])}
        cautions={[]}
        air="22 °C, 50 %"
        shown={null}
        onShow={onShow}
        onTake={onTake}
      />,
    );
    expect(screen.getByText('Flood it thicker.')).toBeTruthy();
    fireEvent.click(screen.getByText('crater'));
    expect(onShow).toHaveBeenCalledWith(expect.objectContaining({ kind: 'crater', part: 'left' }));
    expect(screen.getByText(/1 round fewer, 20 min sooner/)).toBeTruthy();
    fireEvent.click(screen.getByText('do it'));
    expect(onTake).toHaveBeenCalledWith([rename]);
  });
  it('a palette names each colour once, in the order of the drawing', () =>
    expect(paletteOf(viewOf([]).drawing)).toEqual(['#f5ead7', '#1f4e79']));
});
