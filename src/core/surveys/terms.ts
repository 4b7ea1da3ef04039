/** Words that say nothing of what an answer is about, in English and French. */
const empty = new Set(
  `a about after again all also am an and any are as at be because been before being but by can could did do does don't for from get got
  had has have having he her here him his how i i'd i'm i've if in into is it it's its just like lot made make me more most much my no nor
  not of off on once one only or other our out over really s she should so some such t than that that's the their them then there these
  they this those through to too under until up us very was we were what when where which while who why will with would you your
  au aux avec ce ces cette c'est d'un d'une dans de des du elle elles en est et eu il ils j'ai je la le les leur leurs lui ma mais me même
  mes moi mon n'a ne nos notre nous on ont ou où par pas plus pour que qu'il qui sa sans se ses si son sont sur ta te tes toi ton tous tout
  toute très tu un une vos votre vous y a été était bien fait faire comme plus aussi please thank thanks merci nothing rien none`.split(
    /\s+/u,
  ),
);

const words = new Intl.Segmenter('en', { granularity: 'word' });

/** What a word is counted under: without the endings that English and French put on a noun in the plural. */
const stemOf = (word: string): string =>
  word.length > 4 && word.endsWith('ies')
    ? `${word.slice(0, -3)}y`
    : word.length > 3 && /[^su]s$/u.test(word)
      ? word.slice(0, -1)
      : word;

/** The words of an answer that say something, each once, by what they are counted under. */
export function termsIn(text: string): Map<string, string> {
  const found = new Map<string, string>();
  for (const { segment, isWordLike } of words.segment(text.toLocaleLowerCase('en').replaceAll('’', "'"))) {
    if (!isWordLike || segment.length < 3 || empty.has(segment) || /^\d+$/u.test(segment)) continue;
    const bare = segment.replace(/^[dlnsjmtqc]'/u, '');
    const stem = stemOf(bare);
    if (!empty.has(bare) && stem.length > 2 && !found.has(stem)) found.set(stem, bare);
  }
  return found;
}

/** Answers that speak of one thing. */
export interface TermGroup {
  /** The word as it is said most often. */
  term: string;
  /** How many answers have it. */
  count: number;
  /** The answer that says most of what the others say too. */
  example: string;
  /** Which answers, by their place. */
  of: number[];
}

/** How many groups are made. */
const mostGroups = 8;

/**
 * Groups answers by the words they have in common: a word weighs by how many answers have it times the logarithm of how many there are
 * for each that has it (term frequency and inverse document frequency, K. Spärck Jones, Journal of Documentation 28, 1972). The
 * heaviest word takes its answers, then the next heaviest of those left, as long as two share one.
 */
export function groupByTerms(texts: readonly string[]): { groups: TermGroup[]; rest: number[] } {
  const found = texts.map(termsIn);
  const spoken = new Map<string, Map<string, number>>();
  for (const terms of found)
    for (const [stem, word] of terms) {
      const forms = spoken.get(stem) ?? new Map<string, number>();
      forms.set(word, (forms.get(word) ?? 0) + 1);
      spoken.set(stem, forms);
    }
  const having = (stem: string, among: readonly number[]) => among.filter((at) => found[at]!.has(stem));
  const all = texts.map((_, at) => at);
  const weight = new Map<string, number>();
  for (const stem of spoken.keys()) {
    const n = having(stem, all).length;
    // One more than there are, so that what everybody says still weighs something.
    if (n > 1) weight.set(stem, n * Math.log((texts.length + 1) / n));
  }
  const groups: TermGroup[] = [];
  let left = all;
  while (groups.length < mostGroups) {
    let best: { stem: string; of: number[]; heavy: number } | null = null;
    for (const [stem] of weight) {
      const of = having(stem, left);
      const heavy = of.length * Math.log((texts.length + 1) / having(stem, all).length);
      if (of.length > 1 && (!best || heavy > best.heavy || (heavy === best.heavy && stem < best.stem)))
        best = { stem, of, heavy };
    }
    if (!best) break;
    const { stem, of } = best;
    const says = (at: number) =>
      [...found[at]!.keys()].reduce((sum, term) => sum + (weight.get(term) ?? 0), 0);
    const example = [...of].sort(
      (a, b) => says(b) - says(a) || texts[a]!.length - texts[b]!.length || a - b,
    )[0]!;
    const [term] = [...spoken.get(stem)!].sort((a, b) => b[1] - a[1] || a[0].localeCompare(b[0]))[0]!;
    groups.push({ term, count: of.length, example: texts[example]!, of });
    left = left.filter((at) => !of.includes(at));
  }
  return { groups, rest: left };
}
