import { useState } from 'react';
import { ApiFailure } from '../../../api/client.js';
import { useAddDesign } from '../../../api/queries.js';

const MAX_SVG_BYTES = 2_000_000;

/** A drawing from a file; what is wrong with it is said here, and nothing is stored. */
export function BringDrawing({ onAdded }: { readonly onAdded: (designId: string) => void }) {
  const add = useAddDesign();
  const [problem, setProblem] = useState<string | null>(null);
  const read = async (file: File | undefined) => {
    if (!file) return;
    setProblem(null);
    if (file.size > MAX_SVG_BYTES) return setProblem(`${file.name} is larger than 2 MB: simplify it or remove embedded pictures.`);
    try {
      const made = await add.mutateAsync({ name: file.name.replace(/\.svg$/i, '').slice(0, 80) || 'Drawing', svg: await file.text() });
      onAdded(made.id);
    } catch (error) {
      setProblem(error instanceof ApiFailure ? error.message : 'The file could not be read: choose another.');
    }
  };
  return (
    <div>
      <label className="btn">
        {add.isPending ? 'Reading …' : 'bring a drawing (SVG)'}
        <input
          type="file"
          accept=".svg,image/svg+xml"
          className="sr-only"
          onChange={(e) => {
            void read(e.target.files?.[0]);
            e.target.value = '';
          }}
        />
      </label>
      {problem && (
        <p role="alert" className="text-error font-medium mt-2 max-w-xl">
          {problem}
        </p>
      )}
    </div>
  );
}
