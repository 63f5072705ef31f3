import type { LessonView, NewLesson, NotebookAcross, NotebookRun, NotebookRunView, Page } from '@kestfog/core/wire';
import { msg } from '@kestfog/core/words';
import { keepPreviousData, useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { useCallback } from 'react';
import { v4 as uuid } from 'uuid';
import { GONE_ALREADY, typed, useOutbox, waitingToBeMade, waitsToGo } from '../outbox/index.js';
import { api } from './client.js';
import type { ListWish } from './queries.js';

/** Months are those of where this device is; some do not know where that is. */
const zone = Intl.DateTimeFormat().resolvedOptions().timeZone as string | undefined;
const HERE = encodeURIComponent(zone && zone !== 'Etc/Unknown' ? zone : 'UTC');

export const useNotebook = ({ q, page }: ListWish) =>
  useQuery({
    queryKey: ['notebook', 'list', q, page],
    queryFn: () => api<Page<NotebookRun>>(`/notebook/runs?${new URLSearchParams({ q, page: String(page) })}`),
    placeholderData: keepPreviousData,
  });
export const useNotebookRun = (runId: string) =>
  useQuery({ queryKey: ['notebook', 'run', runId], queryFn: () => api<NotebookRunView>(`/notebook/runs/${runId}`) });
export const useAcross = () =>
  useQuery({ queryKey: ['notebook', 'across'], queryFn: () => api<NotebookAcross>(`/notebook/across?zone=${HERE}`) });

/** Puts a moment right, or takes that back (null). Asked of the server at once: what follows from it is worked out there. */
export function useCorrect(runId: string) {
  const client = useQueryClient();
  return useMutation({
    mutationFn: (change: { readonly eventId: string; readonly atMs: number | null }) =>
      api<NotebookRunView>(`/notebook/runs/${runId}/corrections`, { method: 'PUT', body: change }),
    onSuccess: (view) => {
      client.setQueryData(['notebook', 'run', runId], view);
      return client.invalidateQueries({ queryKey: ['notebook'] });
    },
  });
}

const LESSONS = '/lessons';
/** Lessons, with those that wait on this device. */
export function useLessons() {
  const entries = useOutbox();
  const withFresh = useCallback(
    (list: LessonView[]): LessonView[] => {
      const fresh = waitingToBeMade<NewLesson & { readonly id: string }>(entries, LESSONS).filter((x) => !list.some((l) => l.id === x.id));
      return [...fresh, ...list].filter((l) => !waitsToGo(entries, `${LESSONS}/${l.id}`));
    },
    [entries],
  );
  const place = '/notebook';
  return {
    list: useQuery({ queryKey: ['lessons'], queryFn: () => api<LessonView[]>(LESSONS), select: withFresh, staleTime: 60_000 }),
    add: useMutation({
      mutationFn: (lesson: NewLesson) =>
        typed<LessonView>({ what: msg`a lesson`, place, method: 'POST', path: LESSONS, body: { ...lesson, id: uuid() } }),
    }),
    remove: useMutation({
      mutationFn: (id: string) =>
        typed<void>({ what: msg`the taking away of a lesson`, place, method: 'DELETE', path: `${LESSONS}/${id}`, soAlready: GONE_ALREADY }),
    }),
  };
}
