/** A person's name as they write it. Either part may be empty, not both. */
export interface PersonName {
  given: string;
  family: string;
}

/**
 * Folds text for comparing: lower case, without accents, apostrophes and hyphens, white space as one blank.
 * "Ó Hára-Peña" and "o hara pena" fold alike.
 */
export function fold(text: string): string {
  return text
    .normalize('NFKD')
    .replace(/\p{M}/gu, '')
    .toLowerCase()
    .replaceAll('ø', 'o')
    .replaceAll('ł', 'l')
    .replaceAll('æ', 'ae')
    .replaceAll('ß', 'ss')
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

const particles = new Set([
  'de',
  'la',
  'du',
  'des',
  'van',
  'von',
  'der',
  'den',
  'di',
  'da',
  'le',
  'al',
  'el',
  'ben',
]);
const titles = new Set(['mr', 'mrs', 'ms', 'mx', 'miss', 'dr', 'prof', 'rev', 'mme', 'mlle', 'm']);

/**
 * Splits a whole name in either order ("Hollis, Thad" or "Dr Frances de la Cruz"), leaving titles out and keeping
 * particles with the family name.
 */
export function splitName(whole: string): PersonName {
  const clean = whole.normalize('NFC').replace(/\s+/gu, ' ').trim();
  const comma = clean.indexOf(',');
  if (comma > 0)
    return { family: tidyName(clean.slice(0, comma)), given: tidyName(withoutTitle(clean.slice(comma + 1))) };
  const words = withoutTitle(clean).split(' ').filter(Boolean);
  if (words.length < 2) return { given: tidyName(words[0] ?? ''), family: '' };
  let at = words.length - 1;
  while (at > 1 && particles.has(words[at - 1]!.toLowerCase())) at -= 1;
  return { given: tidyName(words.slice(0, at).join(' ')), family: tidyName(words.slice(at).join(' ')) };
}

function withoutTitle(text: string): string {
  const words = text.trim().split(' ');
  return words.length > 1 && titles.has(words[0]!.toLowerCase().replace('.', ''))
    ? words.slice(1).join(' ')
    : text.trim();
}

/** How two given names stand to each other. */
export type GivenAgreement = 'same' | 'initial' | 'unknown' | 'different';

/** Compares given names: equal when folded alike, an initial agrees with any name it starts. */
export function compareGiven(a: string, b: string): GivenAgreement {
  const [x, y] = [fold(a).replace('.', ''), fold(b).replace('.', '')];
  if (!x || !y) return 'unknown';
  if (x === y) return 'same';
  if ((x.length === 1 && y.startsWith(x)) || (y.length === 1 && x.startsWith(y))) return 'initial';
  return 'different';
}
