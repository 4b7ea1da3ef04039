import type { MessageText } from '#core/messages/texts.ts';

/** Whom a change of an event is told, each in a letter of their own. */
export const concerned = ['registrants', 'losing', 'waitlist', 'crew', 'speakers', 'approvers'] as const;
/**
 * `registrants`: with a confirmed seat that they keep. `losing`: whose seats no longer fit. `waitlist`: who waits, was offered
 * seats, or is paying. `approvers`: who has a step of its clearance.
 */
export type Concerned = (typeof concerned)[number];

export type LetterKind = 'changed' | 'called off';

/**
 * Fields that these letters have beside those of every message: `changes`, a line for each thing that is new; `words`, what the
 * coordinator says of it; `money`, what becomes of what was paid; `page`, where the team looks at it.
 */
const letterFields = ['changes', 'words', 'money', 'page'] as const;

/** What a letter can say to those it is for. */
export const fieldsOfLetter = (to: Concerned): readonly string[] => [
  'name',
  'event',
  'when',
  'place',
  'organization',
  ...(to === 'registrants' || to === 'losing' || to === 'waitlist' ? ['manage_link'] : []),
  ...(to === 'crew' ? ['shifts_link'] : []),
  ...letterFields,
];

const both = (subject: MessageText['subject'], en: string, fr: string): MessageText => ({
  subject,
  body: {
    en: `Hello {{name}},\n\n${en}\n\n{{organization}}`,
    fr: `Bonjour {{name}},\n\n${fr}\n\n{{organization}}`,
  },
});

const changedSubject = { en: 'Changed: {{event}}', fr: 'Changement : {{event}}' };
const offSubject = { en: 'Called off: {{event}}', fr: 'Annulé : {{event}}' };

