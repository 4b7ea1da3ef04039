import type { EventAudience } from './audiences.ts';

/** A text in the languages of the product. */
export interface Texts {
  en: string;
  fr: string;
}

export interface MessageText {
  subject: Texts;
  body: Texts;
}

/** Kinds of messages that are sent on their own, outside an event's plan. */
export type DirectKind =
  | 'asked'
  | 'accepted'
  | 'not accepted'
  | 'asked back'
  | 'your seat'
  | 'waitlisted'
  | 'offered'
  | 'lapsed'
  | 'given up'
  | 'ticket changed'
  | 'moved'
  | 'handed on'
  | 'no longer yours'
  | 'you are invited'
  | 'invitation'
  | 'crew'
  | 'overlap'
  | 'shift asked'
  | 'shift declined'
  | 'shift changed'
  | 'shift waits'
  | 'crew mail'
  | 'step in'
  | 'step in not needed'
  | 'swap wished'
  | 'swap declined'
  | 'application came'
  | 'application asked'
  | 'application accepted'
  | 'application declined'
  | 'application invited'
  | 'deposit asked'
  | 'deposit settled'
  | 'own'
  | 'signed'
  | 'sign please'
  | 'attendance answered'
  | 'receipt'
  | 'thanks'
  | 'thanks in kind'
  | 'tribute'
  | 'pledge began'
  | 'instalment missed'
  | 'card runs out'
  | 'pledge ended'
  | 'sign in'
  | 'returned'
  | 'question'
  | 'proposal taken'
  | 'proposal declined'
  | 'event taken'
  | 'event declined'
  | 'reset'
  | 'to decide'
  | 'still to decide'
  | 'nobody decides'
  | 'asked late'
  | 'plan back'
  | 'named in words'
  | 'follow'
  | 'answer'
  | 'answer heard'
  | 'notice'
  | 'our answer';

/** Fields that one of these messages has for itself alone, beside those that every template may use. */
export const ownFields: Partial<Record<DirectKind, readonly string[]>> = {
  'sign in': ['code_link'],
  signed: ['title'],
  'sign please': ['title', 'sign_link'],
  'attendance answered': ['said', 'words'],
  'shift changed': ['shift_before'],
  'swap wished': ['shift_before'],
  'crew mail': ['subject', 'words', 'schedule'],
  'swap declined': ['words'],
  'application came': ['title', 'application_link'],
  'application asked': ['title', 'words', 'application_link'],
  'application accepted': ['title', 'words', 'application_link'],
  'application declined': ['title', 'words'],
  'application invited': ['title', 'application_link'],
  'deposit asked': ['title', 'amount', 'words', 'application_link'],
  'deposit settled': ['title', 'words', 'application_link'],
  receipt: ['number', 'amount', 'words'],
  thanks: ['amount', 'fund', 'tribute', 'words'],
  'thanks in kind': ['thing', 'fund', 'tribute', 'words'],
  tribute: ['by', 'tribute', 'fund'],
  'pledge began': ['amount', 'next'],
  'instalment missed': ['amount', 'again', 'card'],
  'card runs out': ['next', 'card'],
  'pledge ended': ['amount'],
  'to decide': ['step', 'because', 'due', 'page'],
  'still to decide': ['step', 'because', 'due', 'page'],
  'nobody decides': ['step', 'due', 'page'],
  'asked late': ['words', 'days', 'page'],
  'plan back': ['step', 'words', 'page'],
  'named in words': ['words', 'by', 'page'],
  'not accepted': ['words'],
  'asked back': ['words'],
  'your seat': ['by'],
  'given up': ['count', 'words'],
  'ticket changed': ['ticket', 'words'],
  'handed on': ['from', 'to'],
  'no longer yours': ['by'],
  'you are invited': ['words', 'invitation_link'],
  question: ['words', 'email'],
  'proposal taken': ['title', 'words'],
  'proposal declined': ['title', 'words'],
  'event taken': ['title', 'words'],
  'event declined': ['title', 'words'],
  follow: ['follow_link'],
  answer: ['question', 'words'],
  'answer heard': ['question', 'words'],
  'our answer': ['words', 'by', 'quoted', 'about'],
  notice: ['words', 'happened', 'page'],
};

/** What is said of a question that was answered, to whoever asked it and to those who follow its event. */
const answered: MessageText = {
  subject: { en: 'Answered: {{event}}', fr: 'Une réponse : {{event}}' },
  body: {
    en: 'Hello {{name}},\n\nThis was asked about {{event}}:\n\n“{{question}}”\n\nThe answer:\n\n{{words}}\n\nAll questions and answers: {{event_link}}\n\n{{organization}}',
    fr: 'Bonjour {{name}},\n\nOn a demandé, au sujet de {{event}} :\n\n« {{question}} »\n\nLa réponse :\n\n{{words}}\n\nToutes les questions et réponses : {{event_link}}\n\n{{organization}}',
  },
};

/** Whom those of these messages are for that one can have no more of, as the lines of a plan say it: they carry their way out. */
export const directAudiences: Partial<Record<DirectKind, EventAudience>> = { 'answer heard': 'following' };

/** Kinds that nobody replies to: they go to the team, who know each other, or are codes and links of a moment. */
export const notRepliedTo: readonly string[] = [
  'invitation',
  'reset',
  'sign in',
  'question',
  'to decide',
  'still to decide',
  'nobody decides',
  'asked late',
  'plan back',
  'named in words',
  'notice',
  'test',
];

