// npm run picture-sheet: one picture of every pattern of the trade on a round flood, and of the demo's designs wet, crusted and dry.
// Writes docs/screenshots/patterns-and-finishes.png.
import { readdirSync, readFileSync, writeFileSync } from 'node:fs';
import { encode } from 'fast-png';
import { foldDesign, patterns } from '../dist/design/index.js';
import { wetStages } from '../dist/marbling/index.js';
import { paint, sceneOf } from '../dist/picture/index.js';
import { finishedLook } from '../dist/planning/index.js';

const COLUMNS = 8;
const PX = 150;
const GAP = 8;
const GROUND = [238, 243, 246];
const ROUND =
  '<svg xmlns="http://www.w3.org/2000/svg" width="80mm" height="80mm" viewBox="0 0 80 80"><circle id="cookie" data-part="cookie" cx="40" cy="40" r="39" fill="#d9a566"/><circle id="s" data-part="section" cx="40" cy="40" r="35" fill="#f6f3ea"/></svg>';
const COLOURS = { leopard: ['#c98f4e', '#3a2a22'], roses: ['#d98a94', '#b3404f', '#6f9a4f'], bubbles: ['#9cc9d6', '#f6f3ea'] };
const DEMO = new URL('../../server/demo/', import.meta.url);

const recipes = patterns
  .filter((p) => p.kind === 'recipes')
  .map((p) => {
    const [sizeMm, spacingMm] = p.usual;
    const ask = { sizeMm, spacingMm, angleDeg: 0, count: 8, seed: 3 };
    const colours = COLOURS[p.id] ?? ['#b3261e', '#1f3f6b', '#3f7f86'];
    const design = foldDesign({
      format: 'kestfog-design/3',
      name: p.label,
      svg: ROUND,
      edits: [{ type: 'pattern', id: 'm', sectionId: 's', pattern: p.id, ask, colours, seconds: null }],
    });
    return { design, state: 'wet' };
  });
const demo = readdirSync(DEMO)
  .filter((f) => f.endsWith('.svg'))
  .slice(0, COLUMNS)
  .map((f) => foldDesign({ format: 'kestfog-design/3', name: f, svg: readFileSync(new URL(f, DEMO), 'utf8'), edits: [] }));
const cells = [...recipes, ...['wet', 'crusted', 'dry'].flatMap((state) => demo.map((design) => ({ design, state })))];

const rows = Math.ceil(cells.length / COLUMNS);
const [width, height] = [COLUMNS * (PX + GAP) + GAP, rows * (PX + GAP) + GAP];
const data = new Uint8Array(width * height * 3);
for (let i = 0; i < data.length; i++) data[i] = GROUND[i % 3];
for (const [k, { design, state }] of cells.entries()) {
  const scene = sceneOf(design, finishedLook(design, state), wetStages(design));
  const [w, h] = [scene.box.maxX - scene.box.minX, scene.box.maxY - scene.box.minY];
  const picture = paint(scene, Math.round(w >= h ? PX : (PX * w) / h));
  const left = GAP + (k % COLUMNS) * (PX + GAP) + Math.floor((PX - picture.width) / 2);
  const top = GAP + Math.floor(k / COLUMNS) * (PX + GAP) + Math.floor((PX - picture.height) / 2);
  for (let y = 0; y < picture.height; y++)
    for (let x = 0; x < picture.width; x++) {
      const from = 4 * (y * picture.width + x);
      const to = 3 * ((top + y) * width + left + x);
      const a = picture.rgba[from + 3] / 255;
      for (let c = 0; c < 3; c++) data[to + c] = data[to + c] * (1 - a) + picture.rgba[from + c] * a;
    }
}
writeFileSync(
  new URL('../../docs/screenshots/patterns-and-finishes.png', import.meta.url),
  encode({ width, height, data, channels: 3, depth: 8 }),
);
