import { type Currency, sayAmount } from '#core/money/amount.ts';
import { fillIn } from '#core/words/filling.ts';
import type { Language } from '#core/words/language.ts';
import { en } from '#core/words/pages.en.ts';
import { fr } from '#core/words/pages.fr.ts';
import { priceRange } from './listing.ts';

/** What a seat costs, as a listing says it: "free", "$25", "free to $60"; empty where nothing is on offer. */
export function sayPrices(
  of: { lowest: number | null; highest: number | null },
  currency: Currency,
  language: Language,
): string {
  const words = language === 'fr' ? fr : en;
  const range = priceRange(of.lowest, of.highest);
  const amount = (price: number) => (price === 0 ? words.free : sayAmount(price, currency, language));
  switch (range.kind) {
    case 'none':
      return '';
    case 'free':
      return words.free;
    case 'one':
      return amount(range.price);
    case 'range':
      return fillIn(words.fromTo, { from: amount(range.from), to: amount(range.to) }, language);
  }
}