/** Texts of messages that answer something that happened. Merge fields as in merge.ts; `until` stands in {{when}} of an offer. */
export const directTexts: Record<DirectKind, MessageText> = {
  asked: {
    subject: { en: 'We have your request: {{event}}', fr: 'Nous avons votre demande : {{event}}' },
    body: {
      en: 'Hello {{name}},\n\nThank you for wanting to come to {{event}} ({{when}}). The organizer decides who comes, and we write to you as soon as that is decided. You hold no seat yet.\n\nSee your request, or take it back: {{manage_link}}\n\n{{organization}}',
      fr: 'Bonjour {{name}},\n\nMerci de vouloir venir à {{event}} ({{when}}). L’organisation décide qui vient ; nous vous écrirons dès que ce sera décidé. Aucune place ne vous est encore réservée.\n\nVoir votre demande, ou la retirer : {{manage_link}}\n\n{{organization}}',
    },
  },
  accepted: {
    subject: { en: 'You can come: {{event}}', fr: 'Vous pouvez venir : {{event}}' },
    body: {
      en: 'Hello {{name}},\n\nYou are accepted for {{event}} ({{when}}). Your seats are kept for you until {{until}}; they are yours once you have paid.\n\nPay: {{manage_link}}\n\n{{organization}}',
      fr: 'Bonjour {{name}},\n\nVotre demande pour {{event}} ({{when}}) est acceptée. Vos places vous sont gardées jusqu’au {{until}}; elles sont à vous une fois payées.\n\nPayer : {{manage_link}}\n\n{{organization}}',
    },
  },
  'not accepted': {
    subject: { en: 'About your request: {{event}}', fr: 'Au sujet de votre demande : {{event}}' },
    body: {
      en: 'Hello {{name}},\n\nWe are sorry: we have no seat for you at {{event}} ({{when}}).\n\n{{words}}\n\n{{organization}}',
      fr: 'Bonjour {{name}},\n\nNous en sommes désolés : nous n’avons pas de place pour vous à {{event}} ({{when}}).\n\n{{words}}\n\n{{organization}}',
    },
  },
  'asked back': {
    subject: {
      en: 'A question about your request: {{event}}',
      fr: 'Une question sur votre demande : {{event}}',
    },
    body: {
      en: 'Hello {{name}},\n\nBefore we can say yes to your request for {{event}} ({{when}}), we have a question:\n\n{{words}}\n\nAnswer here: {{manage_link}}\n\n{{organization}}',
      fr: 'Bonjour {{name}},\n\nAvant de pouvoir accepter votre demande pour {{event}} ({{when}}), nous avons une question :\n\n{{words}}\n\nRépondre ici : {{manage_link}}\n\n{{organization}}',
    },
  },
  'your seat': {
    subject: { en: 'Your seat: {{event}}', fr: 'Votre place : {{event}}' },
    body: {
      en: 'Hello,\n\n{{by}} has a seat for you at {{event}} ({{when}}). Tell us who you are and what we should know; it takes a minute. Your pass is there too.\n\nYour seat: {{manage_link}}\n\n{{organization}}',
      fr: 'Bonjour,\n\n{{by}} a une place pour vous à {{event}} ({{when}}). Dites-nous qui vous êtes et ce que nous devons savoir ; cela prend une minute. Vous y trouverez aussi votre billet.\n\nVotre place : {{manage_link}}\n\n{{organization}}',
    },
  },
  waitlisted: {
    subject: { en: 'You are on the waitlist: {{event}}', fr: 'Vous êtes sur la liste d’attente : {{event}}' },
    body: {
      en: 'Hello {{name}},\n\n{{event}} ({{when}}) is full. Your party waits, and is offered seats as soon as enough come free.\n\nSee your place or leave the list: {{manage_link}}\n\n{{organization}}',
      fr: 'Bonjour {{name}},\n\n{{event}} ({{when}}) est complet. Votre groupe est en attente ; des places lui seront offertes dès qu’il y en aura assez.\n\nVoir votre rang ou quitter la liste : {{manage_link}}\n\n{{organization}}',
    },
  },
  offered: {
    subject: { en: 'Seats for you: {{event}}', fr: 'Des places pour vous : {{event}}' },
    body: {
      en: 'Hello {{name}},\n\nSeats came free for {{event}} ({{when}}). They are kept for you until {{until}}.\n\nTake them or pass them on: {{manage_link}}\n\n{{organization}}',
      fr: 'Bonjour {{name}},\n\nDes places se sont libérées pour {{event}} ({{when}}). Elles vous sont réservées jusqu’au {{until}}.\n\nLes prendre ou les laisser : {{manage_link}}\n\n{{organization}}',
    },
  },
  'to decide': {
    subject: { en: '{{step}} to decide: {{event}}', fr: '{{step}} à décider : {{event}}' },
    body: {
      en: 'Hello {{name}},\n\n{{event}} ({{when}}) waits for your word: {{step}}, because {{because}}. It is wanted by {{due}}.\n\nRead and decide: {{page}}\n\n{{organization}}',
      fr: 'Bonjour {{name}},\n\n{{event}} ({{when}}) attend votre avis : {{step}}, car {{because}}. Il est attendu pour le {{due}}.\n\nLire et décider : {{page}}\n\n{{organization}}',
    },
  },
  'still to decide': {
    subject: { en: 'Still to decide: {{step}} of {{event}}', fr: 'À décider encore : {{step}}, {{event}}' },
    body: {
      en: 'Hello {{name}},\n\n{{event}} ({{when}}) still waits for your word: {{step}}, because {{because}}. It was wanted by {{due}}.\n\nRead and decide: {{page}}\n\n{{organization}}',
      fr: 'Bonjour {{name}},\n\n{{event}} ({{when}}) attend encore votre avis : {{step}}, car {{because}}. Il était attendu pour le {{due}}.\n\nLire et décider : {{page}}\n\n{{organization}}',
    },
  },
  'nobody decides': {
    subject: { en: 'Nobody has decided {{step}}: {{event}}', fr: 'Personne n’a décidé {{step}} : {{event}}' },
    body: {
      en: 'Hello {{name}},\n\n{{step}} of {{event}} ({{when}}) was wanted by {{due}}, and nobody has decided it.\n\nSee who has it: {{page}}\n\n{{organization}}',
      fr: 'Bonjour {{name}},\n\n{{step}} de {{event}} ({{when}}) était attendu pour le {{due}}, et personne ne l’a décidé.\n\nVoir chez qui : {{page}}\n\n{{organization}}',
    },
  },
  'asked late': {
    subject: { en: 'Sent late: {{event}}', fr: 'Envoyé en retard : {{event}}' },
    body: {
      en: 'Hello {{name}},\n\n{{event}} ({{when}}) was sent for clearance late, by {{days}} days: “{{words}}”\n\nSay whether it goes on: {{page}}\n\n{{organization}}',
      fr: 'Bonjour {{name}},\n\n{{event}} ({{when}}) a été envoyé avec {{days}} jours de retard : « {{words}} »\n\nDire si cela continue : {{page}}\n\n{{organization}}',
    },
  },
  'plan back': {
    subject: { en: 'Back to you: {{event}}', fr: 'De retour chez vous : {{event}}' },
    body: {
      en: 'Hello {{name}},\n\n{{step}} of {{event}} ({{when}}) did not clear it: “{{words}}”\n\nRead, answer and send it again: {{page}}\n\n{{organization}}',
      fr: 'Bonjour {{name}},\n\n{{step}} de {{event}} ({{when}}) ne l’a pas approuvé : « {{words}} »\n\nLire, répondre et envoyer de nouveau : {{page}}\n\n{{organization}}',
    },
  },
  'named in words': {
    subject: { en: '{{by}} wrote to you about {{event}}', fr: '{{by}} vous écrit au sujet de {{event}}' },
    body: {
      en: 'Hello {{name}},\n\n{{by}} wrote about the clearance of {{event}} ({{when}}):\n\n{{words}}\n\nAnswer there: {{page}}\n\n{{organization}}',
      fr: 'Bonjour {{name}},\n\n{{by}} a écrit au sujet de {{event}} ({{when}}) :\n\n{{words}}\n\nRépondre : {{page}}\n\n{{organization}}',
    },
  },
  answer: answered,
  'answer heard': answered,
  'our answer': {
    subject: { en: 'Re: {{about}}', fr: 'Re : {{about}}' },
    body: {
      en: 'Hello {{name}},\n\n{{words}}\n\n{{by}}\n{{organization}}\n\nYou wrote:\n\n{{quoted}}',
      fr: 'Bonjour {{name}},\n\n{{words}}\n\n{{by}}\n{{organization}}\n\nVous avez écrit :\n\n{{quoted}}',
    },
  },
  notice: {
    subject: { en: '{{happened}}', fr: '{{happened}}' },
    body: {
      en: 'Hello {{name}},\n\n{{words}}\n\nWhat you are told of, and when: {{page}}\n\n{{organization}}',
      fr: 'Bonjour {{name}},\n\n{{words}}\n\nCe dont vous êtes informé, et quand : {{page}}\n\n{{organization}}',
    },
  },
  follow: {
    subject: { en: 'Shall we tell you about {{event}}?', fr: 'Vous tenir au courant : {{event}}' },
    body: {
      en: 'Hello {{name}},\n\nSomebody, most likely you, asked us to write to this address about {{event}}. If that is what you want, say so here; if not, there is nothing to do.\n\nYes, tell me: {{follow_link}}\n\n{{organization}}',
      fr: 'Bonjour {{name}},\n\nQuelqu’un, sans doute vous, nous a demandé d’écrire à cette adresse au sujet de {{event}}. Si c’est ce que vous voulez, dites-le ici ; sinon, il n’y a rien à faire.\n\nOui, écrivez-moi : {{follow_link}}\n\n{{organization}}',
    },
  },
  question: {
    subject: { en: 'A question about {{event}}', fr: 'Une question sur {{event}}' },
    body: {
      en: '{{words}}\n\n{{name}}\n{{email}}\n\nSent by the form on the page of {{event}}. Answer to the address above.',
      fr: '{{words}}\n\n{{name}}\n{{email}}\n\nEnvoyé par le formulaire de la page de {{event}}. Répondez à l’adresse ci-dessus.',
    },
  },
  'proposal taken': {
    subject: {
      en: 'Your session is in the agenda: {{event}}',
      fr: 'Votre séance est au programme : {{event}}',
    },
    body: {
      en: 'Hello {{name}},\n\nThank you for proposing “{{title}}”. It is in the agenda of {{event}}; its time and room follow on the page of the event.\n\n{{words}}{{organization}}',
      fr: 'Bonjour {{name}},\n\nMerci d’avoir proposé « {{title}} ». La séance est au programme de {{event}}; son heure et sa salle suivront sur la page de l’événement.\n\n{{words}}{{organization}}',
    },
  },
  'proposal declined': {
    subject: { en: 'Your proposal for {{event}}', fr: 'Votre proposition pour {{event}}' },
    body: {
      en: 'Hello {{name}},\n\nThank you for proposing “{{title}}”. It found no place in the agenda of {{event}} this time.\n\n{{words}}{{organization}}',
      fr: 'Bonjour {{name}},\n\nMerci d’avoir proposé « {{title}} ». La séance n’a pas trouvé de place au programme de {{event}} cette fois.\n\n{{words}}{{organization}}',
    },
  },
  'event taken': {
    subject: { en: 'We take it up: {{title}}', fr: 'Nous nous en occupons : {{title}}' },
    body: {
      en: 'Hello {{name}},\n\nThank you for proposing “{{title}}”. We take it up, and write to you about what comes next.\n\n{{words}}{{organization}}',
      fr: 'Bonjour {{name}},\n\nMerci d’avoir proposé « {{title}} ». Nous nous en occupons et vous écrirons au sujet de la suite.\n\n{{words}}{{organization}}',
    },
  },
  'event declined': {
    subject: { en: 'Your proposal: {{title}}', fr: 'Votre proposition : {{title}}' },
    body: {
      en: 'Hello {{name}},\n\nThank you for proposing “{{title}}”. We cannot take it up this time.\n\n{{words}}{{organization}}',
      fr: 'Bonjour {{name}},\n\nMerci d’avoir proposé « {{title}} ». Nous ne pouvons pas nous en occuper cette fois.\n\n{{words}}{{organization}}',
    },
  },
  'given up': {
    subject: { en: 'Seats given up: {{event}}', fr: 'Places rendues : {{event}}' },
    body: {
      en: 'Hello {{name}},\n\nYou no longer hold these seats for {{event}} ({{when}}): {{count}}.\n\n{{words}}Your booking: {{manage_link}}\n\n{{organization}}',
      fr: 'Bonjour {{name}},\n\nVous n’avez plus ces places pour {{event}} ({{when}}) : {{count}}.\n\n{{words}}Votre réservation : {{manage_link}}\n\n{{organization}}',
    },
  },
  'ticket changed': {
    subject: { en: 'Your ticket was changed: {{event}}', fr: 'Votre billet a changé : {{event}}' },
    body: {
      en: 'Hello {{name}},\n\nFor {{event}} ({{when}}) your ticket is “{{ticket}}” now.\n\n{{words}}Your booking: {{manage_link}}\n\n{{organization}}',
      fr: 'Bonjour {{name}},\n\nPour {{event}} ({{when}}), votre billet est maintenant « {{ticket}} ».\n\n{{words}}Votre réservation : {{manage_link}}\n\n{{organization}}',
    },
  },
  moved: {
    subject: { en: 'You come on another date: {{event}}', fr: 'Vous venez à une autre date : {{event}}' },
    body: {
      en: 'Hello {{name}},\n\nYour seats are for {{event}} ({{when}}) now. The seats you had before were given up.\n\nYour booking: {{manage_link}}\n\n{{organization}}',
      fr: 'Bonjour {{name}},\n\nVos places sont maintenant pour {{event}} ({{when}}). Celles que vous aviez avant sont rendues.\n\nVotre réservation : {{manage_link}}\n\n{{organization}}',
    },
  },
  'handed on': {
    subject: { en: 'A seat has another name: {{event}}', fr: 'Une place a changé de nom : {{event}}' },
    body: {
      en: 'Hello {{name}},\n\nThe seat of {{from}} for {{event}} ({{when}}) is for {{to}} now. If this is not as you want it, change it here.\n\nYour booking: {{manage_link}}\n\n{{organization}}',
      fr: 'Bonjour {{name}},\n\nLa place de {{from}} pour {{event}} ({{when}}) est maintenant pour {{to}}. Si ce n’est pas ce que vous vouliez, changez-le ici.\n\nVotre réservation : {{manage_link}}\n\n{{organization}}',
    },
  },
  'no longer yours': {
    subject: {
      en: 'Your seat went to somebody else: {{event}}',
      fr: 'Votre place est passée à quelqu’un d’autre : {{event}}',
    },
    body: {
      en: 'Hello {{name}},\n\n{{by}}, who booked your seat for {{event}} ({{when}}), has given it to somebody else. Your pass is no longer valid.\n\n{{organization}}',
      fr: 'Bonjour {{name}},\n\n{{by}}, qui avait réservé votre place pour {{event}} ({{when}}), l’a donnée à quelqu’un d’autre. Votre billet n’est plus valable.\n\n{{organization}}',
    },
  },
  'you are invited': {
    subject: { en: 'You are invited: {{event}}', fr: 'Vous êtes invité·e : {{event}}' },
    body: {
      en: 'Hello {{name}},\n\nYou are invited to {{event}} ({{when}}). {{place}}\n\n{{words}}Say whether you come: {{invitation_link}}\n\n{{organization}}',
      fr: 'Bonjour {{name}},\n\nVous êtes invité·e à {{event}} ({{when}}). {{place}}\n\n{{words}}Dites-nous si vous venez : {{invitation_link}}\n\n{{organization}}',
    },
  },
  lapsed: {
    subject: {
      en: 'The offered seats went on: {{event}}',
      fr: 'Les places offertes sont passées : {{event}}',
    },
    body: {
      en: 'Hello {{name}},\n\nThe seats for {{event}} were kept for you, and the time ran out. They go to the next party.\n\n{{organization}}',
      fr: 'Bonjour {{name}},\n\nLes places pour {{event}} vous étaient réservées et le délai est passé. Elles vont au groupe suivant.\n\n{{organization}}',
    },
  },
  reset: {
    subject: {
      en: 'A new password at {{organization}}',
      fr: 'Un nouveau mot de passe chez {{organization}}',
    },
    body: {
      en: 'Hello {{name}},\n\nSomebody, probably you, asked for a new password. Choose it here: {{manage_link}}\n\nThe link works once, for half an hour. If it was not you, nothing has changed and you can leave this message.\n\n{{organization}}',
      fr: 'Bonjour {{name}},\n\nQuelqu’un, sans doute vous, a demandé un nouveau mot de passe. Choisissez-le ici : {{manage_link}}\n\nLe lien sert une fois, pendant une demi-heure. Si ce n’était pas vous, rien n’a changé.\n\n{{organization}}',
    },
  },
  returned: {
    subject: { en: 'Your payment goes back: {{event}}', fr: 'Votre paiement est remboursé : {{event}}' },
    body: {
      en: 'Hello {{name}},\n\nYour payment for {{event}} came after the seats had been let go, and they are taken. All of it goes back to your card.\n\nYour booking: {{manage_link}}\n\n{{organization}}',
      fr: 'Bonjour {{name}},\n\nvotre paiement pour {{event}} est arrivé après la libération des places, qui sont prises. Il est entièrement remboursé sur votre carte.\n\nVotre réservation : {{manage_link}}\n\n{{organization}}',
    },
  },
  invitation: {
    subject: { en: 'Your account at {{organization}}', fr: 'Votre compte chez {{organization}}' },
    body: {
      en: 'Hello {{name}},\n\nYou were invited to help run events at {{organization}}. Choose a password to begin: {{manage_link}}\n\nThe link works for 14 days.',
      fr: 'Bonjour {{name}},\n\nOn vous invite à aider à organiser les activités de {{organization}}. Choisissez un mot de passe : {{manage_link}}\n\nLe lien est valable 14 jours.',
    },
  },
  'sign in': {
    subject: { en: 'Your code for {{organization}}', fr: 'Votre code pour {{organization}}' },
    body: {
      en: 'Hello,\n\nYour code is {{code_link}}. Type it where you asked for it, or use this link: {{manage_link}}\n\nIt works once, for fifteen minutes. If you did not ask for it, you need do nothing.\n\n{{organization}}',
      fr: 'Bonjour,\n\nVotre code est {{code_link}}. Saisissez-le là où vous l’avez demandé, ou suivez ce lien : {{manage_link}}\n\nIl fonctionne une fois, pendant quinze minutes. Si vous ne l’avez pas demandé, vous n’avez rien à faire.\n\n{{organization}}',
    },
  },
  receipt: {
    subject: { en: 'Your receipt {{number}}', fr: 'Votre reçu {{number}}' },
    body: {
      en: 'Hello {{name}},\n\n{{words}}Here is your receipt no. {{number}}, for {{amount}}: {{manage_link}}\n\nThe link is yours alone; please do not pass it on.\n\n{{organization}}',
      fr: 'Bonjour {{name}},\n\n{{words}}Voici votre reçu nº {{number}}, de {{amount}} : {{manage_link}}\n\nCe lien est personnel ; ne le transmettez pas.\n\n{{organization}}',
    },
  },
  thanks: {
    subject: { en: 'Thank you for your gift', fr: 'Merci de votre don' },
    body: {
      en: 'Hello {{name}},\n\nThank you for your gift of {{amount}} ({{fund}}).\n\n{{tribute}}{{words}}Your gift: {{manage_link}}\n\n{{organization}}',
      fr: 'Bonjour {{name}},\n\nMerci de votre don de {{amount}} ({{fund}}).\n\n{{tribute}}{{words}}Votre don : {{manage_link}}\n\n{{organization}}',
    },
  },
  'thanks in kind': {
    subject: { en: 'Thank you for your gift', fr: 'Merci de votre don' },
    body: {
      en: 'Hello {{name}},\n\nThank you for what you gave us: {{thing}} ({{fund}}).\n\n{{tribute}}{{words}}Your gift: {{manage_link}}\n\n{{organization}}',
      fr: 'Bonjour {{name}},\n\nMerci de ce que vous nous avez donné : {{thing}} ({{fund}}).\n\n{{tribute}}{{words}}Votre don : {{manage_link}}\n\n{{organization}}',
    },
  },
  tribute: {
    subject: { en: 'A gift was made {{tribute}}', fr: 'Un don a été fait {{tribute}}' },
    body: {
      en: 'Hello {{name}},\n\n{{by}} made a gift {{tribute}} to {{organization}} ({{fund}}), and asked us to tell you.\n\n{{organization}}',
      fr: 'Bonjour {{name}},\n\n{{by}} a fait un don {{tribute}} à {{organization}} ({{fund}}) et nous a demandé de vous en faire part.\n\n{{organization}}',
    },
  },
  'pledge began': {
    subject: { en: 'Your monthly gift', fr: 'Votre don mensuel' },
    body: {
      en: 'Hello {{name}},\n\nYou give {{amount}} every month from now on; the next one is on {{next}}. You can change it, pause it or end it at any time: {{manage_link}}\n\nThank you.\n\n{{organization}}',
      fr: 'Bonjour {{name}},\n\nVous donnez dorénavant {{amount}} chaque mois ; le prochain don aura lieu le {{next}}. Vous pouvez le modifier, le suspendre ou y mettre fin à tout moment : {{manage_link}}\n\nMerci.\n\n{{organization}}',
    },
  },
  'instalment missed': {
    subject: { en: 'Your monthly gift did not go through', fr: 'Votre don mensuel n’a pas pu être prélevé' },
    body: {
      en: 'Hello {{name}},\n\nYour monthly gift of {{amount}} could not be taken from your card ending in {{card}}. {{again}}\n\nGive another card, pause or end it: {{manage_link}}\n\n{{organization}}',
      fr: 'Bonjour {{name}},\n\nVotre don mensuel de {{amount}} n’a pas pu être prélevé sur votre carte finissant par {{card}}. {{again}}\n\nIndiquer une autre carte, suspendre ou arrêter : {{manage_link}}\n\n{{organization}}',
    },
  },
  'card runs out': {
    subject: {
      en: 'Your card runs out before your next gift',
      fr: 'Votre carte expire avant votre prochain don',
    },
    body: {
      en: 'Hello {{name}},\n\nYour card ending in {{card}} runs out before your next monthly gift, on {{next}}. Give another one here: {{manage_link}}\n\nThank you.\n\n{{organization}}',
      fr: 'Bonjour {{name}},\n\nVotre carte finissant par {{card}} expire avant votre prochain don mensuel, le {{next}}. Indiquez-en une autre ici : {{manage_link}}\n\nMerci.\n\n{{organization}}',
    },
  },
  'pledge ended': {
    subject: { en: 'Your monthly gift has ended', fr: 'Votre don mensuel est terminé' },
    body: {
      en: 'Hello {{name}},\n\nYour monthly gift of {{amount}} has ended; nothing more is taken from your card. Thank you for all you gave.\n\n{{organization}}',
      fr: 'Bonjour {{name}},\n\nVotre don mensuel de {{amount}} est terminé ; plus rien ne sera prélevé. Merci de tout ce que vous avez donné.\n\n{{organization}}',
    },
  },
  own: {
    subject: { en: 'Your details at {{organization}}', fr: 'Vos coordonnées chez {{organization}}' },
    body: {
      en: 'Hello {{name}},\n\nThis is what we have about you, and where you can put it right or say what you want to hear from us: {{manage_link}}\n\nThe link is yours alone; please do not pass it on.\n\n{{organization}}',
      fr: 'Bonjour {{name}},\n\nVoici ce que nous savons de vous ; vous pouvez le corriger et dire ce que vous souhaitez recevoir : {{manage_link}}\n\nCe lien est personnel ; ne le transmettez pas.\n\n{{organization}}',
    },
  },
  'sign please': {
    subject: { en: 'Please sign before {{event}}', fr: 'À signer avant {{event}}' },
    body: {
      en: 'Hello {{name}},\n\nBefore {{event}}, {{when}}, we still need a signature: {{title}}. It takes two minutes here: {{sign_link}}\n\n{{organization}}',
      fr: 'Bonjour {{name}},\n\nAvant {{event}}, {{when}}, il nous manque encore une signature : {{title}}. Deux minutes suffisent ici : {{sign_link}}\n\n{{organization}}',
    },
  },
  'attendance answered': {
    subject: { en: 'Whether you were at {{event}}', fr: 'Votre présence : {{event}}' },
    body: {
      en: 'Hello {{name}},\n\nYou wrote to us about what we keep of who came to {{event}}, {{when}}. {{said}}\n\n{{words}}You see it here: {{manage_link}}\n\n{{organization}}',
      fr: 'Bonjour {{name}},\n\nVous nous avez écrit au sujet des présences à {{event}}, {{when}}. {{said}}\n\n{{words}}Vous le voyez ici : {{manage_link}}\n\n{{organization}}',
    },
  },
  signed: {
    subject: { en: 'What you signed: {{title}}', fr: 'Ce que vous avez signé : {{title}}' },
    body: {
      en: 'Hello {{name}},\n\nYou signed {{title}}. Here is your copy, to read and to keep: {{manage_link}}\n\nIf it was not you who signed, say so there: what was signed does not count then.\n\n{{organization}}',
      fr: 'Bonjour {{name}},\n\nVous avez signé {{title}}. Voici votre copie, à lire et à conserver : {{manage_link}}\n\nSi ce n’est pas vous qui avez signé, dites-le à cet endroit : ce qui a été signé ne comptera pas.\n\n{{organization}}',
    },
  },
  overlap: {
    subject: { en: 'Your shift was not added: {{event}}', fr: 'Votre quart n’a pas été ajouté : {{event}}' },
    body: {
      en: 'Hello {{name}},\n\nSomebody, probably you, asked for {{shift}} at {{event}} in your name. You are down for another shift then, so nothing was changed.\n\nAll your shifts: {{shifts_link}}\n\n{{organization}}',
      fr: 'Bonjour {{name}},\n\nQuelqu’un, sans doute vous, a demandé {{shift}} à {{event}} à votre nom. Vous avez déjà un quart à ce moment ; rien n’a été changé.\n\nTous vos quarts : {{shifts_link}}\n\n{{organization}}',
    },
  },
  'shift asked': {
    subject: { en: 'You asked for a shift: {{event}}', fr: 'Vous avez demandé un quart : {{event}}' },
    body: {
      en: 'Hello {{name}},\n\nThank you. You asked for {{shift}} at {{event}}. Somebody looks at it first; you will hear whether it is yours.\n\nAll your shifts: {{shifts_link}}\n\n{{organization}}',
      fr: 'Bonjour {{name}},\n\nMerci. Vous avez demandé {{shift}} à {{event}}. Quelqu’un l’examine d’abord ; vous saurez s’il est à vous.\n\nTous vos quarts : {{shifts_link}}\n\n{{organization}}',
    },
  },
  'shift declined': {
    subject: { en: 'Not this shift: {{event}}', fr: 'Pas ce quart : {{event}}' },
    body: {
      en: 'Hello {{name}},\n\nThank you for offering to help. {{shift}} at {{event}} is not yours this time.\n\nAll your shifts: {{shifts_link}}\n\n{{organization}}',
      fr: 'Bonjour {{name}},\n\nMerci de nous offrir votre aide. {{shift}} à {{event}} n’est pas à vous cette fois.\n\nTous vos quarts : {{shifts_link}}\n\n{{organization}}',
    },
  },
  'shift changed': {
    subject: { en: 'Your shift has changed: {{event}}', fr: 'Votre quart a changé : {{event}}' },
    body: {
      en: 'Hello {{name}},\n\nYour shift at {{event}} is now {{shift}}. It was {{shift_before}}.\n\nIf you cannot come then, give it back here, where all your shifts are: {{shifts_link}}\n\n{{organization}}',
      fr: 'Bonjour {{name}},\n\nVotre quart à {{event}} est maintenant {{shift}}. C’était {{shift_before}}.\n\nSi vous ne pouvez pas venir à ce moment, rendez-le ici, où se trouvent tous vos quarts : {{shifts_link}}\n\n{{organization}}',
    },
  },
  'crew mail': {
    subject: { en: '{{subject}}', fr: '{{subject}}' },
    body: {
      en: 'Hello {{name}},\n\n{{words}}\n\nYour shifts at {{event}}:\n\n{{schedule}}\n\nAll of them, always up to date: {{shifts_link}}\n\n{{organization}}',
      fr: 'Bonjour {{name}},\n\n{{words}}\n\nVos quarts à {{event}} :\n\n{{schedule}}\n\nTous, toujours à jour : {{shifts_link}}\n\n{{organization}}',
    },
  },
  'shift waits': {
    subject: { en: 'You wait for a shift: {{event}}', fr: 'Vous attendez un quart : {{event}}' },
    body: {
      en: 'Hello {{name}},\n\nThank you. {{shift}} at {{event}} is full. As soon as a place comes free you are asked whether you take it.\n\nAll your shifts, and where you can wait no more: {{shifts_link}}\n\n{{organization}}',
      fr: 'Bonjour {{name}},\n\nMerci. {{shift}} à {{event}} est complet. Dès qu’une place se libère, nous vous demandons si vous la prenez.\n\nTous vos quarts, et où ne plus attendre : {{shifts_link}}\n\n{{organization}}',
    },
  },
  'step in': {
    subject: { en: 'Can you step in? {{shift}}', fr: 'Pouvez-vous remplacer quelqu’un ? {{shift}}' },
    body: {
      en: 'Hello {{name}},\n\nA place came free at {{event}}: {{shift}}. Can you take it? It is kept for you until {{until}}; then somebody else is asked.\n\nSay yes or no here: {{shifts_link}}\n\n{{organization}}',
      fr: 'Bonjour {{name}},\n\nUne place s’est libérée à {{event}} : {{shift}}. Pouvez-vous la prendre ? Elle vous est gardée jusqu’au {{until}} ; puis quelqu’un d’autre sera demandé.\n\nDites oui ou non ici : {{shifts_link}}\n\n{{organization}}',
    },
  },
  'step in not needed': {
    subject: { en: 'No longer needed: {{shift}}', fr: 'Plus nécessaire : {{shift}}' },
    body: {
      en: 'Hello {{name}},\n\nWe asked whether you could step in at {{event}}: {{shift}}. Nobody is needed there any more. Thank you all the same.\n\nAll your shifts: {{shifts_link}}\n\n{{organization}}',
      fr: 'Bonjour {{name}},\n\nNous vous avions demandé de remplacer quelqu’un à {{event}} : {{shift}}. Plus personne n’y est nécessaire. Merci tout de même.\n\nTous vos quarts : {{shifts_link}}\n\n{{organization}}',
    },
  },
  'swap wished': {
    subject: { en: 'Would you swap a shift? {{event}}', fr: 'Échanger un quart ? {{event}}' },
    body: {
      en: 'Hello {{name}},\n\nSomebody would give their shift at {{event}}, {{shift}}, for yours: {{shift_before}}.\n\nIf you would rather have theirs, say so here; the crew lead decides then: {{shifts_link}}\n\nIf you keep yours, you need do nothing.\n\n{{organization}}',
      fr: 'Bonjour {{name}},\n\nQuelqu’un donnerait son quart à {{event}}, {{shift}}, contre le vôtre : {{shift_before}}.\n\nSi vous préférez le sien, dites-le ici ; la personne responsable décidera : {{shifts_link}}\n\nSi vous gardez le vôtre, vous n’avez rien à faire.\n\n{{organization}}',
    },
  },
  'swap declined': {
    subject: { en: 'Your shift stays as it is: {{event}}', fr: 'Votre quart reste le même : {{event}}' },
    body: {
      en: 'Hello {{name}},\n\nYou wished for another shift at {{event}} in the place of {{shift}}. It stays as it is.\n\n{{words}}All your shifts: {{shifts_link}}\n\n{{organization}}',
      fr: 'Bonjour {{name}},\n\nVous souhaitiez un autre quart à {{event}} à la place de {{shift}}. Il reste le même.\n\n{{words}}Tous vos quarts : {{shifts_link}}\n\n{{organization}}',
    },
  },
  'application came': {
    subject: { en: 'You offered to help: {{title}}', fr: 'Vous offrez votre aide : {{title}}' },
    body: {
      en: 'Hello {{name}},\n\nThank you for offering to help: {{title}}. Somebody reads it and writes to you.\n\nWhat you said, and where you can change it: {{application_link}}\n\nIf it was not you, you need do nothing.\n\n{{organization}}',
      fr: 'Bonjour {{name}},\n\nMerci d’offrir votre aide : {{title}}. Quelqu’un vous lira et vous écrira.\n\nCe que vous avez dit, et où le changer : {{application_link}}\n\nSi ce n’était pas vous, vous n’avez rien à faire.\n\n{{organization}}',
    },
  },
  'application asked': {
    subject: { en: 'A question: {{title}}', fr: 'Une question : {{title}}' },
    body: {
      en: 'Hello {{name}},\n\nBefore we decide, we would like to know:\n\n{{words}}\n\nPlease answer here: {{application_link}}\n\n{{organization}}',
      fr: 'Bonjour {{name}},\n\nAvant de décider, nous aimerions savoir :\n\n{{words}}\n\nRépondez ici : {{application_link}}\n\n{{organization}}',
    },
  },
  'application accepted': {
    subject: { en: 'You are in: {{title}}', fr: 'Vous en êtes : {{title}}' },
    body: {
      en: 'Hello {{name}},\n\nWe are glad to have you: {{title}}. You will hear of your shifts.\n\n{{words}}What you said, and where you can change it: {{application_link}}\n\n{{organization}}',
      fr: 'Bonjour {{name}},\n\nNous nous réjouissons de vous avoir : {{title}}. Vous recevrez vos quarts.\n\n{{words}}Ce que vous avez dit, et où le changer : {{application_link}}\n\n{{organization}}',
    },
  },
  'application declined': {
    subject: { en: 'Not this time: {{title}}', fr: 'Pas cette fois : {{title}}' },
    body: {
      en: 'Hello {{name}},\n\nThank you for offering to help. This time we cannot take you on: {{title}}.\n\n{{words}}{{organization}}',
      fr: 'Bonjour {{name}},\n\nMerci d’avoir offert votre aide. Cette fois, nous ne pouvons pas vous prendre : {{title}}.\n\n{{words}}{{organization}}',
    },
  },
  'deposit asked': {
    subject: { en: 'Your deposit of {{amount}}: {{title}}', fr: 'Votre caution de {{amount}} : {{title}}' },
    body: {
      en: 'Hello {{name}},\n\nWe ask everybody who helps to leave a deposit of {{amount}} ({{title}}). {{words}}\n\nYou can pay it by card here: {{application_link}}\n\n{{organization}}',
      fr: 'Bonjour {{name}},\n\nNous demandons à chaque bénévole une caution de {{amount}} ({{title}}). {{words}}\n\nVous pouvez la payer par carte ici : {{application_link}}\n\n{{organization}}',
    },
  },
  'deposit settled': {
    subject: { en: 'Your deposit: {{title}}', fr: 'Votre caution : {{title}}' },
    body: {
      en: 'Hello {{name}},\n\n{{words}}\n\nMore about it: {{application_link}}\n\n{{organization}}',
      fr: 'Bonjour {{name}},\n\n{{words}}\n\nPlus de détails : {{application_link}}\n\n{{organization}}',
    },
  },
  'application invited': {
    subject: { en: 'Will you help again? {{title}}', fr: 'Serez-vous des nôtres ? {{title}}' },
    body: {
      en: 'Hello {{name}},\n\nYou helped us before. Will you be there again: {{title}}?\n\nWhat we know of you stands there already; say when you can come: {{application_link}}\n\n{{organization}}',
      fr: 'Bonjour {{name}},\n\nVous nous avez déjà aidés. Serez-vous là de nouveau : {{title}} ?\n\nCe que nous savons de vous y est déjà ; dites quand vous pouvez venir : {{application_link}}\n\n{{organization}}',
    },
  },
  crew: {
    subject: { en: 'Your shift: {{event}}', fr: 'Votre quart : {{event}}' },
    body: {
      en: 'Hello {{name}},\n\nThank you. You are down for {{shift}} at {{event}}.\n\nAll your shifts, always up to date: {{shifts_link}}\n\n{{organization}}',
      fr: 'Bonjour {{name}},\n\nMerci. Vous êtes inscrit pour {{shift}} à {{event}}.\n\nTous vos quarts, toujours à jour : {{shifts_link}}\n\n{{organization}}',
    },
  },
};
