import type { MailingTopic } from '#core/messages/mailing.ts';
import { phrase } from '../words/phrase.ts';

/** What is written about, as whoever writes chooses it: it decides who gets none. */
export const topicWords: Record<MailingTopic, string> = {
  notice: phrase('contacts.somethingTheyTakePart'),
  newsletter: phrase('contacts.theNewsletterOnlyWho'),
  invitations: phrase('contacts.anInvitationEverybodyWho'),
  appeals: phrase('contacts.anAppealForMoney'),
};
