import type { Audience, EventAudience } from './audiences.ts';
import { plainLine } from './lines.ts';
import { type EventMoment, type Moment, momentRule } from './moments.ts';
import type { MessageText, Texts } from './texts.ts';

/** What a line says until somebody writes something else: in a mail, and in a text message. */
interface FirstText extends MessageText {
  short: Texts;
}

/** A good first text for every moment that a line can hang on. */
export const firstTexts: Readonly<Record<Moment, FirstText>> = {
  'registration made': {
    subject: { en: 'You are registered: {{event}}', fr: 'Inscription confirmée : {{event}}' },
    body: {
      en: 'Hello {{name}},\n\nYou are registered for {{event}}.\n\nWhen: {{when}}\nWhere: {{place}}\nWho:\n{{seats}}\n\nPasses, waivers and changes: {{manage_link}}\n\n{{organization}}',
      fr: 'Bonjour {{name}},\n\nvotre inscription à {{event}} est confirmée.\n\nQuand : {{when}}\nOù : {{place}}\nQui :\n{{seats}}\n\nBillets, décharges et changements : {{manage_link}}\n\n{{organization}}',
    },
    short: {
      en: '{{event}}: you are registered. {{when}}. Your pass: {{manage_link}}',
      fr: '{{event}} : inscription confirmée. {{when}}. Votre billet : {{manage_link}}',
    },
  },
  waitlisted: {
    subject: { en: 'Still on the waitlist: {{event}}', fr: 'Toujours en liste d’attente : {{event}}' },
    body: {
      en: 'Hello {{name}},\n\n{{event}} ({{when}}) is still full. Your party keeps its place on the waitlist, and we write to you as soon as seats come free.\n\nSee your place or leave the list: {{manage_link}}\n\n{{organization}}',
      fr: 'Bonjour {{name}},\n\n{{event}} ({{when}}) est toujours complet. Votre groupe garde son rang sur la liste d’attente ; nous vous écrirons dès que des places se libéreront.\n\nVoir votre rang ou quitter la liste : {{manage_link}}\n\n{{organization}}',
    },
    short: {
      en: '{{event}} is still full; you keep your place on the waitlist: {{manage_link}}',
      fr: '{{event}} est toujours complet ; vous gardez votre rang : {{manage_link}}',
    },
  },
  accepted: {
    subject: { en: 'Good to know before {{event}}', fr: 'Bon à savoir avant {{event}}' },
    body: {
      en: 'Hello {{name}},\n\nYou are accepted for {{event}} ({{when}}). This is what you should know before you come:\n\nWhere: {{place}}\n\nYour booking: {{manage_link}}\n\n{{organization}}',
      fr: 'Bonjour {{name}},\n\nVotre demande pour {{event}} ({{when}}) est acceptée. Voici ce qu’il faut savoir avant de venir :\n\nOù : {{place}}\n\nVotre réservation : {{manage_link}}\n\n{{organization}}',
    },
    short: {
      en: '{{event}}: you are accepted. {{manage_link}}',
      fr: '{{event}} : votre demande est acceptée. {{manage_link}}',
    },
  },
  'seats offered': {
    subject: { en: 'Seats are waiting for you: {{event}}', fr: 'Des places vous attendent : {{event}}' },
    body: {
      en: 'Hello {{name}},\n\nSeats for {{event}} ({{when}}) are still kept for you. Take them, or let the next party have them: {{manage_link}}\n\n{{organization}}',
      fr: 'Bonjour {{name}},\n\nDes places pour {{event}} ({{when}}) vous sont toujours réservées. Prenez-les, ou laissez-les au groupe suivant : {{manage_link}}\n\n{{organization}}',
    },
    short: {
      en: 'Seats for {{event}} are kept for you: {{manage_link}}',
      fr: 'Des places pour {{event}} vous sont réservées : {{manage_link}}',
    },
  },
  'seats given up': {
    subject: {
      en: 'We are sorry you cannot come: {{event}}',
      fr: 'Dommage que vous ne puissiez pas venir : {{event}}',
    },
    body: {
      en: 'Hello {{name}},\n\nWe are sorry that you cannot come to {{event}} ({{when}}). If there is something we should know, just answer this message.\n\n{{organization}}',
      fr: 'Bonjour {{name}},\n\nNous regrettons que vous ne puissiez pas venir à {{event}} ({{when}}). S’il y a quelque chose que nous devrions savoir, répondez simplement à ce message.\n\n{{organization}}',
    },
    short: {
      en: 'We are sorry you cannot come to {{event}}.',
      fr: 'Nous regrettons que vous ne puissiez pas venir à {{event}}.',
    },
  },
  'registration opens': {
    subject: { en: 'You can register soon: {{event}}', fr: 'Bientôt les inscriptions : {{event}}' },
    body: {
      en: 'Hello {{name}},\n\nRegistration for {{event}} ({{when}}) opens soon.\n\nWhen exactly, and for whom: {{event_link}}\n\n{{organization}}',
      fr: 'Bonjour {{name}},\n\nLes inscriptions pour {{event}} ({{when}}) ouvrent bientôt.\n\nQuand exactement, et pour qui : {{event_link}}\n\n{{organization}}',
    },
    short: {
      en: 'Registration for {{event}} opens soon: {{event_link}}',
      fr: 'Les inscriptions pour {{event}} ouvrent bientôt : {{event_link}}',
    },
  },
  'guests unnamed': {
    subject: { en: 'Who comes with you? {{event}}', fr: 'Qui vient avec vous ? {{event}}' },
    body: {
      en: 'Hello {{name}},\n\nWe still do not know who sits on your seats for {{event}} ({{when}}): to be named: {{unnamed}}. Name them until {{named_until}}, or send each guest a link to do it themselves.\n\nYour booking: {{manage_link}}\n\n{{organization}}',
      fr: 'Bonjour {{name}},\n\nNous ne savons pas encore qui occupera vos places pour {{event}} ({{when}}) : à nommer : {{unnamed}}. Nommez vos invités avant le {{named_until}}, ou envoyez à chacun un lien pour le faire.\n\nVotre réservation : {{manage_link}}\n\n{{organization}}',
    },
    short: {
      en: '{{event}}: who comes with you? To be named: {{unnamed}}. {{manage_link}}',
      fr: '{{event}} : qui vient avec vous ? À nommer : {{unnamed}}. {{manage_link}}',
    },
  },
  'registration closes': {
    subject: {
      en: 'Registration closes soon: {{event}}',
      fr: 'Les inscriptions ferment bientôt : {{event}}',
    },
    body: {
      en: 'Hello {{name}},\n\nRegistration for {{event}} ({{when}}) closes soon. If somebody else wants to come along, or you cannot come, now is the time to change your booking: {{manage_link}}\n\n{{organization}}',
      fr: 'Bonjour {{name}},\n\nLes inscriptions pour {{event}} ({{when}}) ferment bientôt. Si quelqu’un souhaite vous accompagner, ou si vous ne pouvez pas venir, c’est le moment de modifier votre réservation : {{manage_link}}\n\n{{organization}}',
    },
    short: {
      en: 'Registration for {{event}} closes soon: {{manage_link}}',
      fr: 'Les inscriptions pour {{event}} ferment bientôt : {{manage_link}}',
    },
  },
  'balance due': {
    subject: { en: 'Still to pay: {{event}}', fr: 'Reste à payer : {{event}}' },
    body: {
      en: 'Hello {{name}},\n\n{{owed}} is still to be paid for {{event}} ({{when}}), until {{owed_until}}.\n\nPay by card, or see your booking: {{manage_link}}\n\nIf you have sent it another way, thank you: there is nothing to do.\n\n{{organization}}',
      fr: 'Bonjour {{name}},\n\nIl reste {{owed}} à payer pour {{event}} ({{when}}), avant le {{owed_until}}.\n\nPayer par carte, ou voir votre réservation : {{manage_link}}\n\nSi vous avez déjà payé autrement, merci : il n’y a rien à faire.\n\n{{organization}}',
    },
    short: {
      en: '{{event}}: {{owed}} is still to pay, until {{owed_until}}. {{manage_link}}',
      fr: '{{event}} : il reste {{owed}} à payer avant le {{owed_until}}. {{manage_link}}',
    },
  },
  'waiver missing': {
    subject: { en: 'Please sign before {{event}}', fr: 'À signer avant {{event}}' },
    body: {
      en: 'Hello {{name}},\n\nA waiver is still missing for {{event}}. Without it nobody can take part.\n\nSign here, it takes a minute: {{waiver_link}}\n\n{{organization}}',
      fr: 'Bonjour {{name}},\n\nil manque encore une décharge pour {{event}}. Sans elle, on ne peut pas participer.\n\nSignez ici, en une minute : {{waiver_link}}\n\n{{organization}}',
    },
    short: {
      en: '{{event}}: a waiver is still missing. Sign here: {{waiver_link}}',
      fr: '{{event}} : il manque une décharge. Signez ici : {{waiver_link}}',
    },
  },
  'session start': {
    subject: { en: 'Coming up: {{session}}', fr: 'Bientôt : {{session}}' },
    body: {
      en: 'Hello {{name}},\n\nYou chose this session of {{event}}: {{session}}.\n\nThe whole programme: {{event_link}}\n\n{{organization}}',
      fr: 'Bonjour {{name}},\n\nVous avez choisi cette séance de {{event}} : {{session}}.\n\nTout le programme : {{event_link}}\n\n{{organization}}',
    },
    short: {
      en: '{{event}}: {{session}}. {{event_link}}',
      fr: '{{event}} : {{session}}. {{event_link}}',
    },
  },
  'shift start': {
    subject: { en: 'Your shift tomorrow: {{event}}', fr: 'Votre quart de demain : {{event}}' },
    body: {
      en: 'Hello {{name}},\n\nYour shift at {{event}}: {{shift}}.\n\nAll your shifts: {{shifts_link}}\n\n{{organization}}',
      fr: 'Bonjour {{name}},\n\nvotre quart à {{event}} : {{shift}}.\n\nTous vos quarts : {{shifts_link}}\n\n{{organization}}',
    },
    short: {
      en: '{{event}}, your shift: {{shift}}. {{shifts_link}}',
      fr: '{{event}}, votre quart : {{shift}}. {{shifts_link}}',
    },
  },
  doors: {
    subject: { en: 'Doors open soon: {{event}}', fr: 'Les portes ouvrent bientôt : {{event}}' },
    body: {
      en: 'Hello {{name}},\n\nDoors for {{event}} open soon.\n\nWhen: {{when}}\nWhere: {{place}}\n\nYour pass: {{manage_link}}\n\n{{organization}}',
      fr: 'Bonjour {{name}},\n\nLes portes de {{event}} ouvrent bientôt.\n\nQuand : {{when}}\nOù : {{place}}\n\nVotre billet : {{manage_link}}\n\n{{organization}}',
    },
    short: {
      en: 'Doors for {{event}} open soon, {{place}}. Your pass: {{manage_link}}',
      fr: 'Les portes de {{event}} ouvrent bientôt, {{place}}. Votre billet : {{manage_link}}',
    },
  },
  start: {
    subject: { en: 'Coming up: {{event}}', fr: 'Bientôt : {{event}}' },
    body: {
      en: 'Hello {{name}},\n\nWe look forward to seeing you at {{event}}.\n\nWhen: {{when}}\nWhere: {{place}}\n\nYour pass: {{manage_link}}\n\n{{organization}}',
      fr: 'Bonjour {{name}},\n\nNous nous réjouissons de vous voir à {{event}}.\n\nQuand : {{when}}\nOù : {{place}}\n\nVotre billet : {{manage_link}}\n\n{{organization}}',
    },
    short: {
      en: '{{event}}: {{when}}, {{place}}. Your pass: {{manage_link}}',
      fr: '{{event}} : {{when}}, {{place}}. Votre billet : {{manage_link}}',
    },
  },
  end: {
    subject: { en: 'Thank you for coming: {{event}}', fr: 'Merci d’être venu·e : {{event}}' },
    body: {
      en: 'Hello {{name}},\n\nThank you for coming to {{event}}. We hope to see you again soon.\n\n{{organization}}',
      fr: 'Bonjour {{name}},\n\nMerci d’être venu·e à {{event}}. Au plaisir de vous revoir bientôt.\n\n{{organization}}',
    },
    short: {
      en: 'Thank you for coming to {{event}}.',
      fr: 'Merci d’être venu·e à {{event}}.',
    },
  },
  absent: {
    subject: { en: 'We missed you: {{event}}', fr: 'Vous nous avez manqué : {{event}}' },
    body: {
      en: 'Hello {{name}},\n\nYou had a seat for {{event}} and did not come. We hope all is well, and would be glad to see you another time.\n\n{% if next_event %}Perhaps this suits you: {{next_event}}.\n\nSee it: {{next_event_link}}\n\n{% endif %}{{organization}}',
      fr: 'Bonjour {{name}},\n\nVous aviez une place pour {{event}} et n’êtes pas venu·e. Nous espérons que tout va bien, et serions heureux de vous voir une autre fois.\n\n{% if next_event %}Cela vous conviendrait peut-être : {{next_event}}.\n\nVoir : {{next_event_link}}\n\n{% endif %}{{organization}}',
    },
    short: {
      en: 'We missed you at {{event}}.',
      fr: 'Vous nous avez manqué à {{event}}.',
    },
  },
  survey: {
    subject: { en: 'How was {{event}}?', fr: 'Comment était {{event}} ?' },
    body: {
      en: 'Hello {{name}},\n\nThank you for coming to {{event}}. What you say decides what we do next time; it takes a minute.\n\n{{survey_first_link}}\n\n{{organization}}',
      fr: 'Bonjour {{name}},\n\nmerci d’être venu·e à {{event}}. Votre avis décide de la prochaine fois ; cela prend une minute.\n\n{{survey_first_link}}\n\n{{organization}}',
    },
    short: {
      en: 'How was {{event}}? {{survey_link}}',
      fr: 'Comment était {{event}} ? {{survey_link}}',
    },
  },
  'survey unanswered': {
    subject: {
      en: 'Still time to say how it was: {{event}}',
      fr: 'Encore le temps de donner votre avis : {{event}}',
    },
    body: {
      en: 'Hello {{name}},\n\nYou were at {{event}}, and what you think helps us. It takes a minute: {{survey_link}}\n\n{{organization}}',
      fr: 'Bonjour {{name}},\n\nVous étiez à {{event}} ; votre avis nous aide. Cela prend une minute : {{survey_link}}\n\n{{organization}}',
    },
    short: {
      en: 'What did you think of {{event}}? {{survey_link}}',
      fr: 'Qu’avez-vous pensé de {{event}} ? {{survey_link}}',
    },
  },
  'absent unanswered': {
    subject: { en: 'What kept you from {{event}}?', fr: 'Qu’est-ce qui vous a retenu·e, {{event}} ?' },
    body: {
      en: 'Hello {{name}},\n\nYou had a seat for {{event}} and could not come. What kept you helps us to plan the next one better: {{survey_link}}\n\n{{organization}}',
      fr: 'Bonjour {{name}},\n\nVous aviez une place pour {{event}} et n’avez pas pu venir. Savoir pourquoi nous aide à mieux préparer la suite : {{survey_link}}\n\n{{organization}}',
    },
    short: {
      en: 'What kept you from {{event}}? {{survey_link}}',
      fr: 'Qu’est-ce qui vous a retenu·e de {{event}} ? {{survey_link}}',
    },
  },
  'survey again': {
    subject: { en: 'What came of {{event}}?', fr: 'Que reste-t-il de {{event}} ?' },
    body: {
      en: 'Hello {{name}},\n\nSome time has passed since {{event}}. We would like to know what came of it.\n\n{{survey_first_link}}\n\n{{organization}}',
      fr: 'Bonjour {{name}},\n\nUn peu de temps a passé depuis {{event}}. Nous aimerions savoir ce qu’il en reste.\n\n{{survey_first_link}}\n\n{{organization}}',
    },
    short: {
      en: 'What came of {{event}}? {{survey_link}}',
      fr: 'Que reste-t-il de {{event}} ? {{survey_link}}',
    },
  },
  'survey again unanswered': {
    subject: {
      en: 'Still time: what came of {{event}}?',
      fr: 'Encore le temps : que reste-t-il de {{event}} ?',
    },
    body: {
      en: 'Hello {{name}},\n\nWhat came of {{event}} for you tells us whether it was worth it: {{survey_link}}\n\n{{organization}}',
      fr: 'Bonjour {{name}},\n\nSavoir ce qu’il vous reste de {{event}} nous dit si cela valait la peine : {{survey_link}}\n\n{{organization}}',
    },
    short: {
      en: 'What came of {{event}}? {{survey_link}}',
      fr: 'Que reste-t-il de {{event}} ? {{survey_link}}',
    },
  },
  'membership ends': {
    subject: {
      en: 'Your membership of {{organization}} ends on {{ends}}',
      fr: 'Votre adhésion à {{organization}} se termine le {{ends}}',
    },
    body: {
      en: 'Hello {{name}},\n\nThe last day of your membership is {{ends}}. We would be glad if you stayed. To go on, or to tell us that you do not want to, just answer this message.\n\nWhat we know of you: {{own_link}}\n\n{{organization}}',
      fr: 'Bonjour {{name}},\n\nLe dernier jour de votre adhésion est le {{ends}}. Nous serions heureux que vous restiez. Pour continuer, ou pour nous dire que vous ne le souhaitez pas, répondez simplement à ce message.\n\nCe que nous savons de vous : {{own_link}}\n\n{{organization}}',
    },
    short: {
      en: '{{organization}}: the last day of your membership is {{ends}}. {{own_link}}',
      fr: '{{organization}} : le dernier jour de votre adhésion est le {{ends}}. {{own_link}}',
    },
  },
  'gift made': {
    subject: { en: 'What your gift did', fr: 'Ce que votre don a permis' },
    body: {
      en: 'Hello {{name}},\n\nOn {{given_on}} you gave {{gift}} ({{purpose}}). Thank you once more.\n\n{{organization}}',
      fr: 'Bonjour {{name}},\n\nLe {{given_on}}, vous avez donné {{gift}} ({{purpose}}). Merci encore.\n\n{{organization}}',
    },
    short: {
      en: '{{organization}}: thank you once more for your gift of {{gift}}.',
      fr: '{{organization}} : merci encore pour votre don de {{gift}}.',
    },
  },
  'pledge missed': {
    subject: {
      en: 'Your monthly gift waits for another card',
      fr: 'Votre don mensuel attend une autre carte',
    },
    body: {
      en: 'Hello {{name}},\n\nWe could not take your monthly gift of {{gift}} ({{purpose}}) with the card we have, so it stands still. If you would like to go on, give us another card; if not, you can end it there: {{gift_link}}\n\n{{organization}}',
      fr: 'Bonjour {{name}},\n\nNous n’avons pas pu prélever votre don mensuel de {{gift}} ({{purpose}}) sur la carte que nous avons : il est suspendu. Pour continuer, indiquez une autre carte ; sinon, vous pouvez y mettre fin ici : {{gift_link}}\n\n{{organization}}',
    },
    short: {
      en: '{{organization}}: your monthly gift of {{gift}} waits for another card. {{gift_link}}',
      fr: '{{organization}} : votre don mensuel de {{gift}} attend une autre carte. {{gift_link}}',
    },
  },
  'certificate ends': {
    subject: {
      en: 'Your certificate ({{certificate}}) runs out on {{holds_until}}',
      fr: 'Votre certificat ({{certificate}}) expire le {{holds_until}}',
    },
    body: {
      en: 'Hello {{name}},\n\nThe last day of your certificate ({{certificate}}) is {{holds_until}}. After that we cannot put you on shifts that need it. Once you have a new one, answer this message with it and we write it down.\n\nWhat we know of you: {{own_link}}\n\n{{organization}}',
      fr: 'Bonjour {{name}},\n\nVotre certificat ({{certificate}}) est valable jusqu’au {{holds_until}}. Ensuite, nous ne pourrons plus vous confier les tâches qui l’exigent. Dès que vous en aurez un nouveau, joignez-le à votre réponse et nous le noterons.\n\nCe que nous savons de vous : {{own_link}}\n\n{{organization}}',
    },
    short: {
      en: '{{organization}}: your certificate ({{certificate}}) runs out on {{holds_until}}.',
      fr: '{{organization}} : votre certificat ({{certificate}}) expire le {{holds_until}}.',
    },
  },
};

