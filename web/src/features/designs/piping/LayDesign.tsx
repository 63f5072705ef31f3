import { type Design, type DesignEdit, fitting, foldDesign, gluedPieceEdit, pieceEdits } from '@kestfog/core/design';
import { boundingBox } from '@kestfog/core/geometry';
import { msg, word } from '@kestfog/core/words';
import { useState } from 'react';
import { useDesign, useDesignChoices } from '../../../api/queries.js';
import { NumberField } from '../../../ui/NumberField.js';
import { useLength } from '../../../ui/use-length.js';
import { freshId } from '../fresh-id.js';

interface Props {
  readonly design: Design;
  readonly designId: string;
  readonly onEdit: (...edits: DesignEdit[]) => void;
}

/** A piece begins as broad as this share of the cookie. */
const FIRST_SHARE = 0.5;

/** Another design laid on this one: in its own parts, or as one piece made before and glued on. */
export function LayDesign({ design, designId, onEdit }: Props) {
  const choices = useDesignChoices();
  const others = (choices.data ?? []).filter((d) => d.id !== designId && !d.problem);
  const [picked, setPicked] = useState('');
  const id = picked || (others[0]?.id ?? '');
  const [as, setAs] = useState<'parts' | 'glued'>('parts');
  const box = boundingBox(design.cookie.flat());
  const width = useLength(Math.round((box.maxX - box.minX) * FIRST_SHARE), [5, 300], msg`The width`);
  if (choices.isError) return <p role="alert">{choices.error.message}</p>;
  if (!choices.data) return <p>{msg`Getting the designs …`}</p>;
  if (others.length === 0)
    return <p>{msg`There is no other design yet: bring a drawing or begin from a shape, then lay it on this one.`}</p>;
  return (
    <div className="flex flex-wrap gap-3 items-end text-lg">
      <label className="grid gap-1">
        {msg`the design`}
        <select className="select w-52" data-piping="design" value={id} onChange={(e) => setPicked(e.target.value)}>
          {others.map((d) => (
            <option key={d.id} value={d.id}>
              {d.name}
            </option>
          ))}
        </select>
      </label>
      <label className="grid gap-1">
        {msg`as`}
        <select className="select" value={as} onChange={(e) => setAs(e.target.value as typeof as)}>
          <option value="parts">{msg`its own parts`}</option>
          <option value="glued">{msg`one piece, glued on`}</option>
        </select>
      </label>
      <NumberField small label={msg`width, ${word(width.unit)}`} text={width.text} typed={width.typed} onText={width.onText} />
      <Lay key={id} id={id} design={design} as={as} widthMm={width.mm} onEdit={onEdit} />
    </div>
  );
}

function Lay({
  id,
  design,
  as,
  widthMm,
  onEdit,
}: {
  readonly id: string;
  readonly design: Design;
  readonly as: 'parts' | 'glued';
  readonly widthMm: number | null;
  readonly onEdit: (...edits: DesignEdit[]) => void;
}) {
  const view = useDesign(id);
  const lay = () => {
    if (!view.data || widthMm === null) return;
    const piece = foldDesign(view.data.document);
    const matrix = fitting(piece, design, widthMm);
    const name = freshId('piece');
    onEdit(...(as === 'glued' ? [gluedPieceEdit(piece, name, matrix)] : pieceEdits(view.data.document, name, matrix)));
  };
  return (
    <>
      <button type="button" className="btn" disabled={!view.data || widthMm === null} onClick={lay}>
        {msg`Lay it on`}
      </button>
      {view.isError && (
        <p role="alert" className="w-full text-error font-medium">
          {view.error.message}
        </p>
      )}
    </>
  );
}
