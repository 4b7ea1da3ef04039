import type { ProblemWords } from './problems.en.ts';

/** What can be wrong, in French. */
export const problemsFr: ProblemWords = {
  'sign-in-code-wrong':
    'Ce code ne fonctionne pas ici. Cherchez le message le plus récent, ou demandez un autre code.',
  'link-over': 'Ce lien a servi, ou date de plus de quinze minutes. Demandez-en un autre.',
  unreadable: 'La réponse du serveur est illisible. Veuillez réessayer.',
  'too-long': {
    one: 'Au plus {{count}} caractère.',
    many: 'Au plus {{count}} de caractères.',
    other: 'Au plus {{count}} caractères.',
  },
  'not-an-email': 'Ce n’est pas une adresse de courriel.',
  'not-a-telephone': 'Ce n’est pas un numéro de téléphone.',
  'about-needed': 'Dites de quoi il s’agit.',
  'name-needed': 'Indiquez un nom.',
  'no-name': 'Ce n’est pas un nom.',
  'first-name-needed': 'Indiquez votre prénom.',
  'last-name-needed': 'Indiquez votre nom de famille.',
  'more-named-than-seats': {
    one: 'Il y a {{count}} place, et {{named}} personnes ont été nommées.',
    other: 'Il y a {{count}} places, et {{named}} personnes ont été nommées.',
  },
  'in-the-future': 'Cette date est dans le futur.',
  'proposal-untitled': 'Donnez un titre à votre séance.',
  'proposal-short': 'Dites en quelques phrases de quoi il s’agit.',
  'proposal-minutes': 'Entre 5 et 600 minutes.',
  'proposals-full': 'On ne peut rien proposer de plus pour le moment.',
  'part-over': 'Votre rôle dans l’événement est terminé, et votre accès avec lui.',
  'words-needed': 'Écrivez votre question.',
  'whole-number': 'Choisissez un nombre entier, au moins 1.',
  'day-passed': 'Ce jour est passé.',
  'ends-before': 'Elle se termine déjà avant ce jour.',
  'half-a-character': 'Ce texte contient une moitié de caractère.',
  'one-line-only': 'Écrivez ceci sur une seule ligne, sans tabulations.',
  unprintable: 'Ce texte contient des caractères qui ne s’impriment pas.',
  'unprintable-name': 'Un nom contient ici des caractères qui ne s’impriment pas.',
  'no-such-date': 'Indiquez une date qui existe, entre 1800 et 2199.',
  'no-such-time': 'Indiquez une date et une heure, comme 2026-08-08T09:00.',
  'no-amount': 'Indiquez un montant.',
  'price-negative': 'Un prix ne peut pas être négatif.',
  'price-most': 'Un prix est d’au plus 100 000.',
  'too-many-unpaid': {
    one: 'D’un même endroit, au plus {{count}} place peut attendre un paiement pendant une heure. Payez-la d’abord, ou écrivez-nous pour un plus grand groupe.',
    other:
      'D’un même endroit, au plus {{count}} places peuvent attendre un paiement pendant une heure. Payez d’abord celles que vous tenez, ou écrivez-nous pour un plus grand groupe.',
  },
  'not-found': 'Introuvable, ou le lien est incomplet.',
  'too-many': 'Trop de demandes à la fois. Attendez un peu, puis réessayez.',
  offline: 'Le serveur ne répond pas. Rien n’est perdu ; réessayez.',
  unexpected: 'Quelque chose s’est mal passé. Rien n’a été changé ; réessayez.',
};
