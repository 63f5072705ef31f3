import { THINNING_PRIOR } from '@kestfog/core/calibration';
import { baseSeconds, gradeOfSeconds } from '@kestfog/core/icing';
import type { OrderBag } from '@kestfog/core/planning';
import type { OrderView } from '@kestfog/core/wire';
import { msg, plural, word } from '@kestfog/core/words';
import { useState } from 'react';
import { useKeepBag, useKitchen, useThinningSteps } from '../../api/queries.js';
import { useColourName } from '../../app/colour-names.js';
import { type Counting, useCounting } from '../../app/counting.js';
import { type Units, useUnits } from '../../app/units.js';
import type { ScaleReading } from '../../devices/simulated-scale.js';
import { grams, smallVolume } from '../../text/amounts.js';
import { Field } from '../../ui/Field.js';
import { msgNodes } from '../../ui/msg-nodes.js';
import { NumberInput, numberIn } from '../../ui/NumberField.js';
import { gramsIn, massText, massTurned } from '../../ui/typed-measures.js';
import { aNumber, useKeptForm } from '../../ui/use-kept-form.js';
import { recipeOf } from './BaseRecipe.js';
import { CountPad } from './CountPad.js';
import { LearnedCurve } from './LearnedCurve.js';
import { Scale } from './Scale.js';
import { type Advice, adviceFor, countWithColour, curveOf, RESCUE_S } from './thinning-flow.js';
import { recordOf } from './use-bowls.js';

interface Asked {
  /** the bag's name; empty for any icing */
  readonly bag: string;
  readonly grams: string;
  readonly from: string;
  readonly to: string;
  readonly colour: string;
}

const turned = (typed: Asked, from: Units, to: Units): Asked => ({
  ...typed,
  grams: massTurned(typed.grams, from, to),
  colour: massTurned(typed.colour, from, to),
});

interface Props {
  readonly bags: readonly OrderBag[];
  readonly order: OrderView;
}

/**
 * How much water takes a bag to the wanted count: most of it first, count again, then the rest. With the scale the water
 * that really went in and the new count teach the recipe's own curve.
 */
