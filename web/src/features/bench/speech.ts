import type { Alert } from '@kestfog/core/bench';
import type { BenchSettings } from './bench-settings.js';

/** The user's words for a call, with the tray and the step put in. */
export const wordsFor = (alert: Alert, words: BenchSettings['words']): string =>
  alert.trayId === '' ? alert.text : words[alert.kind].replaceAll('{tray}', alert.trayId).replaceAll('{what}', alert.what);

export const canSpeak = (): boolean => 'speechSynthesis' in globalThis && typeof SpeechSynthesisUtterance !== 'undefined';

/** Spoken by the browser's own voice; a newer line replaces one still being said. */
export function say(text: string): void {
  if (!canSpeak()) return;
  speechSynthesis.cancel();
  speechSynthesis.speak(new SpeechSynthesisUtterance(text));
}
