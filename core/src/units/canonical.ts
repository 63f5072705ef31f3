/** JSON with keys in order, so that two of the same are the same text: a database does not keep the order they were written in. */
export const canonicalText = (value: unknown): string =>
  JSON.stringify(value, (_key, v: unknown) =>
    typeof v === 'object' && v !== null && !Array.isArray(v)
      ? Object.fromEntries(Object.entries(v).sort(([a], [b]) => (a < b ? -1 : 1)))
      : v,
  ) ?? 'null';
