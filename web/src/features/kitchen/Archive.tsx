import type { ClashWay, TakenIn } from '@kestfog/core/wire';
import { useMutation, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { ApiFailure, api } from '../../api/client.js';
import { FileButton } from '../../ui/FileButton.js';
import { say } from '../../ui/toasts.js';

const count = (n: number, one: string, many = `${one}s`) => `${n} ${n === 1 ? one : many}`;

/** Everything the kitchen has, out into one file and in again: to move to another machine, or to keep elsewhere. */
export function Archive() {
  const client = useQueryClient();
  const [file, setFile] = useState<File | null>(null);
  const take = useMutation({
    mutationFn: ({ of, clashes }: { readonly of: File; readonly clashes: ClashWay }) =>
      api<TakenIn>(`/archive?clashes=${clashes}`, { method: 'POST', file: new Blob([of], { type: 'application/zip' }) }),
    onSuccess: ({ rows, files }) => {
      setFile(null);
      say(
        rows + files === 0
          ? 'Everything in the archive was here already.'
          : `The archive was taken in: ${count(rows, 'thing')}, ${count(files, 'photo or recording', 'photos and recordings')}.`,
      );
      return client.invalidateQueries();
    },
  });
  const isClash = take.error instanceof ApiFailure && take.error.code === 'archive-clash';
  const ask = (of: File, clashes: ClashWay) => {
    setFile(of);
    take.mutate({ of, clashes });
  };
  return (
    <section id="archive" aria-label="Archive">
      <h2 className="text-2xl font-semibold">Archive</h2>
      <p className="text-lg">
        Everything in one file: orders, designs, runs, the notebook with its photos, what was learned. Taken in elsewhere, it answers as it
        does here. Besides, backups are made by themselves.
      </p>
      <div className="flex flex-wrap gap-3 mt-3">
        <a className="btn" href="/api/archive" download>
          Save an archive
        </a>
        <FileButton label="Take an archive in" accept=".zip,application/zip" onFile={(of) => ask(of, 'refuse')} />
      </div>
      {take.isPending && (
        <p role="status" className="mt-2 text-lg">
          Taking it in …
        </p>
      )}
      {take.error && !take.isPending && (
        <div role="alert" className="mt-2 text-lg">
          <p className="text-error font-medium">{take.error.message}</p>
          {isClash && file && (
            <div className="flex flex-wrap items-center gap-3 mt-2">
              <p className="w-full">
                What gives way to the archive’s is gone:{' '}
                <a className="link" href="/api/archive" download>
                  save an archive of what is here
                </a>{' '}
                first.
              </p>
              <button type="button" className="btn" onClick={() => ask(file, 'keep')}>
                Keep what is here
              </button>
              <button type="button" className="btn" onClick={() => ask(file, 'replace')}>
                Take the archive’s
              </button>
              <button type="button" className="btn btn-ghost" onClick={() => take.reset()}>
                Take nothing in
              </button>
            </div>
          )}
        </div>
      )}
    </section>
  );
}
