import { msg } from '@kestfog/core/words';
import { useEffect } from 'react';

/** Names the page in the browser's tab and history, and for whoever hears it; null while its name is not known yet. */
export function useTitle(title: string | null): void {
  useEffect(() => {
    if (title !== null) document.title = msg`${title}, Kestfog`;
  }, [title]);
}
