import { msg } from '@kestfog/core/words';
import { DRAWINGS, FileButton } from '../../../ui/FileButton.js';
import { TakeSimpler } from '../../designs/TakeSimpler.js';
import { useBringDrawing } from '../../designs/use-bring-drawing.js';

/** A drawing brought into an order. */
export function BringDrawing({ onAdded }: { readonly onAdded: (designId: string) => void }) {
  const { bring, problem, waits, pending, takeSimpler } = useBringDrawing(onAdded);
  return (
    <div>
      <FileButton label={pending ? msg`Reading …` : msg`bring a drawing (SVG)`} accept={DRAWINGS} onFile={(file) => void bring(file)} />
      {waits && (
        <p role="status" className="mt-2 max-w-xl">
          {waits}
        </p>
      )}
      {problem && (
        <p role="alert" className="text-error font-medium mt-2 max-w-xl">
          {problem}
          <TakeSimpler onTake={takeSimpler} />
        </p>
      )}
    </div>
  );
}
