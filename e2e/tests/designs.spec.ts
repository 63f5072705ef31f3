import { marksOf } from '@kestfog/core/design';
import type { DesignSummary, DesignView } from '@kestfog/core/wire';
import { expect, test } from '@playwright/test';
import { sendOrder, violationsOf, watchForErrors } from './support.js';

const PENNANTS = `<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 200 120"><rect id="cookie" data-part="cookie" width="200" height="120" fill="#d9a566"/>
<rect id="left" x="10" y="10" width="90" height="100" fill="#f6f3ea"/><rect id="right" x="100" y="10" width="90" height="100" fill="#3f7f86"/>
<path id="wing" d="M120 30H160V60H120Z" fill="#22343c" data-over="layer"/><text x="10" y="20">hello</text></svg>`;

test('a drawing is brought, sized, worked on, reordered with a warning, undone, kept, and planned', async ({ page, request }) => {
  const errors = watchForErrors(page);
  await page.goto('/designs');
  await expect(page.getByRole('link', { name: /Lighthouse/ })).toBeVisible();
  await page
    .getByLabel('Bring a drawing')
    .setInputFiles({ name: 'broken.svg', mimeType: 'image/svg+xml', buffer: Buffer.from('<svg><script/></svg>') });
  await expect(page.getByRole('alert')).toContainText('The drawing was not taken');
  await page
    .getByLabel('Bring a drawing')
    .setInputFiles({ name: 'pennants.svg', mimeType: 'image/svg+xml', buffer: Buffer.from(PENNANTS) });
  await expect(page.getByRole('heading', { level: 1, name: 'pennants' })).toBeVisible();

  // What was read and what was skipped.
  await page.getByRole('tab', { name: 'reading' }).click();
  await expect(page.getByText('Text was skipped: turn it into paths to pipe it.')).toBeVisible();

  // The real size, refused where it makes no sense.
  const width = page.getByLabel('cookie’s width, mm');
  await width.fill('-4');
  await expect(page.getByText('The width goes from 10 to 400 mm.')).toBeVisible();
  await width.fill('90');
  await page.getByRole('button', { name: 'Set it' }).click();
  await expect(width).toHaveValue('90');

  // Stripes and a drag in the left field; the preview changes with each.
  const stack = page.getByRole('list', { name: 'Parts in the order they are piped' });
  await stack.getByRole('button', { name: /left/ }).last().click();
  const panel = page.getByRole('region', { name: 'Part: left' });
  await panel.getByRole('combobox', { name: 'wet in it' }).selectOption('stripes');
  await panel.getByRole('button', { name: 'Lay them in' }).click();
  const motions = page.getByRole('region', { name: 'Motions in the wet left' });
  await expect(motions.getByText(/\d+ of \d+ in the wet left: a line/)).toBeVisible();
  const cookie = page.getByRole('img', { name: /pennants, \d+ mm wide/ }).locator('image');
  await expect(cookie).toBeAttached();
  const shown = () => cookie.getAttribute('href');
  const before = await shown();
  await panel.getByRole('combobox', { name: 'wet in it' }).selectOption('drag-straight');
  await panel.getByLabel('angle, °').fill('90');
  await panel.getByRole('button', { name: 'Drag it' }).click();
  await expect.poll(shown).not.toBe(before);
  // Step through the motions one by one, scrub to the first, and play them at the hands' pace.
  await expect(page.getByRole('img', { name: /pennants, \d+ mm wide/ })).toHaveAttribute('data-painted', 'true');
  const all = await shown();
  await motions.getByRole('button', { name: 'one motion back' }).click();
  await expect.poll(shown).not.toBe(all);
  await motions.getByLabel('motions made').fill('1');
  await expect(motions.getByText(/1 of \d+ in the wet left: a line/)).toBeVisible();
  await motions.getByRole('button', { name: 'play the motions' }).click();
  await expect(motions.getByText(/[2-9] of \d+ in the wet left/)).toBeVisible({ timeout: 15_000 });
  await motions.getByRole('button', { name: 'pause' }).click();
  // Many at a time: the first would be standing already, and the preview says what becomes of it.
  await motions.getByLabel('cookies worked together').fill('12');
  await expect(motions.getByText(/before the first is thickening|stays wet long enough|even one alone/)).toBeVisible();
  await motions.getByLabel('cookies worked together').fill('1');

  // Another order by keyboard: the layer stays behind its base, with the reason.
  const wing = stack.getByRole('button', { name: 'move wing' });
  await wing.focus();
  // The list is measured anew after each key, so each gets its moment.
  for (const key of ['Space', ...Array<string>(6).fill('ArrowUp'), 'Space']) {
    await page.keyboard.press(key);
    await page.waitForTimeout(250);
  }
  await expect(
    page.getByText(/It cannot go there: wing would be wholly covered|Nothing follows|as many rounds as before|more round/),
  ).toBeVisible();

  // Words of its own: what the school says stands in the field; one that contradicts another is refused; undo takes it back.
  await stack.getByRole('button', { name: /wing/ }).last().click();
  const wingPanel = page.getByRole('region', { name: 'Part: wing' });
  const needs = wingPanel.getByRole('combobox', { name: 'lies on icing that is' });
  await expect(needs).toContainText('as the school says: set');
  await needs.selectOption('crusted');
  await wingPanel.getByText(/^why here/).click();
  await expect(wingPanel.getByText(/asks crusted of right .*as it was said of wing/)).toBeVisible();
  await wingPanel.getByLabel('after at least, min').fill('90');
  await wingPanel.getByLabel('after at least, min').press('Enter');
  await wingPanel.getByLabel('within, min').fill('30');
  await wingPanel.getByLabel('within, min').press('Enter');
  await expect(page.getByText(/"wing" says data-wait-min="90" and data-within-min="30", which contradict each other/)).toBeVisible();
  await page.getByRole('button', { name: 'undo' }).click();
  await expect(wingPanel.getByLabel('after at least, min')).toHaveValue('');
  await wingPanel.getByRole('combobox', { name: 'dam', exact: true }).selectOption('contrast');
  await expect(wingPanel.getByLabel('its colour')).toHaveValue('#3a3f45');
  await page.getByRole('button', { name: 'undo' }).click();
  await page.getByRole('button', { name: 'undo' }).click();
  await expect(needs).toHaveValue('');
  await stack.getByRole('button', { name: /left/ }).last().click();

  // Undo with the keyboard, and again with the button; kept by the server.
  const id = new URL(page.url()).pathname.split('/').at(-1) as string;
  const marks = async () => marksOf(((await (await request.get(`/api/designs/${id}`)).json()) as DesignView).drawing).length;
  await expect.poll(marks).toBeGreaterThan(5);
  await expect(page.getByText('kept', { exact: true })).toBeVisible();
  const count = await marks();
  await page.locator('h1').click();
  // The last edit may be the new order, which lays no marks: undo once more, then.
  const slowly = { intervals: [0, 1500, 1500], timeout: 10_000 };
  await expect(async () => {
    await page.keyboard.press('Control+z');
    await page.waitForTimeout(1200);
    expect(await marks()).toBeLessThan(count);
  }).toPass(slowly);
  await expect(async () => {
    await page.getByRole('button', { name: 'redo' }).click();
    await page.waitForTimeout(1200);
    expect(await marks()).toBe(count);
  }).toPass(slowly);
  await page.reload();
  await expect(page.getByRole('region', { name: 'Motions in the wet left' })).toBeVisible();

  // Checks, a school of one's own, and the axe.
  await page.getByRole('tab', { name: /checks/ }).click();
  await expect(page.getByRole('region', { name: 'Checks' }).getByText('rounds of drying')).toBeVisible();
  await page.getByRole('tab', { name: 'school' }).click();
  await page.getByRole('button', { name: 'Copy to change it' }).click();
  const own = page.getByRole('group', { name: 'Your own school' });
  const waits = own.getByLabel('a neighbour waits, times crusting');
  await waits.fill('9');
  await expect(own.getByText('This goes from 0.3 to 4.')).toBeVisible();
  await waits.fill('2');
  await own.getByLabel('grains, when all around is').selectOption('dry');
  await expect(own.getByText('in practice: 10 min to an hour: half a crust to three')).toBeVisible();
  await own.getByRole('button', { name: 'Keep this school' }).click();
  await expect(page.getByRole('cell', { name: '2 ×', exact: true })).toBeVisible();
  await page.getByLabel('every row, with what practitioners tell of it').check();
  await expect(page.getByRole('row', { name: /grains, when all around is.*dry/ })).toBeVisible();
  await own.getByRole('button', { name: 'Delete it' }).click();
  await expect(own).toBeHidden();
  expect(await violationsOf(page)).toEqual([]);

  // It can be ordered and planned.
  const made = await sendOrder(request, { name: 'Pennants', designs: [{ designId: id, count: 4 }], trays: [{ id: 'A', places: 4 }] });
  await page.goto(`/orders/${made.id}`);
  await page.getByRole('button', { name: 'Plan it' }).click();
  await expect(page.getByText('It fits.')).toBeVisible();
  await request.delete(`/api/orders/${made.id}`);
  await request.delete(`/api/designs/${id}`);
  expect(errors).toEqual([]);
});

