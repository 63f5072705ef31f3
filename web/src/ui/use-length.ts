import { MM_PER_INCH } from '@kestfog/core/units';
import { useState } from 'react';
import { type Units, useUnits } from '../app/units.js';
import { numberIn, readNumber, type Typed } from './NumberField.js';

/** A length being typed: kept in mm, typed in the user's unit. */
export interface LengthField {
  readonly unit: 'mm' | 'in';
  readonly text: string;
  readonly typed: Typed;
  /** null while what is typed cannot be used */
  readonly mm: number | null;
  /** takes what was typed, and tells its length at once; null where it cannot be used */
  readonly onText: (text: string) => number | null;
  readonly setMm: (mm: number) => void;
}

/** A length as it is shown in a field. */
export const shownIn = (mm: number, us: boolean): string =>
  String(us ? Math.round((mm / MM_PER_INCH) * 1000) / 1000 : Math.round(mm * 100) / 100);

/** A length from `range` mm; another choice of units turns what was typed, and the length stays. */
export function useLength(firstMm: number, range: readonly [number, number], what: string): LengthField {
  const [units] = useUnits();
  const us = units === 'us';
  const [state, setState] = useState({ text: shownIn(firstMm, us), us });
  const read = (text: string, inInches: boolean): Typed => {
    const limit = (mm: number) => limitIn(mm, inInches ? 'us' : 'metric');
    return readNumber(text, limit(range[0]), limit(range[1]), what, inInches ? 'in' : 'mm');
  };
  const mmOf = (typed: Typed, inInches: boolean) => ('value' in typed ? typed.value * (inInches ? MM_PER_INCH : 1) : null);
  const was = mmOf(read(state.text, state.us), state.us);
  const text = state.us === us || was === null ? state.text : shownIn(was, us);
  const typed = read(text, us);
  return {
    unit: us ? 'in' : 'mm',
    text,
    typed,
    // Turned for the eye it is rounded; the length itself is not.
    mm: state.us === us ? mmOf(typed, us) : was,
    onText: (next) => {
      setState({ text: next, us });
      return mmOf(read(next, us), us);
    },
    setMm: (mm) => setState({ text: shownIn(mm, us), us }),
  };
}

/** A length that was typed in some units, as it would be typed in others, in mm to `stepMm`; what is no number stays as it is. */
export function lengthTurned(text: string, from: Units, to: Units, stepMm = 0.01): string {
  const n = numberIn(text);
  if (from === to || !Number.isFinite(n)) return text;
  return to === 'us' ? shownIn(n, true) : shownIn(Math.round((n * MM_PER_INCH) / stepMm) * stepMm, false);
}
/** A length that was typed, in mm. */
export const mmIn = (text: string, units: Units): number => numberIn(text) * (units === 'us' ? MM_PER_INCH : 1);
/** A limit in mm, as it is said in some units. */
export const limitIn = (mm: number, units: Units): number =>
  Number((mm / (units === 'us' ? MM_PER_INCH : 1)).toFixed(units === 'us' ? 3 : 1));