export function Thinning({ bags, order }: Props) {
  const counting = useCounting();
  const nameOf = useColourName();
  const kitchen = useKitchen().data;
  const steps = useThinningSteps();
  const keep = useKeepBag(order.id);
  const { form, units } = useKeptForm<Asked>({
    name: `thinning.${order.id}`,
    begin: (u) => ({ bag: '', grams: massText(200, u), from: String(counting.own(40)), to: String(counting.own(15)), colour: '0' }),
    turned,
  });
  const us = units === 'us';
  const asked = form.watch();
  const { errors } = form.formState;
  const [onScale, setOnScale] = useState(false);
  const [reading, setReading] = useState<ScaleReading | null>(null);
  const [pouredG, setPouredG] = useState<number | null>(null);
  const recipe = kitchen?.recipe ?? msg`my icing`;
  const { curve, tests } = curveOf(steps.list.data ?? [], recipe);

  const aCount = (what: string) => aNumber(counting.own(1.5), counting.own(120), what, msg`seconds`);
  const rules = {
    grams: us ? aNumber(0.1, 700, msg`The icing`, 'oz') : aNumber(1, 20_000, msg`The icing`, 'g'),
    from: aCount(msg`The count`),
    to: aCount(msg`The wanted count`),
    colour: us ? aNumber(0, 10, msg`The colour`, 'oz') : aNumber(0, 300, msg`The colour`, 'g'),
  };
  const isRight = (key: keyof typeof rules) => rules[key].validate(asked[key]) === true;
  const massG = isRight('grams') ? gramsIn(asked.grams, units) : null;
  const colourG = isRight('colour') ? gramsIn(asked.colour, units) : null;
  const ready = massG !== null && colourG !== null && isRight('from') && isRight('to');
  const fromS = ready ? countWithColour(massG, counting.reference(numberIn(asked.from)), colourG, curve.slope) : null;
  const toS = ready ? counting.reference(numberIn(asked.to)) : null;
  const advice = massG !== null && fromS !== null && toS !== null ? adviceFor(massG + (colourG ?? 0), fromS, toS, curve.slope) : null;

  const bag = bags.find((b) => bagName(b) === asked.bag);
  const set = (now: Partial<Asked>) => {
    for (const [key, text] of Object.entries(now)) form.setValue(key as keyof Asked, text, { shouldValidate: true });
  };
  const choose = (name: string) => {
    // Chosen already, what was typed since stays.
    if (name === asked.bag) return;
    set({ bag: name });
    const b = bags.find((x) => bagName(x) === name);
    if (!b) return;
    const r = recordOf(order, b);
    set({
      grams: massText(r.mixedG ?? b.mixG, units),
      from: String(counting.own(r.countedS ?? Math.round(Math.max(baseSeconds(recipeOf(kitchen), curve.slope), b.seconds)))),
      to: String(counting.own(b.seconds)),
      colour: '0',
    });
  };
  const counted = (countS: number, word: string | null) => {
    const addedG = pouredG ?? 0;
    setPouredG(null);
    if (massG === null || fromS === null) return;
    if (addedG >= 0.05 && countS < fromS)
      steps.add.mutate({ recipe, grams: massG + (colourG ?? 0), addedG, fromS: Math.min(120, fromS), toS: countS });
    set({ grams: massText(massG + (colourG ?? 0) + addedG, units), from: String(counting.own(countS)), colour: '0' });
    if (bag)
      keep.mutate({ ...recordOf(order, bag), mixedG: Math.round((massG + (colourG ?? 0) + addedG) * 10) / 10, countedS: countS, word });
  };
  const field = (key: keyof typeof rules, label: string) => (
    <Field label={label} error={errors[key]?.message}>
      <NumberInput large isWrong={!!errors[key]} {...form.register(key, rules[key])} />
    </Field>
  );
  return (
    <section aria-label={msg`Thinning`}>
      <h2 className="text-2xl font-semibold">{msg`Thinning`}</h2>
      <label className="flex flex-wrap items-center gap-3 mt-3 text-lg">
        {msg`which bag`}
        <select className="select select-lg max-w-full" value={asked.bag} onChange={(e) => choose(e.target.value)}>
          <option value="">{msg`any icing`}</option>
          {bags.map((b) => (
            <option key={bagName(b)} value={bagName(b)}>
              {word(b.grade)} {counting.text(b.seconds)}, {b.designs.join(', ')} ({nameOf(b.colour)})
            </option>
          ))}
        </select>
        {bag && <span className="w-9 h-9 rounded-full border-2 border-base-content/50" style={{ background: bag.colour }} />}
      </label>
      <div className="flex flex-wrap gap-5 mt-3">
        {field('grams', us ? msg`icing, oz` : msg`icing, g`)}
        {field('from', msg`counts now, s`)}
        {field('to', msg`wanted, s`)}
        {field('colour', us ? msg`liquid colour, oz` : msg`liquid colour, g`)}
      </div>
      {fromS !== null && (colourG ?? 0) > 0 && (
        <p className="text-lg mt-2">{msgNodes`Liquid colour thins like water: with it the icing will count about
          ${counting.text(fromS)}.`}</p>
      )}
      <div aria-live="polite" className="mt-3">
        {advice && toS !== null && <AdviceText advice={advice} toS={toS} counting={counting} />}
      </div>

      <div className="mt-4 grid gap-3">
        {!onScale ? (
          <button type="button" className="btn btn-lg justify-self-start" onClick={() => setOnScale(true)}>
            {msg`Use the scale`}
          </button>
        ) : (
          <>
            <Scale reading={reading} onReading={setReading} />
            <div className="flex flex-wrap gap-3">
              <button
                type="button"
                className="btn btn-lg"
                disabled={!reading?.settled || reading.grams < 1}
                onClick={() => reading && set({ grams: massText(reading.grams, units) })}
              >
                {msg`This is the icing`}
              </button>
              {advice?.kind === 'add' && (
                <button
                  type="button"
                  className="btn btn-lg btn-primary"
                  disabled={!reading?.settled || reading.grams < 0.1 || reading.grams > 300}
                  onClick={() => reading && setPouredG(reading.grams)}
                >
                  {msg`Poured: stir, then count`}
                </button>
              )}
              <button type="button" className="btn btn-lg btn-ghost" onClick={() => setOnScale(false)}>
                {msg`Put the scale away`}
              </button>
            </div>
            {advice?.kind === 'add' && reading && <Pouring pouredG={reading.grams} firstG={advice.firstG} />}
            <p className="text-base opacity-85">
              {msg`Weigh the icing, say “this is the icing”, tare, pour the first water, let the scale come to rest, stir, and count
                again.`}
            </p>
          </>
        )}
        {keep.isError && (
          <p role="alert" className="text-error font-medium">
            {keep.error.message}
          </p>
        )}
        {steps.add.isError && (
          <p role="alert" className="text-error font-medium">
            {steps.add.error.message}
          </p>
        )}
      </div>
      <details className="mt-3 text-base max-w-3xl">
        <summary className="cursor-pointer underline underline-offset-4 text-lg">
          {tests === 0
            ? msg`why so much: the book’s curve`
            : msg`why so much: “${recipe}” thins by ${curve.slope.toFixed(0)} ± ${curve.sdSlope.toFixed(0)} (book
              ${THINNING_PRIOR.slope}), from ${tests} ${plural(tests, 'test', 'tests')}`}
        </summary>
        <LearnedCurve curve={curve} tests={tests} />
      </details>
      {pouredG !== null && (
        <CountPad
          bag={{ colour: bag?.colour ?? '#f6f3ea', seconds: toS ?? 15 }}
          word={bag ? recordOf(order, bag).word : null}
          saving={keep.isPending}
          failure={null}
          onKeep={counted}
          onClose={() => setPouredG(null)}
        />
      )}
    </section>
  );
}

