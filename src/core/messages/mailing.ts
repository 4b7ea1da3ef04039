import { type ConsentTopic, consentTopics } from '#core/contacts/consent.ts';
import { emailKey, isEmail } from '#core/contacts/reach.ts';

/** What a mailing is about. A notice concerns something people take part in, such as their membership. */
export const mailingTopics = ['notice', ...consentTopics] as const;
export type MailingTopic = (typeof mailingTopics)[number];

/** Topics that go only to those who said yes; to the others everybody may be written who did not say no. */
const needsYes: ReadonlySet<MailingTopic> = new Set(['newsletter', 'appeals'] satisfies ConsentTopic[]);

/** Somebody a mailing could go to. */
export interface MailingRecipient {
  contactId: string;
  name: string;
  email: string | null;
  /** Why nothing is sent to them at all. */
  quiet: string | null;
  /** What they said last about the topic by email; null when they never did. */
  said: boolean | null;
}

export interface MailingPlan<R extends MailingRecipient> {
  planned: R[];
  leftOut: { recipient: R; why: string }[];
}

/** Decides who gets a mailing, and for everybody else why not. One address gets one copy, the first one's. */
export function planMailing<R extends MailingRecipient>(
  topic: MailingTopic,
  recipients: readonly R[],
): MailingPlan<R> {
  const plan: MailingPlan<R> = { planned: [], leftOut: [] };
  const copies = new Map<string, string>();
  for (const recipient of recipients) {
    const out = (why: string) => plan.leftOut.push({ recipient, why });
    const { email } = recipient;
    if (recipient.quiet) out(recipient.quiet);
    else if (topic !== 'notice' && recipient.said === false) out(`said no to ${sayTopic(topic)}`);
    else if (needsYes.has(topic) && recipient.said !== true) out(`never said yes to ${sayTopic(topic)}`);
    else if (!email || !isEmail(email)) out('no email address');
    else if (copies.has(emailKey(email)))
      out(`one copy to this address is enough; it goes to ${copies.get(emailKey(email))}`);
    else {
      copies.set(emailKey(email), recipient.name);
      plan.planned.push(recipient);
    }
  }
  return plan;
}

/** A topic in running text. */
const sayTopic = (topic: MailingTopic): string => (topic === 'newsletter' ? 'the newsletter' : topic);
