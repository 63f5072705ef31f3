import { pathData } from '@kestfog/core/geometry';
import { msg, plural, word } from '@kestfog/core/words';
import { wrap } from 'comlink';
import { useEffect, useRef, useState } from 'react';
import { msgNodes } from '../../ui/msg-nodes.js';
import { NumberField } from '../../ui/NumberField.js';
import { Sheet } from '../../ui/Sheet.js';
import { useLength } from '../../ui/use-length.js';
import type { TraceAnswer, TraceWork } from '../../workers/trace.worker.js';
import { nameOfFile, wrongWith } from './picture-file.js';

interface Props {
  readonly file: File;
  readonly onClose: () => void;
  readonly onTake: (name: string, svg: string) => void;
}

/** A picture turned into areas of icing: how many colours, how wide, with or without its ground; nothing of it leaves the machine. */
export function TracePicture({ file, onClose, onTake }: Props) {
  const [colours, setColours] = useState(5);
  const width = useLength(80, [20, 300], msg`The width`);
  const [noGround, setNoGround] = useState(true);
  const [name, setName] = useState(nameOfFile(file) || msg`Traced`);
  const [answer, setAnswer] = useState<TraceAnswer | null>(null);
  const [stopped, setStopped] = useState(false);
  const running = useRef<Worker | null>(null);
  const widthMm = width.mm;
  useEffect(() => {
    if (widthMm === null) return;
    let isStale = false;
    setAnswer(null);
    setStopped(false);
    // A moment's rest between two touches of the slider, then begun anew in a thread of its own that can be ended.
    const timer = setTimeout(async () => {
      const wrong = await wrongWith(file);
      if (isStale) return;
      if (wrong) return setAnswer({ ok: false, message: wrong });
      const worker = new Worker(new URL('../../workers/trace.worker.ts', import.meta.url), { type: 'module', name: 'trace' });
      running.current = worker;
      const found = await wrap<TraceWork>(worker).trace(file, { colours, widthMm, noGround });
      worker.terminate();
      if (!isStale) setAnswer(found);
    }, 250);
    return () => {
      isStale = true;
      clearTimeout(timer);
      running.current?.terminate();
    };
  }, [file, colours, widthMm, noGround]);
  const tracing = answer?.ok ? answer.tracing : null;
  return (
    <Sheet title={msg`Trace a picture`} onClose={onClose}>
      <div className="grid md:grid-cols-[3fr_2fr] gap-8 items-start">
        <div className="min-h-72 grid place-items-center">
          {tracing && (
            <svg
              role="img"
              aria-label={msg`${name}, traced into ${tracing.areas.length} areas`}
              viewBox={`-1 -1 ${tracing.widthMm + 2} ${tracing.heightMm + 2}`}
              className="w-full max-h-[26rem]"
            >
              <path d={pathData(tracing.cookie)} fill="var(--biscuit)" />
              {tracing.areas.map((a, i) => (
                <path key={i} d={pathData(a.shape)} fill={a.colour} fillRule="evenodd" />
              ))}
            </svg>
          )}
          {answer && !answer.ok && (
            <p role="alert" className="text-error font-medium">
              {answer.message}
            </p>
          )}
          {!answer && !stopped && widthMm !== null && (
            <p role="status" className="grid justify-items-center gap-3">
              {msgNodes`Tracing …${<progress className="progress w-56" />}`}
              <button
                type="button"
                className="btn"
                onClick={() => {
                  running.current?.terminate();
                  setStopped(true);
                }}
              >
                {msg`Stop`}
              </button>
            </p>
          )}
          {stopped && <p role="status">{msg`Stopped: change anything to begin again.`}</p>}
        </div>
        <div className="grid gap-4 text-lg">
          <label className="grid gap-1">
            {msg`called`}
            <input className="input w-full" maxLength={80} value={name} onChange={(e) => setName(e.target.value)} />
          </label>
          <label className="grid gap-1">
            {msgNodes`${colours} icing colours`}
            <input
              type="range"
              className="range w-full"
              min={2}
              max={8}
              value={colours}
              onChange={(e) => setColours(Number(e.target.value))}
            />
          </label>
          <NumberField small label={msg`width, ${word(width.unit)}`} text={width.text} typed={width.typed} onText={width.onText} />
          <label className="flex items-center gap-3 min-h-11">
            <input type="checkbox" className="checkbox" checked={noGround} onChange={(e) => setNoGround(e.target.checked)} />
            {msg`take its ground off`}
          </label>
          {tracing && (
            <p>
              {msgNodes`${tracing.areas.length} areas${
                tracing.left > 0 &&
                msg`; ${tracing.left} too small to flood
                ${plural(tracing.left, 'was', 'were')} left out`
              }. The picture stays on this machine.`}
            </p>
          )}
          <button
            type="button"
            className="btn btn-primary btn-lg"
            disabled={!answer?.ok}
            onClick={() => answer?.ok && onTake(name.trim() || msg`Traced`, answer.svg)}
          >
            {msg`Take it`}
          </button>
        </div>
      </div>
    </Sheet>
  );
}