const bagName = (b: { readonly colour: string; readonly seconds: number }) => `${b.colour} ${b.seconds}`;

function AdviceText({ advice, toS, counting }: { readonly advice: Advice; readonly toS: number; readonly counting: Counting }) {
  const [units] = useUnits();
  if (advice.kind === 'good') return <p className="text-3xl font-semibold">{msg`It is as wanted: leave it.`}</p>;
  if (advice.kind === 'too-loose') {
    return (
      <p className="text-2xl">
        {msg`It is looser than wanted. `}
        <b className="font-semibold">{msgNodes`Stir in ${grams(advice.stiffG, units)} of piping icing at ${counting.text(RESCUE_S)}`}</b>
        {msg` to bring it back, then count.`}
      </p>
    );
  }
  return (
    <>
      <p className="text-3xl font-semibold">{msgNodes`Add ${grams(advice.firstG, units)} of water first, ${advice.firstDrops} drops`}</p>
      <p className="text-xl mt-1">
        {msgNodes`Count again, then the rest: ${grams(advice.waterG, units)} in all, ${smallVolume(advice.ml, units)}, ${advice.drops}
          drops, for ${gradeOfSeconds(toS).label} at ${counting.text(toS)}. Liquid colour counts as water.`}
      </p>
    </>
  );
}

/** How far the pouring is: a bar that fills to the first amount. */
function Pouring({ pouredG, firstG }: { readonly pouredG: number; readonly firstG: number }) {
  const share = Math.min(1, Math.max(0, pouredG / firstG));
  const over = pouredG > firstG * 1.15;
  return (
    <div>
      <progress className="progress w-full h-4" value={share} max={1} aria-label={msg`water poured of the first amount`} />
      <p className={`text-lg ${over ? 'text-error font-medium' : ''}`}>
        {over
          ? msg`More than the first amount: stir and count before any more.`
          : share >= 0.95
            ? msg`That is the first amount. Stir, then count.`
            : msg`Pour slowly.`}
      </p>
    </div>
  );
}
