import { type BagRecord, bagFitness, type Design, type EggWhite, mixingOrder, nearColours, type OrderBag, type OrderView, scaleRecipe } from '@kestfog/core';
import { useState } from 'react';
import { useKeepBag } from '../../api/queries.js';
import { useUnits } from '../../app/units.js';
import { G_PER_OZ, grams, smallVolume } from '../../text/amounts.js';
import { CountPad } from './CountPad.js';
import { fitnessText } from './fitness-text.js';

const EGGS: readonly { readonly id: EggWhite; readonly label: string }[] = [
  { id: 'dried', label: 'dried egg white' },
  { id: 'pasteurised', label: 'pasteurised white' },
  { id: 'fresh', label: 'fresh white' },
];

interface Props {
  readonly bags: readonly OrderBag[];
  readonly order: OrderView;
  readonly designs: readonly Design[];
}

/** What to mix: one bowl a colour, pale before dark; each bowl stiff first, since water is only ever added. */
export function Bags({ bags, order, designs }: Props) {
  const [units] = useUnits();
  const bowls = mixingOrder(bags);
  const near = nearColours(bags.map((b) => b.colour));
  const baseG = bags.reduce((s, b) => s + b.mixG, 0);
  return (
    <section aria-label="Bags">
      <h2 className="text-2xl font-semibold">Bags to mix</h2>
      <p className="text-lg mt-1">
        {grams(baseG, units)} of stiff base in {bowls.length} bowls, in this order: pale before dark, stiff before thin.
      </p>
      <ol className="mt-3 divide-y divide-base-300 border-y border-base-300">
        {bowls.map((bowl) => (
          <li key={bowl.colour} className="py-3 grid grid-cols-[3.5rem_1fr] gap-4 items-start">
            <span className="inline-block w-12 h-12 rounded-full border-2 border-base-content/50" style={{ background: bowl.colour }} />
            <ul className="grid gap-1">
              {bowl.bags.map((b) => (
                <BagRow key={b.seconds} bag={b} order={order} designs={designs} />
              ))}
            </ul>
          </li>
        ))}
      </ol>
      {near.length > 0 && (
        <p className="mt-3 text-lg">
          {near.map((p) => (
            <span key={p.a + p.b} className="inline-flex items-center gap-2 mr-4">
              <Dab colour={p.a} /> and <Dab colour={p.b} /> look alike (difference {p.difference.toFixed(1)}): one bag would do.
            </span>
          ))}
        </p>
      )}
      <Recipe baseG={baseG} />
      <p className="mt-3 text-base opacity-85">
        To mix is what lands on the cookies, a tenth for drips and trials, and {grams(15, units)} that stays in each bag and tip. Floods are area times depth,
        beads a rod of the tip’s bore, 1.4 g a millilitre ({smallVolume(1, units)}).
      </p>
    </section>
  );
}

/** One bag: what to mix, whether it is mixed, how it counts, and what it is fit for. */
function BagRow({ bag, order, designs }: { readonly bag: OrderBag; readonly order: OrderView; readonly designs: readonly Design[] }) {
  const [units] = useUnits();
  const [counting, setCounting] = useState(false);
  const keep = useKeepBag(order.id);
  const known = order.bags.find((b) => b.colour === bag.colour && b.seconds === bag.seconds);
  const record: BagRecord = known ?? { colour: bag.colour, seconds: bag.seconds, mixedG: null, countedS: null, word: null };
  const grade = bag.grade.replace('-', ' ');
  const air = { tempC: order.air.tempC, humidityFrac: order.air.humidityPct / 100, airMPerS: order.air.airMPerS };
  const verdict = record.countedS === null ? null : fitnessText(record.countedS, bagFitness(bag, record.countedS, designs, order.school, air));
  return (
    <li>
      <div className="grid sm:grid-cols-[9rem_9rem_1fr_auto] gap-x-4 items-center">
        <label className="flex items-center gap-3 text-2xl font-medium min-h-11">
          <input
            type="checkbox"
            className="checkbox checkbox-lg"
            checked={(keep.isPending ? keep.variables : record).mixedG !== null}
            aria-label={`${grade} ${bag.seconds} s for ${bag.designs.join(', ')} is mixed`}
            onChange={(e) => keep.mutate({ ...record, mixedG: e.target.checked ? Math.round(bag.mixG) : null })}
          />
          {grams(record.mixedG ?? bag.mixG, units)}
        </label>
        <span className="text-lg">
          {grade}, {bag.seconds} s
        </span>
        <span className="text-base opacity-85">
          {bag.designs.join(', ')}; {grams(bag.g, units)} of it on the cookies
        </span>
        <button type="button" className="btn" onClick={() => setCounting(true)}>
          {record.countedS === null ? 'count it' : `counts ${record.countedS} s`}
        </button>
      </div>
      {record.mixedG !== null && (
        <MixedAmount key={record.mixedG} record={record} saving={keep.isPending} onKeep={(mixedG) => keep.mutate({ ...record, mixedG })} />
      )}
      {verdict && (
        <p className={`text-base ${verdict.fits ? 'opacity-85' : 'text-error font-medium'}`}>
          {record.word && `“${record.word}”, `}
          {verdict.text}.
        </p>
      )}
      {keep.isError && !counting && (
        <p role="alert" className="text-error font-medium">
          {keep.error.message}
        </p>
      )}
      {counting && (
        <CountPad
          bag={bag}
          word={record.word}
          saving={keep.isPending}
          failure={keep.error?.message ?? null}
          onKeep={(countedS, word) => keep.mutate({ ...record, countedS, word }, { onSuccess: () => setCounting(false) })}
          onClose={() => setCounting(false)}
        />
      )}
    </li>
  );
}

