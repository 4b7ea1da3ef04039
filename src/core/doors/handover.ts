/** Digits and letters that cannot be taken for one another, without vowels: no code is a word. */
const alphabet = '23456789BCDFGHJKMNPQRSTVWXZ';

/** How many characters a code has by which children are handed over. */
const length = 5;

/**
 * The code by which the children of a booking are handed over, from a hash that only the server can make (hexadecimal, at least 16 digits): 14 million of them,
 * tried by somebody who stands before you.
 */
export function handoverCode(hash: string): string {
  let rest = BigInt(`0x${hash.slice(0, 16)}`);
  let code = '';
  for (let n = 0; n < length; n += 1) {
    code += alphabet[Number(rest % BigInt(alphabet.length))]!;
    rest /= BigInt(alphabet.length);
  }
  return code;
}

/** A code as it is compared: without spaces and signs, in capitals, without letters that are taken for digits. */
const plain = (typed: string): string => typed.toUpperCase().replaceAll(/[^0-9A-Z]/gu, '');

/** True where what was typed is the code. */
export const isHandoverCode = (typed: string, code: string): boolean => plain(typed) === code;

/** The shortest words that say to whom a child was handed over without a code: a name. */
export const shortestHanded = 3;
