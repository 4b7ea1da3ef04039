import { spokenLanguage } from '#web/words/phrase.ts';

/** A share in whole hundredths, as it is read: “34 %” in words of one’s language. */
export const sayShare = (share: number): string =>
  share.toLocaleString(`${spokenLanguage()}-CA`, { style: 'percent', maximumFractionDigits: 0 });

/** A figure with so many digits at most. */
export const sayTimes = (n: number, digits = 1): string =>
  n.toLocaleString(`${spokenLanguage()}-CA`, { maximumFractionDigits: digits });

/** The bounds of a share, in hundredths. */
export const sayBounds = ({ low, high }: { low: number; high: number }): string =>
  `${Math.round(low * 100)}–${Math.round(high * 100)}`;