/** What was really mixed, where it was not just what was asked for. */
function MixedAmount({ record, saving, onKeep }: { readonly record: BagRecord; readonly saving: boolean; readonly onKeep: (mixedG: number) => void }) {
  const [units] = useUnits();
  const shown = (g: number) => (units === 'us' ? (g / G_PER_OZ).toFixed(1) : String(Math.round(g)));
  const [text, setText] = useState(shown(record.mixedG ?? 0));
  const n = Number(text.replace(',', '.')) * (units === 'us' ? G_PER_OZ : 1);
  const good = text.trim() !== '' && Number.isFinite(n) && n >= 0 && n <= 20_000;
  return (
    <div className="flex flex-wrap items-center gap-2 text-base">
      <label className="flex items-center gap-2">
        really mixed
        <input className="input w-24" inputMode="decimal" value={text} aria-invalid={!good} onChange={(e) => setText(e.target.value)} />
        {units === 'us' ? 'oz' : 'g'}
      </label>
      {text !== shown(record.mixedG ?? 0) && (
        <button type="button" className="btn btn-sm" disabled={!good || saving} onClick={() => onKeep(Math.round(n * 10) / 10)}>
          keep
        </button>
      )}
      {!good && (
        <span role="alert" className="text-error font-medium">
          {units === 'us' ? 'From 0 to 700 oz, as a number.' : 'From 0 to 20000 g, as a number.'}
        </span>
      )}
    </div>
  );
}

const Dab = ({ colour }: { readonly colour: string }) => (
  <span className="inline-block w-6 h-6 rounded-full border border-base-content/50" style={{ background: colour }} />
);

function Recipe({ baseG }: { readonly baseG: number }) {
  const [units] = useUnits();
  const [egg, setEgg] = useState<EggWhite>('dried');
  const r = scaleRecipe(baseG, egg);
  const round = (n: number, to: number) => Math.round(n / to) * to;
  return (
    <div className="mt-6">
      <h3 className="text-xl font-semibold">The base</h3>
      <fieldset className="flex flex-wrap gap-2 mt-2" aria-label="Egg white">
        {EGGS.map((e) => (
          <button key={e.id} type="button" className={`btn ${egg === e.id ? 'btn-neutral' : ''}`} aria-pressed={egg === e.id} onClick={() => setEgg(e.id)}>
            {e.label}
          </button>
        ))}
      </fieldset>
      <p className="text-2xl mt-3">
        {units === 'us'
          ? `${round(r.us.sugarCups, 0.25)} cups of powdered sugar, ${round(r.us.eggTbsp, 0.5)} tbsp of ${EGGS.find((e) => e.id === egg)?.label}, ${round(r.us.waterTsp, 0.25)} tsp of water`
          : `${Math.round(r.sugarG)} g of powdered sugar, ${Math.round(r.eggG)} g of ${EGGS.find((e) => e.id === egg)?.label}, ${Math.round(r.waterG)} g of water`}
      </p>
      {r.caution && (
        <p role="note" className="mt-2 text-lg text-error font-medium border-l-4 border-error pl-3 max-w-3xl">
          {r.caution}
        </p>
      )}
    </div>
  );
}
