/**
 * The browser's language, as the tag it stands for (BCP 47). Some say more ("en-US@posix"), or nothing that is one: then what is usual in
 * the world counts (region 001). That must not keep a page from being shown.
 */
export function usersLocale(language: string = navigator.language): Intl.Locale {
  try {
    return new Intl.Locale(language.replace(/[@.].*$/, ''));
  } catch {
    return new Intl.Locale('und-001');
  }
}
