import type { Design, DesignEdit, Division } from '@kestfog/core/design';
import type { Point } from '@kestfog/core/geometry';
import { msg } from '@kestfog/core/words';
import { useState } from 'react';
import { paletteOf } from './parts.js';

interface DivideProps {
  readonly design: Design;
  readonly sectionId: string;
  readonly colour: string;
  readonly picked: readonly Point[];
  readonly onEdit: (...edits: DesignEdit[]) => void;
}

const DIVISIONS = [
  { id: 'thirds', label: msg`in thirds`, division: { way: 'stripes', parts: 3, angleDeg: 0 } },
  { id: 'halves', label: msg`in halves`, division: { way: 'stripes', parts: 2, angleDeg: 0 } },
  { id: 'stripes', label: msg`in five stripes`, division: { way: 'stripes', parts: 5, angleDeg: 0 } },
  { id: 'upright', label: msg`in five upright stripes`, division: { way: 'stripes', parts: 5, angleDeg: 90 } },
  { id: 'quarters', label: msg`in quarters`, division: { way: 'radial', parts: 4, angleDeg: 0 } },
  { id: 'eighths', label: msg`in eight sectors`, division: { way: 'radial', parts: 8, angleDeg: 0 } },
] as const satisfies readonly { id: string; label: string; division: Division }[];

/** A flood parted evenly, or along two points; its dividers are dragged on the cookie afterwards. */
export function Divide({ design, sectionId, colour, picked, onEdit }: DivideProps) {
  const [id, setId] = useState<(typeof DIVISIONS)[number]['id']>('thirds');
  const other = paletteOf(design).find((c) => c !== colour) ?? '#f6f3ea';
  return (
    <fieldset className="flex flex-wrap gap-3 items-end" aria-label={msg`Divide it`}>
      <label className="grid gap-1">
        <span className="text-lg">{msg`divide it`}</span>
        <select className="select" value={id} onChange={(e) => setId(e.target.value as typeof id)}>
          {DIVISIONS.map((d) => (
            <option key={d.id} value={d.id}>
              {d.label}
            </option>
          ))}
        </select>
      </label>
      <button
        type="button"
        className="btn"
        onClick={() =>
          onEdit({
            type: 'divide',
            sectionId,
            division: (DIVISIONS.find((d) => d.id === id) as (typeof DIVISIONS)[number]).division,
            colours: [colour, other],
          })
        }
      >
        {msg`Divide`}
      </button>
      {picked.length === 2 && (
        <button
          type="button"
          className="btn"
          onClick={() => onEdit({ type: 'divide', sectionId, division: { way: 'line', points: picked }, colours: [colour, other] })}
        >
          {msg`Divide along the two points`}
        </button>
      )}
    </fieldset>
  );
}
