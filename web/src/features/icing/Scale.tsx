import { msg } from '@kestfog/core/words';
import { useEffect, useRef, useState } from 'react';
import { useUnits } from '../../app/units.js';
import { type ScaleReading, SimulatedScale } from '../../devices/simulated-scale.js';
import { G_PER_OZ } from '../../text/amounts.js';

const TICK_MS = 100;
const SLIDER_MOST_G = 600;

interface Props {
  readonly reading: ScaleReading | null;
  readonly onReading: (reading: ScaleReading) => void;
}

/** The kitchen scale. The one that ships is simulated: its slider is the hand that pours. */
export function Scale({ reading, onReading }: Props) {
  const [units] = useUnits();
  const scale = useRef<SimulatedScale | null>(null);
  scale.current ??= new SimulatedScale(() => performance.now());
  const [load, setLoad] = useState(0);
  const tell = useRef(onReading);
  tell.current = onReading;
  useEffect(() => {
    const tick = setInterval(() => tell.current((scale.current as SimulatedScale).read()), TICK_MS);
    return () => clearInterval(tick);
  }, []);
  const put = (grams: number) => {
    const g = Math.round(Math.min(SLIDER_MOST_G, Math.max(0, grams)) * 10) / 10;
    setLoad(g);
    scale.current?.put(g);
  };
  const shown =
    reading === null ? '–' : units === 'us' ? msg`${(reading.grams / G_PER_OZ).toFixed(2)} oz` : msg`${reading.grams.toFixed(1)} g`;
  return (
    <fieldset aria-label={msg`Kitchen scale`} className="rounded-box border-2 border-base-300 p-4 grid gap-3">
      <div className="flex items-center gap-4">
        <output className={`clock text-5xl font-semibold min-w-52 ${reading?.settled ? '' : 'opacity-70'}`} aria-label={msg`on the scale`}>
          {shown}
        </output>
        <span className="text-lg grow">{reading?.settled ? msg`at rest` : msg`settling`}</span>
        <button type="button" className="btn btn-lg" onClick={() => scale.current?.tare()}>
          {msg`tare`}
        </button>
      </div>
      <div className="grid gap-2">
        <label className="grid gap-1 text-base">
          {msg`simulated scale: slide to pour`}
          <input
            type="range"
            className="range w-full"
            min={0}
            max={SLIDER_MOST_G}
            step={0.1}
            value={load}
            aria-label={msg`lies on the scale`}
            onChange={(e) => put(Number(e.target.value))}
          />
        </label>
        <span className="grid grid-cols-4 gap-2">
          {[-1, -0.1, 0.1, 1].map((d) => (
            <button
              key={d}
              type="button"
              className="btn"
              onClick={() => put(load + d)}
              aria-label={msg`${d > 0 ? msg`pour` : msg`take`} ${Math.abs(d)} g`}
            >
              {d > 0 ? '+' : '−'}
              {Math.abs(d)}
            </button>
          ))}
        </span>
      </div>
    </fieldset>
  );
}
