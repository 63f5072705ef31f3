import { SIMPLIFIED_BY_MM } from '@kestfog/core/design';
import { MM_PER_INCH } from '@kestfog/core/units';
import { msg } from '@kestfog/core/words';
import { useUnits } from '../../app/units.js';
import { msgNodes } from '../../ui/msg-nodes.js';

/** Offers a drawing with too many points to be read more simply. */
export function TakeSimpler({ onTake }: { readonly onTake: (() => void) | null }) {
  const [units] = useUnits();
  if (!onTake) return null;
  const by = units === 'us' ? msg`${(SIMPLIFIED_BY_MM / MM_PER_INCH).toFixed(3)} in` : msg`${SIMPLIFIED_BY_MM} mm`;
  return (
    <span className="block mt-2">
      {msgNodes`It can be read more simply: its lines stay where they are within ${by}, finer than any tip. `}
      <button type="button" className="btn" onClick={onTake}>
        {msg`Read it so`}
      </button>
    </span>
  );
}
