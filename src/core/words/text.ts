import type { Wrong } from './problems.ts';

/** Fields in which people write several lines; every other text is one line. */
const severalLines = new Set([
  'about',
  'addressLines',
  'accessNotes',
  'answers',
  'body',
  'cells',
  'clauses',
  'content',
  'description',
  'despite',
  'notes',
  'overrideReason',
  'reason',
  'text',
  'thanks',
  'why',
  'words',
]);

// Controls, and the line and paragraph separators of Unicode.
const controls = /[\p{Cc}\u2028\u2029]/u;
const controlsInLines = /(?![\n\r\t\u0085])\p{Cc}/u;
const loneSurrogate = /\p{Cs}/u;

/**
 * Looks through a value as it came from outside: control characters and lone surrogates are nowhere, line ends and tabs
 * only where people write several lines. Answers at most 20 problems.
 */
export function textProblems(value: unknown): Wrong[] {
  const problems: Wrong[] = [];
  const look = (v: unknown, path: string, lines: boolean): void => {
    if (problems.length >= 20) return;
    if (typeof v === 'string') {
      if (loneSurrogate.test(v)) problems.push({ path, code: 'half-a-character' });
      else if ((lines ? controlsInLines : controls).test(v))
        problems.push({
          path,
          code: /[\n\r\t]/u.test(v) ? 'one-line-only' : 'unprintable',
        });
    } else if (Array.isArray(v)) for (const [at, x] of v.entries()) look(x, join(path, String(at)), lines);
    else if (v && typeof v === 'object')
      for (const [key, x] of Object.entries(v)) {
        if (loneSurrogate.test(key) || controls.test(key)) problems.push({ path, code: 'unprintable-name' });
        else look(x, join(path, key), lines || severalLines.has(key));
      }
  };
  look(value, '', false);
  return problems;
}

const join = (path: string, step: string): string => (path ? `${path}.${step}` : step);

/** Text as one line: whatever ends or parts lines becomes a space. For headers, where a line end would begin another. */
export const oneLine = (text: string): string => text.replace(/[\p{Cc}\u2028\u2029]+/gu, ' ').trim();

/** The lines of a text that say something, without blanks around them. */
export const linesIn = (text: string): string[] =>
  text
    .split('\n')
    .map((line) => line.trim())
    .filter(Boolean);
