import { readFileSync } from 'node:fs';
import { parse } from 'csv-parse/sync';
import { getDocument, OPS } from 'pdfjs-dist/legacy/build/pdf.mjs';
import { describe, expect, it } from 'vitest';
import { paperFonts } from '../cli/paper-fonts.js';
import { type Design, sectionsOf } from '../design/design.js';
import { readDesign } from '../design/read-design.js';
import { parseOrder } from '../formats/order.js';
import { offset } from '../geometry/clip.js';
import { areaMm2, boundingBox, type Ring } from '../geometry/shape.js';
import { bagsOf } from '../planning/order-bags.js';
import { type CartonSize, cartonsOfPlan, costOfPlan, leftForTheHour, type Prices } from '../planning/order-cost.js';
import { planOrder } from '../planning/plan-order.js';
import { bagAmounts } from '../steps/bag-amounts.js';
import { suppliesOf } from '../stock/supplies.js';
import { BadInput } from '../units/bad-input.js';
import { span } from '../wording/span.js';
import { ordersTable, planTable } from './csv.js';
import { measureOf } from './fonts.js';
import { type PaperAsk, type PrintedSheet, papers } from './page.js';
import { PT_PER_MM, writePdf } from './pdf.js';
import { closesOf } from './run-sheet.js';
import { FINGER_MM, gaugeSheet, guideKinds, guideSheet, KNIFE_MM, OVERHANG_MM, templateSheet, transferSheet } from './true-size.js';
import { workKinds, workSheet } from './work.js';
import type { WorkAsk } from './work-ask.js';

const fonts = paperFonts();
const ask: PaperAsk = { paper: 'a4', measure: measureOf(fonts), name: 'Harbour flag', date: '4 June 2026' };
const flag: Design = readDesign(
  `<svg xmlns="http://www.w3.org/2000/svg" width="80mm" height="60mm" viewBox="0 0 80 60"><path id="cookie" data-part="cookie" fill="#d9a566" d="M0 0H80V60H0Z"/>
  <path id="hoist" data-part="section" fill="#1f4e79" d="M4 4H40V56H4Z"/><path id="fly" data-part="section" fill="#f2c14e" d="M40 4L76 30L40 56Z"/><path id="rope" data-part="line" fill="none" stroke="#e3c58a" stroke-width="1.5" d="M10 50H36"/></svg>`,
  'Harbour flag',
);
const large = readDesign(
  `<svg xmlns="http://www.w3.org/2000/svg" width="300mm" height="200mm" viewBox="0 0 300 200"><path id="slab" data-part="section" fill="#1f4e79" d="M5 5H295V195H5Z"/></svg>`,
  'Slab',
);

interface Read {
  readonly words: readonly string[];
  /** every drawn path as its points, mm from the page's upper left corner */
  readonly paths: readonly Ring[];
  readonly widthPt: number;
  readonly heightPt: number;
  readonly fontNames: readonly string[];
}
/** The file as another package reads it. */
async function read(sheet: PrintedSheet): Promise<Read[]> {
  const doc = await getDocument({ data: await writePdf(sheet, fonts), useSystemFonts: false, verbosity: 0 }).promise;
  const pages: Read[] = [];
  for (let n = 1; n <= doc.numPages; n++) {
    const page = await doc.getPage(n);
    const [, , widthPt, heightPt] = page.view as [number, number, number, number];
    const text = await page.getTextContent();
    const words = text.items.flatMap((i) => ('str' in i && i.str.trim() ? [i.str] : []));
    const list = await page.getOperatorList();
    const paths: Ring[] = [];
    for (const [i, fn] of list.fnArray.entries()) {
      if (fn !== OPS.constructPath) continue;
      const [, [data]] = list.argsArray[i] as [number, [ArrayLike<number>]];
      // A flat list: 0 begins at x y, 1 goes on to x y, 4 closes.
      let now: { x: number; y: number }[] = [];
      for (let k = 0; data && k < data.length; ) {
        const op = data[k];
        if (op === 0 && now.length > 0) {
          paths.push(now);
          now = [];
        }
        if (op === 4) k += 1;
        else {
          now.push({ x: (data[k + 1] as number) / PT_PER_MM, y: (heightPt - (data[k + 2] as number)) / PT_PER_MM });
          k += 3;
        }
      }
      if (now.length > 0) paths.push(now);
    }
    pages.push({ words, paths, widthPt, heightPt, fontNames: Object.keys(text.styles) });
  }
  return pages;
}
const sizeOf = (ring: Ring) => {
  const b = boundingBox(ring);
  return { wide: b.maxX - b.minX, high: b.maxY - b.minY };
};
const hasSize = (paths: readonly Ring[], wide: number, high: number, within = 0.05) =>
  paths.some((p) => Math.abs(sizeOf(p).wide - wide) < within && Math.abs(sizeOf(p).high - high) < within);

