import { basename } from 'node:path';
import { marksOf } from '../../design/design.js';
import { readDesign } from '../../design/read-design.js';
import { areaMm2 } from '../../geometry/shape.js';
import { wetPools } from '../../marbling/pools.js';
import { wetPicture } from '../../marbling/wet-flow.js';
import { type Command, numberOption, parse, print, readText } from '../command.js';

const TROUBLES = {
  torn: 'the flood stands already: the pull tears',
  stiff: 'much stiffer than the flood: it does not follow the pull',
  full: 'there is more laid than the flood has room for: all marks are squeezed',
  edge: 'it lies over the edge: what has no room there gives way along it',
} as const;

export const wet: Command = {
  name: 'wet',
  usage: 'wet DESIGN.svg [--after N] [--scribe-mm MM] [--depth-mm MM] [--seconds S] [--dried SHARE]',
  summary: 'where wet marks lie after their drags, in the drawing’s millimetres',
  help: `Prints kestfog-wet/1: {"format","motions","marks":[{"id","colour","rings":[[[x,y],…]],"areaMm2","laidAreaMm2"}],"floods":[{"id",
"colour","rings"}],"addedMl","raisedMm","pools":[{"id","addedMl","raisedMm"}],"troubles":[{"kind","marks","text"}]}: rings in mm of
the drawing, filled even-odd, from the bottom up. laidAreaMm2 is what a mark covers when it has spread; addedMl what all marks add,
raisedMm the most by which that raises a pool. "floods" are those drawn along across a flush join.
--after N makes the first N marks and drags only (all by default; 2.5 stops half way through the third). --scribe-mm, 0.3 to 4, and
--depth-mm, 0.5 to 10, stand for every drag's and flood's own; --seconds, 1.5 to 120, is the flood's count where the drawing says none
(15); --dried, 0 to 3, how far the flood is on its way to thickening: past 1 a pull tears.`,
  async run(args) {
    const { values, files } = parse(
      args,
      {
        after: { type: 'string' },
        'scribe-mm': { type: 'string' },
        'depth-mm': { type: 'string' },
        seconds: { type: 'string' },
        dried: { type: 'string' },
      },
      1,
    );
    const file = files[0] as string;
    const design = readDesign(await readText(file), basename(file).replace(/\.svg$/i, ''));
    const all = marksOf(design);
    const after = values['after'] === undefined ? all.length : numberOption(values, 'after', 0, 100_000, 'motions');
    const dried = values['dried'] === undefined ? 0 : numberOption(values, 'dried', 0, 3, 'times the way to thickening');
    const pools = wetPools(design);
    const round = (v: number) => Math.round(v * 1000) / 1000;
    const pictures = pools.map((pool) => {
      const first = all.slice(0, Math.floor(after)).filter((m) => pool.marks.includes(m)).length;
      const next = all[Math.floor(after)];
      return {
        pool,
        picture: wetPicture(pool, {
          after: first + (next && pool.marks.includes(next) ? after % 1 : 0),
          ...(values['scribe-mm'] === undefined ? {} : { scribeMm: numberOption(values, 'scribe-mm', 0.3, 4, 'mm') }),
          ...(values['depth-mm'] === undefined ? {} : { depthMm: numberOption(values, 'depth-mm', 0.5, 10, 'mm') }),
          ...(values['seconds'] === undefined ? {} : { floodSeconds: numberOption(values, 'seconds', 1.5, 120, 'seconds') }),
          ...(dried > 0 ? { dried: () => dried } : {}),
        }),
      };
    });
    const rings = (shape: readonly (readonly { readonly x: number; readonly y: number }[])[]) =>
      shape.map((r) => r.map((p) => [round(p.x), round(p.y)]));
    const isFlood = (pool: (typeof pools)[number], id: string) => pool.sections.some((s) => s.id === id);
    print({
      format: 'kestfog-wet/1',
      motions: all.length,
      marks: pictures.flatMap(({ pool, picture }) =>
        picture.inks
          .filter((i) => !isFlood(pool, i.markId))
          .map((i) => ({
            id: i.markId,
            colour: i.colour,
            rings: rings(i.shape),
            areaMm2: round(areaMm2(i.shape)),
            laidAreaMm2: round(i.laidAreaMm2),
          })),
      ),
      floods: pictures.flatMap(({ pool, picture }) =>
        picture.inks.filter((i) => isFlood(pool, i.markId)).map((i) => ({ id: i.markId, colour: i.colour, rings: rings(i.shape) })),
      ),
      addedMl: round(pictures.reduce((sum, p) => sum + p.picture.addedMl, 0)),
      raisedMm: round(Math.max(0, ...pictures.map((p) => p.picture.raisedMm))),
      pools: pictures.map(({ pool, picture }) => ({ id: pool.id, addedMl: round(picture.addedMl), raisedMm: round(picture.raisedMm) })),
      troubles: pictures.flatMap(({ picture }) =>
        picture.troubles.map((t) => ({ kind: t.kind, marks: t.markIds, text: TROUBLES[t.kind] })),
      ),
    });
    return 0;
  },
};
