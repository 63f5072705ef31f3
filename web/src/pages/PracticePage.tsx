import { eyeOf, LESSONS } from '@kestfog/core/rehearsal';
import { msg } from '@kestfog/core/words';
import { Link } from 'react-router';
import { keptTally } from '../features/rehearsal/guesses.js';
import { bestScores } from '../features/rehearsal/scores.js';
import { msgNodes } from '../ui/msg-nodes.js';
import { useTitle } from '../ui/use-title.js';

/** Lessons from easy to hard, each under ten minutes, on simulated icing. */
export function PracticePage() {
  useTitle(msg`Practice`);
  const best = bestScores();
  const eye = eyeOf(keptTally());
  return (
    <>
      <h1 className="text-5xl font-semibold pt-6 pb-2">{msg`Practice`}</h1>
      <p className="text-xl max-w-3xl">
        {msg`The real bench on simulated icing: forty cookies can be spoilt without sugar. Any order’s plan can be rehearsed as well, from
          its own place. Nothing of it is kept but your best score, on this device.`}
      </p>
      <Link to="/practice/surfaces" className="block border-l-8 border-primary pl-4 py-2 mt-6 max-w-3xl hover:bg-base-200 rounded-r-box">
        <span className="block text-2xl font-semibold">{msg`Know your surfaces`}</span>
        <span className="block text-lg">
          {msgNodes`A flood and its history are shown: wet, skinned, crusted, set? ${
            eye.all > 0 &&
            msg`So far ${eye.right} of ${eye.all}
            right.`
          }`}
        </span>
      </Link>
      <ol className="divide-y divide-base-300 border-y border-base-300 mt-6">
        {LESSONS.map((l, i) => (
          <li key={l.id}>
            <Link
              to={`/practice/${l.id}`}
              className="grid md:grid-cols-[3rem_1fr_12rem] gap-x-6 gap-y-1 items-center py-4 hover:bg-base-200 -mx-4 px-4 rounded-box"
            >
              <span className="text-3xl clock opacity-75">{i + 1}</span>
              <span>
                <span className="block text-2xl font-semibold">{l.title}</span>
                <span className="block text-lg">{l.notice}</span>
              </span>
              <span className="text-lg md:text-right">
                {best[l.id] === undefined ? msg`not played yet` : msg`best: ${best[l.id]} of 100`}
              </span>
            </Link>
          </li>
        ))}
      </ol>
    </>
  );
}
