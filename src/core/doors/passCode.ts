/** Letters and digits that cannot be taken for one another (Crockford's base 32). */
const alphabet = '0123456789ABCDEFGHJKMNPQRSTVWXYZ';

/** Characters of a code before its check character: 60 bits, not to be guessed. */
const length = 12;

/** Hexadecimal digits of the SHA-256 of a code by which a device knows it again. */
export const passHashLength = 24;

/** Makes a pass code from random bytes (at least 12), with a check character that finds a mistyped one. */
export function passCode(random: Uint8Array): string {
  const body = Array.from(random.subarray(0, length), (b) => alphabet[b % 32]!).join('');
  return body + checkOf(body);
}

/** How a code is printed: "7QK3-M2XA-91ZT-C". */
export const sayPassCode = (code: string): string => code.match(/.{1,4}/gu)!.join('-');

/** Reads what was scanned or typed: a bare code, a printed one, or a link that ends in it. Null when it is no pass code. */
export function readPassCode(text: string): string | null {
  const tail =
    text
      .trim()
      .split(/[/?#=]/u)
      .at(-1) ?? '';
  const code = tail.toUpperCase().replace(/[\s-]/gu, '').replaceAll('O', '0').replace(/[IL]/gu, '1');
  if (code.length !== length + 1 || [...code].some((c) => !alphabet.includes(c))) return null;
  return checkOf(code.slice(0, length)) === code[length] ? code : null;
}

/**
 * Whether what was typed at the door and ended with Enter is a pass rather than a name. One code in 130 has no digit, so a
 * digit alone does not tell.
 * @param found how many people the words find by name
 */
export const isPass = (text: string, found: number): boolean =>
  found === 0 && (/\d/u.test(text) || readPassCode(text) !== null);

/** Weighted sum modulo 31 (prime), so that one wrong character or two swapped neighbours are found. */
function checkOf(body: string): string {
  const sum = [...body].reduce((total, c, at) => total + alphabet.indexOf(c) * (at + 1), 0);
  return alphabet[sum % 31]!;
}
