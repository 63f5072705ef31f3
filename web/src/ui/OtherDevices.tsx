import type { LanView } from '@kestfog/core/wire';
import { msg } from '@kestfog/core/words';
import { useQuery } from '@tanstack/react-query';
import { Smartphone } from 'lucide-react';
import { lazy, Suspense, useState } from 'react';
import { Link } from 'react-router';
import { api } from '../api/client.js';
import { msgNodes } from '../ui/msg-nodes.js';

const Sheet = lazy(async () => ({ default: (await import('./Sheet.js')).Sheet }));

/** The way in for a tablet or a phone, where Kestfog is reachable in the kitchen: its address, to read and to scan. */
export function OtherDevices() {
  const [open, setOpen] = useState(false);
  const { data } = useQuery({ queryKey: ['devices'], queryFn: () => api<LanView>('/devices'), staleTime: Number.POSITIVE_INFINITY });
  if (!data?.lan || !data.known || !data.qr) return null;
  return (
    <>
      <button type="button" className="btn btn-ghost" onClick={() => setOpen(true)}>
        <Smartphone aria-hidden size={22} />
        {msg` other devices`}
      </button>
      {open && (
        <Suspense>
          <Sheet title={msg`On a tablet or a phone`} onClose={() => setOpen(false)}>
            <div className="grid sm:grid-cols-[20rem_1fr] gap-6 items-center">
              <img
                className="w-full bg-white rounded-box"
                src={`data:image/svg+xml,${encodeURIComponent(data.qr)}`}
                alt={msg`QR code of ${data.door ?? data.address}`}
              />
              <div>
                <p className="text-3xl font-semibold break-all">{data.door ?? data.address}</p>
                <p className="mt-3">
                  {msgNodes`Scan it or type it, on the same network.${
                    data.door &&
                    msg` The page there tells how to trust the kitchen,
                    once.`
                  } Then it is let in by the passphrase:`}
                </p>
                <p className="text-3xl font-semibold mt-3">{data.passphrase}</p>
                {data.fingerprint && (
                  <p className="mt-3 text-base">
                    {msgNodes`Fingerprint of the kitchen’s certificate, to compare:
                      ${<span className="font-mono break-all">{data.fingerprint}</span>}`}
                  </p>
                )}
                <p className="mt-3">
                  <Link to="/kitchen#devices" className="link" onClick={() => setOpen(false)}>
                    {msg`Who was let in`}
                  </Link>
                </p>
              </div>
            </div>
          </Sheet>
        </Suspense>
      )}
    </>
  );
}
