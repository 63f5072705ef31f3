import { msg } from '@kestfog/core/words';
import { Search } from 'lucide-react';
import { useEffect, useState } from 'react';
import { msgNodes } from '../ui/msg-nodes.js';

const WAIT_MS = 250;

interface SearchProps {
  readonly label: string;
  /** what was looked for when the page was opened */
  readonly first: string;
  readonly onSearch: (q: string) => void;
}
/** Looks for what is typed, once the typing pauses. */
export function SearchBox({ label, first, onSearch }: SearchProps) {
  const [text, setText] = useState(first);
  useEffect(() => {
    const later = setTimeout(() => onSearch(text.trim()), WAIT_MS);
    return () => clearTimeout(later);
  }, [text, onSearch]);
  return (
    <label className="input input-lg w-72">
      <Search aria-hidden size={20} />
      <input type="search" aria-label={label} placeholder={label} maxLength={80} value={text} onChange={(e) => setText(e.target.value)} />
    </label>
  );
}

/** To the parts of a long list; nothing where there is one. */
export function Pages({ page, pages, onPage }: { readonly page: number; readonly pages: number; readonly onPage: (page: number) => void }) {
  if (pages <= 1) return null;
  return (
    <nav aria-label={msg`pages`} className="flex items-center gap-4 mt-6 text-lg">
      <button type="button" className="btn btn-lg" disabled={page === 0} onClick={() => onPage(page - 1)}>
        {msg`Earlier`}
      </button>
      <span>{msgNodes`${page + 1} of ${pages}`}</span>
      <button type="button" className="btn btn-lg" disabled={page >= pages - 1} onClick={() => onPage(page + 1)}>
        {msg`More`}
      </button>
    </nav>
  );
}
