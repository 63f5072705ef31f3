import { TakeSimpler } from '../../designs/TakeSimpler.js';
import { useBringDrawing } from '../../designs/use-bring-drawing.js';

/** A drawing brought into an order. */
export function BringDrawing({ onAdded }: { readonly onAdded: (designId: string) => void }) {
  const { bring, problem, waits, pending, takeSimpler } = useBringDrawing(onAdded);
  return (
    <div>
      <label className="btn">
        {pending ? 'Reading …' : 'bring a drawing (SVG)'}
        <input
          type="file"
          accept=".svg,image/svg+xml"
          className="sr-only"
          onChange={(e) => {
            void bring(e.target.files?.[0]);
            e.target.value = '';
          }}
        />
      </label>
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
