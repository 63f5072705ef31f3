import type { BenchView } from '@kestfog/core/bench';
import { planIndex } from '@kestfog/core/formats';
import { msg } from '@kestfog/core/words';
import { msgNodes } from '../../ui/msg-nodes.js';
import { Sheet } from '../../ui/Sheet.js';
import { TakeRecording } from '../notebook/TakeRecording.js';
import type { Run } from './use-run.js';

interface Props {
  readonly bench: Run;
  readonly view: BenchView;
  readonly onClose: () => void;
}

/** A photo of what lies there, or a word for the next time; it is about the step that is shown. */
export function KeepSheet({ bench, view, onClose }: Props) {
  const task = view.now?.task;
  const { run } = bench;
  if (!run) return null;
  const design = task ? (planIndex(run.plan).designOf(task)?.drawing.name ?? null) : null;
  return (
    <Sheet title={msg`For the notebook`} onClose={onClose}>
      {task && <p className="mb-3">{msgNodes`About: ${task.title}${design && `, ${design}`}.`}</p>}
      <TakeRecording runId={run.id} about={{ design, step: task?.title ?? null, school: null }} atMs={() => bench.nowMs} />
    </Sheet>
  );
}
