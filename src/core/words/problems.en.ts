import type { Plurals } from './filling.ts';

/**
 * What can be wrong, in English: by code, with {{parameters}}. A text that depends on a number has one form for each plural
 * category of the language (CLDR): it is chosen by `count`.
 */
export const problemsEn = {
  'sign-in-code-wrong': 'This code does not work here. Look for the newest message, or ask for another code.',
  'link-over': 'This link was used, or is older than fifteen minutes. Ask for another.',
  unreadable: 'The server’s answer could not be read. Please try again.',
  // Fields
  'too-long': {
    one: 'At most {{count}} character.',
    other: 'At most {{count}} characters.',
  },
  'not-an-email': 'This is not an email address.',
  'not-a-telephone': 'This is not a telephone number.',
  'at-least-one': 'At least 1.',
  'not-whole': 'Give a whole number.',
  'call-closed': 'Applications are closed.',
  'application-declined': 'This application was declined; it cannot be changed any more.',
  'stretch-ends-before': 'It ends before it begins.',
  'available-needed': 'Say when you can be there.',
  'wish-needed': 'Choose what you would like to do.',
  'role-gone': 'This is not offered any more.',
  'about-needed': 'Say what it is.',
  'name-needed': 'Give a name.',
  'no-name': 'This is not a name.',
  'first-name-needed': 'Give your first name.',
  'last-name-needed': 'Give your last name.',
  'more-named-than-seats': {
    one: 'There is {{count}} seat, and {{named}} people were named.',
    other: 'There are {{count}} seats, and {{named}} people were named.',
  },
  'in-the-future': 'This date is in the future.',
  'proposal-untitled': 'Give your session a title.',
  'proposal-short': 'Say in a few sentences what it is about.',
  'proposal-minutes': 'Between 5 and 600 minutes.',
  'proposals-full': 'No more can be proposed at the moment.',
  'part-over': 'Your part in the event is over, and your access ended with it.',
  'words-needed': 'Write what you want to ask.',
  'whole-number': 'Choose a whole number, at least 1.',
  'day-passed': 'This day has passed.',
  'ends-before': 'It ends before that day already.',
  'half-a-character': 'This text has half a character in it.',
  'one-line-only': 'Write this in one line, without tabs.',
  unprintable: 'This text has characters in it that cannot be printed.',
  'unprintable-name': 'A name in here has characters that cannot be printed.',
  // Whole requests
  'no-such-date': 'Give a date that exists, of the years 1800 to 2199.',
  'no-such-time': 'Give a date and a time, like 2026-08-08T09:00.',
  'no-amount': 'Give an amount.',
  'price-negative': 'A price cannot be negative.',
  'price-most': 'A price is at most 100,000.',
  'too-many-unpaid': {
    one: 'From one place, at most {{count}} seat can wait to be paid within an hour. Pay for it first, or write to us for a larger party.',
    other:
      'From one place, at most {{count}} seats can wait to be paid within an hour. Pay for those you hold first, or write to us for a larger party.',
  },
  'not-found': '{{what}} was not found, or the link is incomplete.',
  'too-many': 'Too many requests at once. Please wait a little and try again.',
  // The way to the server

  offline: 'The server cannot be reached. Nothing was lost; please try again.',
  unexpected: 'Something went wrong here. Nothing was changed; please try again.',
} as const satisfies Record<string, string | Plurals>;

/** The same in another language: nothing may be missing. */
export type ProblemWords = Readonly<Record<keyof typeof problemsEn, string | Plurals>>;
