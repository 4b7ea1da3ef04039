/** Marks by which kinds of events are told apart at a glance: drawn things of the marsh. */
export const kindShapes = ['reed', 'wave', 'leaf', 'roof', 'lamp', 'stone'] as const;
export type KindShape = (typeof kindShapes)[number];

/** Colours of the marks, by their names among the tokens. */
export const kindColours = ['verdigris', 'ochre', 'madder', 'slate', 'ink'] as const;
export type KindColour = (typeof kindColours)[number];

/** How a kind of event looks in lists and on its page. */
export interface KindMark {
  shape: KindShape | '';
  colour: KindColour | '';
}

/** A name as a reader of a language is told it: in French where there is a French name. */
export const kindIn = (name: string, inFrench: Readonly<Record<string, string>>, language: string): string =>
  (language === 'fr' && inFrench[name]) || name;
