import { msg } from '@kestfog/core/words';
import { useLeftovers } from '../../api/queries.js';
import { useServerNowMs } from '../../api/use-server-now.js';
import { useCounting } from '../../app/counting.js';
import { useUnits } from '../../app/units.js';
import { grams } from '../../text/amounts.js';
import { ColourName } from '../../ui/ColourName.js';
import { takeAway } from '../../ui/use-put-back.js';
import { ageText, beforeUse, freeG } from '../icing/leftovers.js';

/** Icing that was put by: how old, how it is kept, and thrown away. An order that can use some of it offers it at its bags. */
export function Leftovers() {
  const [units] = useUnits();
  const counting = useCounting();
  const nowMs = useServerNowMs() ?? Date.now();
  const leftovers = useLeftovers();
  const { list, keep, remove } = leftovers;
  const there = (list.data ?? []).filter((l) => freeG(l) >= 1);
  const failure = list.error ?? keep.error ?? remove.error;
  return (
    <section aria-label={msg`Icing left over`}>
      <h3 className="text-lg font-semibold">{msg`icing left over`}</h3>
      {there.length === 0 ? (
        <p className="text-lg">{msg`None. What is left of a bag after an order is put by at its bag, under Icing.`}</p>
      ) : (
        <>
          <p className="text-base opacity-85">{msg`Icing with egg white keeps only covered and cold; local food codes decide how long.`}</p>
          <ul className="divide-y divide-base-300">
            {there.map((l) => (
              <li key={l.id} className="py-2 grid gap-1">
                <span className="text-lg">
                  <ColourName colour={l.colour} />, {counting.text(l.seconds)}: <b>{grams(freeG(l), units)}</b>, {ageText(l, nowMs)}
                </span>
                <span className="text-base opacity-85">{beforeUse(l)}</span>
                <span className="flex flex-wrap gap-2">
                  <button
                    type="button"
                    className="btn btn-sm"
                    disabled={keep.isPending}
                    onClick={() => keep.mutate({ id: l.id, frozen: !l.frozen, kneaded: false })}
                  >
                    {l.frozen ? msg`it is thawed` : msg`it is frozen`}
                  </button>
                  <button
                    type="button"
                    className="btn btn-sm"
                    disabled={keep.isPending}
                    onClick={() => keep.mutate({ id: l.id, frozen: false, kneaded: true })}
                  >
                    {msg`kneaded just now`}
                  </button>
                  <button
                    type="button"
                    className="btn btn-sm"
                    disabled={remove.isPending}
                    onClick={() => takeAway(leftovers, l.id, msg`The icing is thrown away.`)}
                  >
                    {msg`thrown away`}
                  </button>
                </span>
              </li>
            ))}
          </ul>
        </>
      )}
      {failure && (
        <p role="alert" className="text-error font-medium mt-2">
          {failure.message}
        </p>
      )}
    </section>
  );
}
