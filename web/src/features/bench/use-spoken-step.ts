import type { BenchView } from '@kestfog/core/bench';
import type { Plan } from '@kestfog/core/formats';
import { msg } from '@kestfog/core/words';
import { useEffect } from 'react';
import { cookiesText } from '../../text/words.js';
import { say } from './speech.js';

/** Says what is to be done now, once, when it is taken up. */
export function useSpokenStep(plan: Plan | undefined, view: BenchView | null, on: boolean): void {
  const task = view?.now && view.inHandSinceMs !== null ? view.now.task : null;
  const text = task && plan ? msg`Tray ${task.trayId}: ${task.title}${task.lotId ? `, ${cookiesText(plan, task)}` : ''}` : null;
  useEffect(() => {
    if (on && text) say(text);
  }, [on, text]);
}
