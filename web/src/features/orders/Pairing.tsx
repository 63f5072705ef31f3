import { pairingOf } from '@kestfog/core/planning';
import { deriveSteps } from '@kestfog/core/steps';
import type { DesignSummary, OrderView } from '@kestfog/core/wire';
import { useMemo } from 'react';

/** What keeps the hands busy while a laborious design dries; nothing where none is laborious. */
export function Pairing({ order, designs }: { readonly order: OrderView; readonly designs: readonly DesignSummary[] }) {
  const pair = useMemo(() => {
    const worked = (id: string, name: string, drawing: DesignSummary['drawing']) => ({ id, name, graph: deriveSteps(drawing, order.schoolUsed) });
    // A transfer is dried for a day by itself: it fills no waits.
    const others = designs.filter((d) => !d.drawing.transfer).map((d) => worked(d.id, d.name, d.drawing));
    return pairingOf(
      order.designs.map((d) => worked(d.designId, d.name, d.drawing)),
      others,
    );
  }, [order, designs]);
  if (!pair) return null;
  const { laborious, plain, ordered } = pair;
  return (
    <p className="mt-4 text-lg max-w-3xl">
      {laborious.name} dries through {laborious.graph.rounds} rounds:{' '}
      {ordered
        ? `${plain.name}, which is done in one, keeps the hands busy meanwhile where both share the bench.`
        : `a plain design beside it, such as ${plain.name}, would keep the hands busy meanwhile.`}
    </p>
  );
}
