import { msg } from '@kestfog/core/words';
import { useNavigate, useSearchParams } from 'react-router';
import { inputOfView } from '../api/order-input.js';
import { useDesignChoices, useHosts, useKitchen, useMakeOrder, useOrder } from '../api/queries.js';
import { useTodayMs } from '../api/use-server-now.js';
import { dropDraft } from '../features/orders/kept-draft.js';
import { OrderForm } from '../features/orders/OrderForm.js';
import { blankOrder, sameAgain } from '../features/orders/order-draft.js';
import { Loading, Notice } from '../ui/Notice.js';
import { useTitle } from '../ui/use-title.js';

/** A new order, blank, or a past one again where `?from=` names it. */
export function NewOrderPage() {
  useTitle(msg`New order`);
  const designs = useDesignChoices();
  const hosts = useHosts(null);
  const kitchen = useKitchen();
  const todayMs = useTodayMs();
  const save = useMakeOrder();
  const navigate = useNavigate();
  const [search] = useSearchParams();
  const from = search.get('from') ?? '';
  const past = useOrder(from, from !== '');
  if (designs.isPending || hosts.isPending || kitchen.isPending || past.isLoading || todayMs === null)
    return <Loading what={msg`getting the designs`} />;
  if (designs.isError || hosts.isError)
    return (
      <Notice title={msg`The designs could not be read`} tone="closing">
        {(designs.error ?? hosts.error)?.message}
      </Notice>
    );
  const again = past.data;
  return (
    <>
      <h1 className="text-5xl font-semibold pt-6 pb-6">{again ? msg`${again.name}, again` : msg`New order`}</h1>
      {designs.data.length === 0 && (
        <Notice title={msg`There is no design yet`}>{msg`Bring a drawing below; it becomes the first.`}</Notice>
      )}
      <OrderForm
        form={again ? `again.${again.id}` : 'new'}
        initial={again ? sameAgain(inputOfView(again), todayMs) : blankOrder(designs.data, todayMs, kitchen.data)}
        designs={designs.data}
        hosts={hosts.data}
        saving={save.isPending}
        failure={save.error?.message ?? null}
        onTyped={save.reset}
        submitText={msg`Keep the order`}
        onSubmit={(input) =>
          save.mutate(input, {
            onSuccess: ({ id, waits }) => {
              dropDraft(again ? `again.${again.id}` : 'new');
              void navigate(waits ? '/orders' : `/orders/${id}`);
            },
          })
        }
      />
    </>
  );
}