describe('paper of true size, read back by another package', () => {
  it('a page is its sheet (ISO 216; ANSI/ASME Y14.1), a line of 100 mm is 283.46 pt (PDF 1.7: 72 units an inch)', async () => {
    for (const paper of ['a4', 'letter'] as const) {
      const [page] = await read(templateSheet(flag, {}, { ...ask, paper }));
      expect([page?.widthPt, page?.heightPt].map((v) => Math.round((v as number) * 100) / 100)).toEqual(
        paper === 'a4' ? [595.28, 841.89] : [612, 792],
      );
      expect(hasSize(page?.paths ?? [], 100, 0)).toBe(true);
      expect(hasSize(page?.paths ?? [], 0, 100)).toBe(true);
      expect(hasSize(page?.paths ?? [], 50, 50)).toBe(true);
      expect(100 * PT_PER_MM).toBeCloseTo(283.46, 1);
    }
  });
  it('a template is the outline half a knife outside, to a twentieth of a millimetre, and its words can be searched', async () => {
    const [page] = await read(templateSheet(flag, { part: 'fly', numbers: new Map([['fly', 2]]) }, ask));
    const cut = offset(sectionsOf(flag)[1]?.shape ?? [], KNIFE_MM / 2);
    const { wide, high } = sizeOf(cut[0] as Ring);
    const drawn = page?.paths.find((p) => Math.abs(sizeOf(p).wide - wide) < 0.05 && Math.abs(sizeOf(p).high - high) < 0.05);
    expect(Math.abs(areaMm2([drawn as Ring]) - areaMm2(cut))).toBeLessThan(0.05 * 120);
    expect(page?.words.join(' ')).toContain('Harbour flag');
    expect(page?.words.join(' ')).toContain('cutting template of fly');
    expect(page?.words).toContain('2');
    expect(() => templateSheet(flag, { part: 'mast' }, ask)).toThrow(
      '"mast" is no part of Harbour flag: name one of "hoist", "fly", "rope".',
    );
  });
  it('mirrored is mirrored, and what the 100 mm line measured corrects the next print', async () => {
    const plain = templateSheet(flag, { part: 'fly' }, ask).pages[0];
    const back = templateSheet(flag, { part: 'fly', mirrored: true }, ask).pages[0];
    const cutOf = (p: typeof plain) => p?.marks.find((m) => m.kind === 'drawn' && m.closed && m.lineMm === 0.15);
    const [a, b] = [cutOf(plain), cutOf(back)].map((m) => (m?.kind === 'drawn' ? (m.rings[0] as Ring) : []));
    // The tip of the fly points to the right, at half its height; from behind to the left.
    const halfWay = (ring: Ring) => (boundingBox(ring).minY + boundingBox(ring).maxY) / 2;
    const rightmost = (a as Ring).reduce((best, p) => (p.x > best.x ? p : best));
    const leftmost = (b as Ring).reduce((best, p) => (p.x < best.x ? p : best));
    expect([rightmost.y - halfWay(a as Ring), leftmost.y - halfWay(b as Ring)].map(Math.abs).every((far) => far < 1)).toBe(true);
    expect((a as Ring).filter((p) => p.x < boundingBox(a as Ring).minX + 0.1).length).toBeGreaterThan(1);
    // A printer that makes 100 mm into 98 is given 100/98 of everything.
    const [short] = await read(templateSheet(flag, {}, { ...ask, measuredMm: 98 }));
    expect(hasSize(short?.paths ?? [], 10000 / 98, 0)).toBe(true);
    expect(hasSize(short?.paths ?? [], 5000 / 98, 5000 / 98)).toBe(true);
    expect(() => templateSheet(flag, {}, { ...ask, measuredMm: 50 })).toThrow('measured 50 mm: that is another scale');
  });
  it('what is larger than the paper is parted, with marks to join it by, and nothing of its edge is lost', () => {
    const sheet = templateSheet(large, {}, ask);
    const edges = sheet.pages
      .slice(1)
      .flatMap((p) => p.marks.flatMap((m) => (m.kind === 'drawn' && m.lineMm === 0.15 && m.tone === 'black' ? m.rings : [])));
    const length = edges.reduce(
      (sum, ring) => sum + ring.slice(1).reduce((s, p, i) => s + Math.hypot(p.x - (ring[i]?.x ?? 0), p.y - (ring[i]?.y ?? 0)), 0),
      0,
    );
    const cookie = boundingBox(large.cookie.flat());
    expect(length).toBeGreaterThan(2 * (cookie.maxX - cookie.minX + cookie.maxY - cookie.minY) - 30);
    const words = sheet.pages.flatMap((p) => p.marks.flatMap((m) => (m.kind === 'words' ? [m.text] : [])));
    expect(words.filter((w) => /lay over .* as far as the dashes/.test(w)).length).toBeGreaterThanOrEqual(1);
    expect(words.some((w) => /^Slab, A1 of /.test(w))).toBe(true);
  });
  it.each(guideKinds.filter((k) => k !== 'own'))(
    'a guide of %s stays within 12 mm beside the cookie; stripes reach it on both sides',
    (guide) => {
      const [page] = guideSheet(flag, { guide, pitchMm: 8, angleDeg: 0, count: 8 }, ask).pages;
      const lines = page?.marks.flatMap((m) => (m.kind === 'drawn' && m.lineMm === 0.25 ? m.rings : [])) ?? [];
      const b = boundingBox(lines.flat());
      expect(b.maxX - b.minX).toBeLessThanOrEqual(80 + 2 * OVERHANG_MM + 0.01);
      if (guide === 'stripes') expect(b.maxX - b.minX).toBeCloseTo(80 + 2 * OVERHANG_MM, 2);
      expect(lines.length).toBeGreaterThan(1);
    },
  );
  it('a design’s own guides are printed where they lie, their ends beside the cookie, with what follows them in outline', () => {
    const own = readDesign(
      `<svg xmlns="http://www.w3.org/2000/svg" width="80mm" height="60mm" viewBox="0 0 80 60"><path id="cookie" data-part="cookie" fill="#d9a566" d="M0 0H80V60H0Z"/>
      <path id="hoist" data-part="section" fill="#1f4e79" d="M4 4H76V56H4Z"/><path id="base" data-part="guide" data-guide="sheet" fill="none" stroke="#c9b400" d="M20 30H60"/>
      <path id="arc" data-part="guide" data-guide="sheet" fill="none" stroke="#c9b400" d="M20 40Q40 20 60 40"/>
      <path id="rope" data-part="line" fill="none" stroke="#e3c58a" stroke-width="1.5" d="M22 29H58"/></svg>`,
      'Named flag',
    );
    const [page] = guideSheet(own, { guide: 'own', pitchMm: 8, angleDeg: 0, count: 8 }, ask).pages;
    const rings = page?.marks.flatMap((m) => (m.kind === 'drawn' && m.lineMm === 0.25 ? m.rings : [])) ?? [];
    const wide = rings.map((r) => boundingBox(r)).map((b) => b.maxX - b.minX);
    // The straight one reaches 12 mm beyond the cookie on both sides, the arc keeps its ends.
    expect(wide.sort((a, b) => b - a)).toEqual([expect.closeTo(80 + 2 * OVERHANG_MM, 2), expect.closeTo(40, 1)]);
    const outlines = page?.marks.flatMap((m) => (m.kind === 'drawn' && m.tone === 'grey' ? m.rings : [])) ?? [];
    expect(outlines.some((r) => Math.abs(boundingBox(r).maxX - boundingBox(r).minX - 37.5) < 0.2)).toBe(true);
    expect(() => guideSheet(flag, { guide: 'own', pitchMm: 8, angleDeg: 0, count: 8 }, ask)).toThrow(
      'Harbour flag has no guides of its own',
    );
  });
  it('transfers never lie nearer than fingers need, whatever their number; five hundred are too many', () => {
    const small = readDesign(
      '<svg xmlns="http://www.w3.org/2000/svg" width="20mm" height="24mm" viewBox="0 0 20 24"><path id="buoy" data-part="section" fill="#b3261e" d="M2 2H18V22H2Z"/></svg>',
      'Buoy',
    );
    for (const paper of ['a4', 'letter'] as const) {
      const sheet = transferSheet(small, { count: 60, spares: 9, turnedOver: true }, { ...ask, paper });
      const found = sheet.pages.flatMap((p) => {
        const rings = p.marks.flatMap((m) => (m.kind === 'drawn' && m.closed && m.tone === 'grey' ? m.rings : []));
        const boxes = rings.map(boundingBox);
        for (const [i, a] of boxes.entries())
          for (const b of boxes.slice(i + 1)) {
            const apart = Math.max(a.minX - b.maxX, b.minX - a.maxX, a.minY - b.maxY, b.minY - a.maxY);
            expect(apart).toBeGreaterThanOrEqual(FINGER_MM - 0.01);
          }
        for (const box of boxes)
          expect([box.minX > 0, box.maxX < papers[paper].widthMm, box.maxY < papers[paper].heightMm]).toEqual([true, true, true]);
        return rings;
      });
      expect(found).toHaveLength(69);
    }
    expect(() => transferSheet(small, { count: 500, spares: 1, turnedOver: false }, ask)).toThrow(
      '501 pieces cannot be put on sheets: from 1 to 500.',
    );
  });
  it('gauges: an opening is as wide as its tip, a bar as thick as its bead', async () => {
    const [page] = await read(gaugeSheet([{ name: 'round tip 5', shape: 'round', openingMm: 3 }], [24], ask));
    for (const [wide, high] of [
      [3, 3],
      [24, 24],
      [60, 1.5],
      [14, 6],
    ] as const)
      expect(hasSize(page?.paths ?? [], wide, high)).toBe(true);
  });
  it('letters beyond the usual are in the font, others are named', async () => {
    const [page] = await read(templateSheet({ ...flag, name: 'x' }, {}, { ...ask, name: 'Őrség & <Łódź>' }));
    expect(page?.words.join('').replaceAll(' ', '')).toContain('Őrség&<Łódź>');
    expect(() => templateSheet(flag, {}, { ...ask, name: 'Flag 旗' })).toThrow(BadInput);
    expect(() => templateSheet(flag, {}, { ...ask, name: 'Flag 旗' })).toThrow('has no “旗”');
  });
});

