import { msg } from '../words/index.js';

/** Outlines of our own for those without a drawing: SVG, 90 mm or so across, with one flooded section inside a bare rim. */
export interface StartingShape {
  readonly id: string;
  readonly label: string;
  readonly widthMm: number;
  readonly heightMm: number;
  /** path data of the cookie, mm */
  readonly cookie: string;
}

const scallops = (n: number, c: number, r: number, bump: number): string => {
  const at = (i: number, radius: number) => {
    const a = (2 * Math.PI * i) / n;
    return `${(c + radius * Math.cos(a)).toFixed(2)} ${(c + radius * Math.sin(a)).toFixed(2)}`;
  };
  return `M${at(0, r)}${[...Array(n).keys()].map((i) => `Q${at(i + 0.5, r + bump)} ${at(i + 1, r)}`).join('')}Z`;
};

export const startingShapes: readonly StartingShape[] = [
  { id: 'round', label: msg`round`, widthMm: 90, heightMm: 90, cookie: 'M0 45A45 45 0 1 1 90 45A45 45 0 1 1 0 45Z' },
  { id: 'oval', label: msg`oval`, widthMm: 100, heightMm: 70, cookie: 'M0 35A50 35 0 1 1 100 35A50 35 0 1 1 0 35Z' },
  {
    id: 'plaque',
    label: msg`plaque`,
    widthMm: 100,
    heightMm: 66,
    cookie: 'M12 0H88A12 12 0 0 0 100 12V54A12 12 0 0 0 88 66H12A12 12 0 0 0 0 54V12A12 12 0 0 0 12 0Z',
  },
  { id: 'pennant', label: msg`pennant`, widthMm: 80, heightMm: 96, cookie: 'M3 0H77Q80 0 79 3L42 94Q40 97 38 94L1 3Q0 0 3 0Z' },
  { id: 'tag', label: msg`tag`, widthMm: 60, heightMm: 96, cookie: 'M18 0H42L60 20V92Q60 96 56 96H4Q0 96 0 92V20Z' },
  { id: 'square', label: msg`square`, widthMm: 80, heightMm: 80, cookie: 'M5 0H75Q80 0 80 5V75Q80 80 75 80H5Q0 80 0 75V5Q0 0 5 0Z' },
  { id: 'scalloped', label: msg`scalloped round`, widthMm: 90, heightMm: 90, cookie: scallops(12, 45, 40, 9) },
  { id: 'leaf', label: msg`leaf`, widthMm: 64, heightMm: 100, cookie: 'M32 0C58 20 68 52 34 100Q32 102 30 100C-4 52 6 20 32 0Z' },
];

/** The drawing of a starting shape: the baked outline, and one section a little inside it. */
export function startingDrawing(shape: StartingShape, colour: string): string {
  const [w, h] = [shape.widthMm, shape.heightMm];
  const inner = (w - 8) / w;
  return [
    `<svg xmlns="http://www.w3.org/2000/svg" width="${w}mm" height="${h}mm" viewBox="0 0 ${w} ${h}" data-cutter="${shape.id}">`,
    `<path id="cookie" data-part="cookie" fill="#d9a566" d="${shape.cookie}"/>`,
    `<path id="base" data-name="base" fill="${colour}" transform="translate(4 ${((1 - inner) * h) / 2}) scale(${inner})" d="${shape.cookie}"/>`,
    '</svg>',
  ].join('\n');
}
