import { askedToSimplify } from '@kestfog/core/design';
import type { NewDesign } from '@kestfog/core/wire';
import { msg } from '@kestfog/core/words';
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
  /** a drawing with too many points, as it would be read more simply */
  const [simpler, setSimpler] = useState<NewDesign | null>(null);
  const take = async (drawing: NewDesign) => {
    setSimpler(null);
    setProblem(null);
    try {
      const made = await add.mutateAsync(drawing);
      if (made.waits) setWaits(msg`${drawing.name} is kept on this device: it becomes a design as soon as the server answers.`);
      else onAdded(made.id);
    } catch (error) {
      setProblem(error instanceof ApiFailure ? error.message : msg`The file could not be read: choose another.`);
      const isSimpler = /<svg[^>]*data-simplify-mm/i.test(drawing.svg);
      if (error instanceof ApiFailure && error.code === 'too-many-points' && !isSimpler)
        setSimpler({ ...drawing, svg: askedToSimplify(drawing.svg) });
    }
  };
  const bring = async (file: File | undefined) => {
    if (!file) return;
    setSimpler(null);
    setProblem(null);
    setWaits(null);
    if (file.size > MOST_BYTES)
      return setProblem(
        msg`${file.name} is ${(file.size / 1e6).toFixed(1)} MB, the limit is 2 MB: simplify it or remove embedded pictures.`,
      );
    const svg = await file.text().catch(() => null);
    if (svg === null) return setProblem(msg`The file could not be read: choose another.`);
    await take({ name: file.name.replace(/\.svg$/i, '').slice(0, 80) || 'Drawing', svg });
  };
  return { bring, problem, waits, pending: add.isPending, takeSimpler: simpler && (() => void take(simpler)) };
}
