import { expect, test } from '@playwright/test';
import { advance, deadTime, nowMs, order, run, violationsOf, watchForErrors } from './support.js';

test('the harbour regatta, from the order to the last carton', async ({ page, request }) => {
  test.setTimeout(240_000);
  const errors = watchForErrors(page);

  // The order, and what the plan says of it.
  await page.goto('/');
  await page.getByRole('link', { name: /first dozen pairs/ }).click();
  await expect(page.getByText('It fits.')).toBeVisible();
  expect(await violationsOf(page)).toEqual([]);

  // The rack: three trays, and a step that says why it waits.
  await page.getByRole('link', { name: 'See the rack' }).click();
  await expect(page.getByRole('heading', { name: 'Rack' })).toBeVisible();
  const detail = page.getByRole('region', { name: 'The step' });
  await page.getByRole('region', { name: /The rack/ }).focus();
  for (let i = 0; i < 40 && !(await detail.getByText(/waits .* (crusts|sets) before/).isVisible()); i++)
    await page.keyboard.press('ArrowRight');
  await expect(detail.getByText(/waits .* (crusts|sets) before/)).toBeVisible();
  expect(await violationsOf(page)).toEqual([]);
  await page.goBack();

  // To the bench, when the bench opens.
  const regatta = await order(request, /first dozen pairs/);
  await advance(request, (Date.parse(regatta.plan?.startsAt as string) - (await nowMs(request))) / 1000);
  await page.getByRole('button', { name: 'Go to the bench' }).click();
  await expect(page.getByRole('heading', { name: 'Ready when you are' })).toBeVisible();
  await page.keyboard.press('Space');
  await expect(page.getByText('0 of', { exact: false })).toBeVisible();
  const runId = page.url().split('/').at(-1) as string;
  const { plan } = await run(request, runId);
  const total = plan.tasks.length;
  const forward = page.getByRole('button', { name: /^(Begin|Done|Go on)/ });
  const doneCount = (n: number) => expect(page.getByText(`${n} of ${total} done`)).toBeVisible();
  expect(await violationsOf(page)).toEqual([]);

  const sharp = page.getByRole('region', { name: 'Sharp tools' });
  await sharp.getByRole('button', { name: 'one sharp tool more' }).click();
  await sharp.getByRole('button', { name: 'one sharp tool more' }).click();
  await sharp.getByRole('button', { name: 'counted out' }).click();
  await expect(sharp).toBeHidden();
  // The lines for the hands are hidden once they are known, and can be read again.
  let sawHands = false;

  let sawClosing = 0;
  let sawWaiting = 0;
  let undone = false;
  let reloaded = false;
  let sawEvening = false;
  let cautions = 0;
  for (let done = 0; done < total; done++) {
    // Where something has to dry first the bench says until when; the clock is moved there.
    if ((await forward.textContent()) === 'Begin already') {
      sawWaiting += 1;
      await expect(page.getByText(/Nothing until|Done for today/)).toBeVisible();
      if (await page.getByText('Done for today. Back at Sat 07:00').isVisible()) {
        sawEvening = true;
        await expect(page.getByText(/dry overnight/)).toBeVisible();
        // What went out comes back in: one that is missing is looked for before anything is packed.
        const tools = page.getByRole('region', { name: 'Sharp tools' });
        await expect(tools.getByText(/^2 sharp tools went out, and \d+ bags were cut/)).toBeVisible();
        await tools.getByRole('button', { name: 'one sharp tool less' }).click();
        await tools.getByRole('button', { name: 'counted in' }).click();
        await expect(page.getByRole('alert').filter({ hasText: '1 sharp tool missing' })).toBeVisible();
      }
      // A caution is there once a day, and gone when it is read.
      const caution = page.getByRole('region', { name: 'Caution' });
      if ((await caution.isVisible()) && cautions < 20) {
        const text = await caution.locator('p').textContent();
        await caution.getByRole('button', { name: 'understood' }).click();
        await expect(page.getByText(text as string)).toBeHidden();
        cautions += 1;
      }
      const began = await nowMs(request);
      for (let guard = 0; guard < 2000 && (await forward.textContent()) === 'Begin already'; guard++) {
        const step = (await nowMs(request)) - began > 3 * 3_600_000 ? 3600 : 300;
        await advance(request, step);
        await page.waitForTimeout(60);
      }
      await expect(forward).toHaveText('Begin');
      await page.keyboard.press('PageDown');
    } else if ((await forward.textContent()) === 'Begin') {
      await page.keyboard.press('PageDown');
    }
    await expect(forward).toHaveText('Done');
    const task = (await page.getByRole('heading', { level: 1 }).textContent()) as string;
    const hands = page.getByRole('region', { name: 'For the hands' });
    if (!sawHands && (await hands.getByRole('heading', { name: 'Flood' }).isVisible())) {
      sawHands = true;
      await expect(hands.getByText('fill to a dome')).toBeVisible();
      await hands
        .getByRole('listitem')
        .filter({ hasText: 'fill to a dome' })
        .locator('xpath=../..')
        .getByRole('button', { name: 'I know this' })
        .click();
      await expect(hands.getByText('fill to a dome')).toBeHidden();
      await hands.getByRole('button', { name: 'how is it done: flood?' }).click();
      await expect(hands.getByText('fill to a dome')).toBeVisible();
    }
    if (await page.getByRole('region', { name: 'Closing' }).isVisible()) {
      sawClosing += 1;
      await expect(
        page
          .getByRole('region', { name: 'Closing' })
          .getByText(/^\d+:\d\d$/)
          .first(),
      ).toBeVisible();
    }
    await advance(request, 45);
    await deadTime(page);
    if (done === 3) {
      // Pedals bounce: five presses at once make one step.
      await page.evaluate(() => {
        for (let i = 0; i < 5; i++)
          document.body.dispatchEvent(new KeyboardEvent('keydown', { key: 'PageDown', bubbles: true, cancelable: true }));
      });
    } else await page.keyboard.press('Space');
    await doneCount(done + 1);

    if (done === 6 && !undone) {
      undone = true;
      await deadTime(page);
      await page.getByRole('button', { name: 'undo' }).click();
      await doneCount(done);
      await expect(page.getByRole('heading', { level: 1 })).toHaveText(task);
      await deadTime(page);
      if ((await forward.textContent()) !== 'Done') {
        await forward.click();
        await deadTime(page);
      }
      await forward.click();
      await doneCount(done + 1);
    }
    if (done === Math.floor(total / 2) && !reloaded) {
      reloaded = true;
      await page.reload();
      // Everything is fetched anew: on a slow machine that takes its time.
      await expect(forward).toBeVisible({ timeout: 45_000 });
      await doneCount(done + 1);
    }
    await deadTime(page);
  }
  await expect(page.getByRole('heading', { name: 'All 24 are packed' })).toBeVisible();
  expect(sawClosing).toBeGreaterThan(0);
  expect(sawWaiting).toBeGreaterThan(0);
  expect(undone && reloaded && sawEvening).toBe(true);
  expect(cautions).toBeGreaterThan(0);

  // The log in PostgreSQL tells the same story.
  const story = await run(request, runId);
  const seqs = story.events.map((e) => e.seq);
  expect(seqs).toEqual(seqs.map((_, i) => i + 1));
  expect(story.events[0]?.type).toBe('runStarted');
  const undos = story.events.filter((e) => e.type === 'undone');
  expect(undos).toHaveLength(1);
  const taken = new Set(undos.map((e) => (e.data as { eventId: string }).eventId));
  const dones = story.events.filter((e) => e.type === 'taskDone' && !taken.has(e.id)).map((e) => (e.data as { taskId: string }).taskId);
  expect(dones).toEqual(plan.tasks.map((t) => t.id));
  expect((await order(request, /first dozen pairs/)).run).toMatchObject({ finished: true, done: total });

  // It can be taken along as a file, and what it taught is the kitchen's; a run that was only tried out is left out of that.
  const saved = page.waitForEvent('download');
  await page.getByRole('link', { name: 'Save the run as a file' }).click();
  expect((await saved).suggestedFilename()).toBe('run.json');
  await page.getByRole('link', { name: 'air and drying', exact: true }).click();
  const found = page.getByRole('region', { name: 'What your finger found' });
  await expect(found.getByText(/waits passed without complaint, and count too/)).toBeVisible();
  await found.getByRole('button', { name: 'leave this run out' }).click();
  await expect(found.getByText('left out: nothing is learned from it')).toBeVisible();
  await expect(found.getByRole('button', { name: 'count this run again' })).toBeVisible();
  expect(errors).toEqual([]);
});
