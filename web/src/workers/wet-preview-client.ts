import type { WetMark } from '@kestfog/core/design';
import type { Shape } from '@kestfog/core/geometry';
import type { WetPreview } from '@kestfog/core/marbling';
import type { School } from '@kestfog/core/steps';
import { type Remote, wrap } from 'comlink';
import type { WetPreviewWork } from './wet-preview.worker.js';

let worker: Remote<WetPreviewWork> | undefined;
let asked = 0;

/** What the wet marks do on a section, computed beside the page; null where a later question has made it stale. */
export async function previewWet(section: Shape, marks: readonly WetMark[], upTo: number, drops: School['drops']): Promise<WetPreview | null> {
  worker ??= wrap<WetPreviewWork>(new Worker(new URL('./wet-preview.worker.ts', import.meta.url), { type: 'module', name: 'wet-preview' }));
  asked += 1;
  const mine = asked;
  // A dragged slider asks many times a second: only the last question is worth answering.
  await new Promise((go) => setTimeout(go, 60));
  if (mine !== asked) return null;
  const answer = await worker.preview(section, marks, upTo, drops);
  return mine === asked ? answer : null;
}
