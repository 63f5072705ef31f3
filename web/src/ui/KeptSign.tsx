import { msg } from '@kestfog/core/words';
import { Check, CloudOff, TriangleAlert } from 'lucide-react';
import { Link } from 'react-router';
import { useOutbox } from '../outbox/index.js';
import { countWord } from '../text/words.js';

/** One small honest sign: all kept, how many wait, how many were refused and want a look. */
export function KeptSign({ className = '' }: { readonly className?: string }) {
  const entries = useOutbox();
  const refused = entries.filter((e) => e.refused !== null).length;
  const waiting = entries.length - refused;
  if (entries.length === 0)
    return (
      <span role="status" className={`flex items-center gap-2 opacity-75 ${className}`}>
        <Check aria-hidden size={18} />
        {msg` all kept`}
      </span>
    );
  return (
    <span role="status" className={className}>
      <Link to="/not-kept" className={`link flex items-center gap-2 font-medium ${refused > 0 ? 'text-error' : ''}`}>
        {refused > 0 ? <TriangleAlert aria-hidden size={18} /> : <CloudOff aria-hidden size={18} />}
        <span>
          {refused > 0 && msg`${countWord(refused)} refused: look`}
          {refused > 0 && waiting > 0 && ', '}
          {waiting > 0 && msg`${countWord(waiting)} waiting`}
        </span>
      </Link>
    </span>
  );
}
