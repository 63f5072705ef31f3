import i18next from 'i18next';

/** A language and its sentences by their English ones; plurals end in _one, _few, _other …, as i18next has them from CLDR. */
export interface Words {
  /** BCP 47, such as "nl" or "pt-BR" */
  readonly language: string;
  readonly catalogue: Readonly<Record<string, string>>;
}

export interface Language {
  /** the sentence for an English one, with {{0}} … in it; what is not translated yet stays English */
  readonly find: (key: string) => string;
  readonly findPlural: (n: number, one: string, other: string) => string;
}

export function languageOf({ language, catalogue }: Words): Language {
  const i18n = i18next.createInstance();
  void i18n.init({
    lng: language,
    resources: { [language]: { translation: { ...catalogue } } },
    // Here and now: words are asked for as soon as this module is read.
    initAsync: false,
    // Keys are sentences, whose dots and colons are no paths.
    keySeparator: false,
    nsSeparator: false,
    contextSeparator: '\u0000',
    // An empty sentence is one that waits for its translator.
    returnEmptyString: false,
  });
  // What is put in is put in by who asks, since on a page it may be more than text.
  const as = { skipInterpolation: true } as const;
  return {
    find: (key) => i18n.t(key, as),
    findPlural: (n, one, other) => i18n.t(one, { ...as, count: n, defaultValue: n === 1 ? one : other }),
  };
}
