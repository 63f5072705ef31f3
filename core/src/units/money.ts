/** A currency's code (ISO 4217), as against a sign somebody typed. */
const CODE = /^[A-Z]{3}$/;

/**
 * A sum of money as it is written where somebody lives: with two decimals, or as many as the currency has where its code (ISO 4217) is
 * known, and the sign where it belongs there; a sign that was typed stands behind. `language` is a BCP 47 tag, by default the machine's.
 */
export function moneyText(amount: number, currency: string, language?: string): string {
  if (CODE.test(currency))
    return new Intl.NumberFormat(language, { style: 'currency', currency, currencyDisplay: 'narrowSymbol' }).format(amount);
  return `${new Intl.NumberFormat(language, { minimumFractionDigits: 2, maximumFractionDigits: 2 }).format(amount)} ${currency}`;
}
