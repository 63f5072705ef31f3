import type { Design, DesignEdit } from '@kestfog/core/design';
import { boundingBox, distance, type Point } from '@kestfog/core/geometry';
import { MM_PER_INCH } from '@kestfog/core/units';
import { msg, word } from '@kestfog/core/words';
import { useState } from 'react';
import { useUnits } from '../../app/units.js';
import { NumberField, readNumber } from '../../ui/NumberField.js';

interface Props {
  readonly design: Design;
  readonly picking: boolean;
  readonly picked: readonly Point[];
  readonly onPicking: (on: boolean) => void;
  readonly onEdit: (edit: DesignEdit) => void;
}

/** The real size: the width of the baked cookie, or two points picked on it and how far apart they are. */
export function SizePanel({ design, picking, picked, onPicking, onEdit }: Props) {
  const [units] = useUnits();
  const per = units === 'us' ? MM_PER_INCH : 1;
  const unit = units === 'us' ? 'in' : 'mm';
  const box = boundingBox(design.cookie.flat());
  const widthMm = box.maxX - box.minX;
  const shown = (mm: number) => String(Math.round((mm / per) * (per === 1 ? 10 : 100)) / (per === 1 ? 10 : 100));
  const [text, setText] = useState<string | null>(null);
  const [between, setBetween] = useState('');
  const width = readNumber(text ?? shown(widthMm), Math.round(10 / per), Math.round(400 / per), msg`The width`, unit);
  const length =
    between === ''
      ? { value: Number.NaN }
      : readNumber(between, Math.round((1 / per) * 100) / 100, Math.round(400 / per), msg`The length`, unit);
  const apart = picked[0] && picked[1] ? distance(picked[0], picked[1]) : null;
  const resize = (mm: number) => {
    onEdit({ type: 'resize', widthMm: Math.min(400, Math.max(10, Math.round(mm * 100) / 100)) });
    setText(null);
    setBetween('');
    onPicking(false);
  };
  return (
    <form
      className="flex flex-wrap gap-3 items-end"
      noValidate
      onSubmit={(e) => {
        e.preventDefault();
        if (between !== '' && apart !== null) {
          if ('value' in length && Number.isFinite(length.value)) resize((widthMm * length.value * per) / apart);
        } else if (text !== null && 'value' in width) resize(width.value * per);
      }}
    >
      <NumberField small label={msg`cookie’s width, ${word(unit)}`} text={text ?? shown(widthMm)} typed={width} onText={setText} />
      {text !== null && (
        <button type="submit" className="btn" disabled={'problem' in width}>
          {msg`Set it`}
        </button>
      )}
      <button type="button" className={`btn ${picking ? 'btn-neutral' : ''}`} aria-pressed={picking} onClick={() => onPicking(!picking)}>
        {picking ? msg`leave picking` : msg`or pick two points`}
      </button>
      {picking && apart === null && <span className="text-lg">{msg`Touch two places on the cookie whose distance you know.`}</span>}
      {picking && apart !== null && (
        <>
          <NumberField small label={msg`they are apart, ${word(unit)}`} text={between} typed={length} onText={setBetween} />
          <button type="submit" className="btn" disabled={!('value' in length) || !Number.isFinite(length.value)}>
            {msg`Set it`}
          </button>
        </>
      )}
    </form>
  );
}
