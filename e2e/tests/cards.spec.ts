import { readFileSync } from 'node:fs';
import { type Design, type DesignDocument, foldDesign, readDesign } from '@kestfog/core/design';
import { deriveSteps, schoolById } from '@kestfog/core/steps';
import type { DesignSummary, DesignView } from '@kestfog/core/wire';
import { expect, type Page, test } from '@playwright/test';
import { watchForErrors } from './support.js';

interface Point {
  readonly x: number;
  readonly y: number;
}

const fixture = (file: string) => readFileSync(new URL(`../../core/test/fixtures/cards/${file}`, import.meta.url), 'utf8');
/** The tool of the page for each technique, by its name on the page; a flood that lies on top has a tool of its own. */
const TOOLS: Readonly<Record<string, string>> = {
  flood: 'flood',
  layer: 'flood on top',
  'wet-drop': 'wet drops',
  'lay-in': 'wet lay-in',
  drag: 'pull',
  sprinkle: 'sugar',
  crackle: 'crackle',
  pen: 'pen',
  dust: 'dust',
  'piped-line': 'line',
  dots: 'dots',
};

/** One part of a card as a hand meets it: round ones are tapped, everything else is drawn. */
interface Drawn {
  readonly part: string;
  readonly tool: string;
  readonly colour: string;
  readonly tapMm: number | null;
  readonly widthMm: number;
  readonly strokes: readonly (readonly Point[])[];
}
function handOf(design: Design): Drawn[] {
  const parts = new Map<string, Drawn>();
  for (const p of design.parts) {
    const path = p.id.replace(/\.\d+$/, '');
    const isRound = (p.role === 'mark' && p.closed) || (p.role === 'line' && p.area === true && p.technique === 'piped-line');
    const technique = p.role === 'section' ? (p.layerOn.length > 0 ? 'layer' : 'flood') : p.role === 'guide' ? 'guide' : p.technique;
    const points = p.role === 'section' ? (p.drawn[0] ?? []) : p.points;
    const xs = points.map((q) => q.x);
    const before = parts.get(path);
    parts.set(path, {
      part: path,
      tool: TOOLS[p.role === 'line' && isRound ? 'dots' : technique] ?? technique,
      colour: p.colour,
      tapMm: isRound && technique !== 'sprinkle' ? Math.max(...xs) - Math.min(...xs) : null,
      widthMm: p.role === 'section' || p.role === 'guide' ? 0 : p.widthMm,
      strokes: [...(before?.strokes ?? []), p.role !== 'section' && !p.closed ? points : [...points, points[0] as Point]],
    });
  }
  return [...parts.values()];
}

/** Where a place of the cookie is on the screen, px. */
async function screenOf(page: Page): Promise<(p: Point) => Point> {
  const surface = page.getByRole('application', { name: /The cookie, to pipe on/ });
  await surface.scrollIntoViewIfNeeded();
  const m = await surface.evaluate((svg) => {
    const { a, b, c, d, e, f } = (svg as unknown as SVGSVGElement).getScreenCTM() as DOMMatrix;
    return { a, b, c, d, e, f };
  });
  return (p) => ({ x: m.a * p.x + m.c * p.y + m.e, y: m.b * p.x + m.d * p.y + m.f });
}

/** Steps as they come, a part that is piped in several strokes named once. */
const orderOf = (design: Design, nameOf: (part: string) => string): string[] =>
  deriveSteps(design, schoolById('two-bags'))
    .steps.filter((s) => s.kind !== 'dam' && s.kind !== 'prepare' && s.kind !== 'pack')
    .map((s) => `${s.round} ${s.technique} ${nameOf(s.part.replace(/\.\d+$/, ''))}`)
    .filter((s, i, all) => s !== all[i - 1]);

