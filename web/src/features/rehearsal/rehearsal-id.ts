/** The name of a run that is only rehearsed: it is on no server. */
export const REHEARSAL = 'rehearsal';