const order = parseOrder(JSON.parse(readFileSync(new URL('../../test/fixtures/paper/order.json', import.meta.url), 'utf8')));
const plan = planOrder({
  order,
  designs: [flag, { ...readDesign(readFileSync(new URL('../../test/fixtures/cards/bath.svg', import.meta.url), 'utf8'), 'Bath') }],
  passes: 2,
  timeUsed: () => 0,
});
const at = new Intl.DateTimeFormat('en-GB', { hour: '2-digit', minute: '2-digit', timeZone: 'UTC' });
const day = new Intl.DateTimeFormat('en-GB', { weekday: 'long', day: 'numeric', month: 'long', timeZone: 'UTC' });
const work: WorkAsk = {
  ...ask,
  name: plan.order.name ?? '',
  clock: (ms) => at.format(ms),
  day: (ms) => day.format(ms),
  grams: (g) => `${Math.round(g)} g`,
  kitchen: {
    carton: { name: 'tray box', widthMm: 200, depthMm: 150, layers: 1 },
    prices: { currency: '€', handsPerHour: 24, icingPerKg: 6, cookieEach: 0.4, cartonEach: 0.9 },
    bakedOf: 'wheat flour, butter, sugar, egg',
  },
};
const wordsOf = (sheet: PrintedSheet) => sheet.pages.flatMap((p) => p.marks.flatMap((m) => (m.kind === 'words' ? [m.text] : [])));

