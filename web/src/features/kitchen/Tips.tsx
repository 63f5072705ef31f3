import { OPENING_MM, type Tip, type TipShape, tipShapes, USUAL_TIPS } from '@kestfog/core/steps';
import { MM_PER_INCH } from '@kestfog/core/units';
import type { Kitchen } from '@kestfog/core/wire';
import { Plus } from 'lucide-react';
import { useKeepKitchen } from '../../api/queries.js';
import { useUnits } from '../../app/units.js';
import { NumberField, readNumber } from '../../ui/NumberField.js';
import { useTyped } from '../../ui/use-typed.js';
import { RemoveButton } from '../orders/form/Field.js';

interface Row {
  readonly name: string;
  readonly shape: TipShape;
  readonly opening: string;
}

/** The tips there are: what Designs, Icing and Bench say a part is piped through, and how wide its dam is. */
export function Tips({ kitchen }: { readonly kitchen: Kitchen }) {
  const [units] = useUnits();
  const keep = useKeepKitchen();
  const per = units === 'us' ? MM_PER_INCH : 1;
  const shown = (mm: number) => String(Math.round((mm / per) * 1000) / 1000);
  const asRow = (t: Tip): Row => ({ ...t, opening: shown(t.openingMm) });
  const [rows, setRows] = useTyped<readonly Row[]>(`kitchen.tips ${units}`, kitchen.tips.map(asRow));
  const unit = units === 'us' ? 'in' : 'mm';
  const typed = rows.map((r) =>
    readNumber(
      r.opening,
      Math.round((OPENING_MM[0] / per) * 1000) / 1000,
      Math.round((OPENING_MM[1] / per) * 1000) / 1000,
      'The opening',
      unit,
    ),
  );
  const names = rows.map((r) => r.name.trim().toLowerCase());
  const nameProblem = (i: number) => (names[i] === '' ? 'Name it.' : names.indexOf(names[i] as string) !== i ? 'Twice.' : null);
  const tips = rows.flatMap((r, i): Tip[] => {
    const t = typed[i];
    return t && 'value' in t && !nameProblem(i)
      ? [{ name: r.name.trim(), shape: r.shape, openingMm: Math.round(t.value * per * 100) / 100 }]
      : [];
  });
  const change = (i: number, more: Partial<Row>) => setRows(rows.map((r, k) => (k === i ? { ...r, ...more } : r)));
  return (
    <section id="tips" aria-label="Tips">
      <h2 className="text-2xl font-semibold">Tips</h2>
      <p className="text-lg mt-1">
        Each part is piped through the widest of these that is not wider than its line; an outline is as thick as its tip. Bores are the
        usual ones until you measure yours.
      </p>
      {rows.length === 0 && <p className="text-lg mt-2">None: every bag is snipped.</p>}
      <ul className="grid gap-3 mt-3">
        {rows.map((r, i) => (
          <li key={i} className="flex flex-wrap items-start gap-3">
            <label className="grid gap-1 content-start">
              <span className="text-lg">name</span>
              <input
                className="input w-44"
                maxLength={40}
                value={r.name}
                aria-invalid={nameProblem(i) !== null}
                onChange={(e) => change(i, { name: e.target.value })}
              />
              {nameProblem(i) && (
                <span role="alert" className="text-error font-medium">
                  {nameProblem(i)}
                </span>
              )}
            </label>
            <label className="grid gap-1 content-start">
              <span className="text-lg">shape</span>
              <select className="select w-28" value={r.shape} onChange={(e) => change(i, { shape: e.target.value as TipShape })}>
                {tipShapes.map((s) => (
                  <option key={s} value={s}>
                    {s}
                  </option>
                ))}
              </select>
            </label>
            <NumberField
              small
              label={`opening, ${unit}`}
              text={r.opening}
              typed={typed[i] ?? { value: 0 }}
              onText={(opening) => change(i, { opening })}
            />
            <div className="self-end">
              <RemoveButton label={`Remove ${r.name}`} disabled={false} onClick={() => setRows(rows.filter((_, k) => k !== i))} />
            </div>
          </li>
        ))}
      </ul>
      <div className="flex flex-wrap gap-3 mt-4">
        <button
          type="button"
          className="btn"
          disabled={rows.length >= 30}
          onClick={() => setRows([...rows, { name: '', shape: 'round', opening: shown(2) }])}
        >
          <Plus aria-hidden size={18} /> another tip
        </button>
        <button type="button" className="btn btn-ghost" onClick={() => setRows(USUAL_TIPS.map(asRow))}>
          the usual set
        </button>
        <button
          type="button"
          className="btn btn-primary"
          disabled={tips.length !== rows.length || keep.isPending}
          onClick={() => keep.mutate({ tips })}
        >
          Keep the tips
        </button>
        {keep.isSuccess && (
          <span role="status" className="self-center text-lg">
            Kept.
          </span>
        )}
      </div>
      {keep.isError && (
        <p role="alert" className="text-error font-medium mt-2">
          {keep.error.message}
        </p>
      )}
    </section>
  );
}
