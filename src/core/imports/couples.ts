import { fold, isTitle, splitName, withoutTitles } from '#core/contacts/names.ts';
import { isKnownGiven } from '#core/contacts/nicknames.ts';

const ofAnOrganization =
  /\b(?:ltd|inc|llc|limited|sons|daughters|bros|brothers|sisters|company|society|trust|club|associates|partners|foundation|church|school|committee|centre|center|services|shop|books|farm|fils)\b/iu;
const somebody =
  /^(?:(?:a |one |1 |the )?(?:guests?|famil(?:y|ies)|friends?|partner|husband|wife|spouse|kids|children|others?)|\d+|one|two|tba|tbc|\?+)$/iu;

/** Who is named in one cell. */
export interface NamedInCell {
  /** Whole names, usually one: "Thad Hollis", "Hollis, Marie". */
  names: string[];
  /** What stood beside the name and is none: "(board)", "+1". */
  rest: string[];
}

/**
 * Reads who is named in one cell: "Thad & Marie Hollis", "Hollis, Thad and Marie" and "Thad Hollis / Marie Côté" name
 * two people; "Mr. and Mrs. John Vetch" gives the name of one only. A guest without a name and words in brackets behind
 * the name are no part of it. The names of companies are left as they are.
 */
export function namesInCell(cell: string): NamedInCell {
  const rest: string[] = [];
  const text = cell
    .normalize('NFC')
    .replace(/\s+/gu, ' ')
    .replace(/(?:\s*\([^()]*\)|\s*\[[^[\]]*\]|\s*\+\s*(?:\d+|guests?|one))$/giu, (behind) => {
      rest.push(behind.trim());
      return '';
    })
    .trim();
  if (ofAnOrganization.test(text) || /\bc\/o\b/iu.test(text)) return { names: [text].filter(Boolean), rest };
  const parted = text.split(/\s+(?:&|and|et|\+|und)\s+|\s*[&;]\s*/iu);
  const sides = parted.length > 1 ? parted : slashed(text);
  const [left = '', right = ''] = sides;
  const alone = { names: [text].filter(Boolean), rest };
  if (sides.length < 2 || !/\p{L}/u.test(left) || !/[\p{L}\d]/u.test(right)) return alone;
  if (sides.length > 2) return { names: sides, rest };
  if (somebody.test(right)) return { names: [left], rest: [...rest, right] };
  const leftWords = withoutTitles(left);
  const rightWords = withoutTitles(right);
  // "Mr. and Mrs. John Vetch".
  if (leftWords.length === 1 && isTitle(left)) return { names: [right], rest: [...rest, left] };
  const comma = left.indexOf(',');
  if (comma > 0) {
    const before = left.slice(0, comma);
    if (right.includes(',')) return { names: [left, right], rest };
    // "Anne, Bob and Carl Hollis" is a list, "Hollis, Thad & Mary Jane" is not.
    if (rightWords.length > 1 && isKnownGiven(fold(before)))
      return { names: [...left.split(/\s*,\s*/u), right], rest };
    return { names: [left, `${before}, ${right}`], rest };
  }
  const lend = (from: string, given: string) => `${splitName(from).family}, ${given}`;
  if (leftWords.length === 1 && rightWords.length > 1)
    return { names: [lend(right, leftWords[0]!), right], rest };
  if (leftWords.length > 1 && rightWords.length === 1)
    return { names: [left, lend(left, rightWords[0]!)], rest };
  return { names: [left, right], rest };
}

/** "Thad Hollis / Marie Côté" names two, "Hollis/Vetch" one. */
const slashed = (text: string): string[] => {
  const sides = text.split(/\s*\/\s*/u);
  return sides.some((s) => s.includes(' ')) ? sides : [text];
};
