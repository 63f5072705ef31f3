import { type LessonAbout, PHOTO_SIDE_PX, type RecordingKind, SPOKEN_MOST_S } from '@kestfog/core/notebook';
import { msg } from '@kestfog/core/words';
import { Camera, Mic, Square } from 'lucide-react';
import { useState } from 'react';
import { base64Of, bytesOf, useKeepRecording } from '../../api/recordings.js';
import { shrunk } from '../../ui/shrink-picture.js';
import { useSpeech } from './use-speech.js';

interface Props {
  readonly runId: string;
  readonly about: LessonAbout;
  /** the moment it is taken, by the run's clock */
  readonly atMs: () => number;
}

const keptText = (kind: RecordingKind, { design, step }: LessonAbout): string =>
  kind === 'photo'
    ? msg`The photo is in the notebook`
    : msg`What you said is in the notebook, and comes back ${
        step
          ? msg`with this step`
          : design
            ? msg`with ${design}`
            : msg`whatever it
      is`
      }`;

/** A photo, or words that are spoken with hands full of icing: two large buttons, and nothing to type. */
export function TakeRecording({ runId, about, atMs }: Props) {
  const keep = useKeepRecording();
  const [problem, setProblem] = useState<string | null>(null);
  const [kept, setKept] = useState<string | null>(null);
  const begin = () => {
    setProblem(null);
    setKept(null);
    keep.reset();
  };
  const put = (kind: RecordingKind, base64: string) =>
    keep.mutate(
      { runId, kind, ...about, atMs: atMs(), base64 },
      { onSuccess: ({ waits }) => setKept(`${keptText(kind, about)}${waits ? msg`, once the server answers again` : ''}.`) },
    );
  const speech = useSpeech(async (words) => {
    if (typeof words === 'string') setProblem(words);
    else put('voice', await base64Of(words));
  });
  const photo = async (file: File | undefined) => {
    begin();
    if (!file) return;
    const read = await shrunk(file, PHOTO_SIDE_PX).catch(() => null);
    if (read) put('photo', bytesOf(read.url));
    else setProblem(msg`${file.name} is no photo this page can read: take it as JPEG, PNG or WebP.`);
  };
  const failure = problem ?? keep.error?.message;
  return (
    <div>
      <div className="flex flex-wrap gap-3">
        <label className="btn min-h-16 h-auto text-xl px-4 font-normal focus-within:outline-2">
          <Camera aria-hidden size={28} />
          {msg`take a photo`}
          <input
            type="file"
            accept="image/*"
            capture="environment"
            className="sr-only"
            onChange={(e) => {
              void photo(e.target.files?.[0]);
              e.target.value = '';
            }}
          />
        </label>
        <button
          type="button"
          className={`btn min-h-16 h-auto text-xl px-4 ${speech.sinceMs === null ? 'font-normal' : 'btn-primary'}`}
          onClick={() => {
            begin();
            speech.toggle();
          }}
        >
          {speech.sinceMs === null ? <Mic aria-hidden size={28} /> : <Square aria-hidden size={28} />}
          {speech.sinceMs === null ? msg`say it` : msg`done, ${speech.seconds} s`}
        </button>
      </div>
      <p className={`mt-2 ${kept ? 'font-medium' : 'opacity-85'}`} aria-live="polite">
        {speech.sinceMs === null
          ? (kept ?? msg`Kept in the kitchen's own machine and nowhere else; spoken words up to ${SPOKEN_MOST_S} s.`)
          : msg`Listening. Say what is to be done otherwise the next time.`}
      </p>
      {failure && (
        <p role="alert" className="mt-2 text-error font-medium">
          {failure}
        </p>
      )}
    </div>
  );
}
