import { consentTopics } from '#core/contacts/consent.ts';
import type { QuietReason } from '#core/contacts/quiet.ts';
import { emailKey, isEmail } from '#core/contacts/reach.ts';
import { because, type Reason } from '#core/words/reasons.ts';
import { type MergeField, problemsAmong } from './merge.ts';
import type { TextProblem } from './template.ts';

/** What a mailing is about. A notice concerns something people take part in, such as their membership. */
export const mailingTopics = ['notice', ...consentTopics] as const;
export type MailingTopic = (typeof mailingTopics)[number];

/** Which of an event’s people a mailing can go to. */
export const mailedOfEvent = [
  'booked',
  'attendees',
  'waiting',
  'crew',
  'came',
  'missed',
  'following',
] as const;
export type MailedOfEvent = (typeof mailedOfEvent)[number];

/**
 * What a mailing can say to each. `aboutEvent`: it goes to an event’s people, or calls others to it, and can say what everybody may
 * know of that event.
 */
export const fieldsOfMailing = (aboutEvent: boolean): readonly MergeField[] => [
  'name',
  'organization',
  'own_link',
  ...(aboutEvent ? (['event', 'when', 'place', 'event_link'] as const) : []),
];

/** What thanks after an event can say beside it: there for whom it is so, for conditions. */
export const fieldsOfThanks: readonly MergeField[] = [
  ...fieldsOfMailing(true),
  'helped',
  'gave',
  'receipt_amount',
  'receipt_link',
];

/** What is wrong with a text of thanks. */
export const problemsInThanks = (text: string): TextProblem[] => problemsAmong(text, fieldsOfThanks);

/** What is wrong with a text of a mailing. */
export const problemsInMailing = (text: string, aboutEvent: boolean): TextProblem[] =>
  problemsAmong(text, fieldsOfMailing(aboutEvent));

/** Days after a mailing in which a booking or a gift is counted as following it. */
export const followingDays = 14;

/** Topics that go only to those who said yes; to the others everybody may be written who did not say no. */
const needsYes = (topic: MailingTopic): topic is 'newsletter' | 'appeals' =>
  topic === 'newsletter' || topic === 'appeals';

/** Why somebody is not written to about a topic, by what they said last about it by email (null where they never did); null where they are. */
export const whyNotAbout = (topic: MailingTopic, said: boolean | null): Reason | null =>
  topic !== 'notice' && said === false
    ? because(`said no to ${topic}`)
    : needsYes(topic) && said !== true
      ? because(`no yes to ${topic}`)
      : null;

/** Somebody a mailing could go to. */
export interface MailingRecipient {
  /** Null for a guest whose address is all we know. */
  contactId: string | null;
  name: string;
  email: string | null;
  /** Why nothing is sent to them at all. */
  quiet: QuietReason | null;
  /** What they said last about the topic by email; null when they never did. */
  said: boolean | null;
}

export interface MailingPlan<R extends MailingRecipient> {
  planned: R[];
  leftOut: { recipient: R; why: Reason }[];
}

/** Decides who gets a mailing, and for everybody else why not. One address gets one copy, the first one's. */
export function planMailing<R extends MailingRecipient>(
  topic: MailingTopic,
  recipients: readonly R[],
): MailingPlan<R> {
  const plan: MailingPlan<R> = { planned: [], leftOut: [] };
  const copies = new Map<string, string>();
  for (const recipient of recipients) {
    const out = (why: Reason) => plan.leftOut.push({ recipient, why });
    const { email } = recipient;
    const whyNot = recipient.quiet ? because(recipient.quiet) : whyNotAbout(topic, recipient.said);
    if (whyNot) out(whyNot);
    else if (!email || !isEmail(email)) out(because('no address'));
    else if (copies.has(emailKey(email)))
      out(because('same address', { name: copies.get(emailKey(email))! }));
    else {
      copies.set(emailKey(email), recipient.name);
      plan.planned.push(recipient);
    }
  }
  return plan;
}
