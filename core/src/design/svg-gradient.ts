import { formatHex, parse } from 'culori';
import { declaredOf, type Rule } from './svg-style.js';
import type { SvgElement } from './svg-tree.js';

/** A gradient may take its stops from another, that from a third. */
const MAX_HOPS = 8;

interface Stop {
  readonly at: number;
  readonly rgb: readonly [number, number, number];
}

/**
 * The colour an icing is mixed to where a drawing has a gradient: the mean along it, of red, green and blue as SVG goes from stop
 * to stop (SVG 2, "Gradients"), the first and the last going on to its ends. Null where there is no such gradient, or no stop.
 */
export function gradientMean(id: string, byId: ReadonlyMap<string, SvgElement>, sheet: readonly Rule[]): string | null {
  const stops = stopsOf(id, byId, sheet, 0);
  const [first, last] = [stops[0], stops.at(-1)];
  if (!first || !last) return null;
  const sum = [0, 0, 0];
  const add = (share: number, rgb: readonly number[]) => {
    for (const c of [0, 1, 2]) sum[c] = (sum[c] as number) + share * (rgb[c] as number);
  };
  add(first.at, first.rgb);
  for (let i = 1; i < stops.length; i++) {
    const [a, b] = [stops[i - 1], stops[i]] as [Stop, Stop];
    add((b.at - a.at) / 2, a.rgb);
    add((b.at - a.at) / 2, b.rgb);
  }
  add(1 - last.at, last.rgb);
  return formatHex({ mode: 'rgb', r: sum[0] as number, g: sum[1] as number, b: sum[2] as number });
}

function stopsOf(id: string, byId: ReadonlyMap<string, SvgElement>, sheet: readonly Rule[], hops: number): Stop[] {
  const element = byId.get(id);
  if (!element || hops > MAX_HOPS || !['linearGradient', 'radialGradient'].includes(element.tag)) return [];
  let reached = 0;
  const own = element.children
    .filter((c) => c.tag === 'stop')
    .map((stop): Stop => {
      const text = (stop.attributes['offset'] ?? '0').trim();
      const said = text.endsWith('%') ? Number(text.slice(0, -1)) / 100 : Number(text);
      // A stop lies never before the one it follows.
      reached = Math.max(reached, Math.min(1, Number.isFinite(said) ? said : 0));
      const colour = parse(declaredOf(stop, sheet)['stop-color'] ?? 'black');
      const rgb = parse(formatHex(colour) ?? '#000000') as { r: number; g: number; b: number };
      return { at: reached, rgb: [rgb.r, rgb.g, rgb.b] };
    });
  if (own.length > 0) return own;
  const next = (element.attributes['href'] ?? '').trim();
  return next.startsWith('#') ? stopsOf(next.slice(1), byId, sheet, hops + 1) : [];
}
