import type { RecordingKind } from '@kestfog/core/notebook';
import type { NewRecording, RecordingView } from '@kestfog/core/wire';
import { msg } from '@kestfog/core/words';
import { useMutation, useQuery } from '@tanstack/react-query';
import { useCallback } from 'react';
import { v4 as uuid } from 'uuid';
import { GONE_ALREADY, typed, useOutbox, waitingToBeMade, waitsToGo } from '../outbox/index.js';
import { api } from './client.js';

const RECORDINGS = '/recordings';
const WORDS: Readonly<Record<RecordingKind, string>> = { photo: msg`a photo`, voice: msg`spoken words` };

/** A photo or spoken words as they are shown: with the address of the file, the server's or its own bytes while it waits here. */
export interface ShownRecording extends Omit<NewRecording, 'base64'> {
  readonly url: string;
}
const kept = (r: RecordingView): ShownRecording => ({ ...r, url: `/api${RECORDINGS}/${r.id}/file` });
// The browser goes by the bytes: what a device waits to send it can show by itself.
const waiting = ({ base64, ...r }: NewRecording): ShownRecording => ({
  ...r,
  url: `data:${r.kind === 'photo' ? 'image/jpeg' : 'audio/webm'};base64,${base64}`,
});

/** What is kept, with what waits on this device, and without what waits to be taken away. */
function useWithWaiting() {
  const entries = useOutbox();
  return useCallback(
    (list: readonly RecordingView[], isOurs: (r: NewRecording) => boolean): ShownRecording[] => {
      const fresh = waitingToBeMade<NewRecording>(entries, RECORDINGS).filter((r) => isOurs(r) && !list.some((l) => l.id === r.id));
      return [...list.map(kept), ...fresh.map(waiting)].filter((r) => !waitsToGo(entries, `${RECORDINGS}/${r.id}`));
    },
    [entries],
  );
}

/** Of one run, in order of time. */
export function useRecordingsOf(runId: string, list: readonly RecordingView[]): ShownRecording[] {
  return useWithWaiting()(list, (r) => r.runId === runId).sort((a, b) => a.atMs - b.atMs);
}
/** Spoken words of all runs. */
export function useSpoken(): ShownRecording[] {
  const withWaiting = useWithWaiting();
  const list = useQuery({ queryKey: ['recordings'], queryFn: () => api<RecordingView[]>(RECORDINGS), staleTime: 60_000 });
  return withWaiting(list.data?.filter((r) => r.kind === 'voice') ?? [], (r) => r.kind === 'voice');
}

const send = (recording: NewRecording) =>
  typed<RecordingView>({ what: WORDS[recording.kind], place: '/notebook', method: 'POST', path: RECORDINGS, body: recording });

/** Keeps one; while the server is away it waits on this device. */
export const useKeepRecording = () =>
  useMutation({ mutationFn: (recording: Omit<NewRecording, 'id'>) => send({ ...recording, id: uuid() }) });

/** Takes one away, and gives back how to put it back: the file is fetched first, since nobody can take it again. */
export const useRemoveRecording = () =>
  useMutation({
    mutationFn: async ({ url, ...recording }: ShownRecording): Promise<() => void> => {
      const base64 = await base64Of(await (await fetch(url)).blob());
      const path = `${RECORDINGS}/${recording.id}`;
      await typed<void>({
        what: msg`the taking away of ${WORDS[recording.kind]}`,
        place: '/notebook',
        method: 'DELETE',
        path,
        soAlready: GONE_ALREADY,
      });
      const { runId, kind, atMs, design, step, school } = recording;
      return () => void send({ id: uuid(), runId, kind, atMs, design, step, school, base64 });
    },
  });

/** The bytes of a file as letters. */
export const base64Of = (blob: Blob): Promise<string> =>
  new Promise((done, fail) => {
    const reader = new FileReader();
    reader.onload = () => done(bytesOf(reader.result as string));
    reader.onerror = () => fail(reader.error);
    reader.readAsDataURL(blob);
  });
/** What an address of its own bytes holds. */
export const bytesOf = (dataUrl: string): string => dataUrl.slice(dataUrl.indexOf(',') + 1);
