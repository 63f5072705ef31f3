const KEY = 'kestfog.lessons';

/** The best score of each lesson that was played on this device. */
export function bestScores(): Readonly<Record<string, number>> {
  try {
    const kept = JSON.parse(localStorage.getItem(KEY) ?? '{}') as Record<string, unknown>;
    return Object.fromEntries(Object.entries(kept).filter((e): e is [string, number] => typeof e[1] === 'number'));
  } catch {
    return {};
  }
}
export function keepScore(lesson: string, score: number): void {
  const best = bestScores();
  if (score > (best[lesson] ?? -1)) localStorage.setItem(KEY, JSON.stringify({ ...best, [lesson]: score }));
}
