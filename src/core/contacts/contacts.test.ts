import { readFileSync } from 'node:fs';
import { describe, expect, test } from 'vitest';
import { readTable, TableProblem } from '../exchange/table.ts';
import { checkRows, dateOrderOf, proposeMapping, readDate, readRow } from './importing.ts';
import { type Candidate, compare, decide } from './match.ts';
import { fold, splitName, tidyName } from './names.ts';
import { isEmail, readPhone, sayPhone } from './reach.ts';
import { searchWords } from './search.ts';

const candidate = (part: Partial<Candidate> & { id: string }): Candidate => ({
  given: 'Mai',
  family: 'Delacroix-Nguyen',
  emails: ['dn@harbourpost.example'],
  phones: ['+19025550111'],
  birthDate: null,
  postalCode: null,
  ...part,
});
const bytes = (text: string) => new TextEncoder().encode(text);

describe('names', () => {
  test('fold away accents, case and punctuation', () => {
    expect(fold("Ó  HÁRA-Peña's")).toBe('o hara penas');
    expect(fold('Søren Łuk')).toBe('soren luk');
  });
  test('are split in either order, with titles and particles', () => {
    expect(splitName('Hollis, Thad')).toEqual({ given: 'Thad', family: 'Hollis' });
    expect(splitName('Dr Frances de la Cruz')).toEqual({ given: 'Frances', family: 'de la Cruz' });
    expect(splitName('  Siobhan  Winterbourne')).toEqual({ given: 'Siobhan', family: 'Winterbourne' });
    expect(splitName('Cher')).toEqual({ given: 'Cher', family: '' });
  });
  test('are tidied only when they are shouted or whispered', () => {
    expect(tidyName('RASMUSSEN')).toBe('Rasmussen');
    expect(tidyName("o'hara")).toBe("O'Hara");
    expect(tidyName('McAllister')).toBe('McAllister');
  });
});

describe('reach', () => {
  test('phones become E.164 by the organization’s country', () => {
    for (const written of ['(902) 555-0161', '902.555.0161', '+1 902 555 0161', '19025550161'])
      expect(readPhone(written, 'CA')).toBe('+19025550161');
    expect(readPhone('call me', 'CA')).toBeNull();
    expect(sayPhone('+19025550161', 'CA')).toBe('(902) 555-0161');
  });
  test('emails are recognised', () => {
    expect(isEmail('imani.lefevre934@fenmail.example')).toBe(true);
    for (const wrong of ['imani@', 'a b@c.de', '@fenmail.example', 'x@y', `${'a'.repeat(250)}@b.example`])
      expect(isEmail(wrong)).toBe(false);
  });
  test('search text is cut into words, telephones into digits', () => {
    expect(searchWords('Delacroix-Ng')).toEqual(['delacroix', 'ng']);
    expect(searchWords('(902) 555')).toEqual(['902555']);
    expect(searchWords('x '.repeat(500)).length).toBe(8);
  });
});

describe('who is who', () => {
  test('same email and name is the same person, also with other case and accents', () => {
    const verdict = compare(
      { given: 'mai', family: 'DELACROIX NGUYEN', email: 'DN@harbourpost.example' },
      candidate({ id: 'a' }),
    );
    expect(verdict).toMatchObject({ outcome: 'same' });
    expect(verdict.reasons).toContain('same email, dn@harbourpost.example');
  });
  test('a shared family email does not merge a family', () => {
    expect(
      compare(
        { given: 'Théo', family: 'Delacroix-Nguyen', email: 'dn@harbourpost.example' },
        candidate({ id: 'a' }),
      ).outcome,
    ).toBe('household');
    expect(
      decide({ given: 'Théo', family: 'Delacroix-Nguyen', email: 'dn@harbourpost.example' }, [
        candidate({ id: 'a' }),
      ]),
    ).toMatchObject({ outcome: 'new', householdOf: 'a' });
  });
  test('twins with one birthday and one address are two people', () => {
    const jun = candidate({ id: 'jun', given: 'Jun', family: 'Baptiste', birthDate: '1998-06-21' });
    expect(
      decide(
        { given: 'Juno', family: 'Baptiste', email: 'dn@harbourpost.example', birthDate: '1998-06-21' },
        [jun],
      ).outcome,
    ).toBe('new');
  });
  test('two birth dates are two people, whatever else agrees', () => {
    const senior = candidate({ id: 'a', birthDate: '1960-01-01' });
    expect(
      compare(
        {
          given: 'Mai',
          family: 'Delacroix-Nguyen',
          email: 'dn@harbourpost.example',
          birthDate: '1990-01-01',
        },
        senior,
      ).outcome,
    ).toBe('household');
  });
  test('a name alone is put up for a look, never linked', () => {
    expect(decide({ given: 'Mai', family: 'Delacroix-Nguyen' }, [candidate({ id: 'a' })]).outcome).toBe(
      'look',
    );
  });
  test('two contacts that fit equally well are put up for a look', () => {
    const person = { given: 'Mai', family: 'Delacroix-Nguyen', email: 'dn@harbourpost.example' };
    expect(decide(person, [candidate({ id: 'a' }), candidate({ id: 'b' })]).outcome).toBe('look');
  });
});