/** The drafts, by what happened and whom it is told. Paragraphs without anything in them fall away. */
export const letterTexts: Readonly<Record<LetterKind, Readonly<Record<Concerned, MessageText>>>> = {
  changed: {
    registrants: both(
      changedSubject,
      'Something about {{event}} has changed.\n\n{{changes}}\n\n{{words}}\n\nYour seats stay yours, and the attached entry moves it in your calendar. If you cannot come, please give them back here: {{manage_link}}',
      'Un détail de {{event}} a changé.\n\n{{changes}}\n\n{{words}}\n\nVos places restent les vôtres; le fichier joint met votre calendrier à jour. Si vous ne pouvez pas venir, rendez-les ici : {{manage_link}}',
    ),
    losing: both(
      { en: 'Back on the waitlist: {{event}}', fr: 'De retour sur la liste d’attente : {{event}}' },
      'There is less room at {{event}} ({{when}}) than we had given away, and your seats no longer fit. We are sorry. You are first on the waitlist, and are written to as soon as there is room.\n\n{{changes}}\n\n{{words}}\n\nSee your place, or leave the list: {{manage_link}}',
      "Il y a moins de places pour {{event}} ({{when}}) que prévu, et les vôtres n'y entrent plus. Nous en sommes désolés. Vous êtes en tête de la liste d'attente; nous vous écrirons dès qu'il y aura de la place.\n\n{{changes}}\n\n{{words}}\n\nVoir votre rang ou quitter la liste : {{manage_link}}",
    ),
    waitlist: both(
      changedSubject,
      'Something about {{event}} has changed.\n\n{{changes}}\n\n{{words}}\n\nYou keep your place. See it, or leave the list: {{manage_link}}',
      'Un détail de {{event}} a changé.\n\n{{changes}}\n\n{{words}}\n\nVous gardez votre rang. Le voir, ou quitter la liste : {{manage_link}}',
    ),
    crew: both(
      changedSubject,
      'Something about {{event}}, where you help, has changed.\n\n{{changes}}\n\n{{words}}\n\nAll your shifts, and giving one back: {{shifts_link}}',
      'Un détail de {{event}}, où vous aidez, a changé.\n\n{{changes}}\n\n{{words}}\n\nTous vos quarts, et en rendre un : {{shifts_link}}',
    ),
    speakers: both(
      changedSubject,
      'Something about {{event}}, where you speak, has changed.\n\n{{changes}}\n\n{{words}}\n\nPlease answer if you cannot be there.',
      'Un détail de {{event}}, où vous prenez la parole, a changé.\n\n{{changes}}\n\n{{words}}\n\nRépondez-nous si vous ne pouvez pas y être.',
    ),
    approvers: both(
      changedSubject,
      '{{event}}, which you have a step of, has changed.\n\n{{changes}}\n\n{{words}}\n\nIts clearance: {{page}}',
      '{{event}}, dont vous avez une étape, a changé.\n\n{{changes}}\n\n{{words}}\n\nSon approbation : {{page}}',
    ),
  },
  'called off': {
    registrants: both(
      offSubject,
      'We are sorry: {{event}} ({{when}}) does not take place.\n\n{{words}}\n\n{{money}}\n\nYour booking: {{manage_link}}',
      "Nous sommes désolés : {{event}} ({{when}}) n'aura pas lieu.\n\n{{words}}\n\n{{money}}\n\nVotre réservation : {{manage_link}}",
    ),
    losing: both(
      offSubject,
      'We are sorry: {{event}} ({{when}}) does not take place.\n\n{{words}}',
      "Nous sommes désolés : {{event}} ({{when}}) n'aura pas lieu.\n\n{{words}}",
    ),
    waitlist: both(
      offSubject,
      'We are sorry: {{event}} ({{when}}), for which you were waiting, does not take place.\n\n{{words}}\n\n{{money}}',
      "Nous sommes désolés : {{event}} ({{when}}), que vous attendiez, n'aura pas lieu.\n\n{{words}}\n\n{{money}}",
    ),
    crew: both(
      offSubject,
      'Thank you for wanting to help: {{event}} ({{when}}) does not take place, and your shifts there fall away.\n\n{{words}}\n\nAll your shifts: {{shifts_link}}',
      "Merci d'avoir voulu aider : {{event}} ({{when}}) n'aura pas lieu, et vos quarts tombent.\n\n{{words}}\n\nTous vos quarts : {{shifts_link}}",
    ),
    speakers: both(
      offSubject,
      'We are sorry: {{event}} ({{when}}), where you were to speak, does not take place.\n\n{{words}}',
      "Nous sommes désolés : {{event}} ({{when}}), où vous deviez prendre la parole, n'aura pas lieu.\n\n{{words}}",
    ),
    approvers: both(
      offSubject,
      '{{event}} ({{when}}), which you have a step of, is called off.\n\n{{words}}\n\n{{page}}',
      '{{event}} ({{when}}), dont vous avez une étape, est annulé.\n\n{{words}}\n\n{{page}}',
    ),
  },
};

/** A text without the paragraphs that nothing stands in. */
export const withoutGaps = (text: string): string => text.replace(/\n{3,}/gu, '\n\n').trim();

/** Something that is new, with what it was. */
export interface WhatIsNew {
  of: 'when' | 'where' | 'doors' | 'shift' | 'shift gone';
  now: string;
  was: string;
}

const lines = {
  en: {
    when: 'When: {{now}}\n  instead of {{was}}',
    where: 'Where: {{now}}\n  instead of {{was}}',
    doors: 'Doors: {{now}}\n  instead of {{was}}',
    shift: 'Your shift: {{now}}\n  instead of {{was}}',
    'shift gone': 'Your shift falls away: {{was}}',
  },
  fr: {
    when: 'Quand : {{now}}\n  au lieu de {{was}}',
    where: 'Où : {{now}}\n  au lieu de {{was}}',
    doors: 'Portes : {{now}}\n  au lieu de {{was}}',
    shift: 'Votre quart : {{now}}\n  au lieu de {{was}}',
    'shift gone': 'Votre quart tombe : {{was}}',
  },
} as const;

/** What is new, with what it was, as a letter says it. */
export const sayWhatIsNew = (changes: readonly WhatIsNew[], language: 'en' | 'fr'): string =>
  changes
    .map(({ of, now, was }) =>
      lines[language][of].replace('{{now}}', () => now || '–').replace('{{was}}', () => was || '–'),
    )
    .join('\n');
