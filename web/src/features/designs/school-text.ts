import type { School, SchoolParameter } from '@kestfog/core/steps';
import { msg } from '@kestfog/core/words';
import type { Counting } from '../../app/counting.js';
import type { Units } from '../../app/units.js';
import { millimetres } from '../../text/amounts.js';

/** Icing that is counted: shown as this decorator counts it. */
export const isCount = (p: SchoolParameter): boolean => ['floodS', 'outlineS', 'pipingS', 'wetMarkS'].includes(p.key);

/** What is measured in mm: shown in the units of whoever reads. */
export const isLength = (p: SchoolParameter): boolean => p.key === 'edgeMm';

/** What a school says of one row, in words. */
export function schoolValue(p: SchoolParameter, school: School, counting: Pick<Counting, 'text'>, units: Units): string {
  const v = school[p.key];
  if (p.kind === 'yes') return v ? msg`yes` : msg`no`;
  if (p.kind === 'choice') return p.of.find((o) => o.value === v)?.text ?? String(v);
  if (isLength(p)) return millimetres(v as number, units);
  return isCount(p) ? counting.text(v as number) : `${v}${p.unit ? ` ${p.unit}` : p.key === 'neighbourCrusts' ? ' ×' : ''}`;
}
