let made = 0;
/** Ids of what is made here: the time keeps two tablets apart, the count two quick taps. */
export const freshId = (what: string): string => `${what}-${Date.now().toString(36)}${(made++).toString(36)}`;
