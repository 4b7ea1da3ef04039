import fc from 'fast-check';
import { expect, test } from 'vitest';
import { readDate } from '#core/imports/cells.ts';
import { writeCalendar } from './calendar.ts';
import { readTable, TableProblem } from './table.ts';
import { writeVCards } from './writeVCard.ts';

// What takes time in the square of the length would take minutes here, and run into the limit of the test.
const seconds = (n: number): number => n * 1000;

/** Reads a file; what cannot be read is refused in words. */
function read(content: string | Uint8Array): unknown {
  try {
    return readTable(typeof content === 'string' ? Buffer.from(content) : content);
  } catch (error) {
    if (error instanceof TableProblem) return error;
    throw error;
  }
}

test('files built to be slow are read in time', { timeout: seconds(20) }, () => {
  const card = (lines: string) => `BEGIN:VCARD\r\nVERSION:4.0\r\n${lines}\r\nFN:Mai Oakes\r\nEND:VCARD\r\n`;
  const files: Record<string, string> = {
    'many parameters': card(`TEL${';TYPE=cell'.repeat(200_000)}:1`),
    'many parameters with quotes': card(`TEL${';X="a;b:c"'.repeat(100_000)}:1`),
    'many folds': card(`NOTE:a${'\r\n b'.repeat(300_000)}`),
    'many semicolons': card(`N:${';'.repeat(200_000)}`),
    'many backslashes': card(`NOTE:${'\\'.repeat(400_000)}`),
    'cards within cards': 'BEGIN:VCARD\r\n'.repeat(50_000),
    'a quote that never ends': `a,b\n"${'x,"",'.repeat(200_000)}`,
    'one long line': 'a,'.repeat(300_000),
    'long cells': `Name,Phone,Birthday\n${`${'9 '.repeat(9_000)},${'('.repeat(19_000)},${' 1/'.repeat(6_000)}\n`.repeat(20)}`,
    'blank lines': `a,b\n${'\n'.repeat(500_000)}`,
  };
  for (const [what, content] of Object.entries(files)) expect(() => read(content), what).not.toThrow();
});

test('long cells are read as dates in time', { timeout: seconds(10) }, () => {
  for (const cell of [
    '1/'.repeat(100_000),
    `${' '.repeat(200_000)}x`,
    'monday '.repeat(30_000),
    `T1:11${'1'.repeat(200_000)}`,
  ])
    readDate(cell, 'day first');
});

test('any bytes are a table, an address book, or refused in words', () => {
  fc.assert(
    fc.property(fc.uint8Array({ maxLength: 400 }), (bytes) => {
      read(bytes);
    }),
    { numRuns: 500 },
  );
  const grain = fc.constantFrom(
    'BEGIN:VCARD\r\n',
    'END:VCARD\r\n',
    'VERSION:3.0\r\n',
    'FN:',
    'N:a;b',
    'EMAIL;TYPE="',
    ';',
    ':',
    '"',
    '\\',
    '\r',
    '\n',
    ' ',
    '\u0000',
    '=41',
    'ENCODING=QUOTED-PRINTABLE',
    'CHARSET=utf-8',
    ',',
    '\t',
    '\ufeff',
    'é',
    'item1.',
    'BDAY:19850203',
    'x@fenmail.example',
  );
  fc.assert(
    fc.property(fc.array(grain, { maxLength: 80 }), (grains) => {
      read(grains.join(''));
    }),
    { numRuns: 1500 },
  );
});

test('no text can begin a line of its own in a calendar or an address book', () => {
  const nasty = fc.array(
    fc.constantFrom('a', '\r', '\n', '\r\n', '\u2028', '\u0085', ';', ',', '\\', 'ATTENDEE:x'),
    {
      maxLength: 12,
    },
  );
  const names = (written: string) =>
    // Unfolded, every line has a name of ours.
    written
      .replace(/\r\n[ \t]/gu, '')
      .split(/\r\n|\r|\n/u)
      .filter(Boolean)
      .map((line) => line.split(/[:;]/u)[0]!);
  const known = new Set(
    'BEGIN END VERSION PRODID CALSCALE NAME UID DTSTAMP SEQUENCE DTSTART DTEND SUMMARY DESCRIPTION LOCATION URL STATUS FN N EMAIL TEL ADR BDAY ORG REV CATEGORIES NOTE KIND LANG'.split(
      ' ',
    ),
  );
  fc.assert(
    fc.property(nasty, (parts) => {
      const text = parts.join('');
      const calendar = writeCalendar(
        text,
        [
          {
            uid: 'x@acolyte',
            summary: text,
            description: text,
            location: text,
            startsAt: '2026-08-08T12:00:00.000Z',
            endsAt: null,
            zone: 'UTC',
            url: 'https://acolyte.example/e/x',
            sequence: 1,
            cancelled: false,
          },
        ],
        '2026-07-09T12:20:00.000Z',
      );
      for (const name of names(calendar)) expect(known).toContain(name);
      const cards = writeVCards(
        [
          {
            given: text,
            family: text,
            emails: [text],
            phones: [],
            kinds: {},
            street: text,
            postalCode: text,
            birthDate: null,
            organization: text,
            tags: [text],
            notes: [text],
          } as never,
        ],
        '2026-07-09T12:20:00.000Z',
      );
      for (const name of names(cards)) expect(known).toContain(name);
    }),
    { numRuns: 500 },
  );
});
