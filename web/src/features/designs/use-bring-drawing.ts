import { useState } from 'react';
import { ApiFailure } from '../../api/client.js';
import { useAddDesign } from '../../api/queries.js';

const MOST_BYTES = 2_000_000;

/** A drawing from a file becomes a design; what is wrong with it is said, and nothing is stored. */
export function useBringDrawing(onAdded: (designId: string) => void) {
  const add = useAddDesign();
  const [problem, setProblem] = useState<string | null>(null);
  /** that it is kept, and when it becomes a design */
  const [waits, setWaits] = useState<string | null>(null);
  const bring = async (file: File | undefined) => {
    if (!file) return;
    setProblem(null);
    setWaits(null);
    if (file.size > MOST_BYTES)
      return setProblem(`${file.name} is ${(file.size / 1e6).toFixed(1)} MB, the limit is 2 MB: simplify it or remove embedded pictures.`);
    try {
      const made = await add.mutateAsync({ name: file.name.replace(/\.svg$/i, '').slice(0, 80) || 'Drawing', svg: await file.text() });
      if (made.waits) setWaits(`${file.name} is kept on this device: it becomes a design as soon as the server answers.`);
      else onAdded(made.id);
    } catch (error) {
      setProblem(error instanceof ApiFailure ? error.message : 'The file could not be read: choose another.');
    }
  };
  return { bring, problem, waits, pending: add.isPending };
}
