import type { Locator, Page } from '@playwright/test';

/**
 * Seconds of the Keystroke-Level Model (Card, Moran & Newell, "The keystroke-level model for user performance time with interactive
 * systems", CACM 23, 1980; from memory): thinking before an action, pointing, a press and its release, a key of an average typist,
 * and a drawn line by its straight pieces and its length on the screen.
 */
const THINK_S = 1.35;
const POINT_S = 1.1;
const PRESS_S = 0.2;
const KEY_S = 0.28;
const PIECE_S = 0.9;
const CM_S = 0.16;
/** CSS defines 96 px to an inch. */
const PX_PER_CM = 96 / 2.54;

/** Every press, choice and typed word is one action of the hand; how long a hand would take for them is reckoned beside it. */
export function counted(page: Page) {
  let actions = 0;
  let seconds = 0;
  const took = (s: number) => {
    actions += 1;
    seconds += THINK_S + POINT_S + PRESS_S + s;
  };
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
    get seconds() {
      return seconds;
    },
    press: async (it: Locator) => {
      took(0);
      await it.click();
    },
    fill: async (it: Locator, text: string) => {
      took(KEY_S * text.length);
      await it.fill(text);
    },
    choose: async (it: Locator, what: string) => {
      took(POINT_S + PRESS_S);
      await it.selectOption(what);
    },
    tap: async (x: number, y: number) => {
      took(0);
      const [px, py] = await at(x, y);
      await page.mouse.click(px, py);
    },
    stroke: async (...way: readonly (readonly [number, number])[]) => {
      const places: (readonly [number, number])[] = [];
      for (const [x, y] of way) places.push(await at(x, y));
      const px = places.slice(1).reduce((sum, [x, y], i) => sum + Math.hypot(x - (places[i]?.[0] ?? x), y - (places[i]?.[1] ?? y)), 0);
      took(PIECE_S * (places.length - 1) + (CM_S * px) / PX_PER_CM);
      for (const [i, [x, y]] of places.entries()) {
        await page.mouse.move(x, y, { steps: 6 });
        if (i === 0) await page.mouse.down();
      }
      await page.mouse.up();
    },
  };
}
