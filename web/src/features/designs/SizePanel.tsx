import type { Design, DesignEdit } from '@kestfog/core/design';
import { boundingBox, distance, type Point } from '@kestfog/core/geometry';
import { MM_PER_INCH } from '@kestfog/core/units';
import { msg, word } from '@kestfog/core/words';
import type { Units } from '../../app/units.js';
import { Field } from '../../ui/Field.js';
import { NumberInput } from '../../ui/NumberField.js';
import { aNumber, useKeptForm } from '../../ui/use-kept-form.js';
import { lengthTurned, limitIn, mmIn } from '../../ui/use-length.js';

interface Props {
  readonly design: Design;
  readonly picking: boolean;
  readonly picked: readonly Point[];
  readonly onPicking: (on: boolean) => void;
  readonly onEdit: (edit: DesignEdit) => void;
}

interface Fields {
  readonly width: string;
  /** how far apart the two points are; empty while none are picked */
  readonly between: string;
}
const WIDTH_MM = [10, 400] as const;
const shown = (mm: number, units: Units) =>
  units === 'us' ? String(Math.round((mm / MM_PER_INCH) * 100) / 100) : String(Math.round(mm * 10) / 10);
const turned = (typed: Fields, from: Units, to: Units): Fields => ({
  width: lengthTurned(typed.width, from, to),
  between: lengthTurned(typed.between, from, to),
});

/** The real size: the width of the baked cookie, or two points picked on it and how far apart they are. */
export function SizePanel({ design, picking, picked, onPicking, onEdit }: Props) {
  const box = boundingBox(design.cookie.flat());
  const widthMm = box.maxX - box.minX;
  const begin = (u: Units): Fields => ({ width: shown(widthMm, u), between: '' });
  const { form, units, beginAnew } = useKeptForm<Fields>({ name: `size.${design.name}`, begin, turned });
  const { errors, isValid } = form.formState;
  const typed = form.watch();
  const unit = units === 'us' ? 'in' : 'mm';
  const aLength = (what: string, [from, to]: readonly [number, number]) => aNumber(limitIn(from, units), limitIn(to, units), what, unit);
  const apart = picked[0] && picked[1] ? distance(picked[0], picked[1]) : null;
  const measures = picking && apart !== null;
  const resize = ({ width, between }: Fields) => {
    const mm = measures ? (widthMm * mmIn(between, units)) / apart : mmIn(width, units);
    onEdit({ type: 'resize', widthMm: Math.min(WIDTH_MM[1], Math.max(WIDTH_MM[0], Math.round(mm * 100) / 100)) });
    beginAnew();
    onPicking(false);
  };
  return (
    <form className="flex flex-wrap gap-3 items-end" noValidate onSubmit={form.handleSubmit(resize)}>
      <Field label={msg`cookie’s width, ${word(unit)}`} error={errors.width?.message}>
        <NumberInput isWrong={!!errors.width} {...form.register('width', aLength(msg`The width`, WIDTH_MM))} />
      </Field>
      {!measures && typed.width !== shown(widthMm, units) && (
        <button type="submit" className="btn" disabled={!isValid}>
          {msg`Set it`}
        </button>
      )}
      <button type="button" className={`btn ${picking ? 'btn-neutral' : ''}`} aria-pressed={picking} onClick={() => onPicking(!picking)}>
        {picking ? msg`leave picking` : msg`or pick two points`}
      </button>
      {picking && apart === null && <span className="text-lg">{msg`Touch two places on the cookie whose distance you know.`}</span>}
      {measures && (
        <>
          <Field label={msg`they are apart, ${word(unit)}`} error={errors.between?.message}>
            <NumberInput isWrong={!!errors.between} {...form.register('between', aLength(msg`The length`, [1, WIDTH_MM[1]]))} />
          </Field>
          <button type="submit" className="btn" disabled={!isValid || typed.between.trim() === ''}>
            {msg`Set it`}
          </button>
        </>
      )}
    </form>
  );
}
