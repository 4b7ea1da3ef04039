import { spokenIn } from '#core/words/language.ts';
import type { WallTime } from './clock.ts';
import { nextDay, sayTime } from './say.ts';

/** "09:00–12:30", or "22:00–02:00 next day". */
export const sayFromTo = (
  { startsLocal, endsLocal }: { startsLocal: WallTime; endsLocal: WallTime },
  locale: string = spokenIn(),
): string =>
  `${sayTime(startsLocal, locale)}–${sayTime(endsLocal, locale)}${
    endsLocal.slice(0, 10) > startsLocal.slice(0, 10)
      ? ` ${nextDay[locale as keyof typeof nextDay] ?? nextDay.en}`
      : ''
  }`;
