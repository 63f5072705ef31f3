import { msg } from '@kestfog/core/words';
import { X } from 'lucide-react';
import type { ReactNode } from 'react';

/** A label with its control and, beside it, what is wrong with what was typed. */
export function Field({
  label,
  error,
  inline = false,
  children,
}: {
  readonly label: string;
  readonly error?: string | undefined;
  readonly inline?: boolean;
  readonly children: ReactNode;
}) {
  return (
    <label className={inline ? 'flex flex-wrap items-center gap-2' : 'grid gap-1 content-start'}>
      <span className={`text-lg ${inline ? 'order-2' : ''}`}>{label}</span>
      {children}
      {error && (
        // As wide as the field, or a little wider: what is wrong must not push the next field to another line.
        <span role="alert" className={`text-error text-base font-medium ${inline ? 'basis-full order-3' : 'w-0 min-w-[max(100%,10rem)]'}`}>
          {error}
        </span>
      )}
    </label>
  );
}

export function RemoveButton({
  label,
  disabled,
  onClick,
}: {
  readonly label: string;
  readonly disabled: boolean;
  readonly onClick: () => void;
}) {
  return (
    <button type="button" className="btn btn-ghost btn-square" aria-label={label} disabled={disabled} onClick={onClick}>
      <X aria-hidden />
    </button>
  );
}

/** A number within a range, refused in words. */
export const within = (min: number, max: number, what: string) => ({
  valueAsNumber: true,
  validate: (v: number) => (Number.isFinite(v) && v >= min && v <= max ? true : msg`${what} goes from ${min} to ${max}.`),
});
