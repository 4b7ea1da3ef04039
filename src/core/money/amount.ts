import { once } from '#core/words/once.ts';

/** Money in minor units (cents) of the currency beside it; a whole number. */
export type Amount = number;

/** ISO 4217 code, e.g. `CAD`. */
export type Currency = string;

/** True for a code of ISO 4217 that is in use, as the runtime knows them. */
export const isCurrency = (code: string): boolean => Intl.supportedValuesOf('currency').includes(code);

const formatOf = once(
  (locale: string, currency: Currency, least?: number, most?: number): Intl.NumberFormat =>
    new Intl.NumberFormat(locale, {
      style: 'currency',
      currency,
      minimumFractionDigits: least,
      maximumFractionDigits: most,
    }),
);

/** Digits after the decimal separator, by ISO 4217 as the runtime knows it. */
export const digitsOf = (currency: Currency): number =>
  formatOf('en', currency).resolvedOptions().maximumFractionDigits ?? 2;

/** "$25", "$25.50": the decimals only where there are some; the code where the symbol would mislead. */
export function sayAmount(amount: Amount, currency: Currency, locale = 'en'): string {
  const digits = digitsOf(currency);
  const whole = amount % 10 ** digits === 0;
  const format = formatOf(locale === 'fr' ? 'fr-CA' : 'en-CA', currency, whole ? 0 : digits, digits);
  return format.format(amount / 10 ** digits);
}

/**
 * Reads what somebody typed as money: "25", "25.50", "1 250,00", "$25". Null where it is not an amount or has
 * more decimals than the currency knows; negative amounts are read, whoever asks decides whether they are allowed.
 */
export function readAmount(text: string, currency: Currency): Amount | null {
  const cleaned = text
    .trim()
    .replace(/^(?:CA|C|US)?\$|\s*\$$/u, '')
    .replace(/[\s\u00a0]/gu, '');
  const match = /^(-?)(\d{1,9}|\d{1,3}(?:,\d{3})+)(?:[.,](\d+))?$/u.exec(cleaned);
  if (!match) return null;
  const digits = digitsOf(currency);
  const fraction = match[3] ?? '';
  if (fraction.length > digits) return null;
  const units =
    Number(match[2]!.replaceAll(',', '')) * 10 ** digits + Number(fraction.padEnd(digits, '0') || '0');
  return match[1] ? -units : units;
}

/**
 * The amount that reads the same in another currency: 25.00 becomes 25 where there are no cents. What has no counterpart there is
 * rounded.
 */
export const sameFigure = (amount: Amount, from: Currency, to: Currency): Amount =>
  Math.round(amount * 10 ** (digitsOf(to) - digitsOf(from)));

/** Sums by currency, those of `first` first and the others by their codes; nothing for what sums to nothing. */
export function sumsOf(
  amounts: readonly { amount: Amount; currency: Currency }[],
  first: Currency,
): { amount: Amount; currency: Currency }[] {
  const sums = new Map<Currency, Amount>();
  for (const { amount, currency } of amounts) sums.set(currency, (sums.get(currency) ?? 0) + amount);
  return [...sums]
    .map(([currency, amount]) => ({ amount, currency }))
    .filter((s) => s.amount !== 0)
    .sort((a, b) =>
      a.currency === first ? -1 : b.currency === first ? 1 : a.currency < b.currency ? -1 : 1,
    );
}

/** An amount as papers say it, with all its decimals: "$320.00". */
export function sayExactAmount(amount: Amount, currency: Currency, locale = 'en'): string {
  const digits = digitsOf(currency);
  return formatOf(locale === 'fr' ? 'fr-CA' : 'en-CA', currency, digits, digits).format(
    amount / 10 ** digits,
  );
}

/** Plain decimal text for CSV files: "25.50". */
export function plainAmount(amount: Amount, currency: Currency): string {
  const digits = digitsOf(currency);
  return (amount / 10 ** digits).toFixed(digits);
}
