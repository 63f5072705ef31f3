import { basename } from 'node:path';
import { encode } from 'fast-png';
import { readDesign } from '../../design/read-design.js';
import { surfaceStates } from '../../drying/state.js';
import { wetStages } from '../../marbling/stages.js';
import { paint } from '../../picture/paint.js';
import { sceneOf } from '../../picture/scene.js';
import { finishedLook } from '../../planning/look.js';
import { type Command, choiceOption, numberOption, parse, readText } from '../command.js';

export const picture: Command = {
  name: 'picture',
  usage: 'picture DESIGN.svg [--state wet|thickening|skinned|crusted|set|firm|dry] [--px PX] > OUT.png',
  summary: 'a cookie as it looks with everything on, painted from its heights',
  help: `Writes a PNG with a clear ground to standard output: every part of the design on, all of it in one state of the drying ladder
(--state, dry where nothing is said), wet marks where their drags carried them. --px is its width, 8 to 2400 (600); its height
follows the cookie's. The same drawing gives the same bytes every time.`,
  async run(args) {
    const { values, files } = parse(args, { state: { type: 'string', default: 'dry' }, px: { type: 'string', default: '600' } }, 1);
    const file = files[0] as string;
    const state = choiceOption(values, 'state', surfaceStates);
    const px = Math.round(numberOption(values, 'px', 8, 2400, 'pixels'));
    const design = readDesign(await readText(file), basename(file).replace(/\.svg$/i, ''));
    const { width, height, rgba } = paint(sceneOf(design, finishedLook(design, state), wetStages(design)), px);
    const png = encode({ width, height, data: new Uint8Array(rgba.buffer), channels: 4, depth: 8 });
    await new Promise<void>((done, fail) => process.stdout.write(png, (error) => (error ? fail(error) : done())));
    return 0;
  },
};
