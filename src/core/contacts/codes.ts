/** How a person signs in without a password, and how often it may be tried. */
export const codeLimits = {
  /** Minutes a code or its link works. */
  minutes: 15,
  /** Wrong codes after which it works no more. */
  tries: 5,
  /** How many are sent to one address in that time. */
  sent: 3,
  /** Days somebody stays signed in. */
  days: 30,
} as const;

/** Six digits of a keyed digest, as people type them: "042 917". The digest has to be unguessable without its key. */
export const codeOf = (digest: Uint8Array): string => {
  // 48 bits over a million leave a bias of less than one in a hundred million.
  const number = digest.slice(0, 6).reduce((sum, byte) => sum * 256 + byte, 0);
  return String(number % 1_000_000).padStart(6, '0');
};

/** A code as it was typed: blanks and dashes are let go. */
export const readCode = (typed: string): string => typed.replace(/[\s-]/gu, '');

/** A code as it is written to somebody. */
export const sayCode = (code: string): string => `${code.slice(0, 3)} ${code.slice(3)}`;
