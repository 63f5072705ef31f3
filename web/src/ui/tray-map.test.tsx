// @vitest-environment jsdom
import { readDesign } from '@kestfog/core/design';
import { parseOrder } from '@kestfog/core/formats';
import { planOrder } from '@kestfog/core/planning';
import { cleanup, render, screen } from '@testing-library/react';
import { afterEach, describe, expect, it } from 'vitest';
import { TrayMap } from './TrayMap.js';

afterEach(cleanup);
const square = readDesign(
  '<svg xmlns="http://www.w3.org/2000/svg" width="90mm" height="90mm" viewBox="0 0 90 90"><rect id="a" x="5" y="5" width="60" height="60" fill="#b3261e"/></svg>',
  'square',
);
const plan = (tray: object) =>
  planOrder({
    order: parseOrder({
      format: 'kestfog-order/3',
      designs: [{ file: 'square', count: 3 }],
      trays: [{ id: 'A', ...tray }],
      openingHours: [[0, 86_400]],
    }),
    designs: [square],
    passes: 1,
  });

describe('how the cookies of a tray lie', () => {
  it('is drawn to scale where the tray is given by its size, each cookie with its number', () => {
    const { container } = render(<TrayMap plan={plan({ widthMm: 300, depthMm: 200 })} trayId="A" className="" />);
    expect(screen.getByRole('img', { name: 'Tray A: how 3 cookies lie' })).toBeDefined();
    expect([...container.querySelectorAll('text')].map((t) => t.textContent)).toEqual(['1', '2', '3']);
    expect(container.querySelector('rect')?.getAttribute('width')).toBe('300');
    expect(screen.getByText(/10 mm for a hand/)).toBeDefined();
  });
  it('is not shown of a tray that is counted out in places, whose size nobody knows', () => {
    const { container } = render(<TrayMap plan={plan({ places: 4 })} trayId="A" className="" />);
    expect(container.innerHTML).toBe('');
  });
});
