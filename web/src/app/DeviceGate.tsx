import { msg } from '@kestfog/core/words';
import { type FormEvent, type ReactNode, useEffect, useState } from 'react';
import { ApiFailure, api, onUnknownDevice } from '../api/client.js';

const TABLET_FROM_PX = 600;
/** By its finger and its size; whoever has two of a kind calls them something better. */
const likelyName = (): string =>
  globalThis.matchMedia?.('(pointer: coarse)').matches !== true
    ? msg`computer`
    : Math.min(screen.width, screen.height) < TABLET_FROM_PX
      ? msg`telephone`
      : msg`tablet`;

/** In the kitchen's network a device types the passphrase once; until then there is nothing else to see. */
export function DeviceGate({ children }: { readonly children: ReactNode }) {
  const [asked, setAsked] = useState(false);
  const [typed, setTyped] = useState('');
  const [name, setName] = useState(likelyName);
  const [problem, setProblem] = useState<string | null>(null);
  const [sending, setSending] = useState(false);
  useEffect(() => onUnknownDevice(() => setAsked(true)), []);
  if (!asked) return children;
  const enter = async (e: FormEvent) => {
    e.preventDefault();
    setSending(true);
    setProblem(null);
    try {
      await api('/devices', { method: 'POST', body: { passphrase: typed, name } });
      location.reload();
    } catch (error) {
      setProblem(error instanceof ApiFailure ? error.message : msg`It could not be sent: try again.`);
      setSending(false);
    }
  };
  return (
    <main className="min-h-dvh grid place-content-center p-6">
      <form onSubmit={(e) => void enter(e)} className="grid gap-4 w-full max-w-xl text-xl">
        <h1 className="text-4xl font-semibold">{msg`Kestfog`}</h1>
        <label className="grid gap-2">
          <span>
            {msg`The passphrase, once on this device. It stands on the screen Kestfog was started on, and under Kitchen on one that is in.`}
          </span>
          <input
            className="input input-lg w-full text-2xl min-h-16"
            autoCapitalize="none"
            autoComplete="off"
            spellCheck={false}
            maxLength={100}
            value={typed}
            onChange={(e) => setTyped(e.target.value)}
          />
        </label>
        <label className="grid gap-2">
          <span>{msg`What you call this device, to tell it from the others`}</span>
          <input
            className="input input-lg w-full text-2xl min-h-16"
            autoComplete="off"
            maxLength={60}
            value={name}
            onChange={(e) => setName(e.target.value)}
          />
        </label>
        {problem && (
          <p role="alert" className="text-error font-medium">
            {problem}
          </p>
        )}
        <button type="submit" className="btn btn-primary min-h-16 text-2xl" disabled={sending || typed.trim() === '' || name.trim() === ''}>
          {sending ? msg`asking …` : msg`Let this device in`}
        </button>
      </form>
    </main>
  );
}
