import { type Design, nearColours } from '@kestfog/core/design';
import { bagFitness, type OrderBag } from '@kestfog/core/planning';
import type { BagRecord, LeftoverView, OrderView } from '@kestfog/core/wire';
import { msg, plural, word } from '@kestfog/core/words';
import { useState } from 'react';
import { Link } from 'react-router';
import { useKeepBag, useKitchen, useLeftovers } from '../../api/queries.js';
import { useOrderMaking } from '../../api/use-making.js';
import { useColourName } from '../../app/colour-names.js';
import { useCounting } from '../../app/counting.js';
import { type Units, useUnits } from '../../app/units.js';
import { grams, openingsText, smallVolume } from '../../text/amounts.js';
import { ColourName } from '../../ui/ColourName.js';
import { msgNodes } from '../../ui/msg-nodes.js';
import { NumberInput } from '../../ui/NumberField.js';
import { gramsIn, massText, massTurned } from '../../ui/typed-measures.js';
import { aNumber, aNumberOrNone, useKeptForm } from '../../ui/use-kept-form.js';
import { BaseRecipe } from './BaseRecipe.js';
import { ColourMixNote } from './ColourMixNote.js';
import { CountPad } from './CountPad.js';
import { fitnessText } from './fitness-text.js';
import { LeftoverLines } from './LeftoverLines.js';
import { recordOf, useBowls } from './use-bowls.js';

interface Props {
  readonly bags: readonly OrderBag[];
  readonly order: OrderView;
  readonly designs: readonly Design[];
  readonly onMerge: (merges: OrderView['merges']) => void;
  readonly merging: { readonly pending: boolean; readonly failure: string | null };
}

/** What to mix: one bowl a colour, pale before dark; each bowl stiff first, since water is only ever added. */
export function Bags({ bags, order, designs, onMerge, merging }: Props) {
  const [units] = useUnits();
  const kitchen = useKitchen().data;
  const { bowls, leftovers } = useBowls(bags, order);
  const nameOf = useColourName();
  const near = nearColours(bags.map((b) => b.colour));
  const baseG = bowls.reduce((s, bowl) => s + bowl.baseG, 0);
  const open = bowls.findIndex((b) => b.bags.some(({ bag }) => recordOf(order, bag).mixedG === null));
  return (
    <section aria-label={msg`Bags`}>
      <div className="flex flex-wrap items-center gap-x-6 gap-y-2">
        <h2 className="text-2xl font-semibold">{msg`Bags to mix`}</h2>
        <Link to={`/orders/${order.id}/icing/mixing`} className="btn btn-primary btn-lg">
          {open <= 0 && !order.bags.some((b) => b.mixedG !== null)
            ? msg`Mix them, bowl by bowl`
            : open < 0
              ? msg`All mixed: look through the bowls`
              : msg`Go on mixing`}
        </Link>
      </div>
      <p className="text-lg mt-1">
        {msgNodes`${grams(baseG, units)} of stiff base in ${bowls.length} ${plural(bowls.length, 'bowl', 'bowls')}, in this order: pale
          before dark, stiff before thin.`}
      </p>
      <ol className="mt-3 divide-y divide-base-300 border-y border-base-300">
        {bowls.map((bowl) => {
          return (
            <li key={bowl.colour} className="py-3 grid grid-cols-[3.5rem_1fr] gap-4 items-start">
              <span className="inline-block w-12 h-12 rounded-full border-2 border-base-content/50" style={{ background: bowl.colour }} />
              <div className="grid gap-2">
                <p className="text-lg flex flex-wrap items-center gap-x-4">
                  <ColourName colour={bowl.colour} className="text-2xl font-medium" />
                  <span>{msgNodes`bowl with ${grams(bowl.baseG, units)} of base`}</span>
                  <ColourMixNote colour={bowl.colour} recipe={kitchen?.recipe ?? msg`my icing`} bowlG={bowl.grams} />
                </p>
                <ul className="grid gap-2">
                  {bowl.bags.map(({ bag, waterG, toMixG }) => (
                    <BagRow
                      key={bag.seconds}
                      bag={bag}
                      waterG={waterG}
                      toMix={toMixG}
                      order={order}
                      designs={designs}
                      leftovers={leftovers}
                    />
                  ))}
                </ul>
              </div>
            </li>
          );
        })}
      </ol>
      {near.map((p) => (
        <p key={p.a + p.b} className="no-print mt-3 text-lg flex flex-wrap items-center gap-2">
          {msgNodes`${<Dab colour={p.a} />} and ${<Dab colour={p.b} />} look alike (difference ${p.difference.toFixed(1)}).`}
          {[
            { from: p.b, to: p.a },
            { from: p.a, to: p.b },
          ].map((m) => (
            <button
              key={m.to}
              type="button"
              className="btn"
              disabled={merging.pending}
              aria-label={msg`Use ${nameOf(m.to)} for both ${nameOf(p.a)} and ${nameOf(p.b)}`}
              onClick={() => onMerge([...order.merges.map((x) => (x.to === m.from ? { from: x.from, to: m.to } : x)), m])}
            >
              {msgNodes`${<Dab colour={m.to} />} for both`}
            </button>
          ))}
        </p>
      ))}
      {order.merges.map((m) => (
        <p key={m.from} className="mt-3 text-lg flex flex-wrap items-center gap-2">
          {msgNodes`${<Dab colour={m.from} />} is taken from the bag of ${<Dab colour={m.to} />}.`}
          <button
            type="button"
            className="btn btn-sm"
            disabled={merging.pending}
            onClick={() => onMerge(order.merges.filter((x) => x !== m))}
          >
            {msg`a bag of its own again`}
          </button>
        </p>
      ))}
      {merging.failure && (
        <p role="alert" className="mt-2 text-error font-medium">
          {merging.failure}
        </p>
      )}
      <BaseRecipe baseG={baseG} />
      <p className="mt-3 text-base opacity-85">
        {msgNodes`To mix is what lands on the cookies, a tenth for drips and trials, and ${grams(15, units)} that stays in each bag and
          tip (common practice). Floods are area times depth, beads a rod of the tip’s bore, 1.4 g a millilitre. Base and water follow
            from the dry matter of each bag.`}
      </p>
    </section>
  );
}

