import { useEffect, useState } from 'react';
import type { Beside } from './plan-client.js';

export interface Computed<T> {
  readonly value: T | null;
  readonly pending: boolean;
  readonly failure: string | null;
}

/** Something computed beside the page for as long as `key` stands; another key ends it and begins anew. null computes nothing. */
export function useBeside<T>(key: string | null, begin: () => Beside<T>): Computed<T> {
  const [state, setState] = useState<Computed<T> & { readonly key: string | null }>({
    key: null,
    value: null,
    pending: false,
    failure: null,
  });
  useEffect(() => {
    if (key === null) return;
    setState({ key, value: null, pending: true, failure: null });
    const running = begin();
    void running.answer.then((answer) => {
      if (answer) setState({ key, value: answer.ok ? answer.value : null, pending: false, failure: answer.ok ? null : answer.message });
    });
    return running.cancel;
  }, [key]);
  return state.key === key ? state : { value: null, pending: key !== null, failure: null };
}
