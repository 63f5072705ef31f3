import { counted, eyeOf, type Guess, type Guessable, guessable, guessOf, ladderOf, plainRound, type Tally } from '@kestfog/core/rehearsal';
import { seededRng } from '@kestfog/core/time';
import { msg, word } from '@kestfog/core/words';
import { useEffect, useRef, useState } from 'react';
import { Link } from 'react-router';
import { useCounting } from '../app/counting.js';
import { useUnits } from '../app/units.js';
import { SURFACES } from '../features/bench/defect-text.js';
import { keepTally, keptTally } from '../features/rehearsal/guesses.js';
import { airText, millimetres, percent } from '../text/amounts.js';
import { span } from '../text/time.js';
import { Cookie } from '../ui/Cookie.js';
import { FinishDefs } from '../ui/FinishDefs.js';
import { msgNodes } from '../ui/msg-nodes.js';
import { useTitle } from '../ui/use-title.js';

const COOKIE = plainRound();
const labelOf = (s: Guessable): string => SURFACES.find((x) => x.state === s)?.label ?? s;
/** Fewer than this say nothing of anybody's eye yet. */
const ENOUGH = 8;

/** A surface is shown with its history, and is to be named: practice for the eye and the finger, and no lesson for the kitchen. */
export function GuessPage() {
  useTitle(msg`Know your surfaces`);
  const [first] = useState(() => Math.floor(Math.random() * 1e9));
  const [n, setN] = useState(0);
  const [said, setSaid] = useState<Guessable | null>(null);
  const [tally, setTally] = useState<Tally>(keptTally);
  const guess = guessOf(seededRng(first + n));
  const next = useRef<HTMLButtonElement>(null);
  const say = (word: Guessable) => {
    if (said !== null) return;
    setSaid(word);
    const now = counted(tally, guess.state, word);
    setTally(now);
    keepTally(now);
  };
  const goOn = () => {
    setSaid(null);
    setN(n + 1);
  };
  useEffect(() => {
    if (said !== null) next.current?.focus();
  }, [said]);
  return (
    <div className="pt-6 text-xl grid gap-6">
      <FinishDefs />
      <p>
        <Link to="/practice" className="link link-hover">
          {msg`Practice`}
        </Link>
      </p>
      <h1 className="text-5xl font-semibold">{msg`What is it by now?`}</h1>
      <div className="grid md:grid-cols-[minmax(0,1fr)_minmax(0,1.2fr)] gap-8 items-start">
        <Cookie design={COOKIE} look={guess.state} className="w-full max-h-[26rem]" label={msg`a flooded round cookie`} />
        <div className="grid gap-4">
          <History guess={guess} />
          {said === null ? (
            <div className="grid sm:grid-cols-2 gap-2">
              {guessable.map((s) => (
                <button key={s} type="button" className="btn min-h-16 text-xl" onClick={() => say(s)}>
                  {labelOf(s)}
                </button>
              ))}
            </div>
          ) : (
            <div role="status" className="grid gap-3">
              <p className="text-3xl font-semibold">{said === guess.state ? msg`Right` : msg`No: ${labelOf(guess.state)}`}</p>
              <p>{whyText(guess, said)}</p>
              <button ref={next} type="button" className="btn btn-primary min-h-16 text-2xl justify-self-start" onClick={goOn}>
                {msg`Another`}
              </button>
            </div>
          )}
        </div>
      </div>
      <EyeText tally={tally} />
    </div>
  );
}

function History({ guess: { region, air, seconds } }: { readonly guess: Guess }) {
  const [units] = useUnits();
  const counting = useCounting();
  return (
    <p className="text-2xl">
      {msgNodes`Flooded ${<b>{span(seconds)}</b>} ago: ${millimetres(region.depthMm, units)} of icing that counts
        ${counting.text(region.seconds)}, at ${airText(air.tempC, Math.round(100 * air.humidityFrac), units)}, in still air.`}
    </p>
  );
}

/** When it came, or comes, to the state that was said, and to the one it is in. */
function whyText(guess: Guess, said: Guessable): string {
  const ladder = ladderOf(guess);
  const from = (s: Guessable) => (s === 'wet' ? msg`It is wet at first` : msg`By the book it is ${word(s)} from ${span(ladder[s])}`);
  const after = guessable[guessable.indexOf(guess.state) + 1];
  const own = `${from(guess.state)}${after ? msg`, and ${word(after)} from ${span(ladder[after])}` : ''}.`;
  if (said === guess.state) return own;
  const tooFar = guessable.indexOf(said) > guessable.indexOf(guess.state);
  return `${own} ${tooFar ? msg`What needs more would have been spoilt by your hand.` : msg`You would have waited longer than it asks.`}`;
}

/** What the answers so far say of whoever gave them. */
function EyeText({ tally }: { readonly tally: Tally }) {
  const eye = eyeOf(tally);
  if (eye.all === 0)
    return (
      <p className="opacity-85">{msg`Nothing is counted yet. What you say is kept on this device, and teaches the kitchen nothing.`}</p>
    );
  return (
    <p>
      <b>{msgNodes`${eye.right} of ${eye.all} right`}</b>
      {msgNodes`${eye.all >= ENOUGH && ` (${percent(eye.right / eye.all)})`}; ${eye.tooFar} taken for further along than it was,
        ${eye.notFarEnough} for less far.${
          eye.most &&
          eye.all >= ENOUGH &&
          msg` Most often ${word(eye.most.state)} icing is called
          ${word(eye.most.said)}.`
        }`}
    </p>
  );
}
