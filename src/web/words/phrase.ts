import { fillIn, type Param, type Plurals } from '#core/words/filling.ts';
import type { Language } from '#core/words/language.ts';
import { phrases as en } from './en/index.ts';

type English = typeof en;
/** The phrases of one language, by place: what English has, every language has. */
export type Phrases = { [Place in keyof English]: { [Key in keyof English[Place]]: string | Plurals } };

/** A phrase by its place and name: "desk.comingEvents". */
export type PhraseKey = {
  [Place in keyof English]: `${Place}.${Extract<keyof English[Place], string>}`;
}[keyof English];

type TextOf<Key> = Key extends `${infer Place extends keyof English}.${infer Name}`
  ? Name extends keyof English[Place]
    ? English[Place][Name]
    : never
  : never;
type Names<Text> = Text extends `${string}{{${infer Name}}}${infer Rest}`
  ? (Name extends `${infer Number}:${string}` ? Number : Name) | Names<Rest>
  : Text extends { other: infer Other }
    ? 'count' | Names<Other>
    : never;
/** What a phrase has to be filled in with, by name. */
export type Parts<Key extends PhraseKey, Part> = Record<Names<TextOf<Key>>, Part>;

/** Languages beside English: each a folder here, loaded when the browser asks for it. */
const others = import.meta.glob<{ phrases: Phrases }>(['./*/index.ts', '!./en/index.ts']);

/** The phrases to begin with: of the first language the browser asks for that is here. Whoever says a phrase waits for it. */
async function begin(): Promise<{ language: Language; phrases: Phrases }> {
  for (const asked of navigator.languages) {
    const language = asked.slice(0, 2) as Language;
    if (language === 'en') break;
    const load = others[`./${language}/index.ts`];
    if (load) return { language, phrases: (await load()).phrases };
  }
  return { language: 'en', phrases: en };
}

let spoken = await begin();

/** Says everything from here on in another language; labels that were read as modules loaded stay as they are. */
export function speak(language: Language, phrases: Phrases): void {
  spoken = { language, phrases };
}

/** The language of the screens. */
export const spokenLanguage = (): Language => spoken.language;

/** A phrase in the language of the screens, filled in; the compiler knows what each is filled in with. */
export function phrase<Key extends PhraseKey>(
  key: Key,
  ...[params]: [Names<TextOf<Key>>] extends [never] ? [] : [Parts<Key, Param>]
): string {
  const [place, name] = key.split('.') as [keyof Phrases, never];
  return fillIn(spoken.phrases[place][name], params ?? {}, spoken.language);
}

/** A state, kind or role as a word; what is not one of ours, like the name of a fund, as it is. */
export function term(value: string): string {
  const said = (spoken.phrases.terms as Readonly<Record<string, string | Plurals>>)[value];
  return typeof said === 'string' ? said : value;
}

/** The same where it stands alone: with a capital. */
export const termAlone = (value: string): string => {
  const said = term(value);
  return said.charAt(0).toLocaleUpperCase(spoken.language) + said.slice(1);
};

/** Things one after the other, as the language puts them: "Finance and Safety". */
export const inAList = (things: readonly string[]): string =>
  new Intl.ListFormat(spoken.language, { type: 'conjunction' }).format(things);
