import type * as Design from '@kestfog/core/design';
import { ACCENTED, accented } from '@kestfog/core/words';
import { QueryClient, QueryClientProvider } from '@tanstack/react-query';
import { cleanup, render } from '@testing-library/react';
import type { ReactNode } from 'react';
import { MemoryRouter } from 'react-router';
import { afterAll, afterEach, beforeAll, describe, expect, it, vi } from 'vitest';
import catalogue from '../../../words/en.json' with { type: 'json' };

/*
 * A kitchen in accented English, English with an accent on each letter: what has none was said past the catalogue. Names that a user gives
 * are written in signs here, so that no word on the page is anything but ours.
 */
beforeAll(() => {
  vi.resetModules();
  globalThis.kestfogWords = { language: ACCENTED, catalogue: accented(catalogue) };
  vi.spyOn(HTMLElement.prototype, 'clientWidth', 'get').mockReturnValue(1200);
});
afterEach(cleanup);
afterAll(() => {
  globalThis.kestfogWords = undefined;
  vi.restoreAllMocks();
  vi.resetModules();
});

const SVG = (id: string) =>
  `<svg xmlns="http://www.w3.org/2000/svg" width="70mm" height="50mm" viewBox="0 0 70 50"><path id="1${id}" data-name="1" d="M5 5H30V45H5Z" fill="#1f4e79"/><path id="2" data-name="2" d="M30 5L65 25L30 45Z" fill="#f2c14e"/><path id="3" data-name="3" d="M10 25H26" fill="none" stroke="#20323b" stroke-width="1"/></svg>`;

async function planned() {
  const { readDesign } = await import('@kestfog/core/design');
  const { parseOrder } = await import('@kestfog/core/formats');
  const { planOrder } = await import('@kestfog/core/planning');
  const design: Design.Design = readDesign(SVG(''), '§');
  const order = parseOrder({
    format: 'kestfog-order/3',
    designs: [{ file: '1.svg', count: 7 }],
    trays: ['1', '2'].map((id) => ({ id, places: 4 })),
    decorators: [{ id: '1', pace: 1 }],
    fan: { places: 1, airMPerS: 1 },
    openingHours: [['2026-06-05T14:00:00Z', '2026-06-05T22:00:00Z']],
  });
  return { design, order, plan: planOrder({ order, designs: [design], passes: 20 }) };
}

/** Words of two letters or more without an accent: on the page, and in what a screen reader says of it. Units and times are set by Intl. */
function plainWords(): string[] {
  const said: string[] = [];
  const texts = document.createTreeWalker(document.body, NodeFilter.SHOW_TEXT);
  for (let n = texts.nextNode(); n; n = texts.nextNode()) said.push(n.textContent ?? '');
  for (const e of document.querySelectorAll('*'))
    for (const name of ['aria-label', 'title', 'alt', 'placeholder']) said.push(e.getAttribute(name) ?? '');
  expect(said.join('').length).toBeGreaterThan(100);
  return said.filter((text) => (text.replace(NAMES_OF_TIME, '').match(/\p{L}{2,}/gu) ?? []).some((w) => /^[A-Za-z]+$/.test(w)));
}
const NAMES_OF_TIME = /\b((Mon|Tues?|Wed(nes)?|Thu(rs)?|Fri|Sat(ur)?|Sun)(day)?|June?|am|pm)\b|Kestfog/g;

const show = (page: ReactNode) =>
  render(
    <QueryClientProvider client={new QueryClient({ defaultOptions: { queries: { enabled: false } } })}>
      <MemoryRouter>{page}</MemoryRouter>
    </QueryClientProvider>,
  );

describe('in accented English', { timeout: 60_000 }, () => {
  it('the rack says nothing past the catalogue', async () => {
    const { plan } = await planned();
    const { Rack } = await import('../features/rack/Rack.js');
    show(
      <Rack plan={plan} serverNowMs={Date.parse(plan.epoch as string)} onPin={null}>
        {null}
      </Rack>,
    );
    expect(plainWords()).toEqual([]);
  });

  it('nor do the reasons of a plan, its checks, its bags and the words of each step', async () => {
    const { plan, design } = await planned();
    const { becauseText, motionLines } = await import('../text/words.js');
    const { plannedChecks, bagsOf } = await import('@kestfog/core/planning');
    const { word } = await import('@kestfog/core/words');
    const { deriveSteps, schoolById } = await import('@kestfog/core/steps');
    const said = [
      ...plan.tasks.flatMap((t) => [t.title, becauseText(plan, t.because), motionLines(t).intro, ...motionLines(t).lines]),
      ...plannedChecks(plan).flatMap((c) => [c.text, c.change, word(c.word)]),
      ...bagsOf(plan).map((b) => word(b.grade)),
      ...deriveSteps(design, schoolById('two-bags')).steps.map((s) => s.label),
    ];
    expect(said.length).toBeGreaterThan(20);
    expect(said.filter((text) => /\b[A-Za-z]{2,}\b/.test(text ?? ''))).toEqual([]);
  });

  it('nor does a refusal', async () => {
    const { readDesign } = await import('@kestfog/core/design');
    const { refusalText } = await import('@kestfog/core/wording');
    let refused = '';
    try {
      readDesign('<svg xmlns="http://www.w3.org/2000/svg" width="0mm"/>', '§');
    } catch (e) {
      refused = refusalText(e as never);
    }
    expect(refused).not.toBe('');
    expect(refused.replace(/<svg>|svg|width|viewBox|height/g, '')).not.toMatch(/\b[a-z]{3,}\b/);
  });
});
