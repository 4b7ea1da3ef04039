import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { writeCsv } from './csv.ts';
import { readTable } from './table.ts';
import { vCardHeadings } from './vcard.ts';
import { type Card, writeVCards } from './writeVCard.ts';

const bytes = (text: string) => new TextEncoder().encode(text);
/** Words with what makes trouble in files: separators, quotes, backslashes, accents, letters of two units. */
const word = fc
  .array(
    fc.constantFrom(
      'Mai',
      'Ó Dálaigh',
      ',',
      ';',
      '"',
      '\\',
      ':',
      'é',
      '𝒜',
      '-',
      '’',
      'n',
      '\\n',
      '=',
      'straße',
    ),
    {
      minLength: 1,
      maxLength: 12,
    },
  )
  .map((parts) => parts.join(' ').replace(/\s+/gu, ' ').trim());

describe('an address book', () => {
  const anyCard: fc.Arbitrary<Card> = fc.record({
    uid: fc.uuid(),
    kind: fc.constantFrom('person', 'organization'),
    kinds: fc.dictionary(
      fc.constantFrom('a@fen.example', '+19025550111'),
      fc.constantFrom('home', 'work', 'other'),
    ),
    given: word,
    family: word,
    emails: fc.uniqueArray(fc.constantFrom('a@fen.example', 'b.c@fen.example'), { maxLength: 2 }),
    phones: fc.uniqueArray(fc.constantFrom('+19025550111', '+442079460000'), { maxLength: 2 }),
    street: fc.option(word),
    postalCode: fc.option(fc.constantFrom('B1A 2C3', '90210')),
    birthDate: fc.option(fc.constantFrom('1970-02-28', '2016-02-29')),
    language: fc.constantFrom('en', 'fr'),
    tags: fc.array(fc.constantFrom('crew', 'bees'), { maxLength: 2 }),
    notes: fc.array(word, { maxLength: 2 }),
    organization: fc.option(word),
  });
  // An organization has one name, and works for nobody.
  const card = anyCard.map((c) => (c.kind === 'organization' ? { ...c, given: '', organization: null } : c));
  const withPurpose = (c: Card, value: string) =>
    ['home', 'work'].includes(c.kinds[value] ?? '') ? `${value} (${c.kinds[value]})` : value;
  const column = (name: (typeof vCardHeadings)[number]) => vCardHeadings.indexOf(name);

  test('is read back as it was written, whatever stands in it', () => {
    fc.assert(
      fc.property(fc.array(card, { minLength: 1, maxLength: 4 }), (cards) => {
        const text = writeVCards(cards, '2026-07-09T12:20:00.000Z');
        const { rows } = readTable(bytes(text));
        expect(rows).toHaveLength(cards.length);
        rows.forEach(({ cells }, at) => {
          const c = cards[at]!;
          const flat = (t: string) => t.replace(/\s+/gu, ' ').trim();
          expect(cells[column('Contact id')]).toBe(c.uid);
          expect(flat(cells[column('Given name')]!)).toBe(flat(c.given));
          expect(flat(cells[column('Family name')]!)).toBe(flat(c.family));
          expect(cells[column('Email')]).toBe(c.emails.map((e) => withPurpose(c, e)).join('; '));
          expect(cells[column('Telephone')]).toBe(c.phones.map((p) => withPurpose(c, p)).join('; '));
          expect(flat(cells[column('Street')]!)).toBe(flat(c.street ?? ''));
          expect(cells[column('Birth date')]).toBe(c.birthDate ?? '');
          expect(cells[column('Note')]).toBe(c.notes.join('\n').trim());
          expect(flat(cells[column('Organization')]!)).toBe(flat(c.organization ?? ''));
          expect(cells[column('Kind')]).toBe(c.kind === 'organization' ? 'organization' : '');
        });
      }),
      { numRuns: 200 },
    );
  });
  test('no line is longer than 75 octets, and none is cut inside a letter (RFC 6350 section 3.2)', () => {
    fc.assert(
      fc.property(card, (c) => {
        const text = writeVCards([c], '2026-07-09T12:20:00.000Z');
        for (const line of text.split('\r\n')) expect(bytes(line).length).toBeLessThanOrEqual(75);
        expect(text.includes('\ufffd')).toBe(false);
      }),
    );
  });
  test('cards of telephones: names in one piece, purposes, faxes, companies', () => {
    const cards = (text: string) => readTable(bytes(text)).rows.map((r) => r.cells);
    const [whole, misplaced, company, dotted] = cards(
      [
        'BEGIN:VCARD',
        'VERSION:4.0',
        'FN:Thad Hollis',
        'TEL;TYPE="cell,voice";VALUE=uri:tel:+1-902-555-0111',
        'END:VCARD',
        'BEGIN:VCARD',
        'VERSION:3.0',
        'N:Marie Côté;;;;',
        'FN:Marie Côté',
        'TEL;TYPE=WORK,FAX:902 555 0112',
        'TEL;TYPE=WORK,VOICE:902 555 0113',
        'EMAIL;TYPE=INTERNET,HOME:marie@fen.example',
        'CATEGORIES:crew',
        'CATEGORIES:bees,quilts',
        'END:VCARD',
        'BEGIN:VCARD',
        'VERSION:3.0',
        'N:;;;;',
        'FN:Kettle Hardware',
        'ORG:Kettle Hardware;Paints',
        'END:VCARD',
        'BEGIN:VCARD',
        'VERSION:2.1',
        'N:Xu;Mei;Lan;Dr.;PhD',
        'TEL;HOME;VOICE:902 555 0114',
        'ADR;HOME:;;12 Mill Rd;Port Ansley;NS;B3H 1A1;Canada',
        'END:VCARD',
        '',
      ].join('\r\n'),
    );
    const of = (cells: string[] | undefined, ...names: (typeof vCardHeadings)[number][]) =>
      names.map((n) => cells?.[column(n)]);
    expect(of(whole, 'Name in full', 'Given name', 'Telephone')).toEqual([
      'Thad Hollis',
      '',
      '+1-902-555-0111 (mobile)',
    ]);
    expect(of(misplaced, 'Name in full', 'Family name', 'Telephone', 'Email', 'Tags')).toEqual([
      'Marie Côté',
      '',
      '902 555 0113 (work)',
      'marie@fen.example (home)',
      'crew,bees,quilts',
    ]);
    expect(of(company, 'Kind', 'Family name', 'Organization')).toEqual([
      'organization',
      'Kettle Hardware',
      '',
    ]);
    expect(of(dotted, 'Given name', 'Family name', 'Town', 'Telephone')).toEqual([
      'Mei Lan',
      'Xu',
      'Port Ansley, NS',
      '902 555 0114 (home)',
    ]);
  });
  test('an empty one is nothing', () => expect(writeVCards([], '2026-07-09T12:20:00.000Z')).toBe(''));
});

