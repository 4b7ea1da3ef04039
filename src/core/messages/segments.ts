/** Characters of the alphabet that telephones have in common, and those that take two places in it (3GPP TS 23.038, 6.2.1). */
const basic =
  '@£$¥èéùìòÇ\nØø\rÅåΔ_ΦΓΛΩΠΨΣΘΞÆæßÉ !"#¤%&\'()*+,-./0123456789:;<=>?¡ABCDEFGHIJKLMNOPQRSTUVWXYZÄÖÑÜ§¿abcdefghijklmnopqrstuvwxyzäöñüà';
const twice = '^{}\\[~]|€\f';
const [once, two] = [new Set(basic), new Set(twice)];

/** Places in one message alone, and in each part of several: the rest says which part it is (3GPP TS 23.040, 9.2.3.24.1). */
const places = { gsm: { alone: 160, part: 153 }, unicode: { alone: 70, part: 67 } } as const;

/** Typographic characters and what stands for them in the common alphabet: one of them alone would double what a message takes. */
const plainer: Readonly<Record<string, string>> = {
  '\u00a0': ' ',
  '\u202f': ' ',
  '\u2009': ' ',
  '\u2019': "'",
  '\u2018': "'",
  '\u201c': '"',
  '\u201d': '"',
  '\u00ab': '"',
  '\u00bb': '"',
  '\u2013': '-',
  '\u2014': '-',
  '\u2011': '-',
  '\u2026': '...',
};
const typographic = new RegExp(`[${Object.keys(plainer).join('')}]`, 'gu');

/** A text as it is sent as a text message: typographic spaces, quotes and dashes as a typewriter has them. */
export const asTexted = (text: string): string => text.replace(typographic, (c) => plainer[c]!);

/** What a text message takes. */
export interface Segments {
  /** The common alphabet, or Unicode as soon as one character is not in it. */
  alphabet: 'gsm' | 'unicode';
  /** How many messages it is sent and paid as. */
  count: number;
  /** Places that are left in the last of them. */
  left: number;
  /** The first characters that are not in the common alphabet, each once, at most five. */
  others: string[];
}

/** Counts what a text message takes, as it is sent. A character that takes two places is never cut in two. */
export function segmentsOf(text: string): Segments {
  const characters = [...asTexted(text)];
  const others = [...new Set(characters.filter((c) => !once.has(c) && !two.has(c)))];
  const alphabet = others.length ? 'unicode' : 'gsm';
  const sizes = characters.map((c) => (alphabet === 'unicode' ? c.length : two.has(c) ? 2 : 1));
  const { alone, part } = places[alphabet];
  const all = sizes.reduce<number>((n, size) => n + size, 0);
  if (all <= alone) return { alphabet, count: all ? 1 : 0, left: alone - all, others: others.slice(0, 5) };
  let [count, used] = [1, 0];
  for (const size of sizes) {
    if (used + size > part) [count, used] = [count + 1, 0];
    used += size;
  }
  return { alphabet, count, left: part - used, others: others.slice(0, 5) };
}