interface BagRowProps {
  readonly bag: OrderBag;
  readonly waterG: number;
  /** g, what left-over icing brings already taken off */
  readonly toMix: number;
  readonly order: OrderView;
  readonly designs: readonly Design[];
  readonly leftovers: readonly LeftoverView[];
}

/** One bag: what to mix, whether it is mixed, how it counts, what it is fit for, and why so much. */
function BagRow({ bag, waterG, toMix, order, designs, leftovers }: BagRowProps) {
  const [units] = useUnits();
  const counting = useCounting();
  const [pad, setPad] = useState(false);
  const keep = useKeepBag(order.id);
  const record = recordOf(order, bag);
  const grade = word(bag.grade);
  const making = useOrderMaking(order);
  const verdict =
    record.countedS === null ? null : fitnessText(record.countedS, bagFitness(bag, record.countedS, designs, making), counting);
  return (
    <li>
      <div className="grid sm:grid-cols-[9rem_10rem_1fr_auto] gap-x-4 items-center">
        <label className="flex items-center gap-3 text-2xl font-medium min-h-11">
          <input
            type="checkbox"
            className="checkbox checkbox-lg"
            checked={(keep.isPending ? keep.variables : record).mixedG !== null}
            aria-label={msg`${grade} ${counting.text(bag.seconds)} for ${bag.designs.join(', ')} is mixed`}
            onChange={(e) => keep.mutate({ ...record, mixedG: e.target.checked ? Math.round(toMix) : null })}
          />
          {grams(record.mixedG ?? toMix, units)}
        </label>
        <span className="text-lg leading-tight">
          {grade}, {counting.text(bag.seconds)}
          <span className="block text-base opacity-85">{openingsText(bag.openings, units)}</span>
        </span>
        <span className="text-base opacity-85">
          {waterG > 0.05 && msg`stir in ${grams(waterG, units)} of water first; `}
          {bag.designs.join(', ')}
        </span>
        <button type="button" className="btn" onClick={() => setPad(true)}>
          {record.countedS === null ? msg`count it` : msg`counts ${counting.text(record.countedS)}`}
        </button>
        {record.countedS !== null && <span className="on-paper">{msgNodes`counts ${counting.text(record.countedS)}`}</span>}
      </div>
      <details className="text-base">
        <summary className="cursor-pointer underline underline-offset-4 opacity-85">{msgNodes`why ${grams(bag.mixG, units)}`}</summary>
        <ul className="pl-4">
          {bag.uses.map((u, i) => (
            <li key={`${i} ${u.label}`}>
              {word(u.technique)} {u.label}: {smallVolume(u.ml, units)}
            </li>
          ))}
          <li>{msgNodes`${grams(bag.g, units)} on the cookies, the rest is drips, trials and what stays in the bag`}</li>
        </ul>
      </details>
      <LeftoverLines bag={bag} leftovers={leftovers} orderId={order.id} />
      {record.mixedG !== null && (
        <MixedAmount
          key={record.mixedG}
          record={record}
          order={order}
          saving={keep.isPending}
          onKeep={(mixedG) => keep.mutate({ ...record, mixedG })}
        />
      )}
      {verdict && (
        <p className={`text-base ${verdict.fits ? 'opacity-85' : 'text-error font-medium'}`}>
          {record.word && `“${record.word}”, `}
          {verdict.text}.
        </p>
      )}
      {keep.isError && !pad && (
        <p role="alert" className="text-error font-medium">
          {keep.error.message}
        </p>
      )}
      {pad && (
        <CountPad
          bag={bag}
          word={record.word}
          saving={keep.isPending}
          failure={keep.error?.message ?? null}
          onKeep={(countedS, word) => keep.mutate({ ...record, countedS, word }, { onSuccess: () => setPad(false) })}
          onClose={() => setPad(false)}
        />
      )}
    </li>
  );
}

