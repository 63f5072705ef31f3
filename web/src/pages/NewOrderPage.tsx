import { useNavigate } from 'react-router';
import { useDesigns, useSaveOrder } from '../api/queries.js';
import { OrderForm } from '../features/orders/OrderForm.js';
import { blankOrder } from '../features/orders/order-draft.js';
import { Loading, Notice } from '../ui/Notice.js';

export function NewOrderPage() {
  const designs = useDesigns();
  const save = useSaveOrder();
  const navigate = useNavigate();
  if (designs.isPending) return <Loading what="getting the designs" />;
  if (designs.isError)
    return (
      <Notice title="The designs could not be read" tone="closing">
        {designs.error.message}
      </Notice>
    );
  return (
    <>
      <h1 className="text-5xl font-semibold pt-6 pb-6">New order</h1>
      {designs.data.length === 0 && <Notice title="There is no design yet">Bring a drawing below; it becomes the first.</Notice>}
      <OrderForm
        initial={blankOrder(designs.data, Date.now())}
        designs={designs.data}
        saving={save.isPending}
        failure={save.error?.message ?? null}
        submitText="Keep the order"
        onSubmit={(input) => save.mutate(input, { onSuccess: (o) => void navigate(`/orders/${o.id}`) })}
      />
    </>
  );
}
