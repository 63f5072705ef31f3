import type { BenchView } from '@kestfog/core/bench';
import { bagKey } from '@kestfog/core/steps';
import { CountPad } from '../icing/CountPad.js';
import { DefectSheet } from './DefectSheet.js';
import { EarlySheet } from './EarlySheet.js';
import { HowSheet } from './HowSheet.js';
import { KeepSheet } from './KeepSheet.js';
import { type Asking, WhichBag } from './Reports.js';
import { ShutSheet } from './ShutSheet.js';
import { TraySheet } from './TraySheet.js';
import type { Run } from './use-run.js';

interface Props {
  readonly asking: Asking | null;
  readonly onAsk: (asking: Asking | null) => void;
  readonly bench: Run;
  readonly view: BenchView;
  readonly how: Omit<Parameters<typeof HowSheet>[0], 'onClose'>;
}

/** The one sheet that lies over the bench, if any. */
export function Asked({ asking, onAsk, bench, view, how }: Props) {
  const close = () => onAsk(null);
  switch (asking?.kind) {
    case 'tray':
      return (
        <TraySheet
          bench={bench}
          trayId={asking.trayId}
          onCookie={(lotId, cookie) => onAsk({ kind: 'defect', lotId, cookie, broken: false })}
          onClose={close}
        />
      );
    case 'defect':
      return (
        <DefectSheet
          key={asking.lotId + asking.cookie}
          bench={bench}
          lotId={asking.lotId}
          cookie={asking.cookie}
          seen={asking.broken ? 'broken' : null}
          onClose={close}
        />
      );
    case 'shut':
      return <ShutSheet bench={bench} taskId={asking.taskId} found={asking.found} onClose={close} />;
    case 'bag':
      return <WhichBag bags={view.now?.task.bags ?? []} onBag={(bag) => onAsk({ kind: 'count', bag })} onClose={close} />;
    case 'count':
      return (
        <CountPad
          key={bagKey(asking.bag)}
          bag={asking.bag}
          word={null}
          saving={false}
          failure={null}
          onKeep={(countedS) => {
            bench.send({ type: 'bagCounted', data: { ...asking.bag, countedS } });
            close();
          }}
          onClose={close}
        />
      );
    case 'early':
      return <EarlySheet bench={bench} view={view} step={asking.step} untilMs={asking.untilMs} onClose={close} />;
    case 'keep':
      return <KeepSheet bench={bench} view={view} onClose={close} />;
    case 'how':
      return <HowSheet {...how} onClose={close} />;
    default:
      return null;
  }
}
