import { test } from '@playwright/test';
test('look', async ({ page }) => {
  await page.setViewportSize({ width: 1280, height: 800 });
  await page.goto('/designs'); await page.waitForTimeout(1500);
  await page.getByRole('link', { name: /Mackerel/i }).first().click(); await page.waitForTimeout(1500);
  await page.getByRole('list', { name: 'One picture a step' }).scrollIntoViewIfNeeded(); await page.waitForTimeout(2500);
  await page.screenshot({ path: '/tmp/look-strip.png' });
  await page.goto('/orders'); await page.getByRole('link', { name: /all six dozen/ }).first().click(); await page.waitForTimeout(3000);
  await page.screenshot({ path: '/tmp/look-order.png' });
  await page.getByRole('link', { name: /^Rack/ }).first().click(); await page.waitForTimeout(6000);
  await page.screenshot({ path: '/tmp/look-rack.png' });
});