// The cards' own order is checked against what practitioners do in core (steps/cards.test.ts).
// Where floods lie over one another, or stand apart by less than a hand trembles, they are drawn as they are: nothing is made to meet.
for (const [file, meets] of [
  ['hills.svg', true],
  ['oven-mitt.svg', true],
  ['shell-garland.svg', false],
  ['dragonfly.svg', true],
  ['bath.svg', false],
  ['toggle-coat.svg', true],
] as const)
  test(`${file} is piped on the screen by a hand alone, and gets the order of its drawing`, async ({ page, request }) => {
    test.setTimeout(180_000);
    const errors = watchForErrors(page);
    const card = readDesign(fixture(file), file);
    const box = card.cookie[0]?.reduce((b, p) => ({ x: Math.max(b.x, p.x), y: Math.max(b.y, p.y) }), { x: 0, y: 0 }) ?? { x: 0, y: 0 };
    const ring = `M${(card.cookie[0] ?? []).map((p) => `${p.x} ${p.y}`).join('L')}Z`;
    const start = `<svg xmlns="http://www.w3.org/2000/svg" width="${box.x}mm" height="${box.y}mm" viewBox="0 0 ${box.x} ${box.y}"><path id="cookie" data-part="cookie" fill="#d9a566" d="${ring}"/><path id="start" data-part="section" fill="#ffffff" d="${ring}"/></svg>`;
    await page.goto('/designs');
    await page
      .locator('input[type=file][accept*=svg]')
      .setInputFiles({ name: file, mimeType: 'image/svg+xml', buffer: Buffer.from(start) });
    const stack = page.getByRole('list', { name: 'Parts in the order they are piped' });
    await expect(stack).toBeVisible();
    const bar = page.getByRole('group', { name: /^(Pipe on it|How it is piped)$/ });
    const all = handOf(card);
    const floods = all.filter((d) => !['wet drops', 'wet lay-in', 'pull', 'sugar'].includes(d.tool));
    const pieces: string[] = [];
    const pipe = async (d: Drawn) => {
      const picked = bar.getByRole('button', { name: d.tool, exact: true });
      if ((await picked.getAttribute('aria-pressed')) !== 'true') await picked.click();
      if (d.tapMm !== null || d.widthMm > 0)
        await bar.getByLabel(/^(dot|breadth|round, by a tap), mm/).fill(String(Math.round(10 * (d.tapMm ?? d.widthMm)) / 10));
      await bar.getByLabel('colour to pipe').fill(d.colour);
      if (d.tool === 'flood') await bar.getByLabel('meets its neighbours').setChecked(meets);
      const on = await screenOf(page);
      for (const stroke of d.strokes) {
        const way =
          d.tapMm === null
            ? stroke.map(on)
            : [
                on({
                  x: (Math.max(...stroke.map((p) => p.x)) + Math.min(...stroke.map((p) => p.x))) / 2,
                  y: (Math.max(...stroke.map((p) => p.y)) + Math.min(...stroke.map((p) => p.y))) / 2,
                }),
              ];
        const [first] = way as [Point];
        await page.mouse.move(first.x, first.y);
        await page.mouse.down();
        for (const p of way.slice(1)) await page.mouse.move(p.x, p.y);
        await page.mouse.up();
        pieces.push(d.part);
      }
    };
    for (const d of floods) await pipe(d);
    await stack
      .getByRole('button', { name: /^\d* ?start/ })
      .last()
      .click();
    await page.getByRole('button', { name: 'Take start off' }).click();
    for (const d of all) if (!floods.includes(d)) await pipe(d);
    await expect(page.getByText('kept', { exact: true })).toBeVisible();

    const made = ((await (await request.get('/api/designs/choices')).json()) as DesignSummary[]).find(
      (d) => d.name === file.replace('.svg', ''),
    );
    const view = (await (await request.get(`/api/designs/${made?.id}`)).json()) as DesignView;
    const drawn = view.document.edits.filter((e) => e.type === 'draw');
    expect(drawn).toHaveLength(pieces.length);
    const partOf = new Map(drawn.map((e, i) => [e.type === 'draw' ? e.id : '', pieces[i] ?? '']));
    const byHand = foldDesign(view.document as DesignDocument);
    expect(byHand.notes.filter((n) => n.code === 'skipped')).toEqual([]);
    expect(orderOf(byHand, (id) => partOf.get(id) ?? id)).toEqual(orderOf(card, (id) => id));
    await request.delete(`/api/designs/${made?.id}`);
    expect(errors).toEqual([]);
  });
