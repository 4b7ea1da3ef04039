/** What posters say to do, in English and, where a page can be read in it, in French. */
export const signPosterSays = (inFrench: boolean): string[] => [
  'Scan the code with your phone, read, and sign before you take part.',
  ...(inFrench ? ['Balayez le code avec votre téléphone, lisez et signez avant de participer.'] : []),
];
