/** Places of the piping bar that keys lead to; each bears its name as `data-piping`. */
export type PipingPlace = 'tools' | 'surface' | 'breadth' | 'colour' | 'edge' | 'words' | 'design' | 'part';

const control = 'input, button, select, svg[tabindex]';

function controlAt(place: PipingPlace): HTMLElement | SVGElement | null {
  const found = document.querySelector<HTMLElement | SVGElement>(`[data-piping="${place}"]`);
  return found?.matches(control) ? found : (found?.querySelector<HTMLElement | SVGElement>(control) ?? null);
}

/** Presses the button there, as a pointer would; nothing happens where there is none. */
export function press(place: PipingPlace): void {
  const it = controlAt(place);
  if (it instanceof HTMLButtonElement) it.click();
}

/** Puts the hands there; false where there is no such place just now. */
export function reach(place: PipingPlace): boolean {
  const it = controlAt(place);
  if (!it) return false;
  it.focus();
  if (it instanceof HTMLInputElement && it.type === 'text') it.select();
  return true;
}

/** Which of several names the next begins with this letter, from one of them on and round; -1 where none does. */
export function nextByLetter(names: readonly string[], from: number, letter: string): number {
  for (let k = 1; k <= names.length; k++) {
    const i = (from + k) % names.length;
    if (names[i]?.toLowerCase().startsWith(letter.toLowerCase())) return i;
  }
  return -1;
}
