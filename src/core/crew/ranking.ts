import type { Against } from './against.ts';

/** Somebody who could be put on a shift, with what decides who comes before whom. */
export interface Able {
  name: string;
  against: readonly Against[];
  /** How often they served in this role. */
  servedInRole: number;
  /** Hours they have at this event already. */
  hoursHere: number;
  /** How much they want this role, from 1 to 3; 0 where they did not say so. */
  wish: number;
}

/** Hours that count alike: who has four more than another comes after them, whatever they did before. */
const loadStep = 4;

/** Whoever nothing speaks against comes first, then whom a reason would do for, last whom nobody may put on. */
const standing = ({ against }: Able): number =>
  against.some((a) => a.absolute) ? 2 : against.length > 0 ? 1 : 0;

/**
 * Who comes before whom for a shift: first by what speaks against them, then whoever has less to do at this event, so that not the
 * same few do everything, then whoever wants the role most, then whoever knows it, then by name.
 */
export function compareAble(a: Able, b: Able): number {
  return (
    standing(a) - standing(b) ||
    a.against.length - b.against.length ||
    Math.floor(a.hoursHere / loadStep) - Math.floor(b.hoursHere / loadStep) ||
    b.wish - a.wish ||
    b.servedInRole - a.servedInRole ||
    a.hoursHere - b.hoursHere ||
    (a.name < b.name ? -1 : a.name > b.name ? 1 : 0)
  );
}
