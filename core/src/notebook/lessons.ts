/** What a lesson is about, by names; null where it is for any. */
export interface LessonAbout {
  readonly design: string | null;
  readonly step: string | null;
}

const isSame = (a: string | null, b: string | null) => a === null || a.toLowerCase() === b?.toLowerCase();

/** Lessons for a design and, where one is at hand, a step of it; where none is, those for a step of any design stay away. */
export const lessonsFor = <T extends LessonAbout>(lessons: readonly T[], design: string | null, step: string | null): T[] =>
  lessons.filter((l) => isSame(l.design, design) && (step === null ? l.step === null || l.design !== null : isSame(l.step, step)));
