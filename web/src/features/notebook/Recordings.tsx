import type { RecordingView } from '@kestfog/core/wire';
import { msg } from '@kestfog/core/words';
import { useState } from 'react';
import { type ShownRecording, useRecordingsOf, useRemoveRecording } from '../../api/recordings.js';
import { dayClock } from '../../text/time.js';
import { RemoveButton } from '../../ui/Field.js';
import { msgNodes } from '../../ui/msg-nodes.js';
import { Sheet } from '../../ui/Sheet.js';
import { say } from '../../ui/toasts.js';
import { DesignChoice } from './DesignChoice.js';
import { TakeRecording } from './TakeRecording.js';

interface Props {
  readonly runId: string;
  readonly recordings: readonly RecordingView[];
  readonly designs: readonly string[];
}

/** Photos and spoken words of one evening. */
export function Recordings({ runId, recordings, designs }: Props) {
  const own = useRecordingsOf(runId, recordings);
  const remove = useRemoveRecording();
  const [design, setDesign] = useState(designs[0] ?? '');
  const [large, setLarge] = useState<ShownRecording | null>(null);
  const takeAway = (r: ShownRecording) =>
    remove.mutate(r, {
      onSuccess: (putBack) =>
        say(r.kind === 'photo' ? msg`The photo was taken away.` : msg`The spoken words were taken away.`, {
          label: msg`put it back`,
          act: putBack,
        }),
    });
  const photos = own.filter((r) => r.kind === 'photo');
  const spoken = own.filter((r) => r.kind === 'voice');
  const words = (r: ShownRecording) => [dayClock(r.atMs), r.design, r.step].filter(Boolean).join(', ');
  return (
    <section aria-label={msg`Photos and spoken words`}>
      <h2 className="text-2xl font-semibold">{msg`Photos and spoken words`}</h2>
      {photos.length > 0 && (
        <ul className="flex flex-wrap gap-4 mt-2">
          {photos.map((r) => (
            <li key={r.id} className="w-44">
              <button type="button" className="block w-full" aria-label={msg`Larger: photo of ${words(r)}`} onClick={() => setLarge(r)}>
                <img src={r.url} alt="" loading="lazy" className="w-44 h-32 object-cover rounded-box bg-base-200" />
              </button>
              <span className="flex items-start gap-1">
                <span className="grow">{words(r)}</span>
                <RemoveButton label={msg`Take away: photo of ${words(r)}`} disabled={remove.isPending} onClick={() => takeAway(r)} />
              </span>
            </li>
          ))}
        </ul>
      )}
      <ul className="mt-2 grid gap-2">
        {spoken.map((r) => (
          <li key={r.id} className="flex flex-wrap items-center gap-x-3 text-lg">
            <Spoken recording={r} />
            <span className="grow">{words(r)}</span>
            <RemoveButton label={msg`Take away: words of ${words(r)}`} disabled={remove.isPending} onClick={() => takeAway(r)} />
          </li>
        ))}
      </ul>
      {remove.error && (
        <p role="alert" className="text-error font-medium">
          {msgNodes`It could not be read back, so it was not taken away: ${remove.error.message}`}
        </p>
      )}
      <div className="mt-3 no-print grid gap-3">
        <DesignChoice label={msg`about`} designs={designs} value={design} onChange={setDesign} />
        <TakeRecording runId={runId} about={{ design: design || null, step: null, school: null }} atMs={() => Date.now()} />
      </div>
      {large && (
        <Sheet title={words(large)} onClose={() => setLarge(null)}>
          <img src={large.url} alt={msg`What was photographed: ${words(large)}`} className="max-h-[80dvh] mx-auto" />
        </Sheet>
      )}
    </section>
  );
}

/** Spoken words with the browser's own buttons. */
export function Spoken({ recording }: { readonly recording: ShownRecording }) {
  return (
    // biome-ignore lint/a11y/useMediaCaption: somebody's own words to themselves have no other text
    <audio controls preload="none" src={recording.url} className="h-12 max-w-full" />
  );
}
