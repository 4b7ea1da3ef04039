import type { Texts } from '#core/words/texts.ts';
import type { QuestionKind } from './question.ts';

/** Details of people that can be asked for when they register, and are kept on their record. */
export const details = [
  'phone',
  'street',
  'postalCode',
  'birthDate',
  'language',
  'pronouns',
  'dietary',
] as const;
export type Detail = (typeof details)[number];
export const isDetail = (keeps: string | null): keeps is Detail =>
  keeps !== null && (details as readonly string[]).includes(keeps);

/** Languages people can be written to in, as they are chosen and as they are kept. */
export const languageChoices: Readonly<Record<string, 'en' | 'fr'>> = { English: 'en', Français: 'fr' };

/** How a detail is asked for: its kind, its choices, whether it is about health. */
export const asking: Record<
  Detail,
  { kind: QuestionKind; choices: string[]; prompt: Texts; sensitive: boolean }
> = {
  phone: { kind: 'text', choices: [], prompt: { en: 'Telephone', fr: 'Téléphone' }, sensitive: false },
  street: {
    kind: 'text',
    choices: [],
    prompt: { en: 'Street and town', fr: 'Rue et ville' },
    sensitive: false,
  },
  postalCode: {
    kind: 'text',
    choices: [],
    prompt: { en: 'Postal code', fr: 'Code postal' },
    sensitive: false,
  },
  birthDate: {
    kind: 'date',
    choices: [],
    prompt: { en: 'Date of birth', fr: 'Date de naissance' },
    sensitive: false,
  },
  language: {
    kind: 'one of',
    choices: Object.keys(languageChoices),
    prompt: { en: 'Language to write to you in', fr: 'Langue dans laquelle vous écrire' },
    sensitive: false,
  },
  pronouns: { kind: 'text', choices: [], prompt: { en: 'Pronouns', fr: 'Pronoms' }, sensitive: false },
  dietary: {
    kind: 'long text',
    choices: [],
    prompt: { en: 'Allergies and what you do not eat', fr: 'Allergies et ce que vous ne mangez pas' },
    sensitive: true,
  },
};

/** The most characters a detail takes. */
export const mostCharacters: Record<Detail, number> = {
  phone: 40,
  street: 200,
  postalCode: 20,
  birthDate: 10,
  language: 20,
  pronouns: 60,
  dietary: 500,
};
