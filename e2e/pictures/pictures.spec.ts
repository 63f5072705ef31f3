import { expect, test } from '@playwright/test';
import { setUpLight } from '../tests/light.js';
import { advance, deadTime, nowMs, order, run } from '../tests/support.js';

// One current picture of each main view, from the demo data: `npm run screenshots`.
const to = (name: string) => new URL(`../../docs/screenshots/${name}.png`, import.meta.url).pathname;

test('pictures of the places', async ({ page, request }) => {
  test.setTimeout(300_000);
  // Until every picture is there and painted, and nothing moves any more.
  const calm = async () => {
    await page.waitForTimeout(800);
    await expect(page.locator('.loading, span[role=img], [data-painted=false]')).toHaveCount(0, { timeout: 30_000 });
    await page.waitForTimeout(200);
  };
  const lamp = async (on: boolean) => {
    await page.evaluate((theme) => localStorage.setItem('kestfog.theme', theme), on ? 'lamp' : 'fog');
    await page.reload();
    await calm();
  };
  await page.goto('/orders');
  await calm();
  await page.screenshot({ path: to('orders') });
  await page.goto('/kitchen');
  await calm();
  await page.screenshot({ path: to('kitchen') });
  await page.goto('/designs');
  await calm();
  await page.screenshot({ path: to('designs') });
  const design = async (name: string) => {
    await page.goto('/designs');
    await page.getByRole('link', { name: new RegExp(name) }).click();
    await calm();
    await calm();
  };
  await design('Sea glass');
  await page.screenshot({ path: to('design-wet-preview') });
  await design('Sailboat');
  await page.getByRole('tab', { name: /checks/ }).click();
  await lamp(true);
  await page.getByRole('tab', { name: /checks/ }).click();
  await calm();
  await page.screenshot({ path: to('design-checks-lamp') });
  await lamp(false);
  await design('Gull');
  await page.getByRole('tab', { name: 'school' }).click();
  await calm();
  await page.screenshot({ path: to('design-schools') });
  const regatta = await order(request, /first dozen pairs/);
  const whole = await order(request, /six dozen/);
  await page.goto(`/orders/${whole.id}`);
  await page.getByText(/simulated evenings/).waitFor();
  await calm();
  await page.screenshot({ path: to('order') });
  await page.goto(`/orders/${regatta.id}/icing`);
  await calm();
  await page.screenshot({ path: to('icing') });
  await page.getByRole('link', { name: 'air and drying' }).click();
  await page.getByRole('region', { name: 'Drying' }).scrollIntoViewIfNeeded();
  await page.evaluate(() => document.querySelector('section[aria-label="Drying"]')?.scrollIntoView());
  await calm();
  await page.screenshot({ path: to('drying') });
  await page.goto(`/orders/${whole.id}/rack`);
  await calm();
  await page
    .getByRole('button', { name: /tray A: flood back/ })
    .first()
    .click();
  await calm();
  await page.screenshot({ path: to('rack') });
  await page.goto(`/orders/${whole.id}/sheets`);
  await page.getByRole('img', { name: /run sheet, page 1/ }).waitFor();
  await calm();
  await page.screenshot({ path: to('sheets') });
  await page.goto('/notebook');
  await page.getByRole('heading', { name: /Rowing club/ }).click();
  await page.getByRole('img', { name: /Every visit/ }).waitFor();
  await calm();
  await page.screenshot({ path: to('notebook') });
  // Rehearsed in a damp kitchen by who never puts a finger to anything.
  await page.goto(`/orders/${regatta.id}/rehearse`);
  await page.getByRole('radio', { name: /a damp one/ }).click();
  await page.getByRole('button', { name: 'To the bench' }).click();
  await page.getByRole('radio', { name: 'stopped' }).click();
  const verdict = page.getByRole('heading', { name: /came wrong|came out right/ });
  const skip = page.getByRole('button', { name: 'Skip the wait' });
  for (let i = 0; i < 120 && !(await verdict.isVisible()); i++) {
    if (await skip.isEnabled().catch(() => false)) await skip.click();
    await page.keyboard.press('PageDown');
    await deadTime(page);
  }
  await calm();
  await calm();
  await page.screenshot({ path: to('rehearsal') });

  await advance(request, (Date.parse(regatta.plan?.startsAt as string) - (await nowMs(request))) / 1000);
  await page.goto(`/orders/${regatta.id}`);
  await page.getByRole('button', { name: 'Go to the bench' }).click();
  await page.waitForURL(/\/runs\//);
  await calm();
  const id = page.url().split('/').at(-1) as string;
  const { plan } = await run(request, id);
  const forward = page.getByRole('button', { name: /^(Begin|Done|Go on)/ });
  await forward.waitFor();
  await page.keyboard.press('Space');
  const sharp = page.getByRole('region', { name: 'Sharp tools' });
  for (let n = 0; n < 5; n++) await sharp.getByRole('button', { name: 'one sharp tool more' }).click();
  await sharp.getByRole('button', { name: 'counted out' }).click();
  let taken = { window: false, waiting: false, evening: false };
  for (let i = 0; i < plan.tasks.length && !taken.evening; i++) {
    await deadTime(page);
    if ((await forward.textContent()) === 'Begin already') {
      if (!taken.waiting) {
        await calm();
        await page.screenshot({ path: to('bench-waiting') });
        taken = { ...taken, waiting: true };
      }
      if (await page.getByText(/Done for today/).isVisible()) {
        await calm();
        taken = { ...taken, evening: true };
        break;
      }
      for (let guard = 0; guard < 400 && (await forward.textContent()) === 'Begin already'; guard++) {
        await advance(request, 120);
        await page.waitForTimeout(50);
      }
    }
    if ((await forward.textContent()) !== 'Done') {
      await page.keyboard.press('Space');
      await deadTime(page);
    }
    const task = plan.tasks[i];
    const s = task ? task.endS - task.startS : 60;
    await advance(request, Math.round(s * 0.45));
    if (!taken.window && i > 8 && (await page.getByRole('region', { name: 'Closing' }).isVisible())) {
      await calm();
      await page.screenshot({ path: to('bench') });
      await page.setViewportSize({ width: 390, height: 844 });
      await lamp(false);
      await page.screenshot({ path: to('bench-phone') });
      await page.setViewportSize({ width: 1280, height: 800 });
      await page.goto(`/runs/${id}/light`);
      await page.getByLabel('simulated table').check();
      await setUpLight(page);
      await calm();
      await page.screenshot({ path: to('light') });
      await page.goto(`/runs/${id}`);
      await forward.waitFor();
      await page.getByRole('button', { name: 'a defect' }).click();
      await page.getByRole('button', { name: 'a crater, it caved in' }).click();
      await calm();
      await page.screenshot({ path: to('bench-rescue') });
      await page.getByRole('button', { name: 'make it a tie-dye' }).click();
      taken = { ...taken, window: true };
    }
    await advance(request, Math.round(s * 0.55));
    await page.keyboard.press('Space');
  }
});
