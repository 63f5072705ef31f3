import type { DeviceView, LanView, NewPassphrase } from '@kestfog/core/wire';
import { msg } from '@kestfog/core/words';
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { formatDistanceStrict } from 'date-fns';
import { type FormEvent, useState } from 'react';
import { Link } from 'react-router';
import { api } from '../../api/client.js';
import { msgNodes } from '../../ui/msg-nodes.js';
import { say } from '../../ui/toasts.js';

/** Seen within this time, a device is there now. */
const NOW_MS = 120_000;

/** Who was let in on the kitchen's network, and shutting out one that is lost. */
export function Devices() {
  const { data: lan } = useQuery({ queryKey: ['devices'], queryFn: () => api<LanView>('/devices'), staleTime: Number.POSITIVE_INFINITY });
  const known = useQuery({
    queryKey: ['devices', 'known'],
    queryFn: () => api<DeviceView[]>('/devices/known'),
    enabled: lan?.lan === true,
  });
  return (
    <section id="devices" aria-label={msg`Devices`} className="grid gap-3 text-lg">
      <h2 className="text-2xl font-semibold">{msg`Devices`}</h2>
      {lan?.lan === false && (
        <p>
          {msgNodes`Kestfog is on this machine alone. Started with ${<code className="whitespace-nowrap">npm start -- --lan</code>},
            tablets and telephones in the kitchen can come in too.`}
        </p>
      )}
      {lan?.lan && lan.known && (
        <p>
          {msgNodes`The next one begins at ${<b className="break-all">{lan.door ?? lan.address}</b>} and types
            ${<b className="whitespace-nowrap">{lan.passphrase}</b>} once.`}
        </p>
      )}
      <p>
        {msg`Something still waits on this device from when Kestfog had another address? `}
        <Link to="/not-kept" className="link">
          {msg`Take it in`}
        </Link>
      </p>
      {known.error && (
        <p role="alert" className="text-error font-medium">
          {known.error.message}
        </p>
      )}
      {known.data && known.data.length > 0 && (
        <ul className="divide-y divide-base-300 border-y border-base-300">
          {known.data.map((d) => (
            <Row key={d.id} device={d} />
          ))}
        </ul>
      )}
    </section>
  );
}

function Row({ device }: { readonly device: DeviceView }) {
  const client = useQueryClient();
  const [asks, setAsks] = useState<'name' | 'out' | null>(null);
  const [name, setName] = useState(device.name);
  const again = () => client.invalidateQueries({ queryKey: ['devices'] });
  const rename = useMutation({
    mutationFn: () => api(`/devices/${device.id}`, { method: 'PUT', body: { name } }),
    onSuccess: () => {
      setAsks(null);
      return again();
    },
  });
  const shutOut = useMutation({
    mutationFn: () => api<NewPassphrase>(`/devices/${device.id}`, { method: 'DELETE' }),
    onSuccess: ({ passphrase }) => {
      // Whoever shuts out the device in their hands is asked for the passphrase next.
      if (device.isThis) return location.reload();
      say(msg`${device.name} is shut out. The next device types ${passphrase}.`);
      return again();
    },
  });
  const failure = rename.error ?? shutOut.error;
  const keep = (e: FormEvent) => {
    e.preventDefault();
    rename.mutate();
  };
  const seenMs = Date.parse(device.seenAt);
  const seen = Date.now() - seenMs < NOW_MS ? msg`there now` : msg`seen ${formatDistanceStrict(seenMs, Date.now(), { addSuffix: true })}`;
  return (
    <li className="py-3 flex flex-wrap items-center gap-3">
      {asks === 'name' ? (
        <form onSubmit={keep} className="flex flex-wrap gap-3 grow">
          <input
            className="input input-lg grow"
            aria-label={msg`Name of ${device.name}`}
            maxLength={60}
            value={name}
            onChange={(e) => setName(e.target.value)}
          />
          <button type="submit" className="btn btn-lg btn-primary" disabled={rename.isPending || name.trim() === ''}>
            {msg`Keep the name`}
          </button>
        </form>
      ) : (
        <p className="grow">
          <b className="text-xl break-words">{device.name}</b>
          {device.isThis && msg` (this one)`}
          <br />
          <span className="opacity-85">{seen}</span>
        </p>
      )}
      {asks === 'out' && (
        <>
          <p className="w-full">
            {msg`It has to be let in anew, with a new passphrase. What waits on it unsent stays on it until then. The others go on as they
              are.`}
          </p>
          <button type="button" className="btn btn-lg btn-error" disabled={shutOut.isPending} onClick={() => shutOut.mutate()}>
            {msgNodes`Shut ${device.name} out`}
          </button>
          <button type="button" className="btn btn-lg btn-ghost" onClick={() => setAsks(null)}>
            {msg`Leave it in`}
          </button>
        </>
      )}
      {asks === null && (
        <>
          <button type="button" className="btn btn-lg btn-ghost" onClick={() => setAsks('name')}>
            {msgNodes`Rename${<span className="sr-only"> {device.name}</span>}`}
          </button>
          <button type="button" className="btn btn-lg btn-ghost" onClick={() => setAsks('out')}>
            {msgNodes`Shut out${<span className="sr-only"> {device.name}</span>}`}
          </button>
        </>
      )}
      {failure && (
        <p role="alert" className="w-full text-error font-medium">
          {failure.message}
        </p>
      )}
    </li>
  );
}
