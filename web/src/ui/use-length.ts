import { MM_PER_INCH } from '@kestfog/core/units';
import { useState } from 'react';
import { useUnits } from '../app/units.js';
import { readNumber, type Typed } from './NumberField.js';

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

const shownIn = (mm: number, us: boolean): string => String(us ? Math.round((mm / MM_PER_INCH) * 1000) / 1000 : Math.round(mm * 100) / 100);

/** A length from `range` mm; another choice of units turns what was typed, and the length stays. */
export function useLength(firstMm: number, range: readonly [number, number], what: string): LengthField {
  const [units] = useUnits();
  const us = units === 'us';
  const [state, setState] = useState({ text: shownIn(firstMm, us), us });
  const read = (text: string, inInches: boolean): Typed => {
    const per = inInches ? MM_PER_INCH : 1;
    const limit = (mm: number) => Number((mm / per).toFixed(inInches ? 3 : 1));
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
