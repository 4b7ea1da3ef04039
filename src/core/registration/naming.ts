import { slips } from '#core/contacts/likeness.ts';
import { fold, fullName, type PersonName } from '#core/contacts/names.ts';

export interface Named extends PersonName {
  birthDate: string | null;
}

/** Slips that still make a correction, in both parts of a name together. */
const mostSlips = 2;

/**
 * True when a name put in the place of another is the same person, spelled right: at most two slips of the hand apart
 * ("Tova" and "Tove"), or one of them is what the other begins with ("Will", "William"), and no birth date speaks
 * against it. Twins are told apart by what was there: another first letter is another person.
 */
export function isCorrection(before: Named, after: Named): boolean {
  if (before.birthDate && after.birthDate && before.birthDate !== after.birthDate) return false;
  const [a, b] = [fold(fullName(before)), fold(fullName(after))];
  if (!a || !b) return false;
  if (a === b) return true;
  const [givenA, givenB] = [fold(before.given), fold(after.given)];
  const [familyA, familyB] = [fold(before.family), fold(after.family)];
  if (givenA[0] !== givenB[0]) return false;
  const lengthened =
    givenA.length >= 3 && givenB.length >= 3 && (givenA.startsWith(givenB) || givenB.startsWith(givenA));
  const given = lengthened ? 0 : slips(givenA, givenB, mostSlips);
  // A name of three letters is another name after two slips.
  if (!lengthened && given > 1 && Math.min(givenA.length, givenB.length) < 5) return false;
  return given + slips(familyA, familyB, mostSlips) <= mostSlips;
}
