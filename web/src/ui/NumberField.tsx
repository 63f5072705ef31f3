import { msg } from '@kestfog/core/words';
import type { UseFormRegisterReturn } from 'react-hook-form';

/** A number from a field, or why it cannot be used; what was typed stays. */
export type Typed = { readonly value: number } | { readonly problem: string };

/** The number that was typed, with a comma or a point; NaN where it is none. */
export const numberIn = (text: string): number => (text.trim() === '' ? Number.NaN : Number(text.replace(',', '.')));

/** Reads what was typed, within its range. */
export function readNumber(text: string, from: number, to: number, what: string, unit: string): Typed {
  const n = numberIn(text);
  if (!Number.isFinite(n)) return { problem: msg`${what} must be a number.` };
  if (n < from || n > to) return { problem: msg`${what} goes from ${from} to ${to}${unit ? ` ${unit}` : ''}.` };
  return { value: n };
}

interface Props {
  readonly label: string;
  readonly text: string;
  readonly typed: Typed;
  readonly onText: (text: string) => void;
  readonly small?: boolean;
  /** what holds while the field is empty */
  readonly placeholder?: string;
  /** the field was left, or Enter pressed */
  readonly onDone?: () => void;
}

/** A number typed by hand, refused where it is typed, in words. */
export function NumberField({ label, text, typed, onText, small = false, placeholder, onDone }: Props) {
  return (
    <label className="grid gap-1 content-start">
      <span className="text-lg">{label}</span>
      <input
        className={`input ${small ? 'w-24' : 'input-lg w-32'}`}
        inputMode="decimal"
        placeholder={placeholder}
        value={text}
        aria-invalid={'problem' in typed}
        onChange={(e) => onText(e.target.value)}
        onBlur={onDone}
        onKeyDown={(e) => e.key === 'Enter' && onDone?.()}
      />
      {'problem' in typed && (
        <span role="alert" className="text-error font-medium max-w-40">
          {typed.problem}
        </span>
      )}
    </label>
  );
}

/** The field itself, for a form that knows its rule and says what is wrong. */
export function NumberInput({
  isWrong,
  large = false,
  ...field
}: { readonly isWrong: boolean; readonly large?: boolean } & UseFormRegisterReturn) {
  return <input className={`input ${large ? 'input-lg w-32' : 'w-24'}`} inputMode="decimal" aria-invalid={isWrong} {...field} />;
}
