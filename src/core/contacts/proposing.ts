import { type Texts, textKeys } from './attributes.ts';

/** Fields that staff keep and a person may ask to have changed. */
export const proposable = ['given', 'family', 'birthDate', 'street', 'postalCode'] as const;
export type ProposableField = (typeof proposable)[number];
/** What a person may ask to have changed of a membership; staff always decide it. */
export const membershipWishes = ['level', 'endsOn'] as const;
export type MembershipWish = (typeof membershipWishes)[number];
/** What somebody from outside may say of a person we know; staff decide whether it is so. */
export const outsideFields = ['email', 'phone', 'guardian', 'language', ...textKeys, 'custom'] as const;
export type OutsideField = (typeof outsideFields)[number];
/** Fields on which the person's own word counts at once. */
const ownSay = ['language', ...textKeys] as const;

export type OwnDetails = Record<ProposableField, string | null> & Texts & { language: string };

export interface Wish {
  field: ProposableField;
  before: string;
  after: string | null;
}

/**
 * Sorts what a person changed of their details: blanks are filled and their own matters change at once; what would
 * overwrite something staff have is put up for a decision. What is said again changes nothing.
 */
export function sortWishes(
  current: OwnDetails,
  wished: Partial<OwnDetails>,
): { direct: Partial<OwnDetails>; proposed: Wish[] } {
  const direct: Partial<Record<keyof OwnDetails, string | null>> = {};
  const proposed: Wish[] = [];
  const clean = (v: string | null | undefined): string | null => v?.trim() || null;
  for (const field of ownSay) {
    const after = clean(wished[field]);
    if (wished[field] === undefined || after === clean(current[field])) continue;
    if (field === 'language' && !after) continue;
    direct[field] = after;
  }
  for (const field of proposable) {
    if (wished[field] === undefined) continue;
    const [before, after] = [clean(current[field]), clean(wished[field])];
    if (before === after) continue;
    if (!before) direct[field] = after;
    else proposed.push({ field, before, after });
  }
  return { direct: direct as Partial<OwnDetails>, proposed };
}
