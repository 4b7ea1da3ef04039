import type { EventAudience, YearAudience } from './audiences.ts';
import { linkMark } from './links.ts';
import type { MailingTopic } from './mailing.ts';

type Language = 'en' | 'fr';
/** A non-breaking space, as French has it before a colon. */
const nbsp = '\u00A0';

/** Why somebody gets a mail. */
export type Why =
  | { of: 'line'; audience: EventAudience; event: string }
  | { of: 'mailing'; topic: MailingTopic }
  | { of: 'year'; audience: YearAudience };

const ofAudience: Readonly<Record<EventAudience, Record<Language, (event: string) => string>>> = {
  orders: {
    en: (event) => `you booked seats for ${event}`,
    fr: (event) => `vous avez réservé pour ${event}`,
  },
  attendees: {
    en: (event) => `you have a seat for ${event}, or booked it for somebody`,
    fr: (event) => `vous avez une place pour ${event}, ou l’avez réservée pour quelqu’un`,
  },
  guardians: {
    en: (event) => `a child you look after comes to ${event}`,
    fr: (event) => `un enfant dont vous avez la garde vient à ${event}`,
  },
  sessions: {
    en: (event) => `you chose a session of ${event}`,
    fr: (event) => `vous avez choisi une séance de ${event}`,
  },
  crew: {
    en: (event) => `you help at ${event}`,
    fr: (event) => `vous êtes bénévole à ${event}`,
  },
  waiting: {
    en: (event) => `you are on the waitlist of ${event}`,
    fr: (event) => `vous êtes sur la liste d’attente de ${event}`,
  },
  accepted: {
    en: (event) => `you asked to come to ${event}`,
    fr: (event) => `vous avez demandé à venir à ${event}`,
  },
  offered: {
    en: (event) => `you wait for seats at ${event}`,
    fr: (event) => `vous attendez des places pour ${event}`,
  },
  'given up': {
    en: (event) => `you had seats for ${event}`,
    fr: (event) => `vous aviez des places pour ${event}`,
  },
  following: {
    en: (event) => `you asked to hear of ${event}`,
    fr: (event) => `vous avez demandé des nouvelles de ${event}`,
  },
};

const ofYear: Readonly<Record<YearAudience, Record<Language, string>>> = {
  members: { en: 'you are, or were, a member', fr: 'vous êtes, ou étiez, membre' },
  givers: { en: 'you gave something', fr: 'vous avez fait un don' },
  pledgers: { en: 'you give every month', fr: 'vous donnez chaque mois' },
  certified: { en: 'you help with a certificate of yours', fr: 'vous aidez avec un certificat à votre nom' },
};

const ofTopic: Readonly<Record<MailingTopic, Record<Language, string>>> = {
  notice: {
    en: 'it concerns something you take part in',
    fr: 'cela concerne une activité à laquelle vous participez',
  },
  newsletter: { en: 'you said yes to our news', fr: 'vous avez accepté de recevoir nos nouvelles' },
  invitations: {
    en: 'you are among those we invite to our events',
    fr: 'vous êtes parmi les personnes que nous invitons',
  },
  appeals: {
    en: 'you said yes to hearing what gifts are needed for',
    fr: 'vous avez accepté de recevoir nos demandes de dons',
  },
};

/** What a mailing can be about, as whoever gets it is told. */
const topics: Readonly<Record<MailingTopic, Record<Language, string>>> = {
  notice: { en: 'notices', fr: 'avis' },
  newsletter: { en: 'news', fr: 'nouvelles' },
  invitations: { en: 'invitations to events', fr: 'invitations aux événements' },
  appeals: { en: 'what gifts are needed for', fr: 'demandes de dons' },
};
export const sayTopic = (topic: MailingTopic, language: Language): string => topics[topic][language];

/**
 * The small print of a mail: why one gets it, who sends it, and the way out, where there is one. `outId` is what the way out is
 * opened by, a message.
 */
export function closingOf(
  why: Why,
  sender: { organization: string; address: string },
  outId: string | null,
  language: Language,
): string {
  const because =
    why.of === 'line'
      ? ofAudience[why.audience][language](why.event)
      : why.of === 'year'
        ? ofYear[why.audience][language]
        : ofTopic[why.topic][language];
  const out = outId && linkMark('out', outId);
  const lines =
    language === 'fr'
      ? [
          `Vous recevez ce courriel parce que ${because}.`,
          [sender.organization, sender.address].filter(Boolean).join(', '),
          out && `Ne plus recevoir ces messages${nbsp}: ${out}`,
        ]
      : [
          `You get this because ${because}.`,
          [sender.organization, sender.address].filter(Boolean).join(', '),
          out && `No more of these: ${out}`,
        ];
  return lines.filter(Boolean).join('\n');
}
