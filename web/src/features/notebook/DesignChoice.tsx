import { msg } from '@kestfog/core/words';

interface Props {
  readonly label: string;
  readonly designs: readonly string[];
  /** '' for any */
  readonly value: string;
  readonly onChange: (design: string) => void;
}

/** The design something is about, or any. */
export function DesignChoice({ label, designs, value, onChange }: Props) {
  return (
    <label className="grid gap-1 justify-self-start">
      <span className="text-lg">{label}</span>
      <select className="select w-56" value={value} onChange={(e) => onChange(e.target.value)}>
        {designs.map((d) => (
          <option key={d} value={d}>
            {d}
          </option>
        ))}
        <option value="">{msg`any design`}</option>
      </select>
    </label>
  );
}
