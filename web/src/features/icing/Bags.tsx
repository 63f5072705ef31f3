import { type EggWhite, mixingOrder, nearColours, type OrderBag, scaleRecipe } from '@kestfog/core';
import { useState } from 'react';
import { useUnits } from '../../app/units.js';
import { grams, smallVolume } from '../../text/amounts.js';

const EGGS: readonly { readonly id: EggWhite; readonly label: string }[] = [
  { id: 'dried', label: 'dried egg white' },
  { id: 'pasteurised', label: 'pasteurised white' },
  { id: 'fresh', label: 'fresh white' },
];

/** What to mix: one bowl a colour, pale before dark; each bowl stiff first, since water is only ever added. */
export function Bags({ bags }: { readonly bags: readonly OrderBag[] }) {
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
                <li key={b.seconds} className="grid sm:grid-cols-[7rem_9rem_1fr] gap-x-4 items-baseline">
                  <span className="text-2xl font-medium">{grams(b.mixG, units)}</span>
                  <span className="text-lg">
                    {b.grade.replace('-', ' ')}, {b.seconds} s
                  </span>
                  <span className="text-base opacity-85">
                    {b.designs.join(', ')}; {grams(b.g, units)} of it on the cookies
                  </span>
                </li>
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
