/** Keys a page-turner pedal sends: the right one turns the page forward, the left one back. */
const KEYS = { forward: 'PageDown', back: 'PageUp' } as const;
/** A worn contact closes more than once within a few hundredths of a second. */
const BOUNCES_MS = [0, 30, 70] as const;

/**
 * Stand-in for a page-turner foot pedal: presses it once, bouncing as a worn one does. It is a keyboard to the browser, so
 * what it sends goes the way of any key.
 */
export function pressPedal(which: keyof typeof KEYS, bouncesMs: readonly number[] = BOUNCES_MS): void {
  for (const ms of bouncesMs)
    setTimeout(() => {
      for (const type of ['keydown', 'keyup'])
        document.body.dispatchEvent(new KeyboardEvent(type, { key: KEYS[which], bubbles: true, cancelable: true }));
    }, ms);
}
