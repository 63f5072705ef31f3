import { Dialog } from '@base-ui/react/dialog';
import { gradeOfSeconds } from '@kestfog/core/icing';
import type { BagRecord } from '@kestfog/core/wire';
import { msg } from '@kestfog/core/words';
import { type KeyboardEvent, useEffect, useState } from 'react';
import { useCounting } from '../../app/counting.js';
import { msgNodes } from '../../ui/msg-nodes.js';
import { Asking } from '../../ui/Sheet.js';

interface Props {
  readonly bag: Pick<BagRecord, 'colour' | 'seconds'>;
  readonly word: string | null;
  readonly saving: boolean;
  readonly failure: string | null;
  /** the count in reference seconds */
  readonly onKeep: (countedS: number, word: string | null) => void;
  readonly onClose: () => void;
}

const LEAST_S = 1.5;
const MOST_S = 120;
/** Two touches closer than this are one touch that bounced. */
const BOUNCE_S = 0.4;

/** Median of the tries: one slip of the finger does not count. */
export function medianOf(tries: readonly number[]): number {
  const sorted = [...tries].sort((a, b) => a - b);
  const mid = Math.floor(sorted.length / 2);
  return sorted.length % 2 === 1 ? (sorted[mid] as number) : ((sorted[mid - 1] as number) + (sorted[mid] as number)) / 2;
}

/** The count test: touch when the line is drawn, touch when it closes. One try is enough, more show the spread. */
export function CountPad({ bag, word, saving, failure, onKeep, onClose }: Props) {
  const counting = useCounting();
  const [startedAt, setStartedAt] = useState<number | null>(null);
  const [nowAt, setNowAt] = useState(0);
  const [tries, setTries] = useState<readonly number[]>([]);
  const [own, setOwn] = useState(word ?? '');
  const [hint, setHint] = useState<string | null>(null);
  useEffect(() => {
    if (startedAt === null) return;
    const tick = setInterval(() => setNowAt(performance.now()), 100);
    return () => clearInterval(tick);
  }, [startedAt]);
  const touch = () => {
    const at = performance.now();
    if (startedAt === null) {
      setStartedAt(at);
      setNowAt(at);
      setHint(null);
      return;
    }
    const s = (at - startedAt) / 1000;
    if (s < BOUNCE_S) return;
    setStartedAt(null);
    if (counting.reference(s) < LEAST_S) setHint(msg`${s.toFixed(1)} s is too quick to have been a line closing: draw it again.`);
    else if (counting.reference(s) > MOST_S) setHint(msg`Icing that has not closed in two minutes does not close: it is stiff.`);
    else setTries([...tries, Math.round(s * 10) / 10]);
  };
  const onKey = (e: KeyboardEvent) => {
    if ((e.key !== 'Enter' && e.key !== ' ') || e.repeat) return;
    e.preventDefault();
    touch();
  };
  const result = tries.length > 0 ? Math.round(medianOf(tries) * 10) / 10 : null;
  const referenceS = result === null ? null : Math.round(counting.reference(result) * 10) / 10;
  return (
    <Asking onClose={onClose} className="max-w-2xl">
      <Dialog.Title className="text-2xl font-semibold flex items-center gap-3">
        <span className="sr-only">{msg`Count test.`}</span>
        <span className="inline-block w-8 h-8 rounded-full border-2 border-base-content/50" style={{ background: bag.colour }} />
        {msgNodes`How does this bag count? ${counting.text(bag.seconds)} was asked for.`}
      </Dialog.Title>
      <button
        type="button"
        className={`mt-4 w-full h-72 rounded-box text-4xl font-semibold ${startedAt === null ? 'bg-base-300' : 'bg-primary text-primary-content'}`}
        onPointerDown={touch}
        onKeyDown={onKey}
      >
        {startedAt === null ? msg`Touch when the line is drawn` : msg`Touch when it has closed`}
        <span className="block clock text-[64px] leading-tight">
          {startedAt === null ? (result === null ? '–' : msg`${result} s`) : msg`${((nowAt - startedAt) / 1000).toFixed(1)} s`}
        </span>
      </button>
      <div aria-live="polite" className="text-lg mt-3">
        {hint && <p className="text-error font-medium">{hint}</p>}
        {result !== null && (
          <p>
            {tries.length === 1
              ? msg`One try`
              : msg`${tries.length} tries, ${Math.min(...tries)} to ${Math.max(...tries)} s, middle ${result} s`}
            : {referenceS !== null && gradeOfSeconds(referenceS).label}.{' '}
            <button type="button" className="link" onClick={() => setTries(tries.slice(0, -1))}>
              {msg`take back the last`}
            </button>
          </p>
        )}
      </div>
      <label className="grid gap-1 mt-3">
        <span className="text-lg">{msg`your own word for it`}</span>
        <input className="input input-lg w-full" maxLength={40} value={own} onChange={(e) => setOwn(e.target.value)} />
      </label>
      {failure && (
        <p role="alert" className="text-error font-medium mt-2">
          {failure}
        </p>
      )}
      <div className="modal-action">
        <Dialog.Close className="btn btn-lg">{msg`Leave it`}</Dialog.Close>
        <button
          type="button"
          className="btn btn-lg btn-primary"
          disabled={result === null || saving}
          onClick={() => referenceS !== null && onKeep(referenceS, own.trim() === '' ? null : own.trim())}
        >
          {saving ? msg`Keeping it …` : msg`Keep this count`}
        </button>
      </div>
    </Asking>
  );
}
