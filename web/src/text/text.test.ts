import { describe, expect, it } from 'vitest';
import { inkOn } from '../ui/ink.js';
import { span, stopwatch } from './time.js';

describe('words for time', () => {
  it('spans', () => {
    expect([0, 45, 89, 90, 719, 3600, 11_400, 60_000].map(span)).toEqual([
      '0 s',
      '45 s',
      '89 s',
      '2 min',
      '12 min',
      '1 h',
      '3 h 10 min',
      '16 h 40 min',
    ]);
  });
  it('stopwatches', () => {
    expect([0, 61_000, 3_600_000, 3_661_000, -5].map(stopwatch)).toEqual(['0:00', '1:01', '1:00:00', '1:01:01', '0:00']);
  });
});

/** WCAG 2.2 relative luminance and contrast ratio. */
function contrast(a: string, b: string): number {
  const luminance = (hex: string) => {
    const [r, g, bl] = [1, 3, 5]
      .map((i) => Number.parseInt(hex.slice(i, i + 2), 16) / 255)
      .map((c) => (c <= 0.04045 ? c / 12.92 : ((c + 0.055) / 1.055) ** 2.4)) as [number, number, number];
    return 0.2126 * r + 0.7152 * g + 0.0722 * bl;
  };
  const [x, y] = [luminance(a), luminance(b)].sort((p, q) => q - p) as [number, number];
  return (x + 0.05) / (y + 0.05);
}

describe('ink on icing', () => {
  it.each(['#f6f3ea', '#b3261e', '#2e3a46', '#f2c14e', '#3f7f86', '#6f7c85', '#5f9aa0', '#000000', '#ffffff'])('reads on %s', (colour) => {
    expect(contrast(inkOn(colour), colour)).toBeGreaterThan(3.9);
  });
});