describe('a table', () => {
  const cell = word.filter((w) => !/^[=@+-]/u.test(w));
  test('is read back as it was written, with its accents, quotes and separators', () => {
    fc.assert(
      fc.property(
        fc
          .integer({ min: 2, max: 5 })
          .chain((n) =>
            fc.array(fc.array(cell, { minLength: n, maxLength: n }), { minLength: 2, maxLength: 6 }),
          ),
        (rows) => {
          const headings = ['Name', 'Email', 'Phone', 'Street', 'Note'].slice(0, rows[0]!.length);
          const read = readTable(bytes(writeCsv(headings, rows)));
          expect(read.headings).toEqual(headings);
          expect(read.encoding).toBe('UTF-8');
          expect(read.delimiter).toBe(',');
          expect(read.rows.map((r) => r.cells)).toEqual(rows);
        },
      ),
    );
  });
  test.each([
    ['=1+1', "'=1+1"],
    ['@SUM(A1)', "'@SUM(A1)"],
    ['+cmd|calc', "'+cmd|calc"],
    ['-2+3', "'-2+3"],
    ['\tx', "'\tx"],
    // Telephones and plain numbers are no formulas.
    ['+1 902 555 0111', '+1 902 555 0111'],
    ['-12.50', '-12.50'],
  ])('a spreadsheet does not run “%s”', (typed, written) => {
    const line = writeCsv(['A'], [[typed]]).split('\r\n')[1]!;
    expect(line.replace(/^"|"$/gu, '')).toBe(written);
  });
});
