import type { DepositBack, DepositWhy } from '#core/crew/deposit.ts';
import type { Language } from './language.ts';

const rules: Readonly<Record<Language, Record<DepositBack, string>>> = {
  en: {
    every: 'It goes back once you have served every shift you have.',
    any: 'It goes back once you have served one shift.',
    share: 'As much of it goes back as you have served of your hours.',
  },
  fr: {
    every: 'Elle vous est rendue une fois tous vos quarts faits.',
    any: 'Elle vous est rendue après un quart fait.',
    share: 'Elle vous est rendue en proportion des heures faites.',
  },
};

/** By which rule a deposit goes back, as whoever leaves it reads it. */
export function sayDepositRule(
  { back, noticeHours }: { back: DepositBack; noticeHours: number },
  language: Language,
): string {
  const late =
    noticeHours === 0
      ? ''
      : language === 'fr'
        ? ` Un quart rendu moins de ${noticeHours} h avant son début compte comme manqué.`
        : ` A shift given back less than ${noticeHours} hours before it begins counts as missed.`;
  return `${rules[language][back]}${late}`;
}

const hours = (n: number) => Math.round(n * 4) / 4;

/** Why so much of a deposit goes back. */
export function sayDepositWhy(why: DepositWhy | { words: string }, language: Language): string {
  if ('words' in why) return why.words;
  const fr = language === 'fr';
  switch (why.code) {
    case 'called off':
      return fr ? 'L’activité est annulée.' : 'The event was called off.';
    case 'no shift':
      return fr ? 'Aucun quart ne vous a été confié.' : 'No shift came of it.';
    case 'served': {
      const { shifts } = why.params;
      if (fr) return shifts === 1 ? 'Votre quart a été fait.' : `Vos ${shifts} quarts ont été faits.`;
      return shifts === 1 ? 'Your shift was served.' : `All ${shifts} shifts were served.`;
    }
    case 'missed': {
      const { missed, shifts } = why.params;
      return fr
        ? `${missed} quart${missed === 1 ? '' : 's'} sur ${shifts} manqué${missed === 1 ? '' : 's'}.`
        : `${missed} of ${shifts} ${shifts === 1 ? 'shift was' : 'shifts were'} missed.`;
    }
    case 'share':
      return fr
        ? `${hours(why.params.served)} h faites sur ${hours(why.params.hours)} h.`
        : `${hours(why.params.served)} of ${hours(why.params.hours)} hours were served.`;
  }
}

/** How much of a deposit goes back, and that the rest is kept. `amount` is said already. */
export function sayDepositBack(
  said: string,
  { amount, kept }: { amount: number; kept: number },
  language: Language,
): string {
  if (language === 'fr') {
    if (!amount) return 'Votre caution n’est pas rendue.';
    return kept ? `De votre caution, ${said} vous est rendu.` : `Votre caution de ${said} vous est rendue.`;
  }
  if (!amount) return 'Your deposit does not go back to you.';
  return kept ? `Of your deposit, ${said} goes back to you.` : `Your deposit of ${said} goes back to you.`;
}
