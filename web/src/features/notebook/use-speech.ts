import { SPOKEN_MOST_S } from '@kestfog/core/notebook';
import { msg } from '@kestfog/core/words';
import { useEffect, useRef, useState } from 'react';

/** What speech is recorded as, by what the browser can do; speech needs few bits. */
const TYPES = ['audio/webm;codecs=opus', 'audio/mp4', 'audio/ogg;codecs=opus'] as const;
const BITS_PER_S = 32_000;

export const NO_MICROPHONE = msg`This browser gives no microphone here: it needs https, or this machine’s own address. Write it down in
  the notebook instead.`;
export const NOT_ALLOWED = msg`The microphone is not allowed on this page: allow it in the browser’s settings, or write it down instead.`;
const NOTHING_HEARD = msg`Nothing was recorded: try again.`;

/** Words spoken into the microphone. `onWords` gets the recording, or a sentence that says why there is none. */
export function useSpeech(onWords: (words: Blob | string) => void) {
  const [sinceMs, setSinceMs] = useState<number | null>(null);
  const [seconds, setSeconds] = useState(0);
  const recorder = useRef<MediaRecorder | null>(null);
  const starting = useRef(false);
  const heard = useRef(onWords);
  heard.current = onWords;

  const stop = () => {
    if (recorder.current?.state === 'recording') recorder.current.stop();
  };
  const start = async () => {
    const type = typeof MediaRecorder === 'undefined' ? undefined : TYPES.find((t) => MediaRecorder.isTypeSupported(t));
    if (!type || !navigator.mediaDevices) return heard.current(NO_MICROPHONE);
    if (starting.current) return;
    starting.current = true;
    const stream = await navigator.mediaDevices.getUserMedia({ audio: true }).catch(() => null);
    starting.current = false;
    if (!stream) return heard.current(NOT_ALLOWED);
    const made = new MediaRecorder(stream, { mimeType: type, audioBitsPerSecond: BITS_PER_S });
    const parts: Blob[] = [];
    made.ondataavailable = (e) => parts.push(e.data);
    made.onstop = () => {
      for (const track of stream.getTracks()) track.stop();
      setSinceMs(null);
      // Closed while somebody spoke, nothing is kept: nobody said that it was done.
      if (recorder.current !== made) return;
      recorder.current = null;
      const words = new Blob(parts, { type });
      heard.current(words.size > 0 ? words : NOTHING_HEARD);
    };
    recorder.current = made;
    made.start();
    setSeconds(0);
    setSinceMs(Date.now());
  };

  useEffect(() => {
    if (sinceMs === null) return;
    const tick = setInterval(() => {
      const passedS = Math.floor((Date.now() - sinceMs) / 1000);
      setSeconds(passedS);
      if (passedS >= SPOKEN_MOST_S && recorder.current?.state === 'recording') recorder.current.stop();
    }, 250);
    return () => clearInterval(tick);
  }, [sinceMs]);
  useEffect(
    () => () => {
      const made = recorder.current;
      recorder.current = null;
      if (made?.state === 'recording') made.stop();
    },
    [],
  );
  return { sinceMs, seconds, toggle: () => (sinceMs === null ? void start() : stop()) };
}
