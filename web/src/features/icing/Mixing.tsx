import type { OrderBag } from '@kestfog/core/planning';
import { bagKey } from '@kestfog/core/steps';
import type { OrderView } from '@kestfog/core/wire';
import { msg, word } from '@kestfog/core/words';
import { ArrowLeft, Check } from 'lucide-react';
import { useEffect, useRef } from 'react';
import { useNavigate } from 'react-router';
import { useColourMixes, useKeepBag, useKitchen } from '../../api/queries.js';
import { useColourName } from '../../app/colour-names.js';
import { useCounting } from '../../app/counting.js';
import { useKey } from '../../app/keys.js';
import { useUnits } from '../../app/units.js';
import { useLooked } from '../../app/use-looked.js';
import { grams, openingsText } from '../../text/amounts.js';
import { capital } from '../../text/words.js';
import { msgNodes } from '../../ui/msg-nodes.js';
import { gelText, partsText } from './ColourMixNote.js';
import { recordOf, useBowls } from './use-bowls.js';

interface Props {
  readonly bags: readonly OrderBag[];
  readonly order: OrderView;
}

/** One bowl at a time, large, for wet hands: what goes in, then each bag as it is filled; one button goes on. */
export function Mixing({ bags, order }: Props) {
  const { bowls } = useBowls(bags, order);
  const [units] = useUnits();
  const counting = useCounting();
  const nameOf = useColourName();
  const kitchen = useKitchen().data;
  const mixes = useColourMixes().data ?? [];
  const keep = useKeepBag(order.id);
  const navigate = useNavigate();
  const [looked, look] = useLooked<'bowl'>();
  const isFilled = (bag: OrderBag) => recordOf(order, bag).mixedG !== null;
  const firstOpen = bowls.findIndex((b) => b.bags.some(({ bag }) => !isFilled(bag)));
  const asked = Number(looked('bowl')) - 1;
  const at = Number.isInteger(asked) && bowls[asked] ? asked : Math.max(0, firstOpen);
  const bowl = bowls[at];
  const next = bowl?.bags.find(({ bag }) => !isFilled(bag));
  const isLast = at === bowls.length - 1;
  const toBowl = (k: number) => look({ bowl: String(k + 1) });
  const grade = (bag: OrderBag) => `${word(bag.grade)}, ${counting.text(bag.seconds)}`;
  const fill = (bag: OrderBag, grams: number | null) => {
    // Which bowl it is stays, also once its last bag is filled.
    toBowl(at);
    keep.mutate({ ...recordOf(order, bag), mixedG: grams === null ? null : Math.round(grams) });
  };
  const forward = () => {
    if (next) fill(next.bag, next.toMixG);
    else if (isLast) void navigate(`/orders/${order.id}/icing/count`);
    else toBowl(at + 1);
  };
  // As at the bench, for a page-turner's pedal; Space and Enter press the button, which has the focus.
  useKey('pagedown', forward);
  // The one thing to do on this page, for who has no hand free for a mouse.
  const button = useRef<HTMLButtonElement>(null);
  useEffect(() => button.current?.focus(), []);
  useKey('pageup', () => at > 0 && toBowl(at - 1));
  if (!bowl) return <p className="text-2xl">{msg`There is nothing to mix for this order.`}</p>;
  const mix = mixes.find((m) => m.colour === bowl.colour && m.recipe === (kitchen?.recipe ?? msg`my icing`));
  const gel = mix && (gelText(mix, bowl.grams) ?? partsText(mix.parts));
  return (
    <section aria-label={msg`Mixing`} className="text-2xl grid gap-5 max-w-5xl">
      <p>{msgNodes`Bowl ${at + 1} of ${bowls.length}`}</p>
      <h2 className="text-5xl font-semibold flex items-center gap-5">
        <span
          className="inline-block w-20 h-20 shrink-0 rounded-full border-2 border-base-content/50"
          style={{ background: bowl.colour }}
        />
        {capital(nameOf(bowl.colour))}
      </h2>
      <p className="text-4xl">
        {msgNodes`Put in ${<b className="font-semibold">{msgNodes`${grams(bowl.baseG, units)} of base`}</b>}${
          gel && gel !== ''
            ? msg`,
          colour it with ${gel}`
            : msg` and colour it`
        }.`}
        {mix?.note && <span className="block text-2xl mt-1">{mix.note}.</span>}
      </p>
      <ol className="grid gap-3">
        {bowl.bags.map(({ bag, waterG, toMixG }) => {
          const filled = isFilled(bag);
          return (
            <li key={bagKey(bag)}>
              <button
                type="button"
                role="checkbox"
                aria-checked={filled}
                disabled={keep.isPending}
                className={`btn btn-block h-auto min-h-20 py-3 justify-start text-left text-2xl font-normal ${next?.bag === bag ? 'btn-neutral' : ''}`}
                onClick={() => fill(bag, filled ? null : toMixG)}
              >
                <span className="w-9 shrink-0">{filled && <Check aria-hidden size={34} />}</span>
                <span>
                  {msgNodes`${waterG > 0.05 && msg`stir in ${grams(waterG, units)} of water, then `}fill
                    ${<b className="font-semibold">{grams(toMixG, units)}</b>} of ${grade(bag)}`}
                  <span className="block text-xl">
                    {openingsText(bag.openings, units)}; {bag.designs.join(', ')}
                  </span>
                </span>
              </button>
            </li>
          );
        })}
      </ol>
      {keep.isError && (
        <p role="alert" className="text-error font-medium">
          {keep.error.message}
        </p>
      )}
      <div className="flex gap-4 sticky bottom-0 bg-base-100 py-3">
        <button type="button" className="btn h-24 w-24 sm:w-32 text-xl flex-col px-1" disabled={at === 0} onClick={() => toBowl(at - 1)}>
          <ArrowLeft aria-hidden size={30} />
          {msg`before`}
        </button>
        <button
          type="button"
          ref={button}
          className="btn btn-primary h-24 grow w-24 text-2xl sm:text-3xl font-semibold"
          disabled={keep.isPending}
          onClick={forward}
        >
          {next
            ? msg`Filled: ${grade(next.bag)}`
            : isLast
              ? msg`All mixed: count them`
              : msg`Next bowl: ${nameOf((bowls[at + 1] as (typeof bowls)[number]).colour)}`}
        </button>
      </div>
    </section>
  );
}
