/** Lists of pairs, one list a task, in one row. */
export interface Lists {
  readonly first: Int32Array;
  readonly other: Int32Array;
  readonly value: Float64Array;
}

/** Lists of pairs laid one behind the other. */
export function flat(lists: readonly (readonly (readonly number[])[])[]): Lists {
  const first = new Int32Array(lists.length + 1);
  for (const [v, list] of lists.entries()) first[v + 1] = first[v] + list.length;
  const all = lists.flat();
  return { first, other: Int32Array.from(all, (x) => x[0]), value: Float64Array.from(all, (x) => x[1]) };
}
