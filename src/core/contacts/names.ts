import transliterate from '@sindresorhus/transliterate';
/** A person's name as they write it. Either part may be empty, not both. */
export interface PersonName {
  given: string;
  family: string;
}

/** Latin letters that are no plain letter with an accent: œ, ø, đ, ß. Other scripts are left as they are. */
const otherLatin = /(?!\p{ASCII})\p{Script=Latin}+/gu;

/**
 * Folds text for comparing: lower case, without accents, apostrophes and hyphens, white space as one blank.
 * "Ó Hára-Peña" and "o hara pena" fold alike, and so do "Chœur" and "choeur".
 */
export function fold(text: string): string {
  // Most names are plain letters, and have nothing to be taken off.
  const plain = /^[\x20-\x7e]*$/u.test(text)
    ? text
    : text
        .normalize('NFKD')
        .replace(/\p{M}/gu, '')
        .replace(otherLatin, (letters) => transliterate(letters));
  return plain
    .toLowerCase()
    .replace(/['’`]/gu, '')
    .replace(/[^\p{L}\p{N}@.+]+/gu, ' ')
    .trim();
}

/** Tidies a name typed or imported: white space as one blank; SHOUTED and lower-cased words get capitals. */
export function tidyName(text: string): string {
  const clean = text.normalize('NFC').replace(/\s+/gu, ' ').trim();
  if (!clean || (clean !== clean.toUpperCase() && clean !== clean.toLowerCase())) return clean;
  if (clean.replace(/[^\p{L}]/gu, '').length < 2) return clean.toUpperCase();
  return clean
    .toLowerCase()
    .replace(/(^|[\s'’-])(\p{L})/gu, (_, lead, letter) => lead + letter.toUpperCase());
}

/** The name as shown in running text: "Mai Delacroix-Nguyen". */
export const fullName = (name: PersonName): string => `${name.given} ${name.family}`.trim();

/** The name as shown in lists sorted by family name: "Delacroix-Nguyen, Mai". */
export const listedName = (name: PersonName): string =>
  name.family && name.given ? `${name.family}, ${name.given}` : name.family || name.given;

/** Words that belong to the family name after them, folded or as they are written. */
export const particles: ReadonlySet<string> = new Set(
  'de la du des van von der den di da le al el ben bin ibn ten ter dos das della st st. saint'.split(' '),
);
const titles = new Set(
  'mr mrs ms mx miss dr prof professor rev fr sir lady hon capt mme mlle m madame monsieur herr frau sra'.split(
    ' ',
  ),
);
/** What tells father and son apart stays with the family name. */
const generations = /^(?:jr|sr|ii|iii|iv|junior|senior)$/iu;
/** What somebody studied is left out, as titles are. */
const degrees =
  /^(?:phd|ph\.d|md|m\.d|ba|bsc|msc|mba|rn|cpa|esq|peng|p\.eng|dds|llb|jd|qc|kc|cm|obe|mbe)\.?$/iu;

/**
 * Splits a whole name in either order ("Hollis, Thad" or "Dr Frances de la Cruz"), leaving titles and degrees out and
 * keeping particles and generations ("Jr.") with the family name.
 */
export function splitName(whole: string): PersonName {
  const clean = whole.normalize('NFC').replace(/\s+/gu, ' ').trim();
  const parts = clean
    .split(/\s*,\s*/u)
    .filter((part) => part && !part.split(' ').every((w) => degrees.test(w)));
  if (parts.length === 1 || generations.test(bare(parts[1] ?? ''))) {
    const { words, generation } = withoutGeneration(withoutTitles(parts.join(' ')));
    if (words.length < 2) {
      const only = join(tidyName(words[0] ?? ''), generation);
      // "Mrs Vetch" says the family name, "Xanthe" the given one.
      return isTitle(clean.split(' ')[0]!) ? { given: '', family: only } : { given: only, family: '' };
    }
    let at = words.length - 1;
    // "Ben Hollis" is called Ben; "de la Cruz" is a family name alone.
    const belongs = (n: number) =>
      particles.has(words[n]!.toLowerCase()) && (n > 0 || words[n] === words[n]!.toLowerCase());
    while (at > 0 && belongs(at - 1)) at -= 1;
    return {
      given: tidyName(words.slice(0, at).join(' ')),
      family: join(tidyName(words.slice(at).join(' ')), generation),
    };
  }
  const [family = '', ...given] = parts;
  const { words, generation } = withoutGeneration(withoutTitles(given.join(' ')));
  return {
    given: tidyName(words.join(' ')),
    family: join(tidyName(withoutTitles(family).join(' ')), generation),
  };
}

const join = (name: string, generation: string): string => [name, generation].filter(Boolean).join(' ');
const bare = (word: string): string => word.replace(/[.,]/gu, '');

/** True for "Mr.", "Dr" and their like. */
export const isTitle = (word: string): boolean => titles.has(bare(word).toLowerCase());

/** The words of a name without the titles before it and the degrees after it. */
export function withoutTitles(text: string): string[] {
  const words = text.trim().split(' ').filter(Boolean);
  // "M. Kettle" is rather Marit Kettle than Monsieur.
  while (words.length > (/^m\.?$/iu.test(words[0]!) ? 2 : 1) && isTitle(words[0]!)) words.shift();
  while (words.length > 2 && degrees.test(words.at(-1)!)) words.pop();
  return words;
}

function withoutGeneration(words: readonly string[]): { words: string[]; generation: string } {
  const last = words.at(-1) ?? '';
  return words.length > 1 && generations.test(bare(last))
    ? { words: words.slice(0, -1), generation: last }
    : { words: [...words], generation: '' };
}
