import { describe, expect, it } from 'vitest';
import { moneyText } from './money.js';

/** Spaces of a locale may be narrow or unbreakable. */
const plain = (s: string) => s.replace(/\s/gu, ' ');

describe('money', () => {
  // As the Unicode CLDR writes them.
  it.each([
    [1234.5, 'EUR', 'en-IE', '€1,234.50'],
    [1234.5, 'EUR', 'de-DE', '1.234,50 €'],
    [1234.5, 'USD', 'en-US', '$1,234.50'],
    // A yen has no hundredths.
    [1234.5, 'JPY', 'en-GB', '¥1,235'],
    [0.5, 'GBP', 'en-GB', '£0.50'],
  ])('%d in %s is written in %s as %s', (amount, currency, language, text) => {
    expect(plain(moneyText(amount, currency, language))).toBe(text);
  });
  it('a sign that was typed stands behind the number of the place', () => {
    expect(plain(moneyText(3.5, '€', 'en-GB'))).toBe('3.50 €');
    expect(plain(moneyText(1234.5, 'kr', 'sv-SE'))).toBe('1 234,50 kr');
    expect(plain(moneyText(3, 'Fr.', 'de-CH'))).toBe('3.00 Fr.');
  });
});
