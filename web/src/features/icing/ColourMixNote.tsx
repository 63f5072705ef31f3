import { gelsFor } from '@kestfog/core/icing';
import type { ColourMix } from '@kestfog/core/wire';
import { useColourMixes, useKeepColourMix } from '../../api/queries.js';
import { useTyped } from '../../ui/use-typed.js';

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
      ?.map((g) => `${g.grams.toFixed(1)} g ${g.gel}`)
      .join(', ') ?? null
  );
}

/** How a colour was mixed into this recipe, kept for the next time: parts of gel colours, how much of them, and a note. */
export function ColourMixNote({ colour, recipe, bowlG }: Props) {
  const mixes = useColourMixes();
  const keep = useKeepColourMix();
  const known = mixes.data?.find((m) => m.colour === colour && m.recipe === recipe);
  const [typed, setTyped] = useTyped<{ parts: string; gel: string; note: string } | null>(`colour-mix ${recipe} ${colour}`, null);
  if (!typed) {
    return (
      <button
        type="button"
        className={`link text-base ${known ? '' : 'no-print'}`}
        onClick={() =>
          setTyped({
            parts: known ? partsText(known.parts) : '',
            gel: known?.gelGPer100G == null ? '' : String(known.gelGPer100G),
            note: known?.note ?? '',
          })
        }
      >
        {known && (known.parts.length > 0 || known.note)
          ? `${gelText(known, bowlG) ?? partsText(known.parts)}${known.note ? ` (${known.note})` : ''}`
          : 'how was it coloured?'}
      </button>
    );
  }
  const parts = readParts(typed.parts);
  const gel = typed.gel.trim() === '' ? null : Number(typed.gel.replace(',', '.'));
  const gelWrong = gel !== null && !(gel >= 0 && gel <= 30);
  return (
    <span className="flex flex-wrap items-center gap-2 text-base">
      <label className="flex items-center gap-2">
        parts of gel
        <input
          className="input w-52"
          placeholder="3 navy, 1 black"
          value={typed.parts}
          aria-invalid={parts === null}
          onChange={(e) => setTyped({ ...typed, parts: e.target.value })}
        />
      </label>
      <label className="flex items-center gap-2">
        gel, g in 100 g
        <input
          className="input w-20"
          inputMode="decimal"
          placeholder="unknown"
          value={typed.gel}
          aria-invalid={gelWrong}
          onChange={(e) => setTyped({ ...typed, gel: e.target.value })}
        />
      </label>
      <label className="flex items-center gap-2">
        note
        <input className="input w-40" maxLength={300} value={typed.note} onChange={(e) => setTyped({ ...typed, note: e.target.value })} />
      </label>
      <button
        type="button"
        className="btn btn-sm"
        disabled={parts === null || gelWrong || keep.isPending}
        onClick={() =>
          parts &&
          keep.mutate(
            { recipe, colour, gelGPer100G: gel, parts, note: typed.note.trim(), revision: known?.revision ?? 0 },
            { onSuccess: () => setTyped(null) },
          )
        }
      >
        keep
      </button>
      <button type="button" className="btn btn-sm btn-ghost" onClick={() => setTyped(null)}>
        leave it
      </button>
      {(parts === null || gelWrong || keep.isError) && (
        <span role="alert" className="text-error font-medium">
          {keep.isError
            ? keep.error.message
            : gelWrong
              ? 'Gel goes from 0 to 30 g in 100 g.'
              : 'Write a number and a gel colour, parted by commas: 3 navy, 1 black.'}
        </span>
      )}
    </span>
  );
}
