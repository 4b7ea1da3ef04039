/**
 * The Jaro–Winkler likeness of two strings, 0 to 1 (W. E. Winkler, "String Comparator Metrics and Enhanced Decision
 * Rules in the Fellegi–Sunter Model of Record Linkage", 1990): Jaro's likeness, raised for up to four equal first
 * letters by a tenth of what is missing.
 */
export function jaroWinkler(a: string, b: string): number {
  if (a === b) return 1;
  const reach = Math.max(0, Math.floor(Math.max(a.length, b.length) / 2) - 1);
  const takenB = new Uint8Array(b.length);
  const matchedA: string[] = [];
  for (let i = 0; i < a.length; i += 1)
    for (let j = Math.max(0, i - reach); j <= Math.min(b.length - 1, i + reach); j += 1)
      if (!takenB[j] && a[i] === b[j]) {
        takenB[j] = 1;
        matchedA.push(a[i]!);
        break;
      }
  const common = matchedA.length;
  if (common === 0) return 0;
  let at = 0;
  let outOfPlace = 0;
  for (let j = 0; j < b.length; j += 1)
    if (takenB[j]) {
      if (b[j] !== matchedA[at]) outOfPlace += 1;
      at += 1;
    }
  const jaro = (common / a.length + common / b.length + (common - outOfPlace / 2) / common) / 3;
  let lead = 0;
  while (lead < 4 && lead < a.length && a[lead] === b[lead]) lead += 1;
  return jaro + lead * 0.1 * (1 - jaro);
}

/**
 * How many slips of the hand lie between two strings: letters put in, left out, exchanged, or two neighbours swapped
 * (optimal string alignment). Anything above `most` is answered as `most + 1`.
 */
export function slips(a: string, b: string, most: number): number {
  if (a === b) return 0;
  if (Math.abs(a.length - b.length) > most) return most + 1;
  let before: number[] = [];
  let last = Array.from({ length: b.length + 1 }, (_, j) => j);
  for (let i = 1; i <= a.length; i += 1) {
    const row = [i];
    let least = i;
    for (let j = 1; j <= b.length; j += 1) {
      let n = Math.min(last[j]! + 1, row[j - 1]! + 1, last[j - 1]! + (a[i - 1] === b[j - 1] ? 0 : 1));
      if (i > 1 && j > 1 && a[i - 1] === b[j - 2] && a[i - 2] === b[j - 1])
        n = Math.min(n, before[j - 2]! + 1);
      row.push(n);
      least = Math.min(least, n);
    }
    if (least > most) return most + 1;
    before = last;
    last = row;
  }
  return Math.min(last[b.length]!, most + 1);
}

/** True when two folded names are likely one, mistyped: close by Jaro–Winkler and at most two slips apart. */
export function mistyped(a: string, b: string): boolean {
  if (Math.abs(a.length - b.length) > 2) return false;
  // Few names make many pairs: what was worked out is kept for a while.
  const pair = `${a} ${b}`;
  const before = workedOut.get(pair);
  if (before !== undefined) return before;
  if (workedOut.size > 200_000) workedOut.clear();
  const result = isMistyped(a, b);
  workedOut.set(pair, result);
  return result;
}
const workedOut = new Map<string, boolean>();

function isMistyped(a: string, b: string): boolean {
  const shorter = Math.min(a.length, b.length);
  if (shorter < 3) return false;
  const allowed = shorter >= 7 ? 2 : 1;
  return slips(a, b, allowed) <= allowed && (shorter < 5 || jaroWinkler(a, b) >= 0.85);
}

/**
 * What is left of a name when vowels, doubled letters and the order of what follows the first letter are ignored.
 * Names mistyped in the usual ways keep it: "Nkaashima" and "Nakashima", "Niahm" and "Niamh".
 */
export function skeleton(folded: string): string {
  const letters = folded.replace(/[^\p{L}]/gu, '');
  if (!letters) return '';
  const rest = [...new Set(letters.slice(1).replace(/[aeiouy]/gu, ''))].filter((c) => c !== letters[0]);
  return letters[0]! + rest.sort().join('');
}
