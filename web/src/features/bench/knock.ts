let context: AudioContext | undefined;

/** A short wooden knock for each accepted step: two damped partials, no beep. Silent until the browser allows sound. */
export function knock(pitchHz = 340): void {
  if (typeof AudioContext === 'undefined') return;
  context ??= new AudioContext();
  void context.resume();
  const at = context.currentTime;
  for (const [ratio, level, length] of [
    [1, 0.35, 0.09],
    [2.7, 0.12, 0.045],
  ] as const) {
    const tone = context.createOscillator();
    const gain = context.createGain();
    tone.type = 'triangle';
    tone.frequency.setValueAtTime(pitchHz * ratio, at);
    gain.gain.setValueAtTime(level, at);
    gain.gain.exponentialRampToValueAtTime(0.001, at + length);
    tone.connect(gain).connect(context.destination);
    tone.start(at);
    tone.stop(at + length);
  }
}
