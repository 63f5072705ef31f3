import { gradeOfSeconds, thinning } from '@kestfog/core';
import { useState } from 'react';
import { useUnits } from '../../app/units.js';
import { G_PER_OZ, grams, smallVolume } from '../../text/amounts.js';

interface Asked {
  readonly grams: string;
  readonly fromS: string;
  readonly toS: string;
}

/** A number from a field, or why it cannot be used; what was typed stays. */
function read(text: string, from: number, to: number, what: string, unit: string): { value: number } | { problem: string } {
  const n = Number(text.replace(',', '.'));
  if (text.trim() === '' || !Number.isFinite(n)) return { problem: `${what} must be a number.` };
  if (n < from || n > to) return { problem: `${what} goes from ${from} to ${to} ${unit}.` };
  return { value: n };
}

/** How much water takes a bowl to the wanted count: most of it first, count again, then the rest. */
export function Thinning() {
  const [units] = useUnits();
  const [asked, setAsked] = useState<Asked>({ grams: units === 'us' ? '7' : '200', fromS: '40', toS: '15' });
  const mass = read(asked.grams, units === 'us' ? 0.1 : 1, units === 'us' ? 700 : 20_000, 'The icing', units === 'us' ? 'oz' : 'g');
  const from = read(asked.fromS, 1.5, 120, 'The count', 'seconds');
  const to = read(asked.toS, 1.5, 120, 'The wanted count', 'seconds');
  const all = 'value' in mass && 'value' in from && 'value' in to;
  const t = all ? thinning(units === 'us' ? mass.value * G_PER_OZ : mass.value, from.value, to.value) : null;
  const field = (key: keyof Asked, label: string, result: { value: number } | { problem: string }) => (
    <label className="grid gap-1 content-start">
      <span className="text-lg">{label}</span>
      <input
        className="input input-lg w-32"
        inputMode="decimal"
        value={asked[key]}
        onChange={(e) => setAsked({ ...asked, [key]: e.target.value })}
        aria-invalid={'problem' in result}
      />
      {'problem' in result && (
        <span role="alert" className="text-error font-medium max-w-40">
          {result.problem}
        </span>
      )}
    </label>
  );
  return (
    <section aria-label="Thinning">
      <h2 className="text-2xl font-semibold">Thinning</h2>
      <div className="flex flex-wrap gap-5 mt-3">
        {field('grams', units === 'us' ? 'icing, oz' : 'icing, g', mass)}
        {field('fromS', 'counts now, s', from)}
        {field('toS', 'wanted, s', to)}
      </div>
      <div aria-live="polite" className="mt-3">
        {t && t.waterG === 0 && <p className="text-2xl">It is loose enough already. Stir in stiffer icing to bring it back.</p>}
        {t && t.waterG > 0 && 'value' in to && (
          <>
            <p className="text-3xl font-semibold">
              Add {grams(t.firstG, units)} of water first, {Math.round(t.drops * 0.7)} drops
            </p>
            <p className="text-xl mt-1">
              Count again, then the rest: {grams(t.waterG, units)} in all, {smallVolume(t.ml, units)}, {Math.round(t.drops)} drops, for{' '}
              {gradeOfSeconds(to.value).label} at {to.value} s. Liquid colour counts as water.
            </p>
            <details className="mt-2 text-base max-w-3xl">
              <summary className="cursor-pointer underline underline-offset-4">why so much</summary>
              <p className="mt-1">
                The logarithm of the count falls in a straight line with the share of water: ln s = ln 15 − 55 (w − 0.225). The 55 is assumed until weighed
                thinning tests of your own recipe replace it; with another recipe the amount may be a third off, so count again before the rest goes in.
              </p>
            </details>
          </>
        )}
      </div>
    </section>
  );
}
