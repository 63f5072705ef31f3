import type { Point } from '@kestfog/core/geometry';
import { CARD_MM, type KnownSize } from '@kestfog/core/tracing';
import { msg, word } from '@kestfog/core/words';
import { wrap } from 'comlink';
import { useEffect, useRef, useState } from 'react';
import { useUnits } from '../../app/units.js';
import { millimetres } from '../../text/amounts.js';
import { DragHandle } from '../../ui/DragHandle.js';
import { msgNodes } from '../../ui/msg-nodes.js';
import { NumberField } from '../../ui/NumberField.js';
import { placeIn } from '../../ui/place-in.js';
import { Sheet } from '../../ui/Sheet.js';
import type { ReadPicture } from '../../ui/shrink-picture.js';
import { useLength } from '../../ui/use-length.js';
import type { CutterAnswer, TraceWork } from '../../workers/trace.worker.js';
import { nameOfFile, readPicture, wrongWith } from './picture-file.js';

interface Props {
  readonly file: File;
  readonly colour: string;
  readonly onClose: () => void;
  readonly onTake: (name: string, svg: string) => void;
}

type Way = KnownSize['way'];
/** Where the handles lie first, as shares of the picture: near where a card or a ruler usually is. */
const FIRST: Readonly<Record<Way, readonly (readonly [number, number])[]>> = {
  card: [
    [0.1, 0.62],
    [0.4, 0.62],
    [0.4, 0.9],
    [0.1, 0.9],
  ],
  length: [
    [0.25, 0.85],
    [0.75, 0.85],
  ],
};
const WHAT: Readonly<Record<Way, readonly string[]>> = {
  card: [msg`first corner`, msg`second corner`, msg`third corner`, msg`fourth corner`],
  length: [msg`one end`, msg`other end`],
};