/** What those are told who have no booking: there is no pass, and nothing of theirs to change. */
const withoutBooking: Partial<Record<Moment, FirstText>> = {
  'registration closes': {
    subject: firstTexts['registration closes'].subject,
    body: {
      en: 'Hello {{name}},\n\nRegistration for {{event}} ({{when}}) closes soon.\n\nMore about it: {{event_link}}\n\n{{organization}}',
      fr: 'Bonjour {{name}},\n\nLes inscriptions pour {{event}} ({{when}}) ferment bientôt.\n\nEn savoir plus : {{event_link}}\n\n{{organization}}',
    },
    short: {
      en: 'Registration for {{event}} closes soon: {{event_link}}',
      fr: 'Les inscriptions pour {{event}} ferment bientôt : {{event_link}}',
    },
  },
  end: {
    subject: { en: '{{event}} is over', fr: '{{event}} est terminé' },
    body: {
      en: 'Hello {{name}},\n\n{{event}} is over. Thank you for having it in mind; we would be glad to see you next time.\n\n{{organization}}',
      fr: 'Bonjour {{name}},\n\n{{event}} est terminé. Merci d’y avoir pensé ; nous serions heureux de vous voir la prochaine fois.\n\n{{organization}}',
    },
    short: {
      en: '{{event}} is over. We would be glad to see you next time.',
      fr: '{{event}} est terminé. Au plaisir de vous voir la prochaine fois.',
    },
  },
};

