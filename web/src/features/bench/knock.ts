import type { Alert } from '@kestfog/core/bench';

let context: AudioContext | undefined;

/** Whether the browser lets the page be heard; it asks for one touch after each load. */
export const isSoundAllowed = (): boolean => typeof AudioContext === 'undefined' || context?.state === 'running';

/** To be called by a touch: from then on sounds are heard. */
export async function allowSound(): Promise<void> {
  if (typeof AudioContext === 'undefined') return;
  context ??= new AudioContext();
  await context.resume();
}

/** One wooden knock: two damped partials, no beep. `afterS` from now. */
function strike(pitchHz: number, afterS = 0, lengthS = 0.09): void {
  if (typeof AudioContext === 'undefined') return;
  context ??= new AudioContext();
  void context.resume();
  const at = context.currentTime + afterS;
  for (const [ratio, level, share] of [
    [1, 0.35, 1],
    [2.7, 0.12, 0.5],
  ] as const) {
    const tone = context.createOscillator();
    const gain = context.createGain();
    tone.type = 'triangle';
    tone.frequency.setValueAtTime(pitchHz * ratio, at);
    gain.gain.setValueAtTime(level, at);
    gain.gain.exponentialRampToValueAtTime(0.001, at + lengthS * share);
    tone.connect(gain).connect(context.destination);
    tone.start(at);
    tone.stop(at + lengthS);
  }
}

/** For each accepted step. Silent until the browser allows sound. */
export const knock = (pitchHz = 340): void => strike(pitchHz);

/** Calls that can be told apart by ear: hurried and high, three steps up, slow and low. Pitch in Hz and moment in seconds. */
export const CALLS: Readonly<Record<Alert['kind'], readonly (readonly [number, number])[]>> = {
  'window-closing': [
    [620, 0],
    [620, 0.14],
    [620, 0.28],
    [620, 0.42],
  ],
  'tray-ready': [
    [300, 0],
    [380, 0.2],
    [470, 0.4],
  ],
  'take-out': [
    [160, 0],
    [160, 0.5],
  ],
};
/** The same for the hand: milliseconds on and off. */
const SHAKES: Readonly<Record<Alert['kind'], number[]>> = {
  'window-closing': [80, 60, 80, 60, 80],
  'tray-ready': [200],
  'take-out': [400, 200, 400],
};

export function call(kind: Alert['kind']): void {
  for (const [pitch, after] of CALLS[kind]) strike(pitch, after, kind === 'take-out' ? 0.22 : 0.09);
  navigator.vibrate?.(SHAKES[kind]);
}
