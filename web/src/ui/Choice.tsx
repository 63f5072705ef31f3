import { Radio } from '@base-ui/react/radio';
import { RadioGroup } from '@base-ui/react/radio-group';
import type { ReactNode } from 'react';

interface Props<T extends string> {
  readonly label: string;
  readonly value: T;
  readonly options: readonly { readonly id: T; readonly label: ReactNode }[];
  readonly onChange: (id: T) => void;
  readonly className?: string;
  /** classes of each button */
  readonly size?: string;
}

/** One of a few, as buttons: Tab goes to the one chosen, arrows to the others. */
export function Choice<T extends string>({ label, value, options, onChange, className = '', size = '' }: Props<T>) {
  return (
    <RadioGroup aria-label={label} value={value} onValueChange={onChange} className={`flex flex-wrap gap-2 ${className}`}>
      {options.map((o) => (
        <Radio.Root
          key={o.id}
          value={o.id}
          nativeButton
          render={<button type="button" />}
          className={`btn ${size} data-checked:bg-neutral data-checked:text-neutral-content`}
        >
          {o.label}
        </Radio.Root>
      ))}
    </RadioGroup>
  );
}
