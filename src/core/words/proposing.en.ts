/** Words of the page where somebody proposes an event, in English. */
export const proposingEn = {
  proposeEvent: 'Propose an event',
  proposeTitle: 'What it is called',
  proposeAbout: 'What it is',
  proposeAboutHelp: 'What happens there, for whom, and what you would need from us.',
  proposeDate: 'The day you have in mind',
  proposeBegins: 'From',
  proposeEnds: 'To',
  proposeWhere: 'Where',
  proposePeople: 'How many people you expect',
  proposeUnit: 'Who it would be with',
  proposeNoUnit: 'I do not know',
  proposeYourName: 'Your name',
  proposePhone: 'Telephone, if you like',
  proposeIt: 'Propose it',
  proposeSent: '“{{title}}” is with us. We read it and write to you at {{email}}. Thank you.',
  proposeAnother: 'Propose another one',
} as const;
