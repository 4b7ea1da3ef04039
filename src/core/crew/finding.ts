import { fold } from '#core/contacts/names.ts';

/** Where something about somebody stands that can be searched: what they said, and what is on record of them. */
export const foundIn = [
  'experience',
  'company',
  'answer',
  'skill',
  'served',
  'shirt',
  'tag',
  'field',
  'registration',
] as const;
export type FoundIn = (typeof foundIn)[number];

/** A text about somebody; `label`: what was asked, where that is not said by where it stands. */
export interface SaidText {
  in: FoundIn;
  label: string;
  text: string;
}

/** Characters around what was found that are shown with it. */
const around = 40;

/** What of a text is shown where a word was found in it: a line, cut at words. */
function excerpt(text: string, word: string): string {
  const line = text.replace(/\s+/gu, ' ').trim();
  if (line.length <= 2 * around) return line;
  // Folding may change the length, so the place is looked for word by word.
  const words = line.split(' ');
  const at = Math.max(
    0,
    words.findIndex((_, n) => fold(words.slice(n, n + 3).join(' ')).includes(word)),
  );
  let [from, to] = [at, at + 1];
  const length = () => words.slice(from, to).join(' ').length;
  while (length() < 2 * around && (from > 0 || to < words.length)) {
    if (from > 0) from -= 1;
    if (to < words.length) to += 1;
  }
  return `${from > 0 ? '… ' : ''}${words.slice(from, to).join(' ')}${to < words.length ? ' …' : ''}`;
}

/**
 * Looks for everything that was typed in a name and in what there is about somebody: each word has to stand somewhere. Answers where
 * those stand that the name does not have, each once; null where one of them stands nowhere.
 */
export function foundOf(typed: string, name: string, texts: readonly SaidText[]): SaidText[] | null {
  const named = fold(name);
  const folded = texts.map((t) => fold(`${t.label} ${t.text}`));
  const found = new Map<number, string>();
  for (const word of fold(typed).split(' ').filter(Boolean)) {
    if (named.includes(word)) continue;
    const at = folded.findIndex((text) => text.includes(word));
    if (at < 0) return null;
    if (!found.has(at)) found.set(at, word);
  }
  return [...found].map(([at, word]) => ({ ...texts[at]!, text: excerpt(texts[at]!.text, word) }));
}
