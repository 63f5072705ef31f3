/** What is worked out of two things that never change, shapes for instance, remembered for as long as both are there. */
export function ofPair<A extends object, B extends object, T>(workOut: (a: A, b: B) => T): (a: A, b: B) => T {
  const ofFirst = ofOne((_a: A) => new WeakMap<B, { readonly is: T }>());
  return (a, b) => {
    const known = ofFirst(a);
    const found = known.get(b);
    if (found) return found.is;
    const is = workOut(a, b);
    known.set(b, { is });
    return is;
  };
}

/** What is worked out of one thing that never changes, remembered for as long as it is there. */
export function ofOne<A extends object, T>(workOut: (of: A) => T): (of: A) => T {
  const known = new WeakMap<A, { readonly is: T }>();
  return (of) => {
    const found = known.get(of);
    if (found) return found.is;
    const is = workOut(of);
    known.set(of, { is });
    return is;
  };
}
