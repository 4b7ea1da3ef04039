import type { receiptEn } from './receipt.en.ts';

/** The same in French. */
export const receiptFr: { [Key in keyof typeof receiptEn]: string } = {
  official: 'Reçu officiel aux fins de l’impôt sur le revenu',
  statement: 'Attestation d’un don avec contrepartie',
  acknowledgment: 'Accusé de réception d’un don',
  number: 'Reçu nº {{number}}',
  replaces: 'Il annule et remplace le reçu nº {{number}}.',
  void: 'Ce reçu est annulé.',
  voidReplaced: 'Ce reçu est annulé. Il est remplacé par le nº {{number}}.',
  voidMark: 'ANNULÉ',
  issuer: 'Délivré par',
  registration: 'Numéro d’enregistrement {{number}}',
  giver: 'Donné par',
  on: 'Date',
  what: 'Pour',
  amount: 'Montant',
  advantage: 'Avantage',
  eligible: 'Admissible',
  deductible: 'Déductible',
  inAll: 'En tout',
  received: 'Reçu en échange : {{what}}, d’une valeur de {{amount}}.',
  nothingReceived: 'Aucun bien ni service n’a été fourni en échange.',
  onlyOver:
    'Seule la part donnée au-delà de la valeur reçue est déductible ; cette valeur est estimée de bonne foi.',
  inKind: 'Don en nature : {{thing}}, reçu le {{date}}, d’une valeur de {{amount}}.',
  appraised:
    'Don en nature : {{thing}}, reçu le {{date}}, d’une valeur de {{amount}} selon l’évaluation de {{by}}.',
  abroad: 'Ce reçu vaut pour l’impôt de ce pays : {{country}} ; d’autres règles s’appliquent ailleurs.',
  canada: 'Canada',
  unitedStates: 'États-Unis',
  issued: 'Délivré le {{date}} à {{place}}',
  signature: 'Signature autorisée',
  verify: 'Pour le vérifier : {{address}}, avec son numéro et le code {{code}}.',
};