/** What a line says to begin with, to those it is for. */
export function firstTextFor(moment: Moment, audience: Audience): FirstText {
  const usual = firstTexts[moment];
  if (audience !== 'following' && audience !== 'crew' && audience !== 'guardians') return usual;
  const other = audience === 'following' || moment !== 'end' ? withoutBooking[moment] : undefined;
  if (other) return other;
  const leads =
    audience === 'guardians'
      ? {
          en: 'Who comes: {{children}}. More about it: {{event_link}}',
          fr: 'Qui vient : {{children}}. En savoir plus : {{event_link}}',
        }
      : audience === 'crew'
        ? { en: 'Your shifts: {{shifts_link}}', fr: 'Vos quarts : {{shifts_link}}' }
        : { en: 'More about it: {{event_link}}', fr: 'En savoir plus : {{event_link}}' };
  const fitted = (of: Texts): Texts => ({
    en: of.en.replace('Your pass: {{manage_link}}', leads.en),
    fr: of.fr.replace(/Votre billet[\s\u00A0]*: \{\{manage_link\}\}/u, leads.fr),
  });
  return { subject: usual.subject, body: fitted(usual.body), short: fitted(usual.short) };
}

/** A line as an event begins with it. */
export interface FirstLine extends MessageText {
  name: string;
  moment: EventMoment;
  offsetDays: number;
  offsetMinutes: number;
  audience: EventAudience;
  channel: typeof plainLine.channel;
  late: typeof plainLine.late;
  usefulMinutes: null;
  workingDays: false;
  narrowed: typeof plainLine.narrowed;
  off: false;
  preview: { en: '' };
  formatted: { en: null; fr: null };
  frenchOf: '';
}

