import { useSyncExternalStore } from 'react';
import { useHotkeys } from 'react-hotkeys-hook';

/**
 * Letters that do something can be switched off on this device (WCAG 2.1.4): who speaks to the page, or rests a hand on the keys, would
 * set them off.
 */
const KEY = 'kestfog.letters';
const listeners = new Set<() => void>();
const read = () => localStorage.getItem(KEY) !== 'off';

export const lettersAreOn = read;

export function setLetters(on: boolean): void {
  localStorage.setItem(KEY, on ? 'on' : 'off');
  for (const l of listeners) l();
}

export const useLetters = (): boolean =>
  useSyncExternalStore((on) => {
    listeners.add(on);
    return () => listeners.delete(on);
  }, read);

/** Something is asked over the page: it has the keys to itself. A message in the corner leaves them to the page. */
export const isAsking = (): boolean => document.querySelector('[role=dialog]:not([aria-modal=false]),[role=alertdialog]') !== null;

/** Keys of a place: never while something is asked or typed; single letters only where they are on. */
export function useKey(keys: string, act: () => void): void {
  const letters = useLetters();
  const isLetter = keys.split(',').some((k) => /^(shift\+)?.$/.test(k));
  useHotkeys(keys, act, { enabled: () => (letters || !isLetter) && !isAsking(), preventDefault: true, useKey: true }, [act, letters]);
}
