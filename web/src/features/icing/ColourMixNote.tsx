import { gelsFor } from '@kestfog/core/icing';
import type { ColourMix } from '@kestfog/core/wire';
import { msg } from '@kestfog/core/words';
import { useState } from 'react';
import { useColourMixes, useKeepColourMix } from '../../api/queries.js';
import { numberIn } from '../../ui/NumberField.js';
import { aNumberOrNone, isTyped, useKeptForm } from '../../ui/use-kept-form.js';

/** "3 navy, 1 black" to parts; null where it does not read. */
export function readParts(text: string): ColourMix['parts'] | null {
  const items = text
    .split(',')
    .map((t) => t.trim())
    .filter((t) => t !== '');
  const parts = items.map((t) => /^(\d+(?:[.]\d+)?)\s+(.{1,40})$/.exec(t));
  if (parts.length > 8 || parts.some((m) => !m || Number(m[1]) <= 0 || Number(m[1]) > 100)) return null;
  return parts.map((m) => ({ parts: Number(m?.[1]), gel: (m?.[2] ?? '').trim() }));
}
export const partsText = (parts: ColourMix['parts']): string => parts.map((p) => `${p.parts} ${p.gel}`).join(', ');

interface Props {
  readonly colour: string;
  readonly recipe: string;
  /** icing of that colour to be mixed now, g */
  readonly bowlG: number;
}

/** Grams of each gel for so much icing, by its parts: "2.4 g navy, 0.8 g black"; null where nobody weighed it. */
export function gelText(mix: Pick<ColourMix, 'parts' | 'gelGPer100G'>, bowlG: number): string | null {
  return (
    gelsFor(mix, bowlG)
      ?.map((g) => msg`${g.grams.toFixed(1)} g ${g.gel}`)
      .join(', ') ?? null
  );
}

/** How a colour was mixed into this recipe, kept for the next time: parts of gel colours, how much of them, and a note. */
export function ColourMixNote({ colour, recipe, bowlG }: Props) {
  const known = useColourMixes().data?.find((m) => m.colour === colour && m.recipe === recipe);
  const name = `colour-mix ${recipe} ${colour}`;
  const [isOpen, setOpen] = useState(() => isTyped(name));
  if (isOpen) return <ColourMixForm name={name} colour={colour} recipe={recipe} known={known} onClose={() => setOpen(false)} />;
  return (
    <button type="button" className={`link text-base ${known ? '' : 'no-print'}`} onClick={() => setOpen(true)}>
      {known && (known.parts.length > 0 || known.note)
        ? `${gelText(known, bowlG) ?? partsText(known.parts)}${known.note ? ` (${known.note})` : ''}`
        : msg`how was it coloured?`}
    </button>
  );
}

/** Most gel in 100 g, g. */
const MOST_GEL_G = 30;

function ColourMixForm({
  name,
  colour,
  recipe,
  known,
  onClose,
}: Pick<Props, 'colour' | 'recipe'> & {
  readonly name: string;
  readonly known: ColourMix | undefined;
  readonly onClose: () => void;
}) {
  const keep = useKeepColourMix();
  const { form, beginAnew } = useKeptForm({
    name,
    begin: () => ({
      parts: known ? partsText(known.parts) : '',
      gel: known?.gelGPer100G == null ? '' : String(known.gelGPer100G),
      note: known?.note ?? '',
    }),
  });
  const { register, handleSubmit, formState } = form;
  const { errors, isValid } = formState;
  const close = () => {
    beginAnew();
    onClose();
  };
  const wrong = errors.gel?.message ?? errors.parts?.message ?? (keep.isError ? keep.error.message : null);
  return (
    <form
      className="flex flex-wrap items-center gap-2 text-base"
      noValidate
      onSubmit={handleSubmit(({ parts, gel, note }) =>
        keep.mutate(
          {
            recipe,
            colour,
            gelGPer100G: gel.trim() === '' ? null : numberIn(gel),
            parts: readParts(parts) ?? [],
            note: note.trim(),
            revision: known?.revision ?? 0,
          },
          { onSuccess: close },
        ),
      )}
    >
      <label className="flex items-center gap-2">
        {msg`parts of gel`}
        <input
          className="input w-52"
          placeholder={msg`3 navy, 1 black`}
          aria-invalid={!!errors.parts}
          {...register('parts', {
            validate: (text) => readParts(text) !== null || msg`Write a number and a gel colour, parted by commas: 3 navy, 1 black.`,
          })}
        />
      </label>
      <label className="flex items-center gap-2">
        {msg`gel, g in 100 g`}
        <input
          className="input w-20"
          inputMode="decimal"
          placeholder={msg`unknown`}
          aria-invalid={!!errors.gel}
          {...register('gel', aNumberOrNone(0, MOST_GEL_G, msg`Gel`, msg`g in 100 g`))}
        />
      </label>
      <label className="flex items-center gap-2">
        {msg`note`}
        <input className="input w-40" maxLength={300} {...register('note')} />
      </label>
      <button type="submit" className="btn btn-sm" disabled={!isValid || keep.isPending}>
        {msg`keep`}
      </button>
      <button type="button" className="btn btn-sm btn-ghost" onClick={close}>
        {msg`leave it`}
      </button>
      {wrong && (
        <span role="alert" className="text-error font-medium">
          {wrong}
        </span>
      )}
    </form>
  );
}
