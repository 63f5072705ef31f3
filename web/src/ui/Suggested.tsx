import { Autocomplete } from '@base-ui/react/autocomplete';

export interface Suggestion {
  /** what the field takes when it is chosen */
  readonly id: string;
  /** what it is called, also looked for */
  readonly label: string;
}

interface Props {
  readonly label: string;
  readonly value: string;
  readonly suggestions: readonly Suggestion[];
  readonly maxLength: number;
  /** the id of what describes it */
  readonly describedBy: string;
  readonly onChange: (value: string) => void;
}

/** So many suggestions can be looked over; whoever types on sees fewer. */
const MOST_SHOWN = 8;

/** A short word or code: typed freely, or found among those that are known, by arrows or a tap. */
export function Suggested({ label, value, suggestions, maxLength, describedBy, onChange }: Props) {
  return (
    <Autocomplete.Root
      items={suggestions}
      value={value}
      onValueChange={onChange}
      itemToStringValue={(s: Suggestion) => s.id}
      filter={(s: Suggestion, typed) => matches(s, typed)}
      limit={MOST_SHOWN}
    >
      <label className="grid gap-1">
        <span className="text-lg">{label}</span>
        <Autocomplete.Input className="input w-24" maxLength={maxLength} aria-describedby={describedBy} />
      </label>
      <Autocomplete.Portal>
        <Autocomplete.Positioner align="start" sideOffset={4} className="z-10">
          <Autocomplete.Popup className="rounded-box border border-base-300 bg-base-100 shadow-lg text-lg max-w-[90vw]">
            <Autocomplete.List className="py-1">
              {(s: Suggestion) => (
                <Autocomplete.Item
                  key={s.id}
                  value={s}
                  className="flex gap-4 items-center px-4 min-h-11 cursor-pointer data-highlighted:bg-base-200"
                >
                  <b className="font-semibold w-14">{s.id}</b> {s.label}
                </Autocomplete.Item>
              )}
            </Autocomplete.List>
          </Autocomplete.Popup>
        </Autocomplete.Positioner>
      </Autocomplete.Portal>
    </Autocomplete.Root>
  );
}

/** By its code, or by a word of its name that begins so. */
const matches = ({ id, label }: Suggestion, typed: string): boolean => {
  const said = typed.trim().toLocaleLowerCase();
  return (
    id.toLocaleLowerCase().startsWith(said) ||
    label
      .toLocaleLowerCase()
      .split(/[\s-]+/)
      .some((word) => word.startsWith(said))
  );
};
