import { msg } from '../words/index.js';
/** Grades are labels on half-open ranges of seconds: common practice, no published source. */
export interface Grade {
  readonly id: 'stiff' | 'piping' | 'outline' | 'thick-flood' | 'flood' | 'loose-flood' | 'thin';
  readonly label: string;
  readonly fromS: number;
  readonly toS: number;
  /** What a plan assumes when a drawing names the grade and not the seconds. */
  readonly typicalS: number;
}

export const grades: readonly Grade[] = [
  { id: 'thin', label: msg`thin`, fromS: 1.5, toS: 6, typicalS: 4 },
  { id: 'loose-flood', label: msg`loose flood`, fromS: 6, toS: 12, typicalS: 9 },
  { id: 'flood', label: msg`flood`, fromS: 12, toS: 18, typicalS: 15 },
  { id: 'thick-flood', label: msg`thick flood`, fromS: 18, toS: 25, typicalS: 20 },
  { id: 'outline', label: msg`outline`, fromS: 25, toS: 40, typicalS: 30 },
  { id: 'piping', label: msg`piping`, fromS: 40, toS: 120, typicalS: 60 },
  // Stiff icing does not close at all; 120 s is the agreed number to store for it.
  { id: 'stiff', label: msg`stiff`, fromS: 120, toS: 121, typicalS: 120 },
];

/** Seconds outside the ladder belong to its nearest end. */
export function gradeOfSeconds(seconds: number): Grade {
  const hit = grades.find((g) => seconds >= g.fromS && seconds < g.toS);
  if (hit) return hit;
  return (seconds < 1.5 ? grades[0] : grades[grades.length - 1]) as Grade;
}
