// Piping on the screen: a picture traced, an edit among many parts, an area made to meet its neighbours.
import { circleAt, foldDesign, meetingNeighbours, startingDrawing, startingShapes } from '../dist/design/index.js';
import { deriveSteps, schoolById } from '../dist/steps/index.js';
import { seededRng } from '../dist/time/index.js';
import { cutterOutline, traceImage } from '../dist/tracing/index.js';

const picture = (side) => {
  const rng = seededRng(3);
  const colours = [
    [179, 38, 30],
    [31, 63, 107],
    [242, 193, 78],
    [63, 127, 134],
    [244, 242, 236],
  ];
  const rgba = new Uint8ClampedArray(side * side * 4);
  for (let y = 0; y < side; y++)
    for (let x = 0; x < side; x++) {
      const [u, v] = [x / side - 0.5, y / side - 0.5];
      const r = Math.hypot(u, v);
      const k = r > 0.45 ? 4 : Math.hypot(u - 0.15, v) < 0.12 ? 2 : Math.hypot(u + 0.2, v - 0.1) < 0.1 ? 3 : v > 0.15 ? 1 : 0;
      const noise = (rng() - 0.5) * 16;
      rgba.set([...colours[k].map((c) => c + noise), 255], 4 * (y * side + x));
    }
  return { width: side, height: side, rgba };
};

/** A cookie with so many parts piped on it by hand, a third of them wet. */
const pipedDocument = (parts) => {
  const across = Math.ceil(Math.sqrt(parts));
  const shape = { ...startingShapes[0], widthMm: 90, heightMm: 90 };
  const edits = [...Array(parts).keys()].map((i) => {
    const at = { x: 14 + ((i % across) * 62) / across, y: 14 + (Math.floor(i / across) * 62) / across };
    const technique = ['piped-line', 'wet-drop', 'pen'][i % 3];
    return {
      type: 'draw',
      id: `d${i}`,
      name: `d${i}`,
      technique,
      strokes: [
        technique === 'wet-drop'
          ? { points: circleAt(at, 1), closed: true }
          : { points: [at, { x: at.x + 1.2, y: at.y + 0.6 }], closed: false },
      ],
      area: technique === 'wet-drop',
      layer: false,
      colour: ['#22343c', '#b3261e', '#3f7f86'][i % 3],
      widthMm: 0.5,
    };
  });
  return { format: 'kestfog-design/3', name: 'piped', svg: startingDrawing(shape, '#ffffff'), edits };
};

/** Rows of [what, milliseconds]. */
export function pipingTimes(medianMs) {
  const large = picture(2000);
  const photo = picture(1200);
  const edited = [300, 1000].map((parts) => {
    let doc = pipedDocument(parts);
    foldDesign(doc);
    let n = 0;
    return [
      `an edit among ${parts} piped parts, folded and put in order`,
      medianMs(() => {
        const edit = { ...doc.edits[Math.floor(parts / 6) * 3 + 1], id: `more${n++}` };
        doc = { ...doc, edits: [...doc.edits, edit] };
        deriveSteps(foldDesign(doc), schoolById('two-bags'));
      }),
      medianMs(() => foldDesign({ ...doc, edits: [...doc.edits, { ...doc.edits[Math.floor(parts / 6) * 3 + 1], id: `fold${n++}` }] })),
    ];
  });
  const many = foldDesign(pipedDocument(300));
  return [
    ['2,000 × 2,000 pixels traced to five colours', medianMs(() => traceImage(large, { colours: 5, widthMm: 90, noGround: true }))],
    [
      'a cutter’s outline on 1,200 × 1,200 pixels',
      medianMs(() =>
        cutterOutline(photo, {
          way: 'length',
          points: [
            { x: 0, y: 0 },
            { x: 1200, y: 0 },
          ],
          lengthMm: 100,
        }),
      ),
    ],
    ...edited.flatMap(([what, whole, fold]) => [
      [what, whole],
      [`${what.split(',')[0]}, folded alone`, fold],
    ]),
    ['an area made to meet its neighbours among 300', medianMs(() => meetingNeighbours(circleAt({ x: 40, y: 40 }, 12), many))],
  ];
}
