import type { DesignSummary, DesignView, Page as ListPage, NotebookRun, OrderSummary, OrderView } from '@kestfog/core/wire';
import { expect, test } from '@playwright/test';
import { order } from '../tests/support.js';

/*
 * A kitchen in English with an accent on each letter: what a page says without one was said past the catalogue. By hand, since the page is
 * built anew in that language: `npm run words:seen`.
 */
test('every view says all its words through the catalogue; only names that somebody gave have no accents', async ({ page, request }) => {
  test.setTimeout(300_000);
  const whole = await order(request, /six dozen/);
  const designs = (await (await request.get('/api/designs/choices')).json()) as DesignSummary[];
  const [first] = designs;
  // What users name: designs, their parts, orders, hands; and what has its own spelling.
  const words = (text: string) => text.match(/\p{L}{2,}/gu) ?? [];
  const orders = (await (await request.get('/api/orders')).json()) as ListPage<OrderSummary>;
  const runs = (await (await request.get('/api/notebook/runs')).json()) as ListPage<NotebookRun>;
  const { notes } = (await (await request.get(`/api/orders/${whole.id}`)).json()) as OrderView;
  const names = [...orders.items.map((o) => o.name), ...runs.items.map((r) => r.orderName), notes ?? ''].flatMap(words);
  const given = new Set(['Kestfog', 'me', ...names]);
  for (const d of designs) {
    const view = (await (await request.get(`/api/designs/${d.id}`)).json()) as DesignView;
    for (const w of words([d.name, ...[...view.document.svg.matchAll(/(?:data-name|id)="([^"]*)"/g)].map((m) => m[1])].join(' ')))
      given.add(w);
  }
  const views = [
    '/orders',
    '/orders/new',
    ...['', '/rack', '/icing', '/icing/mixing', '/icing/count', '/icing/air', '/sheets', '/rehearse'].map((p) => `/orders/${whole.id}${p}`),
    '/designs',
    ...['', '?tab=checks', '?tab=school', '?tab=reading'].map((tab) => `/designs/${first?.id}${tab}`),
    '/kitchen',
    '/notebook?ask=crust',
    '/practice',
    '/practice/surfaces',
    '/not-kept',
    '/nowhere',
  ];
  const past: string[] = [];
  for (const view of views) {
    await page.goto(view);
    await expect(page.getByRole('heading', { level: 1 })).toBeVisible();
    await page.waitForTimeout(1500);
    const said = await page.evaluate(() => {
      for (const d of document.querySelectorAll('details')) d.open = true;
      const texts: string[] = [];
      const nodes = document.createTreeWalker(document.body, NodeFilter.SHOW_TEXT);
      for (let n = nodes.nextNode(); n; n = nodes.nextNode())
        if (!n.parentElement?.closest('code, script, style')) texts.push(n.textContent ?? '');
      for (const e of document.querySelectorAll('*'))
        for (const name of ['aria-label', 'title', 'alt', 'placeholder']) texts.push(e.getAttribute(name) ?? '');
      return texts;
    });
    // Days and months are named by the package of dates.
    const ofTime =
      /\b(Mon|Tues?|Wed|Wednes|Thu|Thurs|Fri|Sat|Satur|Sun)(day)?\b|\b(Jan(uary)?|Feb(ruary)?|Mar(ch)?|Apr(il)?|May|June?|July?)\b/g;
    for (const text of new Set(said))
      if (words(text.replace(ofTime, '')).some((w) => /^[A-Za-z]+$/.test(w) && !given.has(w))) past.push(`${view}: ${text}`);
  }
  expect(past).toEqual([]);
});
