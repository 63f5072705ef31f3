import type { ColourMix } from '@kestfog/core/wire';
import { useState } from 'react';
import { useColourMixes, useKeepColourMix } from '../../api/queries.js';

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

/** How a colour was mixed, kept for the next time: parts of gel colours, and a note. */
export function ColourMixNote({ colour }: { readonly colour: string }) {
  const mixes = useColourMixes();
  const keep = useKeepColourMix();
  const known = mixes.data?.find((m) => m.colour === colour);
  const [typed, setTyped] = useState<{ parts: string; note: string } | null>(null);
  if (!typed) {
    return (
      <button type="button" className="link text-base" onClick={() => setTyped({ parts: known ? partsText(known.parts) : '', note: known?.note ?? '' })}>
        {known && (known.parts.length > 0 || known.note) ? `${partsText(known.parts)}${known.note ? ` (${known.note})` : ''}` : 'how was it coloured?'}
      </button>
    );
  }
  const parts = readParts(typed.parts);
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
        note
        <input className="input w-40" maxLength={300} value={typed.note} onChange={(e) => setTyped({ ...typed, note: e.target.value })} />
      </label>
      <button
        type="button"
        className="btn btn-sm"
        disabled={parts === null || keep.isPending}
        onClick={() => parts && keep.mutate({ colour, parts, note: typed.note.trim() }, { onSuccess: () => setTyped(null) })}
      >
        keep
      </button>
      <button type="button" className="btn btn-sm btn-ghost" onClick={() => setTyped(null)}>
        leave it
      </button>
      {(parts === null || keep.isError) && (
        <span role="alert" className="text-error font-medium">
          {keep.isError ? keep.error.message : 'Write a number and a gel colour, parted by commas: 3 navy, 1 black.'}
        </span>
      )}
    </span>
  );
}
