import type { Detail } from '#core/questions/details.ts';
import { phrase } from '#web/words/phrase.ts';

/** What the details are called that people can be asked for. */
export const detailWords: Record<Detail, string> = {
  phone: phrase('questions.phone'),
  street: phrase('questions.street'),
  postalCode: phrase('questions.postalCode'),
  birthDate: phrase('questions.birthDate'),
  language: phrase('questions.language'),
  pronouns: phrase('questions.pronouns'),
  dietary: phrase('questions.dietary'),
};
