import type { ClimateReading } from '@kestfog/core/wire';
import { useEffect, useState } from 'react';

const AGAIN_MS = 2000;

/** The climate sensor's last reading, live; null until it speaks, `lost` while it does not answer. */
export function useClimate(): { readonly reading: ClimateReading | null; readonly lost: boolean } {
  const [reading, setReading] = useState<ClimateReading | null>(null);
  const [lost, setLost] = useState(false);
  useEffect(() => {
    let source: EventSource | undefined;
    let timer: ReturnType<typeof setTimeout> | undefined;
    const open = () => {
      source = new EventSource('/api/climate/stream');
      source.addEventListener('climate', (e: MessageEvent<string>) => {
        setReading(JSON.parse(e.data) as ClimateReading);
        setLost(false);
      });
      source.onerror = () => {
        setLost(true);
        // An HTTP error closes an EventSource for good, so it is opened anew.
        if (source?.readyState === EventSource.CLOSED) timer = setTimeout(open, AGAIN_MS);
      };
    };
    open();
    return () => {
      clearTimeout(timer);
      source?.close();
    };
  }, []);
  return { reading, lost };
}