test('from a shape of our own to quarters of two colours', async ({ page, request }) => {
  const errors = watchForErrors(page);
  await page.goto('/designs');
  await page.getByRole('button', { name: 'scalloped round' }).click();
  await expect(page.getByRole('heading', { level: 1, name: 'scalloped round' })).toBeVisible();
  await page.getByRole('combobox', { name: 'divide it' }).selectOption('quarters');
  await page.getByRole('button', { name: 'Divide', exact: true }).click();
  const stack = page.getByRole('list', { name: 'Parts in the order they are piped' });
  await expect(stack.getByRole('listitem')).toHaveCount(4);
  // A quarter cut again along two picked points.
  await page.getByRole('button', { name: 'or pick two points' }).click();
  const cookie = page.locator('svg.cursor-crosshair');
  const box = await cookie.boundingBox();
  if (!box) throw new Error('the cookie is not on the page');
  await page.mouse.click(box.x + box.width * 0.55, box.y + box.height * 0.5);
  await page.mouse.click(box.x + box.width * 0.75, box.y + box.height * 0.75);
  await stack
    .getByRole('button', { name: /base 1/ })
    .last()
    .click();
  await page.getByRole('button', { name: 'Divide along the two points' }).click();
  await expect(stack.getByRole('listitem')).toHaveCount(5);
  await page.keyboard.press('Control+z');
  await expect(stack.getByRole('listitem')).toHaveCount(4);
  await page.getByRole('tab', { name: /checks/ }).click();
  await expect(page.getByRole('region', { name: 'Checks' }).getByText('2', { exact: true })).toBeVisible();
  await page.getByRole('button', { name: 'Delete', exact: true }).click();
  await expect(page.getByRole('heading', { level: 1, name: 'Designs' })).toBeVisible();
  const left = (await (await request.get('/api/designs/choices')).json()) as DesignSummary[];
  expect(left.map((d) => d.name)).not.toContain('scalloped round');
  expect(errors).toEqual([]);
});
