/** Money in minor units (cents) of the currency beside it; a whole number. */
export type Amount = number;

/** ISO 4217 code, e.g. `CAD`. */
export type Currency = string;

/** Digits after the decimal separator, by ISO 4217 as the runtime knows it. */
function minorDigits(currency: Currency): number {
  return (
    new Intl.NumberFormat('en', { style: 'currency', currency }).resolvedOptions().maximumFractionDigits ?? 2
  );
}

/** "$25", "$25.50": the decimals only where there are some; the code where the symbol would mislead. */
export function sayAmount(amount: Amount, currency: Currency, locale = 'en'): string {
  const digits = minorDigits(currency);
  const whole = amount % 10 ** digits === 0;
  return new Intl.NumberFormat(locale === 'fr' ? 'fr-CA' : 'en-CA', {
    style: 'currency',
    currency,
    minimumFractionDigits: whole ? 0 : digits,
    maximumFractionDigits: digits,
  }).format(amount / 10 ** digits);
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
  const digits = minorDigits(currency);
  const fraction = match[3] ?? '';
  if (fraction.length > digits) return null;
  const units =
    Number(match[2]!.replaceAll(',', '')) * 10 ** digits + Number(fraction.padEnd(digits, '0') || '0');
  return match[1] ? -units : units;
}

/** Plain decimal text for CSV files: "25.50". */
export function plainAmount(amount: Amount, currency: Currency): string {
  const digits = minorDigits(currency);
  return (amount / 10 ** digits).toFixed(digits);
}
