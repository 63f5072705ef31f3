export type Theme = 'fog' | 'lamp';
const KEY = 'kestfog.theme';

export function storedTheme(): Theme {
  const kept = localStorage.getItem(KEY);
  if (kept === 'fog' || kept === 'lamp') return kept;
  return globalThis.matchMedia?.('(prefers-color-scheme: dark)').matches ? 'lamp' : 'fog';
}

export function applyTheme(theme: Theme): void {
  document.documentElement.dataset['theme'] = theme;
}

export function keepTheme(theme: Theme): void {
  localStorage.setItem(KEY, theme);
  applyTheme(theme);
}
