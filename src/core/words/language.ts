/** A language that something can be said in. */
export type Language = 'en' | 'fr';

let asked: () => Language = () => 'en';
let spoken: readonly Language[] = ['en'];

/** Tells how to find the language of whoever reads: on the screens it is one, on a server that of the request. */
export const speakAs = (find: () => Language): void => {
  asked = find;
};
/** Tells in which languages there are catalogues. */
export const catalogued = (languages: readonly Language[]): void => {
  spoken = languages;
};

/** The language that is spoken: the one asked for, or English where there is no catalogue of it. */
export const spokenIn = (): Language => (spoken.includes(asked()) ? asked() : 'en');
