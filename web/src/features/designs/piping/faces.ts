import round from '@fontsource/baloo-2/files/baloo-2-latin-800-normal.woff?url';
import roundExtended from '@fontsource/baloo-2/files/baloo-2-latin-ext-800-normal.woff?url';
import brush from '@fontsource/lobster/files/lobster-latin-400-normal.woff?url';
import brushExtended from '@fontsource/lobster/files/lobster-latin-ext-400-normal.woff?url';
import { type Face, readLineFace } from '@kestfog/core/design';

/** Faces that ship with the application, by how they look: strokes for beads, or areas to flood or stencil. */
const FACES = {
  upright: { kind: 'strokes', read: async () => readLineFace((await import('hersheytext/svg_fonts/EMSReadability.svg?raw')).default) },
  slanted: {
    kind: 'strokes',
    read: async () => readLineFace((await import('hersheytext/svg_fonts/EMSReadabilityItalic.svg?raw')).default),
  },
  flowing: { kind: 'strokes', read: async () => readLineFace((await import('hersheytext/svg_fonts/EMSAllure.svg?raw')).default) },
  running: {
    kind: 'strokes',
    read: async () => readLineFace((await import('hersheytext/svg_fonts/HersheyScript1.svg?raw')).default, true),
  },
  narrow: { kind: 'strokes', read: async () => readLineFace((await import('hersheytext/svg_fonts/EMSTech.svg?raw')).default) },
  round: { kind: 'areas', read: () => areaFace([round, roundExtended], false) },
  brush: { kind: 'areas', read: () => areaFace([brush, brushExtended], true) },
} as const satisfies Readonly<Record<string, { readonly kind: Face['kind']; readonly read: () => Promise<Face> }>>;
export type FaceName = keyof typeof FACES;
export const faceNames = Object.keys(FACES) as readonly FaceName[];
export const kindOfFace = (name: FaceName): Face['kind'] => FACES[name].kind;

async function areaFace(addresses: readonly string[], joins: boolean): Promise<Face> {
  const { readOutlineFace } = await import('@kestfog/core/outline-face');
  const files = await Promise.all(
    addresses.map(async (address) => {
      const answer = await fetch(address);
      if (!answer.ok) throw new Error('the face is not there');
      return answer.arrayBuffer();
    }),
  );
  return readOutlineFace(files, joins);
}

const known = new Map<FaceName, Face>();
export async function faceNamed(name: FaceName): Promise<Face> {
  const found = known.get(name);
  if (found) return found;
  const face = await FACES[name].read();
  known.set(name, face);
  return face;
}
