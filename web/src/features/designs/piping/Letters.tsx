import { type Design, type DesignEdit, LEAST_HEIGHT_PER_BEAD, lettered, repeated } from '@kestfog/core/design';
import { BadInput } from '@kestfog/core/units';
import { useState } from 'react';
import { useUnits } from '../../../app/units.js';
import { millimetres } from '../../../text/amounts.js';
import { cookieFrame } from '../../../ui/cookie-frame.js';
import { NumberField, readNumber } from '../../../ui/NumberField.js';
import { useLength } from '../../../ui/use-length.js';
import { freshId } from '../fresh-id.js';
import { faceNamed, faceNames } from './faces.js';
import type { Piping } from './tools.js';

interface Props {
  readonly design: Design;
  readonly piping: Piping;
  readonly onEdit: (...edits: DesignEdit[]) => void;
}

/** Words typed, in a face whose letters are single beads, straight or on an arc. */
export function Letters({ design, piping, onEdit }: Props) {
  const [units] = useUnits();
  const { box, middle } = cookieFrame(design);
  const [words, setWords] = useState('');
  const [face, setFace] = useState<string>(faceNames[0]);
  const height = useLength(8, [2, 60], 'The height');
  const [bend, setBend] = useState('0');
  const [below, setBelow] = useState('50');
  const [problem, setProblem] = useState<string | null>(null);
  const bendDeg = readNumber(bend, -180, 180, 'The arc', 'degrees');
  const downPct = readNumber(below, 0, 100, 'The place', '%');
  const least = LEAST_HEIGHT_PER_BEAD * piping.widthMm;
  const put = async () => {
    if (height.mm === null || !('value' in bendDeg) || !('value' in downPct)) return;
    try {
      const at = { x: middle.x, y: box.minY + ((box.maxY - box.minY) * downPct.value) / 100 };
      const strokes = lettered(await faceNamed(face), { text: words, heightMm: height.mm, middle: at, arcDeg: bendDeg.value });
      setProblem(null);
      onEdit({
        type: 'draw',
        id: freshId('letters'),
        name: words.trim(),
        technique: 'lettering',
        strokes: strokes.flatMap((s) => repeated(s, piping.symmetry, middle)).map((points) => ({ points, closed: false })),
        area: false,
        layer: false,
        colour: piping.colour,
        widthMm: piping.widthMm,
        spells: words.trim(),
      });
    } catch (error) {
      setProblem(error instanceof BadInput ? error.message : 'The face could not be fetched: try again when the network is back.');
    }
  };
  return (
    <div className="flex flex-wrap gap-3 items-end text-lg">
      <label className="grid gap-1">
        words
        <input className="input w-48" maxLength={60} value={words} onChange={(e) => setWords(e.target.value)} />
      </label>
      <label className="grid gap-1">
        face
        <select className="select" value={face} onChange={(e) => setFace(e.target.value)}>
          {faceNames.map((f) => (
            <option key={f} value={f}>
              {f}
            </option>
          ))}
        </select>
      </label>
      <NumberField small label={`capitals, ${height.unit}`} text={height.text} typed={height.typed} onText={height.onText} />
      <NumberField small label="arc, °" text={bend} typed={bendDeg} onText={setBend} />
      <NumberField small label="down, %" text={below} typed={downPct} onText={setBelow} />
      <button
        type="button"
        className="btn"
        disabled={words.trim() === '' || height.mm === null || !('value' in bendDeg && 'value' in downPct)}
        onClick={() => void put()}
      >
        Pipe the words
      </button>
      {height.mm !== null && height.mm < least && (
        <p role="status" className="w-full text-base">
          {millimetres(least, units)} is the least for a bead of {millimetres(piping.widthMm, units)}: smaller letters run into themselves.
        </p>
      )}
      {problem && (
        <p role="alert" className="w-full text-error font-medium">
          {problem}
        </p>
      )}
    </div>
  );
}
