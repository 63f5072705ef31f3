import type { Kitchen, OrderInput } from '@kestfog/core/wire';
import { useEffect, useMemo, useRef, useState } from 'react';
import { type UseFormReturn, useForm } from 'react-hook-form';
import { type Units, useUnits } from '../../app/units.js';
import { dropDraft, keepDraft, keptDraft } from './kept-draft.js';
import { draftOf, inUnits, type OrderDraft } from './order-draft.js';

export interface DraftForm {
  readonly form: UseFormReturn<OrderDraft>;
  /** what the fields are in: another choice of units turns what was typed into them */
  readonly units: Units;
  /** when what is shown again was typed; null where the form is as it begins */
  readonly typedAtMs: number | null;
  readonly beginAnew: () => void;
}

/** A form of an order or of a part of it: what is typed stays through a reload, and through another choice of units. */
export function useDraftForm(name: string, initial: OrderInput, kitchen?: Kitchen): DraftForm {
  const [units] = useUnits();
  const [begun] = useState({ initial, kitchen });
  const [own, setOwn] = useState(units);
  const fresh = useMemo(() => draftOf(begun.initial, own, begun.kitchen), [begun, own]);
  const [kept, setKept] = useState(() => keptDraft(name, fresh, own));
  const form = useForm<OrderDraft>({ defaultValues: kept?.draft ?? fresh, mode: 'onTouched' });
  const isTyped = useRef(kept !== null);
  const { watch, reset, getValues } = form;
  useEffect(() => {
    if (units === own) return;
    reset(inUnits(getValues(), own, units), { keepErrors: true, keepTouched: true, keepSubmitCount: true });
    setOwn(units);
  }, [units, own, reset, getValues]);
  useEffect(() => {
    if (isTyped.current) keepDraft(name, fresh, own, getValues());
    const heard = watch((draft, { name: field }) => {
      if (field === undefined) return;
      isTyped.current = true;
      keepDraft(name, fresh, own, draft as OrderDraft);
    });
    return () => heard.unsubscribe();
  }, [watch, getValues, name, fresh, own]);
  const beginAnew = () => {
    reset(fresh);
    dropDraft(name);
    isTyped.current = false;
    setKept(null);
  };
  return { form, units: own, typedAtMs: kept?.atMs ?? null, beginAnew };
}
