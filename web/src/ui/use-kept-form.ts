import { useEffect, useRef, useState } from 'react';
import { type DefaultValues, type FieldValues, type UseFormReturn, useForm } from 'react-hook-form';
import { type Units, useUnits } from '../app/units.js';
import { readNumber } from './NumberField.js';

interface Kept<T> {
  /** what the form began with: typed over something else it is of no use */
  readonly from: string;
  readonly units: Units;
  readonly value: T;
}
const keyOf = (name: string): string => `kestfog.form.${name}`;

function keptUnder<T>(name: string, from: string): Kept<T> | null {
  try {
    const kept = JSON.parse(localStorage.getItem(keyOf(name)) ?? 'null') as Kept<T> | null;
    return kept?.from === from ? kept : null;
  } catch {
    return null;
  }
}
function keep<T>(name: string, kept: Kept<T> | null): void {
  try {
    if (kept) localStorage.setItem(keyOf(name), JSON.stringify(kept));
    else localStorage.removeItem(keyOf(name));
  } catch {
    // A browser that keeps nothing: the form itself still has it.
  }
}

interface Begins<T> {
  /** its name on this device */
  readonly name: string;
  /** its first values, in some units */
  readonly begin: (units: Units) => T;
  /** what was typed in some units, in others; left out where nothing is measured */
  readonly turned?: (typed: T, from: Units, to: Units) => T;
}

export interface KeptForm<T extends FieldValues> {
  readonly form: UseFormReturn<T>;
  /** what its fields are in */
  readonly units: Units;
  /** as it begins, with nothing typed */
  readonly beginAnew: () => void;
}

/** Whether something was typed into a form of that name and not kept. */
export const isTyped = (name: string): boolean => localStorage.getItem(keyOf(name)) !== null;

/**
 * A form whose fields may be measures. What is typed is there again after a reload or a closed tab, until what it begins with is another,
 * as it is once it was kept; another choice of units turns what is typed into them.
 */
export function useKeptForm<T extends FieldValues>({ name, begin, turned = (typed) => typed }: Begins<T>): KeptForm<T> {
  const [units] = useUnits();
  const [own, setOwn] = useState(units);
  const from = JSON.stringify(begin('metric'));
  const beginning = (into: Units): T => {
    const kept = keptUnder<T>(name, from);
    return kept ? turned(kept.value, kept.units, into) : begin(into);
  };
  const ways = useRef({ begin, turned, beginning });
  ways.current = { begin, turned, beginning };
  const [first] = useState(() => beginning(units));
  const form = useForm<T>({ defaultValues: first as DefaultValues<T>, mode: 'onChange' });
  const { watch, reset, getValues } = form;
  // What it begins with is another: kept from here or elsewhere, or not kept after all, and then what was typed comes back.
  const followed = useRef(from);
  useEffect(() => {
    if (followed.current === from) return;
    followed.current = from;
    reset(ways.current.beginning(own));
  }, [from, own, reset]);
  useEffect(() => {
    if (units === own) return;
    reset(ways.current.turned(getValues(), own, units));
    setOwn(units);
  }, [units, own, reset, getValues]);
  useEffect(() => {
    const heard = watch((typed, { name: field }) => {
      if (field === undefined) return;
      const isAsBegun = JSON.stringify(typed) === JSON.stringify(ways.current.begin(own));
      keep(name, isAsBegun ? null : { from, units: own, value: typed });
    });
    return () => heard.unsubscribe();
  }, [watch, name, from, own]);
  const beginAnew = () => {
    keep(name, null);
    reset(ways.current.begin(own));
  };
  return { form, units: own, beginAnew };
}

/** A rule for a field that holds a number as it was typed: a comma or a point, within its range. */
export const aNumber = (from: number, to: number, what: string, unit = '') => ({
  validate: (text: string) => {
    const typed = readNumber(text, from, to, what, unit);
    return 'value' in typed || typed.problem;
  },
});
/** The same, for a field that may be empty. */
export const aNumberOrNone = (...[from, to, what, unit]: Parameters<typeof aNumber>) => {
  const { validate } = aNumber(from, to, what, unit);
  return { validate: (text: string) => text.trim() === '' || validate(text) };
};
