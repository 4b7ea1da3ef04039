/** Words of the page where somebody proposes an event, in French. */
export const proposingFr = {
  proposeEvent: 'Proposer une activité',
  proposeTitle: 'Son titre',
  proposeAbout: 'De quoi il s’agit',
  proposeAboutHelp: 'Ce qui s’y passe, pour qui, et ce que vous attendez de nous.',
  proposeDate: 'Le jour auquel vous pensez',
  proposeBegins: 'De',
  proposeEnds: 'À',
  proposeWhere: 'Où',
  proposePeople: 'Combien de personnes vous attendez',
  proposeUnit: 'Avec qui',
  proposeNoUnit: 'Je ne sais pas',
  proposeYourName: 'Votre nom',
  proposePhone: 'Téléphone, si vous voulez',
  proposeIt: 'Proposer',
  proposeSent: '« {{title}} » nous est parvenue. Nous la lisons et vous écrivons à {{email}}. Merci.',
  proposeAnother: 'En proposer une autre',
} as const;
