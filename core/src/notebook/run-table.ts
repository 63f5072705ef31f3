import { csv } from '../paper/csv.js';
import type { RunAccount } from './account.js';

export const runTableKinds = ['times', 'found'] as const;
export type RunTableKind = (typeof runTableKinds)[number];

const at = (s: number | null): string => (s === null ? '' : new Date(s * 1000).toISOString());
const whole = (s: number | null): number | string => (s === null ? '' : Math.round(s));

/** A run as a table (RFC 4180): real times beside the planned ones, or what was counted and found. Moments are ISO 8601. */
export function runTable(run: RunAccount, kind: RunTableKind): string {
  if (kind === 'times')
    return csv(
      [
        'planned start',
        'planned end',
        'begun',
        'done',
        'took s',
        'planned s',
        'tray',
        'who',
        'design',
        'cookies',
        'kind',
        'what',
        'how it is known',
      ],
      run.visits.map((v) => [
        at(v.plannedStartS),
        at(v.plannedEndS),
        at(v.begunS),
        at(v.doneS),
        whole(v.tookS),
        whole(v.plannedEndS - v.plannedStartS),
        v.trayId,
        v.who,
        v.design ?? '',
        v.cookies,
        v.kind,
        v.title,
        v.said,
      ]),
    );
  const rows: (readonly [number, readonly (string | number)[]])[] = [
    ...run.found.map((f) => [f.atS, ['touch', f.trayId, f.title, f.cookie ?? '', f.state ?? '', f.found]] as const),
    ...run.counted.map((c) => [c.atS, ['count', '', c.colour, '', `planned ${c.plannedS} s`, `${c.countedS} s`]] as const),
    ...run.airs.map((a) => [a.atS, ['air', '', '', '', `${a.tempC} °C`, `${a.humidityPct} %`]] as const),
    ...run.shut.map((s) => [s.atS, ['window shut', s.trayId, s.title, s.cookies, '', s.choice]] as const),
    ...run.summary.defects.map((d) => [d.atS, ['defect', d.trayId ?? '', d.part ?? d.design, d.cookie, d.seen, d.outcome]] as const),
  ];
  return csv(
    ['at', 'kind', 'tray', 'of what', 'cookie', 'about', 'found'],
    rows.sort(([a], [b]) => a - b).map(([s, cells]) => [at(s), ...cells]),
  );
}
