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

/** A name of the register of kinds and draws, with how it looks. */
export interface KindLook extends KindMark {
  sort: string;
  name: string;
  /** Its French name; empty where there is none. */
  french: string;
  pictureId: string | null;
}

/** What the register says of events: of a kind in any case of letters, of draws as they are written. */
export class Register {
  readonly #kinds = new Map<string, KindLook>();
  readonly #inFrench: readonly KindLook[];

  constructor(looks: readonly KindLook[]) {
    for (const look of looks) if (look.sort === 'category') this.#kinds.set(look.name.toLowerCase(), look);
    this.#inFrench = looks.filter((look) => look.french);
  }

  /** How a kind looks; null where it is not of the register. */
  of(category: string): KindLook | null {
    return this.#kinds.get(category.toLowerCase()) ?? null;
  }

  /** French names of what events are and draw with, by their names. */
  inFrench(events: readonly { category: string; draws: readonly string[] }[]): Record<string, string> {
    const kinds = new Set(events.map((e) => e.category.toLowerCase()));
    const draws = new Set(events.flatMap((e) => e.draws));
    return Object.fromEntries(
      this.#inFrench
        .filter(({ sort, name }) => (sort === 'category' ? kinds.has(name.toLowerCase()) : draws.has(name)))
        .map(({ name, french }) => [name, french]),
    );
  }
}