interface Mass {
  readonly text: string;
}

interface MixedProps {
  readonly record: BagRecord;
  readonly order: OrderView;
  readonly saving: boolean;
  readonly onKeep: (mixedG: number) => void;
}

/** What was really mixed, where it was not just what was asked for, and what is left of it in the end. */
function MixedAmount({ record, order, saving, onKeep }: MixedProps) {
  const { add } = useLeftovers();
  const name = `bag.${order.id}.${record.colour}.${record.seconds}`;
  const turned = ({ text }: Mass, from: Units, to: Units) => ({ text: massTurned(text, from, to) });
  const mixed = useKeptForm<Mass>({ name: `${name}.mixed`, begin: (u) => ({ text: massText(record.mixedG ?? 0, u) }), turned });
  const left = useKeptForm<Mass>({ name: `${name}.left`, begin: () => ({ text: '' }), turned });
  const { units } = mixed;
  const us = units === 'us';
  const mixedText = mixed.form.watch('text');
  const leftText = left.form.watch('text');
  const wrong = mixed.form.formState.errors.text ?? left.form.formState.errors.text;
  const tenthIn = (text: string) => Math.round(gramsIn(text, units) * 10) / 10;
  return (
    <div className="no-print flex flex-wrap items-center gap-2 text-base">
      <form
        className="flex flex-wrap items-center gap-2"
        noValidate
        onSubmit={mixed.form.handleSubmit(({ text }) => onKeep(tenthIn(text)))}
      >
        <label className="flex items-center gap-2">
          {msg`really mixed`}
          <NumberInput
            isWrong={!!mixed.form.formState.errors.text}
            {...mixed.form.register('text', us ? aNumber(0, 700, msg`What was mixed`, 'oz') : aNumber(0, 20_000, msg`What was mixed`, 'g'))}
          />
          {us ? msg`oz` : msg`g`}
        </label>
        {mixedText !== massText(record.mixedG ?? 0, units) && (
          <button type="submit" className="btn btn-sm" disabled={!mixed.form.formState.isValid || saving}>
            {msg`keep`}
          </button>
        )}
      </form>
      <form
        className="flex flex-wrap items-center gap-2 ml-4"
        noValidate
        onSubmit={left.form.handleSubmit(({ text }) =>
          add.mutate(
            { colour: record.colour, seconds: record.countedS ?? record.seconds, grams: tenthIn(text), orderId: order.id },
            { onSuccess: left.beginAnew },
          ),
        )}
      >
        <label className="flex items-center gap-2">
          {msg`left over`}
          <NumberInput
            isWrong={!!left.form.formState.errors.text}
            {...left.form.register(
              'text',
              us ? aNumberOrNone(0.1, 700, msg`What is left over`, 'oz') : aNumberOrNone(1, 20_000, msg`What is left over`, 'g'),
            )}
          />
          {us ? msg`oz` : msg`g`}
        </label>
        {leftText.trim() !== '' && (
          <button type="submit" className="btn btn-sm" disabled={!left.form.formState.isValid || add.isPending}>
            {msg`put it by for the next order`}
          </button>
        )}
      </form>
      {add.isSuccess && leftText === '' && <span role="status">{msg`Put by.`}</span>}
      {(wrong || add.isError) && (
        <span role="alert" className="text-error font-medium">
          {wrong?.message ?? add.error?.message}
        </span>
      )}
    </div>
  );
}

function Dab({ colour }: { readonly colour: string }) {
  return (
    <span className="inline-flex items-center gap-2">
      <span className="inline-block w-6 h-6 rounded-full border border-base-content/50" style={{ background: colour }} />
      {useColourName()(colour)}
    </span>
  );
}
