import type { Design } from '@kestfog/core/design';
import { pairingOf } from '@kestfog/core/planning';
import { deriveSteps } from '@kestfog/core/steps';
import type { DesignSummary, OrderView } from '@kestfog/core/wire';
import { msg } from '@kestfog/core/words';
import { useMemo } from 'react';
import { refOf, useDrawings } from '../../api/queries.js';
import { msgNodes } from '../../ui/msg-nodes.js';

/** Designs looked through for one that fills the waits. */
const MOST = 24;

/** What keeps the hands busy while a laborious design dries; nothing where none is laborious. */
export function Pairing({ order, designs }: { readonly order: OrderView; readonly designs: readonly DesignSummary[] }) {
  // A transfer is dried for a day by itself: it fills no waits.
  const plain = designs.filter((d) => !d.transfer && d.problem === null).slice(0, MOST);
  const drawings = useDrawings(plain.map(refOf));
  const pair = useMemo(() => {
    const worked = (id: string, name: string, drawing: Design) => ({ id, name, graph: deriveSteps(drawing, order.schoolUsed) });
    const others = plain.flatMap((d, i) => (drawings[i] ? worked(d.id, d.name, drawings[i]) : []));
    return pairingOf(
      order.designs.map((d) => worked(d.designId, d.name, d.drawing)),
      others,
    );
  }, [order, designs, drawings]);
  if (!pair) return null;
  const { laborious, plain: other, ordered } = pair;
  return (
    <p className="mt-4 text-lg max-w-3xl">
      {msgNodes`${laborious.name} dries through ${laborious.graph.rounds} rounds: `}
      {ordered
        ? msg`${other.name}, which is done in one, keeps the hands busy meanwhile where both share the bench.`
        : msg`a plain design beside it, such as ${other.name}, would keep the hands busy meanwhile.`}
    </p>
  );
}