describe('paper to work from', () => {
  it.each(workKinds)('%s: fits its pages, and every word of it can be read back', async (kind) => {
    const sheet = workSheet(kind, plan, work);
    for (const page of sheet.pages)
      for (const m of page.marks)
        if (m.kind === 'words') {
          const wide = work.measure.widthMm(m.text, m.sizeMm, m.bold);
          const left = m.align === 'end' ? m.xMm - wide : m.align === 'middle' ? m.xMm - wide / 2 : m.xMm;
          expect([left >= 5, left + wide <= page.widthMm - 5, m.yMm <= page.heightMm - 8, m.text]).toEqual([true, true, true, m.text]);
        }
    const [first] = await read(sheet);
    expect(first?.words.join(' ')).toContain('Paper evening');
    expect(first?.fontNames.length).toBeGreaterThan(0);
  });
  it('the run sheet has a box for each task in the column of its tray, at its minute, with the windows that shut', () => {
    const sheet = workSheet('run', plan, work);
    const boxes = sheet.pages.flatMap((p) => p.marks.filter((m) => m.kind === 'drawn' && m.closed && m.lineMm === 0.25));
    expect(boxes).toHaveLength(plan.tasks.length);
    const all = wordsOf(sheet);
    for (const t of plan.tasks)
      expect(all.some((w) => w.startsWith(at.format(Date.parse(plan.epoch as string) + t.startS * 1000)))).toBe(true);
    const shuts = plan.tasks.map((t) => ({ t, ...closesOf(plan, t) }));
    expect(shuts.some((c) => c.withinS !== null)).toBe(true);
    const timed = shuts.filter((c) => c.byS !== null);
    expect(timed.length).toBeGreaterThan(0);
    for (const { t, byS } of timed) {
      expect(all.some((w) => w.startsWith(at.format(Date.parse(plan.epoch as string) + (byS as number) * 1000)))).toBe(true);
      // What must be done by a moment is begun before it in the plan.
      expect(t.startS).toBeLessThan(byS as number);
    }
  });
  it('every cookie that is due is in a box with a label; one that fits no box is named', () => {
    const counts = workSheet('boxes', plan, work).pages.flatMap((p) =>
      p.marks.flatMap((m) => (m.kind === 'words' && /^\d+$/.test(m.text) ? [Number(m.text)] : [])),
    );
    expect(counts.reduce((a, b) => a + b, 0)).toBe(plan.designs.reduce((n, d) => n + d.count, 0));
    const tiny = { ...work, kitchen: { ...work.kitchen, carton: { name: 'ring box', widthMm: 40, depthMm: 40, layers: 1 } } };
    expect(() => workSheet('boxes', plan, tiny)).toThrow('does not fit the carton ring box (40 × 40 mm): choose a larger one in Kitchen.');
  });
  it('what is to be bought is what is to be mixed; an offer needs prices and adds them up', () => {
    const bags = bagsOf(plan);
    expect(wordsOf(workSheet('shopping', plan, work))).toContain(String(bags.length));
    const offered = wordsOf(workSheet('offer', plan, work))
      .filter((w) => /^\d+\.\d\d €$/.test(w))
      .map((w) => Number.parseFloat(w));
    expect(offered.slice(0, -1).reduce((a, b) => a + b, 0)).toBeCloseTo(offered.at(-1) as number, 1);
    const due = cartonsOfPlan(plan, work.kitchen?.carton as CartonSize).reduce((n, c) => n + (c.cartons as number), 0);
    expect([due > 1, wordsOf(workSheet('offer', plan, work)).includes(String(due))]).toEqual([true, true]);
    expect(() => workSheet('offer', plan, { ...work, kitchen: {} })).toThrow('An offer needs your prices: say them in Kitchen first.');
    const care = (more: object) => wordsOf(workSheet('care', plan, { ...work, kitchen: { ...work.kitchen, ...more } })).join(' ');
    expect(care({})).toMatch(/Contains EGG \(the icing\)\. .*Not known yet: what is in the cookie/);
    const looked = care({ allergens: { cookie: ['wheat', 'milk'], laidOn: {}, traces: ['nuts'] } });
    expect(looked).toMatch(/Contains WHEAT \(the cookie\), EGG \(the icing\), MILK \(the cookie\)\..*May contain traces of NUTS\./);
    expect(wordsOf(workSheet('boxes', plan, work)).join(' ')).toMatch(/Contains EGG and what was not looked at: the cookie/);
    // A price that is asked stands alone: what goes into it, and what it leaves for the hour, is nobody else's.
    const sold = plan.designs.reduce((n, d) => n + d.count, 0);
    const asked = wordsOf(
      workSheet('offer', plan, { ...work, kitchen: { ...work.kitchen, askedEach: 3.5, taxLine: 'No tax is charged.' } }),
    ).join(' ');
    expect(asked).toContain(`${(3.5 * sold).toFixed(2)} €`);
    expect([asked.includes('No tax is charged.'), asked.includes('decorating by hand')]).toEqual([true, false]);
    const cost = costOfPlan(plan, work.kitchen?.prices as Prices, work.kitchen?.carton);
    expect(leftForTheHour(cost, cost.each)).toBeCloseTo(24, 6);
    expect(leftForTheHour(cost, cost.each + 1)).toBeCloseTo(24 + sold / (plan.handsOnS / 3600), 6);
  });
  it('a design card has what the plan has: hands of a cookie, icing and openings, waits, cookies at a time, gels as they were mixed', () => {
    const [d] = plan.designs as [(typeof plan.designs)[number]];
    const colour = d.drawing.parts.find((p) => p.role === 'section')?.colour as string;
    const gels = {
      [colour]: {
        gelGPer100G: 1.2,
        parts: [
          { gel: 'sky', parts: 3 },
          { gel: 'black', parts: 1 },
        ],
      },
    };
    const text = wordsOf(workSheet('cards', plan, { ...work, kitchen: { ...work.kitchen, gels } })).join(' ');
    expect(text).toContain('1.2 g in 100 g: 3 sky, 1 black');
    for (const b of bagAmounts(d.graph, 1)) expect(text).toContain(`${b.seconds} s,`);
    const first = plan.tasks.filter(
      (t) =>
        t.lotId?.endsWith(`.${d.id}`) && t.cookies[0] === 0 && t.trayId === plan.tasks.find((x) => x.lotId?.endsWith(`.${d.id}`))?.trayId,
    );
    const handsS = first.reduce((n, t) => n + (t.endS - t.startS) / (t.cookies[1] - t.cookies[0]), 0);
    expect(text).toContain(`${span(handsS)} of hands a cookie`);
    expect(text).toMatch(/ after “/);
    expect(text).toContain('Contains EGG (the icing)');
  });
  it('a shopping list leaves out what is in the house, and says so', () => {
    const some = wordsOf(workSheet('shopping', plan, { ...work, kitchen: { ...work.kitchen, stock: { sugar: 1e6, bag: 1 } } }));
    const [buy, there] = [some.indexOf('To buy'), some.indexOf('In the house already')];
    expect([buy >= 0 && there > buy, some.indexOf('powdered sugar') > there, some.indexOf('piping bags and ties') < there]).toEqual([
      true,
      true,
      true,
    ]);
    const everything = Object.fromEntries(suppliesOf(plan, work.kitchen).map((x) => [x.item, 1e6]));
    expect(wordsOf(workSheet('shopping', plan, { ...work, kitchen: { ...work.kitchen, stock: everything } })).join(' ')).toContain(
      'Nothing is missing',
    );
  });
});

