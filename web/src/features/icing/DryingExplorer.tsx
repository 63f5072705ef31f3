import { dryingOutlook, fahrenheitFromCelsius } from '@kestfog/core';
import { scaleLinear, scaleLog } from 'd3-scale';
import { area, line } from 'd3-shape';
import { useMemo, useState } from 'react';
import { useUnits } from '../../app/units.js';
import { span } from '../../text/time.js';
import { useWidth } from '../../ui/use-width.js';
import { type Along, airOf, type CurvePoint, curvesAlong, type Question, RANGES, regionOf, shownStates, spread, timesOf } from './curves.js';

const HEIGHT = 380;
const PAD = { left: 74, right: 92, top: 14, bottom: 46 };
const ALONG: readonly { readonly id: Along; readonly label: string }[] = [
  { id: 'humidityPct', label: 'humidity' },
  { id: 'depthMm', label: 'depth' },
  { id: 'seconds', label: 'consistency' },
];
const HELPS = [
  { id: 'none', label: 'still air' },
  { id: 'fan', label: 'fan in front' },
  { id: 'dehydrator', label: 'dehydrator 35 °C' },
] as const;
const TICKS_MIN = [1, 2, 5, 10, 20, 60, 120, 240, 480, 1440, 4320];

/** How long until each state, and what changes it: drag one thing and see the others. */
export function DryingExplorer({ start }: { readonly start: Question }) {
  const [units] = useUnits();
  const [q, setQ] = useState<Question>(start);
  const [along, setAlong] = useState<Along>('humidityPct');
  const [ref, width] = useWidth<HTMLDivElement>();
  const curves = useMemo(() => curvesAlong(q, along), [q, along]);
  const now = useMemo(() => timesOf(q), [q]);
  const outlook = useMemo(() => dryingOutlook(regionOf(q), airOf(q)), [q]);
  const x = scaleLinear([RANGES[along].from, RANGES[along].to], [PAD.left, Math.max(PAD.left + 100, width - PAD.right)]);
  const y = scaleLog([1, 4320], [HEIGHT - PAD.bottom, PAD.top]).clamp(true);
  const median = line<CurvePoint>(
    (p) => x(p.x),
    (p) => y(p.p50),
  );
  const band = area<CurvePoint>(
    (p) => x(p.x),
    (p) => y(p.p10),
    (p) => y(p.p90),
  );
  const labelYs = spread(
    curves.map((c) => y(c.points.at(-1)?.p50 ?? 1)),
    17,
  );
  const temp = (c: number) => (units === 'us' ? `${Math.round(fahrenheitFromCelsius(c))} °F` : `${c} °C`);
  const value = { humidityPct: `${Math.round(q.humidityPct)} %`, depthMm: `${q.depthMm.toFixed(1)} mm`, seconds: `${q.seconds} s`, tempC: temp(q.tempC) };
  const slider = (key: Along | 'tempC', label: string) => (
    <label className="grid gap-1">
      <span className="text-lg flex justify-between gap-4">
        {label} <b className="font-semibold">{value[key]}</b>
      </span>
      <input
        type="range"
        className="range w-full"
        min={RANGES[key].from}
        max={RANGES[key].to}
        step={RANGES[key].step}
        value={q[key]}
        onChange={(e) => setQ({ ...q, [key]: Number(e.target.value) })}
      />
    </label>
  );
  return (
    <section aria-label="Drying">
      <h2 className="text-2xl font-semibold">How long it dries</h2>
      <div className="grid sm:grid-cols-2 lg:grid-cols-4 gap-x-8 gap-y-3 mt-3">
        {slider('humidityPct', 'humidity')}
        {slider('tempC', 'temperature')}
        {slider('seconds', 'consistency')}
        {slider('depthMm', 'depth')}
      </div>
      <div className="flex flex-wrap gap-2 mt-4 items-center">
        {HELPS.map((h) => (
          <button
            key={h.id}
            type="button"
            className={`btn ${q.help === h.id ? 'btn-neutral' : ''}`}
            aria-pressed={q.help === h.id}
            onClick={() => setQ({ ...q, help: h.id })}
          >
            {h.id === 'dehydrator' ? `dehydrator ${temp(35)}` : h.label}
          </button>
        ))}
        <span className="grow" />
        <span className="text-lg">drawn along</span>
        {ALONG.map((a) => (
          <button
            key={a.id}
            type="button"
            className={`btn ${along === a.id ? 'btn-neutral' : ''}`}
            aria-pressed={along === a.id}
            onClick={() => setAlong(a.id)}
          >
            {a.label}
          </button>
        ))}
      </div>
      <div ref={ref} className="mt-4">
        {width > 0 && (
          <svg width={width} height={HEIGHT} className="block">
            {TICKS_MIN.map((t) => (
              <g key={t}>
                <line x1={PAD.left} x2={width - PAD.right} y1={y(t)} y2={y(t)} stroke="var(--color-base-300)" />
                <text x={PAD.left - 8} y={y(t) + 5} textAnchor="end" className="fill-base-content text-[15px]">
                  {span(t * 60)}
                </text>
              </g>
            ))}
            {x.ticks(8).map((t) => (
              <text key={t} x={x(t)} y={HEIGHT - PAD.bottom + 24} textAnchor="middle" className="fill-base-content text-[15px]">
                {along === 'humidityPct' ? `${t} %` : along === 'depthMm' ? `${t} mm` : `${t} s`}
              </text>
            ))}
            <line x1={x(q[along])} x2={x(q[along])} y1={PAD.top} y2={HEIGHT - PAD.bottom} stroke="var(--color-primary)" strokeWidth="3" />
            {curves.map((c, i) => {
              const end = c.points.at(-1);
              return (
                <g key={c.state}>
                  <path d={band([...c.points]) ?? ''} fill="var(--color-secondary)" fillOpacity="0.16" />
                  <path d={median([...c.points]) ?? ''} fill="none" stroke="var(--color-base-content)" strokeWidth="2" />
                  {end && (
                    <text x={x(end.x) + 6} y={(labelYs[i] ?? 0) + 5} className="fill-base-content text-[15px]">
                      {c.state}
                    </text>
                  )}
                </g>
              );
            })}
          </svg>
        )}
      </div>
      <table className="table text-lg mt-2">
        <thead>
          <tr className="text-base-content">
            <th>state</th>
            <th>half of all cookies</th>
            <th>eight in ten between</th>
            <th>a normal plan waits</th>
          </tr>
        </thead>
        <tbody>
          {shownStates.map((s) => {
            const t = now[s];
            const why = outlook.why[s];
            return (
              <tr key={s}>
                <th scope="row">{s}</th>
                {t.p50 === null ? (
                  <td colSpan={3}>
                    {why?.code === 'humid' ? 'never: this air takes too little water' : 'more than three days'}
                    {why && `; it works at ${why.limitHumidityPct} % or below`}
                  </td>
                ) : (
                  <>
                    <td>{span(t.p50)}</td>
                    <td>
                      {t.p10 === null ? '' : span(t.p10)} and {t.p90 === null ? 'more than three days' : span(t.p90)}
                    </td>
                    <td>{t.planned === null ? 'more than three days' : span(t.planned)}</td>
                  </>
                )}
              </tr>
            );
          })}
        </tbody>
      </table>
      <p className="mt-3 text-base opacity-85 max-w-4xl">
        The surface loses {outlook.fluxGPerM2H.toFixed(0)} g of water a square metre an hour and cools to{' '}
        {units === 'us' ? `${Math.round(fahrenheitFromCelsius(outlook.surfaceTempC))} °F` : `${outlook.surfaceTempC.toFixed(1)} °C`}. A state comes when a
        certain amount of water is lost; the bands say how far cookies and kitchens differ (assumed, until your own touch tests say better). The times told by
        the trade are common practice with no published source.
      </p>
    </section>
  );
}
