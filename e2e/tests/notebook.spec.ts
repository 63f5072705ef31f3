import { expect, test } from '@playwright/test';
import { advance, benchReady, deadTime, forwardOf, makeOrder, untilReady, violationsOf, watchForErrors } from './support.js';

test.use({ serviceWorkers: 'allow' });

/** One red pixel, PNG. */
const DOT = Buffer.from('iVBORw0KGgoAAAANSUhEUgAAAAEAAAABCAYAAAAfFcSJAAAADUlEQVR42mP8z8BQDwAEhQGAhKmMIQAAAABJRU5ErkJggg==', 'base64');

test('an evening that is worked comes to the notebook by itself; a lesson comes back with its design; a wrong time is put right', async ({
  page,
  request,
}) => {
  test.setTimeout(240_000);
  const errors = watchForErrors(page);
  // On the first day there are the demo's own evenings, and they say that nobody worked them.
  await page.goto('/notebook');
  await expect(page.getByRole('heading', { name: /Lighthouse open day/ })).toContainText('simulated');
  expect(await violationsOf(page)).toEqual([]);

  const begun = await benchReady(request, 'Noted flags', { 'Signal flag': 2 });
  await page.goto(`/runs/${begun.id}`);
  await expect(page.getByRole('heading', { name: 'Ready when you are' })).toBeVisible();
  await page.keyboard.press('PageDown');
  await untilReady(page, request);
  // A photo while the network is away waits on the device; a word is said with hands full of icing.
  const keep = async () => page.getByLabel('Reports').getByRole('button', { name: 'a photo or a word' }).click();
  await page.context().setOffline(true);
  await keep();
  await page.getByLabel('take a photo').setInputFiles({ name: 'flag.png', mimeType: 'image/png', buffer: DOT });
  await expect(page.getByText('The photo is in the notebook, once the server answers again.')).toBeVisible();
  await page.context().setOffline(false);
  expect(await violationsOf(page)).toEqual([]);
  await page.getByLabel('take a photo').setInputFiles({ name: 'notes.txt', mimeType: 'text/plain', buffer: Buffer.from('no photo') });
  await expect(page.getByRole('alert')).toContainText('notes.txt is no photo this page can read');
  await page.getByRole('button', { name: 'say it' }).click();
  await expect(page.getByRole('button', { name: /done, 1 s/ })).toBeVisible();
  await page.getByRole('button', { name: /done, \d s/ }).click();
  await expect(page.getByText('What you said is in the notebook, and comes back with this step.')).toBeVisible();
  await page.keyboard.press('Escape');
  for (let step = 0; step < 60 && !(await page.getByRole('heading', { name: /are packed/ }).isVisible()); step++) {
    await untilReady(page, request);
    await deadTime(page);
    if ((await forwardOf(page).textContent()) === 'Done') await advance(request, 45);
    await page.keyboard.press('PageDown');
    await expect(page.getByText(/not saved yet/)).toBeHidden();
  }
  await page.getByRole('link', { name: 'compared with its plan' }).click();
  await expect(page.getByRole('heading', { level: 1, name: 'Noted flags' })).toBeVisible();
  await expect(page.getByRole('img', { name: /Every visit as planned and as it was/ })).toBeVisible();
  expect(await violationsOf(page)).toEqual([]);

  // A lesson, for the next time this design comes up.
  await page.getByLabel('what is to be done otherwise').fill('Thicker red.');
  await page.getByRole('button', { name: 'Write it down' }).click();
  await expect(page.getByLabel('what is to be done otherwise')).toHaveValue('');
  await expect(page.getByRole('region', { name: 'Lessons' }).getByRole('listitem')).toContainText('Thicker red.');

  // What was photographed and said; taken away by mistake, it is put back.
  const recordings = page.getByRole('region', { name: 'Photos and spoken words' });
  await recordings.getByRole('button', { name: /Larger: photo/ }).click();
  const photo = page.getByRole('img', { name: /What was photographed/ });
  await expect.poll(() => photo.evaluate((img: HTMLImageElement) => img.naturalWidth)).toBe(1);
  await page.keyboard.press('Escape');
  expect(await recordings.locator('audio').evaluate((a: HTMLAudioElement) => a.play().then(() => a.error))).toBeNull();
  await recordings.getByRole('button', { name: /Take away: photo/ }).click();
  await expect(recordings.getByRole('button', { name: /Larger: photo/ })).toBeHidden();
  await page.getByRole('button', { name: 'put it back' }).click();
  await expect(recordings.getByRole('button', { name: /Larger: photo/ })).toBeVisible();

  // The second visit was ended ten minutes later than was said.
  const visit = page.getByRole('region', { name: 'Visits' }).getByRole('row').nth(2);
  await visit.getByRole('button', { name: 'put right' }).click();
  const done = visit.getByLabel('done');
  const said = await done.inputValue();
  const later = new Date(`${said}Z`);
  later.setUTCMinutes(later.getUTCMinutes() + 1);
  await done.fill(later.toISOString().slice(0, 16));
  await visit.getByRole('button', { name: 'It was then' }).click();
  await expect(visit.getByText(/put right; said at the bench/)).toBeVisible();
  await visit.getByRole('button', { name: 'put right' }).click();
  await visit.getByRole('button', { name: 'As it was said' }).click();
  await expect(visit.getByText(/put right; said at the bench/)).toBeHidden();
  const file = page.waitForEvent('download');
  await page.getByRole('button', { name: 'Table of real times' }).click();
  expect((await file).suggestedFilename()).toBe('Noted-flags-times.csv');

  // The next order of that design shows it, and so does its bench.
  const next = await makeOrder(request, 'More flags', { 'Signal flag': 2 });
  await page.goto(`/orders/${next.id}`);
  await expect(page.getByRole('region', { name: 'From the notebook' })).toContainText('Thicker red.');
  const again = await benchReady(request, 'Flags again', { 'Signal flag': 2 });
  await page.goto(`/runs/${again.id}`);
  await expect(page.getByRole('heading', { name: 'Ready when you are' })).toBeVisible();
  await page.keyboard.press('PageDown');
  await expect(page.getByRole('region', { name: 'From the notebook' })).toContainText('Thicker red.');
  await expect(page.getByRole('region', { name: 'From the notebook' }).locator('audio')).toBeVisible();

  // Deleted with all that was logged, its order leaves the notebook whole; found by a word of the lesson.
  for (const id of [next.id, again.orderId, begun.orderId]) {
    await request.delete(`/api/orders/${id}`);
    await request.delete(`/api/orders/${id}/for-good`);
  }
  await page.goto('/notebook');
  await page.getByLabel('look for an evening').fill('thicker');
  await expect(page.getByRole('heading', { name: 'Noted flags' })).toBeVisible();
  await page.getByRole('heading', { name: 'Noted flags' }).click();
  await expect(page.getByRole('img', { name: /Every visit as planned/ })).toBeVisible();
  await page.getByRole('button', { name: 'Take away: Thicker red.' }).click();
  await expect(page.getByRole('region', { name: 'Lessons' }).getByText('Thicker red.')).toBeHidden();

  // Each question is answered on a screen, with how sure it is.
  await page.goto('/notebook');
  for (const [ask, answer] of [
    ['how long does crust take?', /eight times in ten between/],
    ['which design costs most nerves?', /hour of hands on that design/],
    ['what went wrong last time?', /Nothing was said to have gone wrong/],
    ['am I getting faster?', /beside what is assumed of anybody/],
    ['how do my bags count?', /Bags that are counted, as they are mixed or at the bench, tell it/],
    ['was the plan honest?', /waits planned to be long enough for 80 in 100/],
  ] as const) {
    await page.getByRole('radio', { name: ask }).click();
    await expect(page.getByText(answer).first()).toBeVisible();
    expect(await violationsOf(page)).toEqual([]);
  }
  // Tapped through in no time, it must not teach the kitchen of the journeys that follow.
  await request.put(`/api/bench-touches/${begun.id}`, { data: { leftOut: true } });
  expect(errors).toEqual([]);
});
