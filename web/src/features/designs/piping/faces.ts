import { type LineFace, readLineFace } from '@kestfog/core/design';

/** Single-line faces that ship with the application (SIL Open Font License), by how they look. */
const FACES = {
  upright: () => import('hersheytext/svg_fonts/EMSReadability.svg?raw'),
  slanted: () => import('hersheytext/svg_fonts/EMSReadabilityItalic.svg?raw'),
  flowing: () => import('hersheytext/svg_fonts/EMSAllure.svg?raw'),
  narrow: () => import('hersheytext/svg_fonts/EMSTech.svg?raw'),
} as const;
export const faceNames = Object.keys(FACES) as readonly (keyof typeof FACES)[] as readonly [keyof typeof FACES, ...(keyof typeof FACES)[]];

const known = new Map<string, LineFace>();
export async function faceNamed(name: string): Promise<LineFace> {
  const found = known.get(name);
  if (found) return found;
  const face = readLineFace((await FACES[name as keyof typeof FACES]()).default);
  known.set(name, face);
  return face;
}
