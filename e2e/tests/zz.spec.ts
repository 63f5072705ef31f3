import { expect, test } from '@playwright/test';
test('look', async ({ page }) => {
  await page.setViewportSize({ width: 1280, height: 800 });
  await page.goto('/orders'); await page.waitForTimeout(2500); await page.screenshot({ path: '/tmp/look-orders.png' });
  await page.goto('/designs'); await page.waitForTimeout(2500); await page.screenshot({ path: '/tmp/look-designs.png' });
  await page.getByRole('link', { name: /Mackerel/i }).first().click(); await page.waitForTimeout(2500);
  await page.screenshot({ path: '/tmp/look-design.png', fullPage: true });
});