const line = (
  name: string,
  moment: EventMoment,
  { days = 0, minutes = 0 }: { days?: number; minutes?: number },
  { subject, body }: MessageText = firstTexts[moment],
): FirstLine => ({
  ...plainLine,
  name,
  moment,
  offsetDays: days,
  offsetMinutes: minutes,
  audience: momentRule(moment).audiences[0],
  subject,
  body,
});

/** The message plan a new event begins with. */
export const firstLines: readonly FirstLine[] = [
  line('Confirmation', 'registration made', {}),
  line('Still to pay', 'balance due', { days: -5 }),
  line(
    'Payment overdue',
    'balance due',
    { days: 1 },
    {
      subject: { en: 'Payment overdue: {{event}}', fr: 'Paiement en retard : {{event}}' },
      body: {
        en: 'Hello {{name}},\n\n{{owed}} for {{event}} ({{when}}) was to be paid until {{owed_until}}. Please pay now, or tell us if you cannot come.\n\nPay by card, or give your seats up: {{manage_link}}\n\n{{organization}}',
        fr: 'Bonjour {{name}},\n\n{{owed}} pour {{event}} ({{when}}) devait être payé avant le {{owed_until}}. Veuillez payer maintenant, ou nous dire si vous ne pouvez pas venir.\n\nPayer par carte, ou rendre vos places : {{manage_link}}\n\n{{organization}}',
      },
    },
  ),
  line('Guests still to name', 'guests unnamed', { days: -3 }),
  line('Waiver still missing', 'waiver missing', { days: -3 }),
  line(
    'Reminder, a day before',
    'start',
    { days: -1 },
    {
      subject: { en: 'Tomorrow: {{event}}', fr: 'Demain : {{event}}' },
      body: {
        en: 'Hello {{name}},\n\n{{event}} is tomorrow.\n\nWhen: {{when}}\nWhere: {{place}}\n\nYour pass: {{manage_link}}\n\n{{organization}}',
        fr: 'Bonjour {{name}},\n\n{{event}}, c’est demain.\n\nQuand : {{when}}\nOù : {{place}}\n\nVotre billet : {{manage_link}}\n\n{{organization}}',
      },
    },
  ),
  line(
    'Reminder, an hour before',
    'start',
    { minutes: -60 },
    {
      subject: { en: 'In an hour: {{event}}', fr: 'Dans une heure : {{event}}' },
      body: {
        en: 'Hello {{name}},\n\n{{event}} begins in an hour at {{place}}.\n\nYour pass: {{manage_link}}\n\n{{organization}}',
        fr: 'Bonjour {{name}},\n\n{{event}} commence dans une heure, {{place}}.\n\nVotre billet : {{manage_link}}\n\n{{organization}}',
      },
    },
  ),
  line('Shift reminder', 'shift start', { days: -1 }),
  line('Survey', 'survey', { minutes: 120 }),
];
