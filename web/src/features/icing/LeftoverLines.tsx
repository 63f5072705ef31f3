import type { OrderBag } from '@kestfog/core/planning';
import type { LeftoverView } from '@kestfog/core/wire';
import { msg } from '@kestfog/core/words';
import { useLeftovers } from '../../api/queries.js';
import { useServerNowMs } from '../../api/use-server-now.js';
import { useUnits } from '../../app/units.js';
import { grams } from '../../text/amounts.js';
import { msgNodes } from '../../ui/msg-nodes.js';
import { takeAway } from '../../ui/use-put-back.js';
import { ageText, beforeUse, freeG, leftoversFor, stillToMixG, useOf } from './leftovers.js';

/** Left-over icing for one bag: used once, taken back, or thrown away. */
export function LeftoverLines({
  bag,
  leftovers,
  orderId,
}: {
  readonly bag: OrderBag;
  readonly leftovers: readonly LeftoverView[];
  readonly orderId: string;
}) {
  const [units] = useUnits();
  const nowMs = useServerNowMs() ?? Date.now();
  const lists = useLeftovers();
  const { use, remove } = lists;
  const used = leftovers.filter((l) => useOf(l, bag, orderId));
  const offered = leftoversFor(bag, leftovers, orderId);
  const wantedG = stillToMixG(bag, leftovers, orderId);
  const named = { orderId, colour: bag.colour, seconds: bag.seconds };
  const failure = use.error ?? remove.error;
  return (
    <>
      {used.map((l) => (
        <p key={l.id} className="text-base border-l-4 border-primary pl-3 my-1 flex flex-wrap items-center gap-x-3">
          {msgNodes`${grams(useOf(l, bag, orderId)?.grams ?? 0, units)} of left-over icing goes into this bag.`}
          <button
            type="button"
            className="btn btn-sm"
            disabled={use.isPending}
            onClick={() => use.mutate({ id: l.id, use: { ...named, grams: 0 } })}
          >
            {msg`take it back`}
          </button>
        </p>
      ))}
      {offered.map((l) => {
        const takeG = Math.round(Math.min(freeG(l), wantedG) * 10) / 10;
        return (
          <p key={l.id} className="text-base border-l-4 border-base-content/40 pl-3 my-1 flex flex-wrap items-center gap-x-3">
            <span>
              {msgNodes`${grams(freeG(l), units)} like it are left over, ${ageText(l, nowMs)}. Icing with egg white keeps only covered and
                cold; local food codes decide how long. ${beforeUse(l)}`}
            </span>
            {takeG >= 1 && (
              <button
                type="button"
                className="btn btn-sm"
                disabled={use.isPending}
                onClick={() => use.mutate({ id: l.id, use: { ...named, grams: takeG } })}
              >
                {msgNodes`use ${grams(takeG, units)}`}
              </button>
            )}
            <button
              type="button"
              className="btn btn-sm"
              disabled={remove.isPending}
              onClick={() => takeAway(lists, l.id, msg`The icing is thrown away.`)}
            >
              {msg`it was thrown away`}
            </button>
          </p>
        );
      })}
      {failure && (
        <p role="alert" className="text-error font-medium">
          {failure.message}
        </p>
      )}
    </>
  );
}
