import { useNavigate, useSearchParams } from 'react-router';
import { inputOfView } from '../api/order-input.js';
import { useDesigns, useKitchen, useOrders, useSaveOrder } from '../api/queries.js';
import { OrderForm } from '../features/orders/OrderForm.js';
import { blankOrder, sameAgain } from '../features/orders/order-draft.js';
import { possibleHosts } from '../features/orders/sharing.js';
import { Loading, Notice } from '../ui/Notice.js';

/** A new order, blank, or a past one again where `?from=` names it. */
export function NewOrderPage() {
  const designs = useDesigns();
  const orders = useOrders();
  const kitchen = useKitchen();
  const save = useSaveOrder();
  const navigate = useNavigate();
  const [search] = useSearchParams();
  if (designs.isPending || orders.isPending || kitchen.isPending) return <Loading what="getting the designs" />;
  if (designs.isError || orders.isError)
    return (
      <Notice title="The designs could not be read" tone="closing">
        {(designs.error ?? orders.error)?.message}
      </Notice>
    );
  const again = orders.data.find((o) => o.id === search.get('from'));
  return (
    <>
      <h1 className="text-5xl font-semibold pt-6 pb-6">{again ? `${again.name}, again` : 'New order'}</h1>
      {designs.data.length === 0 && <Notice title="There is no design yet">Bring a drawing below; it becomes the first.</Notice>}
      <OrderForm
        initial={again ? sameAgain(inputOfView(again), Date.now()) : blankOrder(designs.data, Date.now(), kitchen.data)}
        designs={designs.data}
        hosts={possibleHosts(orders.data, null)}
        saving={save.isPending}
        failure={save.error?.message ?? null}
        submitText="Keep the order"
        onSubmit={(input) => save.mutate(input, { onSuccess: (o) => void navigate(`/orders/${o.id}`) })}
      />
    </>
  );
}
