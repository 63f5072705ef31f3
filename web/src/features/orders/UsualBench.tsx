import type { Kitchen, OrderInput } from '@kestfog/core/wire';
import { msg } from '@kestfog/core/words';
import { useState } from 'react';
import { FormProvider } from 'react-hook-form';
import { useDesignChoices, useKeepKitchen, useSchools } from '../../api/queries.js';
import { msgNodes } from '../../ui/msg-nodes.js';
import type { FromKitchen } from '../kitchen/taken-over.js';
import { BenchSetUp } from './form/BenchSetUp.js';
import { dropDraft } from './kept-draft.js';
import { blankOrder, FIRST_BENCH, inputOf, usualOf } from './order-draft.js';
import { useDraftForm } from './use-draft-form.js';

/** The name of this form among those of orders: what is typed into it is kept on this device under it. */
const FORM = msg`usual bench`;
/** Any day: only the bench of this order is kept. */
const SOME_DAY_MS = Date.UTC(2026, 0, 1, 12);

interface Props {
  readonly kitchen: Kitchen;
  /** what orders began with before, and begin with now */
  readonly onKept: (before: FromKitchen, after: FromKitchen) => void;
}

/** What a new order begins with: said here once, changed in an order where that differs. */
export function UsualBench(props: Props) {
  const keep = useKeepKitchen();
  const { usual, air, fan, dehydrator } = props.kitchen;
  // Its form begins anew with what is kept; that it was kept, or why not, stays.
  return <BenchForm key={JSON.stringify([usual, air, fan, dehydrator])} {...props} keep={keep} />;
}

function BenchForm({ kitchen, onKept, keep }: Props & { readonly keep: ReturnType<typeof useKeepKitchen> }) {
  const schools = useSchools().data ?? [];
  const designs = useDesignChoices().data ?? [];
  const [initial] = useState((): OrderInput => ({ ...blankOrder([], SOME_DAY_MS, kitchen), name: FORM, designs: [] }));
  const { form, units } = useDraftForm(FORM, initial, kitchen);
  const { handleSubmit } = form;
  return (
    <section aria-label={msg`The usual bench`}>
      <h2 className="text-2xl font-semibold">{msg`The usual bench`}</h2>
      <p className="text-lg mt-1 mb-4">
        {msgNodes`New orders begin with it and ask only for designs and times. ${
          !kitchen.usual &&
          msg`It is not said yet: this is what
          most begin with.`
        }`}
      </p>
      <FormProvider {...form}>
        <form
          className="grid gap-8"
          noValidate
          onSubmit={handleSubmit((d) => {
            const input = inputOf(d, units);
            const usual = usualOf(input);
            void keep.mutateAsync({ usual, air: input.air }).then(
              () => {
                dropDraft(FORM);
                onKept({ ...(kitchen.usual ?? FIRST_BENCH), air: kitchen.air }, { ...usual, air: input.air });
              },
              // The form says why.
              () => undefined,
            );
          })}
        >
          {/* A few designs tell how much a tray of a size holds. */}
          <BenchSetUp designs={designs.slice(0, 3)} schools={schools} first={initial.school} />
          <div className="flex flex-wrap gap-4 items-center">
            <button type="submit" className="btn btn-primary btn-lg" disabled={keep.isPending}>
              {msg`Keep the usual bench`}
            </button>
            {keep.isSuccess && (
              <span role="status" className="text-lg">
                {msg`Kept.`}
              </span>
            )}
            {keep.isError && (
              <span role="alert" className="text-error font-medium">
                {keep.error.message}
              </span>
            )}
          </div>
        </form>
      </FormProvider>
    </section>
  );
}
