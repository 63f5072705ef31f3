import type { CalendarAddress } from '@kestfog/core/wire';
import { msg } from '@kestfog/core/words';
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { api } from '../../api/client.js';

const KEY = ['calendar'] as const;

/** The address a calendar program asks for itself: all open orders, as they are planned. Who knows it can read it. */
export function Subscription() {
  const client = useQueryClient();
  const { data, error } = useQuery({ queryKey: KEY, queryFn: () => api<CalendarAddress>('/calendar') });
  const renew = useMutation({
    mutationFn: () => api<CalendarAddress>('/calendar/renew', { method: 'POST' }),
    onSuccess: (made) => client.setQueryData(KEY, made),
  });
  const [copied, setCopied] = useState(false);
  if (error) return <p className="text-base">{msg`The address is not known while Kestfog cannot be reached.`}</p>;
  if (!data) return null;
  const address = `${location.origin}${data.path}`;
  return (
    <div className="grid gap-2">
      <input
        className="input w-full"
        readOnly
        aria-label={msg`address of the calendar`}
        value={address}
        onFocus={(e) => e.target.select()}
      />
      <div className="flex flex-wrap gap-2">
        <button
          type="button"
          className="btn btn-sm min-h-11"
          onClick={() =>
            void navigator.clipboard?.writeText(address).then(
              () => setCopied(true),
              () => undefined,
            )
          }
        >
          {copied ? msg`Copied` : msg`Copy it`}
        </button>
        <button type="button" className="btn btn-sm min-h-11 btn-ghost" disabled={renew.isPending} onClick={() => renew.mutate()}>
          {msg`Make another address`}
        </button>
      </div>
      <p className="text-base opacity-85">{msg`All open orders. Whoever has the address can read them; another address ends this one.`}</p>
      {renew.isError && (
        <p role="alert" className="text-error font-medium">
          {renew.error.message}
        </p>
      )}
    </div>
  );
}
