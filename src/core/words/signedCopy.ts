/** What a printed copy of what was signed says around it. */
export const signedCopyWords = {
  en: {
    revoked: 'Revoked on {{on}}: this signature does not count any more.',
    answers: 'What was answered',
    proof:
      'Signature number {{number}}. The text above, from its title to its last line, has this fingerprint:',
    chain: 'It stands in a chain with every signature before it, under {{hash}}',
    verify: 'Whether this file is a copy we made can be seen at {{address}}',
  },
  fr: {
    revoked: 'Révoquée le {{on}}\u00a0: cette signature ne compte plus.',
    answers: 'Ce qui a été répondu',
    proof:
      'Signature numéro {{number}}. Le texte ci-dessus, du titre à la dernière ligne, a cette empreinte\u00a0:',
    chain: 'Elle se trouve dans une chaîne avec toutes les signatures précédentes, sous {{hash}}',
    verify: 'On peut vérifier que ce fichier est bien une copie faite par nous à l’adresse {{address}}',
  },
} as const;