describe('reading tables', () => {
  test('the membership list: mark, commas, heading, emergency contacts kept apart', () => {
    const table = readTable(readFileSync('tests/data/members.csv'));
    expect(table).toMatchObject({ encoding: 'UTF-8', delimiter: ',', headingLine: 1 });
    expect(table.rows).toHaveLength(383);
    const mapping = proposeMapping(table);
    expect(mapping.columns).toEqual([
      'member number',
      'given name',
      'family name',
      'email',
      'phone',
      'street',
      'postal code',
      'birth date',
      'member since',
      'member level',
      'emergency name',
      'emergency phone',
    ]);
    expect(mapping.dateOrder).toBe('day first');
    const read = readRow(table.rows[0]!.cells, mapping, 'CA', '2026-07-09');
    expect(read).toMatchObject({
      person: {
        given: 'Amara',
        family: 'Nettle',
        phone: '+19025550161',
        birthDate: '1980-03-17',
        membership: { number: '1000', level: 'Life' },
        emergency: { name: 'Quinlan Rushbrook', phone: '+12505550164' },
      },
    });
    const ines = readRow(table.rows[2]!.cells, mapping, 'CA', '2026-07-09');
    expect('person' in ines && ines.person.phone).toBeNull();
  });
  test('Windows-1252 with semicolons, and title rows above a heading', () => {
    const newsletter = readTable(readFileSync('tests/data/newsletter.csv'));
    expect(newsletter).toMatchObject({ encoding: 'Windows-1252', delimiter: ';', headingLine: 1 });
    expect(newsletter.rows.some((r) => r.cells[0]!.includes('Côté'))).toBe(true);
    const supper = readTable(readFileSync('tests/data/supper-guests.csv'));
    expect(supper.headingLine).toBe(4);
    expect(proposeMapping(supper).columns.slice(0, 3)).toEqual(['whole name', 'phone', 'email']);
    const crew = readTable(readFileSync('tests/data/volunteers.tsv'));
    expect(crew.delimiter).toBe('\t');
  });
  test('UTF-16 is read by its mark', () => {
    const text = 'First name,Last name,Email\r\nChloé,Wren,c@fenmail.example\r\n';
    const utf16 = Buffer.concat([Buffer.from([0xff, 0xfe]), Buffer.from(text, 'utf16le')]);
    expect(readTable(utf16)).toMatchObject({
      encoding: 'UTF-16LE',
      rows: [{ cells: ['Chloé', 'Wren', 'c@fenmail.example'] }],
    });
  });
  test('what cannot be read is refused with what and where', () => {
    const code = (content: Uint8Array) => {
      try {
        readTable(content);
        return 'read';
      } catch (error) {
        return error instanceof TableProblem ? error.code : 'other';
      }
    };
    expect(code(bytes('mireille@a.example,Mireille,Xu\nwilliam@b.example,William,Dubois\n'))).toBe(
      'no-heading',
    );
    expect(
      code(bytes(`${Array.from({ length: 60 }, (_, n) => `Name ${n}`).join(',')}\n${'x,'.repeat(59)}x\n`)),
    ).toBe('too-many-columns');
    expect(code(bytes('Name,Email\n"Mai,mai@a.example\nPiers,p@b.example\n'))).toBe('broken-quote');
    expect(code(bytes(`Name,Email\n${'x'.repeat(2_000_000)},a@b.example\n`))).toBe('cell-too-long');
    expect(code(new Uint8Array([0x50, 0x4b, 3, 4, 0, 0, 8, 0, 1, 2]))).toBe('not-text');
    expect(code(bytes('  \n'))).toBe('empty');
  });
  test('dates by evidence', () => {
    expect(dateOrderOf(['11/14/21', '2/7/25'])).toBe('month first');
    expect(readDate('2/7/25', 'month first')).toBe('2025-02-07');
    expect(readDate('17/03/1980', 'day first')).toBe('1980-03-17');
    expect(readDate('31/02/1980', 'day first')).toBeNull();
    expect(readDate('1980-03-17', 'month first')).toBe('1980-03-17');
  });
  test('the same person twice in one file is one person; a family with one address is several', () => {
    const table = readTable(
      bytes(
        'First name,Last name,Email\nMai,Wren,w@fenmail.example\nMAI,Wren,W@fenmail.example\nTheo,Wren,w@fenmail.example\n,,\n,,nobody@fenmail.example\n',
      ),
    );
    const rows = checkRows(table, proposeMapping(table), 'CA', '2026-07-09', () => []);
    expect(rows.map((r) => [r.line, r.verdict, r.sameAsLine])).toEqual([
      [2, 'new', null],
      [3, 'known', 2],
      [4, 'new', null],
      [6, 'rejected', null],
    ]);
  });
});
