/** How far an arrow key moves something: one step, or a far one with Shift; null for any other key. */
export function arrowStep(
  e: { readonly key: string; readonly shiftKey: boolean },
  step: number,
  far: number,
): { readonly x: number; readonly y: number } | null {
  const by = e.shiftKey ? far : step;
  const [x, y] = { ArrowLeft: [-by, 0], ArrowRight: [by, 0], ArrowUp: [0, -by], ArrowDown: [0, by] }[e.key] ?? [0, 0];
  return x === 0 && y === 0 ? null : { x: x as number, y: y as number };
}
