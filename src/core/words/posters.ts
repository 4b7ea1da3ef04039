/** What posters say to do, in English and, where a page can be read in it, in French. */
export const signPosterSays = (inFrench: boolean): string[] => [
  'Scan the code with your phone, read, and sign before you take part.',
  ...(inFrench ? ['Balayez le code avec votre téléphone, lisez et signez avant de participer.'] : []),
];

/** The same of the poster where people count. */
export const countPosterSays = (inFrench: boolean): string[] => [
  'You counted something? Scan the code and say what.',
  ...(inFrench ? ['Vous avez compté quelque chose ? Balayez le code et dites quoi.'] : []),
];

/** The same of the poster by the door, where people check themselves in. */
export const herePosterSays = (inFrench: boolean): string[] => [
  'You are here? Scan the code and check in.',
  ...(inFrench ? ['Vous êtes là ? Balayez le code et inscrivez votre arrivée.'] : []),
];
