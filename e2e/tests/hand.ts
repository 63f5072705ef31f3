import type { Locator, Page } from '@playwright/test';

/** Every press, choice and typed word is one action of the hand. */
export function counted(page: Page) {
  let actions = 0;
  const surface = page.getByRole('application', { name: /The cookie, to pipe on/ });
  const at = async (x: number, y: number) => {
    await surface.scrollIntoViewIfNeeded();
    const box = await surface.boundingBox();
    if (!box) throw new Error('there is nothing to pipe on');
    // The cookie is fitted into its place: the shorter side is the whole of it.
    const side = Math.min(box.width, box.height);
    return [box.x + box.width / 2 + (x - 0.5) * side, box.y + box.height / 2 + (y - 0.5) * side] as const;
  };
  return {
    get actions() {
      return actions;
    },
    press: async (it: Locator) => {
      actions += 1;
      await it.click();
    },
    fill: async (it: Locator, text: string) => {
      actions += 1;
      await it.fill(text);
    },
    choose: async (it: Locator, what: string) => {
      actions += 1;
      await it.selectOption(what);
    },
    tap: async (x: number, y: number) => {
      actions += 1;
      const [px, py] = await at(x, y);
      await page.mouse.click(px, py);
    },
    stroke: async (...way: readonly (readonly [number, number])[]) => {
      actions += 1;
      for (const [i, [x, y]] of way.entries()) {
        const [px, py] = await at(x, y);
        await page.mouse.move(px, py, { steps: 6 });
        if (i === 0) await page.mouse.down();
      }
      await page.mouse.up();
    },
  };
}
