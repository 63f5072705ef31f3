import { LESSONS, type Lesson, orderOfLesson, truthOf, type Verdict } from '@kestfog/core/rehearsal';
import { msg } from '@kestfog/core/words';
import { useCallback, useState } from 'react';
import { Link, useParams } from 'react-router';
import { Going, readKept } from '../features/rehearsal/Going.js';
import { keepScore } from '../features/rehearsal/scores.js';
import { FinishDefs } from '../ui/FinishDefs.js';
import { msgNodes } from '../ui/msg-nodes.js';
import { Loading, Notice } from '../ui/Notice.js';
import { RunsGoing } from '../ui/RunsGoing.js';
import { useTitle } from '../ui/use-title.js';
import { planBeside } from '../workers/plan-client.js';
import { useBeside } from '../workers/use-beside.js';

const SECONDS = 4;
const PASSES = 20;
/** All lessons begin at two in the afternoon of the same invented day: their plans are the same for everybody. */
const BEGINS = '2026-06-05T14:00:00Z';
const HOME = { to: '/practice', label: msg`To the lessons` } as const;

/** One lesson: what to look out for, then the bench, then what it taught. */
export function LessonPage() {
  const { lessonId = '' } = useParams();
  const lesson = LESSONS.find((l) => l.id === lessonId);
  useTitle(lesson ? lesson.title : null);
  if (!lesson)
    return (
      <div className="p-8">
        <Notice title={msg`There is no such lesson`} tone="closing">
          <Link to="/practice" className="link">
            {msg`Choose another`}
          </Link>
        </Notice>
      </div>
    );
  return (
    <>
      <FinishDefs />
      <RunsGoing />
      <Played key={lesson.id} lesson={lesson} />
    </>
  );
}

function Played({ lesson }: { readonly lesson: Lesson }) {
  const planned = useBeside(msg`lesson ${lesson.id}`, () => {
    const { order, designs } = orderOfLesson(lesson, BEGINS);
    return planBeside(order, designs, SECONDS, PASSES, () => undefined);
  });
  const [kept] = useState(() => readKept(`lesson ${lesson.id}`, [lesson.id]));
  const [round, setRound] = useState(kept ? 0 : -1);
  const onVerdict = useCallback((v: Verdict) => keepScore(lesson.id, v.score), [lesson.id]);
  if (planned.failure)
    return (
      <div className="p-8">
        <Notice title={msg`The lesson could not be laid out`} tone="closing">
          {planned.failure}
        </Notice>
      </div>
    );
  if (round < 0 || !planned.value)
    return (
      <main className="max-w-3xl mx-auto px-6 py-10 text-xl grid gap-6">
        <p>
          <Link to="/practice" className="link link-hover">
            {msg`Practice`}
          </Link>
        </p>
        <h1 className="text-[44px] leading-tight font-semibold">{lesson.title}</h1>
        <p className="text-2xl">{lesson.notice}</p>
        <p>
          {msgNodes`${lesson.cookies.map((c) => `${c.count} ${c.drawing}`).join(', ')}. What takes long can be skipped; what is done takes
            as long as hands need. A finger finds what is really there.`}
        </p>
        {planned.value ? (
          <button type="button" className="btn btn-primary min-h-16 text-2xl justify-self-start" onClick={() => setRound(1)}>
            {msg`To the bench`}
          </button>
        ) : (
          <Loading what={msg`laying out the trays`} />
        )}
      </main>
    );
  return (
    <Going
      key={round}
      plan={planned.value}
      keptAs={`lesson ${lesson.id}`}
      home={HOME}
      name={lesson.title}
      truth={truthOf(lesson.kitchen, lesson.seed)}
      seed={lesson.seed}
      kitchen={lesson.id}
      kept={round === 0 ? kept : null}
      call={lesson.call}
      lesson={<p className="text-2xl border-l-8 border-primary pl-4 mt-3 max-w-4xl">{lesson.teaches}</p>}
      onVerdict={onVerdict}
      onAgain={() => setRound(round + 1)}
      onLeave={() => setRound(-1)}
    />
  );
}
