/** The usual name of English with accents (Unicode CLDR's pseudo-locale), which shows at a glance what no catalogue has. */
export const ACCENTED = 'en-XA';

const ACCENTS: Readonly<Record<string, string>> = Object.fromEntries(
  [...'aàbƀcçdďeéfƒgğhĥiîjĵkķlļmɱnñoöpþqǫrŕsštťuûvṽwŵxẋyýzžAÅBƁCČDÐEËFƑGĞHĤIÎJĴKĶLĻMṀNÑOØPÞQǪRŘSŠTŤUÛVṼWŴXẊYÝZŽ'.matchAll(/(.)(.)/gu)].map(
    (m) => [m[1] ?? '', m[2] ?? ''],
  ),
);

/** A catalogue in which every letter has an accent, but for what is put in and the codes of a plural. */
export const accented = (catalogue: Readonly<Record<string, string>>): Record<string, string> =>
  Object.fromEntries(
    Object.entries(catalogue).map(([key, text]) => [
      key,
      text
        .split(/(\{\{\d+\}\})/)
        .map((piece) => (piece.startsWith('{{') ? piece : [...piece].map((c) => ACCENTS[c] ?? c).join('')))
        .join(''),
    ]),
  );
