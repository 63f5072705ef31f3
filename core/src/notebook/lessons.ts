/** What a lesson is about, by names; null where it is for any. */
export interface LessonAbout {
  readonly design: string | null;
  readonly step: string | null;
  readonly school: string | null;
}
/** What is at hand: a design or none, a step of it or none, and the school it is worked in; undefined where that is not known. */
export interface AtHand {
  readonly design: string | null;
  readonly step: string | null;
  readonly school?: string | undefined;
}

const isSame = (a: string | null, b: string | null | undefined) => a === null || a.toLowerCase() === b?.toLowerCase();

/** Lessons for what is at hand; where no step is, those for a step of any design stay away, unless they are a school's. */
export const lessonsFor = <T extends LessonAbout>(lessons: readonly T[], { design, step, school }: AtHand): T[] =>
  lessons.filter(
    (l) =>
      isSame(l.design, design) &&
      isSame(l.school, school) &&
      (step === null ? l.step === null || l.design !== null || l.school !== null : isSame(l.step, step)),
  );