describe('tables (RFC 4180), read back by another package', () => {
  it('every task is a row, and nothing in it is a formula', () => {
    const rows = parse(planTable(plan, 'plan'), { columns: true }) as Record<string, string>[];
    expect(rows.map((r) => [r['start'], r['tray'], r['what']])).toEqual(
      plan.tasks.map((t) => [new Date(Date.parse(plan.epoch as string) + t.startS * 1000).toISOString(), t.trayId, t.title]),
    );
    const named = { ...plan, tasks: plan.tasks.map((t, i) => (i === 0 ? { ...t, title: '=1+2, "so"\nto say' } : t)) };
    const [first] = parse(planTable(named, 'plan'), { columns: true }) as Record<string, string>[];
    expect(first?.['what']).toBe(`'=1+2, "so"\nto say`);
    expect(parse(planTable(plan, 'bags'), { columns: true })).toHaveLength(bagsOf(plan).length);
    expect(parse(planTable(plan, 'waits'), { columns: true })).toHaveLength(plan.waits.length);
    const listed = {
      name: 'Quay, "east"',
      packBy: '2026-12-02T19:00:00.000Z',
      cookies: 24,
      trays: 3,
      designs: [{ name: 'Buoy', count: 24 }],
    };
    expect(parse(ordersTable([{ ...listed, plan: null, run: { done: 2, total: 9 } }]), { columns: true })).toEqual([
      expect.objectContaining({ order: 'Quay, "east"', due: listed.packBy, designs: '24 Buoy', begins: '', 'steps done': '2', steps: '9' }),
    ]);
  });
});
