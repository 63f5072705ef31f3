import { type Design, type DesignEdit, type DesignNote, linesOf, marksOf, sectionsOf } from '@kestfog/core/design';
import { msg } from '@kestfog/core/words';
import { useEffect, useRef } from 'react';
import { msgNodes } from '../../ui/msg-nodes.js';

interface Props {
  readonly design: Design;
  readonly onPart: (part: string) => void;
  readonly onEdit: (...edits: DesignEdit[]) => void;
}

/** How the drawing was read, and its guesses one after another: right with one key, or what it is instead. */
export function Reading({ design, onPart, onEdit }: Props) {
  const open = design.notes.filter((n): n is DesignNote & Required<Pick<DesignNote, 'answers'>> => n.answers !== undefined);
  const told = design.notes.filter((n) => n.answers === undefined);
  const [next] = open;
  const right = useRef<HTMLButtonElement>(null);
  const answered = useRef(false);
  const say = (part: string, said: Readonly<Record<string, string>>) => {
    answered.current = true;
    onEdit({ type: 'say', part, said });
  };
  const asked = next && `${next.place} ${next.text}`;
  // From one answer to the next question, so that Enter goes through them all; nobody is taken away from where they were.
  useEffect(() => {
    if (asked && answered.current) right.current?.focus({ preventScroll: true });
  }, [asked]);
  return (
    <section aria-label={msg`How the drawing was read`} className="text-lg grid gap-4">
      <p>
        {msgNodes`${sectionsOf(design).length} sections, ${marksOf(design).length} wet marks, ${linesOf(design).length} details were read.`}
      </p>
      {next && (
        <div className="grid gap-3 border-l-4 border-primary pl-4" key={asked}>
          <p className="font-medium">{open.length === 1 ? msg`One guess to look at` : msg`${open.length} guesses to look at`}</p>
          <p>{next.text}</p>
          <div className="flex flex-wrap gap-2">
            {/* In focus from one guess to the next, so that Enter goes through them all. */}
            <button
              type="button"
              className="btn btn-primary"
              ref={(b) => b?.focus({ preventScroll: true })}
              onClick={() => say(next.place, next.answers.right)}
            >
              {msg`Right`}
            </button>
            <button type="button" className="btn" onClick={() => say(next.place, next.answers.otherwise.said)}>
              {msgNodes`No: ${next.answers.otherwise.label}`}
            </button>
            <button type="button" className="btn btn-ghost" onClick={() => onPart(next.place)}>
              {msg`look at it`}
            </button>
          </div>
          {open.length > 1 && (
            <button
              type="button"
              className="btn btn-sm btn-ghost justify-self-start"
              onClick={() => onEdit(...open.map((n): DesignEdit => ({ type: 'say', part: n.place, said: n.answers.right })))}
            >
              {msg`All of them are right`}
            </button>
          )}
        </div>
      )}
      {design.notes.length === 0 && <p>{msg`Nothing had to be guessed, skipped or repaired.`}</p>}
      {told.length > 0 && (
        <ul className="list-disc pl-5 grid gap-1">
          {told.map((n) => (
            <li key={n.place + n.text}>{n.text}</li>
          ))}
        </ul>
      )}
    </section>
  );
}
