import { useSyncExternalStore } from 'react';

/** What is said of a stroke while it is drawn: its hands and grams, and what it makes the cookie wait. */
export type StrokeWord = 'cost' | 'wait';

/**
 * Said to who shows it alone: the words change with every move of the pen, and nothing else on the page is painted anew for them.
 */
export class StrokeWords {
  private said: Readonly<Record<StrokeWord, string>> = { cost: '', wait: '' };
  private readonly listeners = new Set<() => void>();
  say(word: StrokeWord, text: string): void {
    if (this.said[word] === text) return;
    this.said = { ...this.said, [word]: text };
    for (const hear of this.listeners) hear();
  }
  readonly text = (): string => [this.said.cost, this.said.wait].filter(Boolean).join('; ');
  readonly subscribe = (hear: () => void): (() => void) => {
    this.listeners.add(hear);
    return () => void this.listeners.delete(hear);
  };
}

export const useStrokeWords = (words: StrokeWords): string => useSyncExternalStore(words.subscribe, words.text);
