import type { Plurals } from './filling.ts';

/**
 * What can be wrong, in English: by code, with {{parameters}}. A text that depends on a number has one form for each plural
 * category of the language (CLDR): it is chosen by `count`.
 */
export const problemsEn = {
  unreadable: 'The server’s answer could not be read. Please try again.',
  // Fields
  'answer-needed': 'Please answer this.',
  'answer-yes-or-no': 'Answer yes or no.',
  'answer-one': 'Choose one of the answers.',
  'answer-among': 'Choose among the answers.',
  'answer-in-words': 'Answer in words.',
  'answer-on-the-scale': 'Choose a number on the scale.',
  'question-not-asked': 'This question is not asked here.',
  'too-long': {
    one: 'At most {{count}} character.',
    other: 'At most {{count}} characters.',
  },
  'not-an-email': 'This is not an email address.',
  'not-a-telephone': 'This is not a telephone number.',
  'email-for-confirmation': 'Give an email address; the confirmation goes there.',
  'email-for-shifts': 'Give an email address; your shifts are sent there.',
  'name-needed': 'Give a name.',
  'first-name-needed': 'Give your first name.',
  'last-name-needed': 'Give your last name.',
  'more-named-than-seats': {
    one: 'There is {{count}} seat, and {{named}} people were named.',
    other: 'There are {{count}} seats, and {{named}} people were named.',
  },
  'in-the-future': 'This date is in the future.',
  'birth-date-needed': 'Give the birth date: age decides here.',
  'fund-gone': 'There is no such fund.',
  'ticket-gone': 'This ticket is not on sale here.',
  'ticket-twice': '{{name}} is listed twice.',
  'ticket-needed': 'Choose at least one ticket.',
  'whole-number': 'Choose a whole number, at least 1.',
  'most-per-order': 'At most {{most}} of {{name}} in one order.',
  'more-than-sold': 'That is more than anybody can sell.',
  'donation-out-of-range': 'A donation is an amount of 0 or more, up to 100,000.',
  'card-needed': 'Give a card number.',
  'expiry-unreadable': 'Give month and year, like 08/29.',
  'seats-needed': 'Choose the seats to give up.',
  'seats-of-another': 'These seats do not all belong to this order.',
  'clause-not-ticked': 'Please tick this clause, or do not sign.',
  'full-name-needed': 'Type your first and last name.',
  'guardian-has-to-sign': '{{name}} is under age; a guardian has to sign.',
  'guardian-own-name': "A guardian signs with their own name, not {{name}}'s.",
  'signs-alone': '{{name}} is of age and signs alone.',
  'guest-not-named': 'Name this guest first.',
  'most-addresses': 'At most {{most}} are kept. Write to the organization to replace one.',
  'level-of-the-list': 'Choose a level of the list.',
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
  'registers-elsewhere': 'Registration for this event is at another address: {{address}}',
  'registration-closed': 'Registration for this event is closed.',
  full: 'There are no longer enough seats for your party. You can join the waitlist.',
  'too-many-unpaid': {
    one: 'From one place, at most {{count}} seat can wait to be paid within an hour. Pay for it first, or write to us for a larger party.',
    other:
      'From one place, at most {{count}} seats can wait to be paid within an hour. Pay for those you hold first, or write to us for a larger party.',
  },
  'payment-unknown':
    'The card processor has not answered. Your seats are kept; do not pay again. We tell you as soon as we know.',
  'nothing-held': 'The seats are no longer held. Please register again.',
  'nothing-due': 'Nothing is due on this order.',
  'event-not-running': 'This event was called off, or is over; nothing changes here any more.',
  'shift-begun': 'This shift has begun; please speak to the crew lead.',
  'not-found': '{{what}} was not found, or the link is incomplete.',
  'offer-gone': 'This offer is no longer open. The seats went to the next party.',
  begun: 'The event has begun; please speak to the organizers.',
  'name-signed': 'A waiver is signed for this person; ask the organizers to change the name.',
  'already-in': 'Somebody who has arrived cannot withdraw.',
  'no-pass': 'There is no pass before a seat is confirmed.',
  'no-waiver': 'No waiver is asked at this event.',
  'waiver-signed': 'This waiver is signed already.',
  'waiver-not-asked': 'No waiver is asked of this person.',
  'survey-answered': 'This survey was answered already. Thank you.',
  'shift-closed': 'This shift does not take sign-ups.',
  'shift-full': 'This shift was just filled. Please choose another.',
  'too-many': 'Too many requests at once. Please wait a little and try again.',
  // The way to the server

  offline: 'The server cannot be reached. Nothing was lost; please try again.',
  unexpected: 'Something went wrong here. Nothing was changed; please try again.',
} as const satisfies Record<string, string | Plurals>;

/** The same in another language: nothing may be missing. */
export type ProblemWords = Readonly<Record<keyof typeof problemsEn, string | Plurals>>;