/** A cutter, or a cookie it cut, photographed on plain paper: its outline found, its size by a card beside it or by what was measured. */
export function CutterPhoto({ file, colour, onClose, onTake }: Props) {
  const [units] = useUnits();
  const [picture, setPicture] = useState<ReadPicture | null>(null);
  const [way, setWay] = useState<Way>('card');
  const [points, setPoints] = useState<readonly Point[]>([]);
  const [at, setAt] = useState<Point | null>(null);
  const length = useLength(80, [5, 400], msg`The length`);
  const [name, setName] = useState(nameOfFile(file) || msg`My cutter`);
  const [answer, setAnswer] = useState<CutterAnswer | null>(null);
  const svg = useRef<SVGSVGElement>(null);
  const [held, setHeld] = useState<number | null>(null);

  useEffect(() => {
    let isStale = false;
    void (async () => {
      const wrong = await wrongWith(file);
      const read = wrong ? null : await readPicture(file).catch(() => null);
      if (isStale) return;
      if (!read) return setAnswer({ ok: false, message: wrong ?? msg`${file.name} cannot be read: save it as PNG or JPEG.` });
      setPicture(read);
      setPoints(FIRST.card.map(([x, y]) => ({ x: x * read.width, y: y * read.height })));
    })();
    return () => {
      isStale = true;
    };
  }, [file]);
  const choose = (next: Way) => {
    setWay(next);
    if (picture) setPoints(FIRST[next].map(([x, y]) => ({ x: x * picture.width, y: y * picture.height })));
  };
  const lengthMm = length.mm;
  useEffect(() => {
    if (!picture || held !== null || points.length !== FIRST[way].length || (way === 'length' && lengthMm === null)) return;
    let isStale = false;
    setAnswer(null);
    const worker = new Worker(new URL('../../workers/trace.worker.ts', import.meta.url), { type: 'module', name: 'cutter' });
    const timer = setTimeout(async () => {
      const known: KnownSize =
        way === 'card'
          ? { way, corners: points, widthMm: CARD_MM.width, heightMm: CARD_MM.height }
          : { way, points: points as [Point, Point], lengthMm: lengthMm as number };
      const found = await wrap<TraceWork>(worker).cutter(file, known, at, colour);
      if (!isStale) setAnswer(found);
    }, 250);
    return () => {
      isStale = true;
      clearTimeout(timer);
      worker.terminate();
    };
  }, [file, picture, held, points, way, lengthMm, at, colour]);

  const placeOf = (e: React.PointerEvent): Point | null => {
    const p = picture && placeIn(svg.current, e);
    return p && { x: Math.max(0, Math.min(picture.width, p.x)), y: Math.max(0, Math.min(picture.height, p.y)) };
  };
  const put = (i: number, p: Point) => setPoints(points.map((q, k) => (k === i ? p : q)));
  const outline = answer?.ok ? answer.outline : null;
  const r = picture ? Math.max(picture.width, picture.height) / 70 : 10;
  return (
    <Sheet title={msg`A cutter photographed`} onClose={onClose}>
      <div className="grid md:grid-cols-[3fr_2fr] gap-8 items-start">
        <div className="min-h-72 grid place-items-center">
          {picture && (
            <svg
              ref={svg}
              viewBox={`0 0 ${picture.width} ${picture.height}`}
              className="w-full max-h-[28rem] touch-none"
              role="group"
              aria-label={msg`The photograph; its points are moved by dragging or with the arrow keys`}
              onPointerDown={(e) => {
                const p = placeOf(e);
                if (p && e.target instanceof SVGImageElement) setAt(p);
              }}
              onPointerMove={(e) => {
                const p = held === null ? null : placeOf(e);
                if (p && held !== null) put(held, p);
              }}
              onPointerUp={() => setHeld(null)}
              onPointerCancel={() => setHeld(null)}
            >
              <image href={picture.url} width={picture.width} height={picture.height} />
              {/* Light on dark, so that it is seen on any picture. */}
              {outline &&
                (['var(--color-base-content)', 'var(--color-base-100)'] as const).map((stroke, i) => (
                  <polygon
                    key={stroke}
                    points={outline.seen.map((p) => `${p.x},${p.y}`).join(' ')}
                    fill="none"
                    stroke={stroke}
                    strokeWidth={i === 0 ? r / 2 : r / 5}
                    pointerEvents="none"
                  />
                ))}
              <polygon
                points={points.map((p) => `${p.x},${p.y}`).join(' ')}
                fill="none"
                stroke="var(--color-base-content)"
                strokeWidth={r / 6}
                strokeDasharray={`${r} ${r / 2}`}
                pointerEvents="none"
              />
              {points.map((p, i) => (
                <DragHandle
                  key={WHAT[way][i]}
                  at={p}
                  radius={r}
                  label={WHAT[way][i] ?? ''}
                  value={p}
                  colour="var(--color-base-content)"
                  fill="var(--color-base-100)"
                  onHold={(e) => {
                    svg.current?.setPointerCapture(e.pointerId);
                    setHeld(i);
                  }}
                  onNudge={(by) => put(i, { x: p.x + by.x, y: p.y + by.y })}
                />
              ))}
            </svg>
          )}
          {answer && !answer.ok && (
            <p role="alert" className="text-error font-medium">
              {answer.message}
            </p>
          )}
          {!answer && <p role="status">{msg`Finding the edge …`}</p>}
        </div>
        <div className="grid gap-4 text-lg">
          <fieldset className="grid gap-2">
            <legend>{msg`its size is known by`}</legend>
            <label className="flex items-center gap-3 min-h-11">
              <input type="radio" name="known" className="radio" checked={way === 'card'} onChange={() => choose('card')} />
              {msg`a bank card beside it: put a point on each corner, going round`}
            </label>
            <label className="flex items-center gap-3 min-h-11">
              <input type="radio" name="known" className="radio" checked={way === 'length'} onChange={() => choose('length')} />
              {msg`two points, and what lies between them`}
            </label>
          </fieldset>
          {way === 'length' && (
            <>
              <NumberField
                small
                label={msg`between them, ${word(length.unit)}`}
                text={length.text}
                typed={length.typed}
                onText={length.onText}
              />
              <p className="text-base opacity-85">
                {msg`Take the photograph from straight above: seen from the side it would come out too narrow.`}
              </p>
            </>
          )}
          <label className="grid gap-1">
            {msg`called`}
            <input className="input w-full" maxLength={80} value={name} onChange={(e) => setName(e.target.value)} />
          </label>
          {outline && (
            <p role="status">
              {msgNodes`${millimetres(outline.widthMm, units)} wide, ${millimetres(outline.heightMm, units)} high. Touch another thing to
                take that. The picture stays on this machine.`}
            </p>
          )}
          <button
            type="button"
            className="btn btn-primary btn-lg"
            disabled={!answer?.ok}
            onClick={() => answer?.ok && onTake(name.trim() || msg`My cutter`, answer.svg)}
          >
            {msg`Take it`}
          </button>
        </div>
      </div>
    </Sheet>
  );
}
