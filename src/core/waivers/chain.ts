/** One link of the chain that signatures are kept in, in the order they came. Nothing of it says who signed. */
export interface ChainLink {
  /** From 1, without a gap. */
  number: number;
  signatureId: string;
  /** SHA-256 of the text as signed. */
  sha256: string;
  /** SHA-256 of the answers with their salt; empty where nothing was answered. */
  answersSha256: string;
  /** The hash of the link before; of the first, zeros. */
  before: string;
  hash: string;
}

/** What comes before the first link. */
export const firstBefore = '0'.repeat(64);

/** What is hashed of a link. */
export const linkText = (link: Omit<ChainLink, 'hash'>): string =>
  [link.before, link.number, link.signatureId, link.sha256, link.answersSha256].join('\n');

/** What is found where a chain does not hold. */
export type Break =
  | { what: 'link gone'; number: number }
  | { what: 'link changed'; number: number }
  | { what: 'text changed'; number: number; signatureId: string }
  | { what: 'signature gone'; number: number; signatureId: string }
  /** A signature stands there that never came into the chain, or whose link was cut off its end. */
  | { what: 'not linked'; number: number; signatureId: string };

/**
 * Where a chain of signatures does not hold, in order: a link that is missing or says something else, a text that is not what was signed,
 * a signature that is not there any more. `texts` are the texts as they are kept, by signature: null where one was erased on purpose.
 */
export function findBreaks(
  links: readonly ChainLink[],
  texts: ReadonlyMap<string, string | null>,
  hashOf: (text: string) => string,
): Break[] {
  const breaks: Break[] = [];
  let before = firstBefore;
  let expected = 1;
  for (const link of links) {
    const gap = link.number !== expected;
    for (; expected < link.number; expected += 1) breaks.push({ what: 'link gone', number: expected });
    // After a gap there is nothing to hold `before` against; what the link says of itself still is.
    if ((!gap && link.before !== before) || hashOf(linkText(link)) !== link.hash)
      breaks.push({ what: 'link changed', number: link.number });
    const text = texts.get(link.signatureId);
    if (text === undefined)
      breaks.push({ what: 'signature gone', number: link.number, signatureId: link.signatureId });
    else if (text !== null && hashOf(text) !== link.sha256)
      breaks.push({ what: 'text changed', number: link.number, signatureId: link.signatureId });
    before = link.hash;
    expected = link.number + 1;
  }
  const linked = new Set(links.map((l) => l.signatureId));
  for (const signatureId of texts.keys())
    if (!linked.has(signatureId)) breaks.push({ what: 'not linked', number: expected, signatureId });
  return breaks;
}
