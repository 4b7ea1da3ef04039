import { readFileSync } from 'node:fs';
import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { because, sayReason } from '#core/words/reasons.ts';
import { readTable, TableProblem } from '../exchange/table.ts';
import { dateOrderOf, readDate, readReachCell, readYesNo } from './cells.ts';
import { likenessOf, problemsWithMapping, proposeMapping } from './columns.ts';
import type { Mapping } from './mapping.ts';
import { readRow } from './reading.ts';
import { absorb } from './rows.ts';

const bytes = (text: string) => new TextEncoder().encode(text);
const today = '2026-07-09';
const file = (name: string) => readTable(readFileSync(`tests/data/${name}`));
const people = (table: ReturnType<typeof readTable>, mapping: Mapping = proposeMapping(table)) =>
  table.rows.flatMap((r) => {
    const read = readRow(r.cells, mapping, 'CA', today);
    return 'person' in read ? [{ line: r.line, ...read }] : [];
  });

describe('files as organizations have them', () => {
  test('the membership list: mark, commas, heading, emergency contacts kept apart', () => {
    const table = file('members.csv');
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
    expect(mapping.dateOrders[7]).toBe('day first');
    expect(Math.min(...mapping.confidence)).toBeGreaterThan(0.6);
    const read = people(table);
    expect(read[0]).toMatchObject({
      person: {
        given: 'Amara',
        family: 'Nettle',
        phones: ['+19025550161'],
        birthDate: '1980-03-17',
        postalCode: 'B8C 6T0',
        memberships: [{ number: '1000', level: 'Life' }],
        emergencies: [{ name: 'Quinlan Rushbrook', phone: '+12505550164' }],
      },
    });
    // Ines has no telephone of her own; the emergency contact's is not taken for it.
    expect(read[2]!.person.phones).toEqual([]);
    expect(
      read.every((r) => !r.person.emergencies.some((e) => r.person.phones.includes(e.phone ?? '-'))),
    ).toBe(true);
  });
  test('the newsletter: Windows-1252, names in either order, yes and no five ways, months first', () => {
    const table = file('newsletter.csv');
    expect(table).toMatchObject({ encoding: 'Windows-1252', delimiter: ';', headingLine: 1 });
    const mapping = proposeMapping(table);
    expect(mapping.columns).toEqual(['whole name', 'email', 'newsletter', 'leave', 'newsletter date']);
    expect(mapping.dateOrders[4]).toBe('month first');
    const read = people(table);
    expect(read[0]!.person).toMatchObject({
      given: 'Thad',
      family: 'Hollis',
      newsletter: { granted: true, on: '2021-11-14' },
    });
    expect(read.some((r) => r.person.family === 'Côté')).toBe(true);
    expect(read.filter((r) => r.person.newsletter === null)).toEqual([]);
    expect(read.some((r) => r.person.newsletter?.granted === false)).toBe(true);
  });
  test('the supper list: title rows above, a total below, prices left alone', () => {
    const table = file('supper-guests.csv');
    expect(table.headingLine).toBe(4);
    const mapping = proposeMapping(table);
    expect(mapping.columns).toEqual(['whole name', 'phone', 'email', 'leave', 'leave', 'leave']);
    expect(people(table)).toHaveLength(136);
    const last = readRow(table.rows.at(-1)!.cells, mapping, 'CA', today);
    expect(last).toEqual({ rejected: because('sums up') });
  });
  test('the crew sheet: tabs, line breaks in cells, email and telephone in one cell, several skills', () => {
    const table = file('volunteers.tsv');
    expect(table.delimiter).toBe('\t');
    const mapping = proposeMapping(table);
    expect(mapping.columns.slice(0, 3)).toEqual(['whole name', 'email or phone', 'tags']);
    const [yusuf] = people(table);
    expect(yusuf!.person).toMatchObject({
      emails: ['yusuf.dunmore486@ansley.example'],
      phones: ['+14185550131'],
      tags: ['chainsaw', 'first aid', 'canoe leader'],
      notes: ['bad knee\nno lifting'],
    });
  });
  test('the address book: vCard 2.1, 3.0 and 4.0, folded lines, quoted-printable', () => {
    const table = file('phone.vcf');
    expect(table.delimiter).toBe('vCard');
    expect(table.rows).toHaveLength(113);
    const read = people(table);
    expect(read).toHaveLength(113);
    expect(read[0]!.person).toMatchObject({
      given: 'Chloé',
      family: 'Pennyfeather',
      phones: ['+16175550197'],
      emails: ['chloe.pennyfeather@fenmail.example'],
      postalCode: 'B1L 6S0',
      notes: [
        'met at the spring count, keeps bees; knows everybody on the causeway and half the harbour besides',
      ],
    });
    expect(read.some((r) => r.person.family === 'Côté' && r.person.given === 'Amara')).toBe(true);
    // Every card of every version has its telephone.
    expect(read.filter((r) => r.person.phones.length === 0)).toEqual([]);
  });
  test('the guest list', () => {
    expect(proposeMapping(file('guest-list.csv')).columns).toEqual(['email', 'given name', 'family name']);
  });
});

describe('reading tables', () => {
  test('UTF-16 is read with its mark and without', () => {
    const text = 'First name,Last name,Email\r\nChloé,Wren,c@fenmail.example\r\n';
    const plain = Buffer.from(text, 'utf16le');
    const marked = Buffer.concat([Buffer.from([0xff, 0xfe]), plain]);
    for (const content of [marked, plain])
      expect(readTable(content)).toMatchObject({
        encoding: 'UTF-16LE',
        rows: [{ cells: ['Chloé', 'Wren', 'c@fenmail.example'] }],
      });
    const big = Buffer.from(plain).swap16();
    expect(readTable(big).encoding).toBe('UTF-16BE');
  });
  test('a heading printed again on every page is no person', () => {
    const table = readTable(bytes('Name,Email\nMai,m@a.example\nName,Email\nJun,j@a.example\n'));
    expect(table.rows.map((r) => [r.line, r.cells[0]])).toEqual([
      [2, 'Mai'],
      [4, 'Jun'],
    ]);
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
    expect(code(bytes('Dear all,\nplease come to the supper,\nand bring a chair.\n'))).toBe('no-heading');
    expect(
      code(bytes(`${Array.from({ length: 60 }, (_, n) => `Name ${n}`).join(',')}\n${'x,'.repeat(59)}x\n`)),
    ).toBe('too-many-columns');
    expect(code(bytes('Name,Email\n"Mai,mai@a.example\nPiers,p@b.example\n'))).toBe('broken-quote');
    expect(code(bytes(`Name,Email\n${'x'.repeat(2_000_000)},a@b.example\n`))).toBe('cell-too-long');
    expect(code(new Uint8Array([0x50, 0x4b, 3, 4, 0, 0, 8, 0, 1, 2]))).toBe('not-text');
    expect(code(new Uint8Array([0x89, 0x50, 0x4e, 0x47, 0x0d, 0x0a]))).toBe('not-text');
    expect(code(bytes(`Name\n${'Mai Wren\n'.repeat(101_000)}`))).toBe('too-long');
    expect(code(bytes('  \n'))).toBe('empty');
  });
  test('a card with a photograph of five megabytes loses the photograph only', () => {
    const photo = 'A'.repeat(5_000_000).replace(/(.{74})/gu, '$1\r\n ');
    const table = readTable(
      bytes(
        `BEGIN:VCARD\r\nVERSION:3.0\r\nN:Wren;Mai;;;\r\nPHOTO;ENCODING=b;TYPE=JPEG:${photo}\r\nEMAIL:m@a.example\r\nEND:VCARD\r\n`,
      ),
    );
    expect(table.rows[0]!.cells.slice(1, 4)).toEqual(['Mai', 'Wren', 'm@a.example']);
  });
  test('a card cut off in the middle is kept as far as it goes', () => {
    const table = readTable(bytes('BEGIN:VCARD\nVERSION:4.0\nFN:Mai Wren\nTEL:tel:+1-902-555-0111\n'));
    expect(table.rows[0]!.cells.at(-1)).toBe('Mai Wren');
    expect(people(table)[0]!.person).toMatchObject({ given: 'Mai', family: 'Wren' });
    expect(table.rows[0]!.cells[4]).toBe('+1-902-555-0111');
  });
});

describe('columns', () => {
  const table = (heading: string, ...rows: string[]) => readTable(bytes([heading, ...rows].join('\n')));
  test('contents decide where the heading is silent or wrong', () => {
    const t = table(
      'Person,Ref,Code',
      'Mai Wren,m@a.example,B1A 2C3',
      'Jun Teal,j@a.example,B2A 2C3',
      'Una Cole,u@a.example,B3A 2C3',
    );
    expect(proposeMapping(t).columns).toEqual(['whole name', 'email', 'postal code']);
    const wrong = table(
      'Name,Email',
      'Mai Wren,902 555 0111',
      'Jun Teal,902 555 0112',
      'Una Cole,902 555 0113',
    );
    expect(proposeMapping(wrong).columns[1]).not.toBe('email');
  });
  test('somebody else’s details are never taken for the person’s own', () => {
    const t = table(
      'Child first name,First name,Last name,Parent email,Next of kin phone,ICE name',
      'x,Mai,Wren,p@a.example,902 555 0111,Jun Wren',
    );
    const { columns } = proposeMapping(t);
    expect(columns.slice(3)).toEqual(['guardian email', 'emergency phone', 'emergency name']);
    expect(columns).not.toContain('phone');
    expect(columns).not.toContain('email');
  });
  test('a home and a mobile telephone are both the person’s', () => {
    const t = table('Name,Home phone,Mobile', 'Mai Wren,902 555 0111,902 555 0112');
    expect(people(t)[0]!.person.phones).toEqual(['+19025550111', '+19025550112']);
  });
  test('problems are said by column', () => {
    const mapping: Mapping = { columns: ['postal code', 'postal code'], dateOrders: [null, null] };
    expect(problemsWithMapping(mapping, 2).map((p) => p.path)).toEqual(['columns.1', 'columns']);
    expect(problemsWithMapping(mapping, 3)[0]!.params).toMatchObject({ columns: 3 });
  });
  test('files look alike by their headings, however they are written', () => {
    expect(likenessOf(['First  Name', 'E-MAIL'])).toBe(likenessOf(['first name', 'e-mail']));
  });
});

describe('cells', () => {
  test('the order of day and month comes from the evidence, or is asked for', () => {
    expect(dateOrderOf(['11/14/21', '2/7/25'])).toBe('month first');
    expect(dateOrderOf(['17/03/1980', '02/03/1980'])).toBe('day first');
    expect(dateOrderOf(['02/03/1980', '04/05/1981'])).toBeNull();
    expect(dateOrderOf(['03/03/1980', ''])).toBe('day first');
    const ask = { columns: ['whole name', 'birth date'], dateOrders: [null, 'ask'] } satisfies Mapping;
    const read = readRow(['Mai Wren', '02/03/1980'], ask, 'CA', today);
    expect('person' in read && read.person.birthDate).toBeNull();
    expect('remarks' in read && sayReason(read.remarks[0]!)).toContain('could be read two ways');
  });
  test.each([
    ['2/7/25', 'month first', '2025-02-07'],
    ['17/03/1980', 'day first', '1980-03-17'],
    ['31.12.2026', 'month first', '2026-12-31'],
    ['1.2.1980', 'month first', '1980-02-01'],
    ['1980-03-17', 'month first', '1980-03-17'],
    ['3 May 1980', null, '1980-05-03'],
    ['May 3, 1980', null, '1980-05-03'],
    ['3rd of May', null, null],
    ['14 août 1980', null, '1980-08-14'],
    ['31/02/1980', 'day first', null],
    ['May 2027', null, null],
    ['expired', null, null],
    ['11/14/99', null, '1999-11-14'],
    ['1980-03-17 12:30', null, '1980-03-17'],
  ] as const)('%s (%s) is %s', (text, order, wanted) => expect(readDate(text, order)).toBe(wanted));
  test('a two-digit year never lies ahead', () => {
    fc.assert(
      fc.property(fc.integer({ min: 0, max: 99 }), (year) => {
        const read = readDate(`1/1/${String(year).padStart(2, '0')}`, 'day first', '2026-12-31')!;
        expect(read <= '2026-12-31').toBe(true);
        expect(Number(read.slice(2, 4))).toBe(year);
      }),
    );
  });
  test('yes and no in any usual spelling', () => {
    for (const text of ['yes', 'Y', ' TRUE', '1', 'oui', 'Subscribed', 'opt-in', 'x'])
      expect(readYesNo(text)).toBe(true);
    for (const text of ['no', 'N', 'false', '0', 'non', 'unsubscribed', 'opted out', 'STOP'])
      expect(readYesNo(text)).toBe(false);
    for (const text of ['perhaps', '2', '']) expect(readYesNo(text)).toBeNull();
  });
  test('several values in one cell', () => {
    expect(readReachCell('m@a.example / (902) 555-0111; call first', 'CA')).toEqual({
      emails: ['m@a.example'],
      phones: ['+19025550111'],
      kinds: {},
      rest: ['call first'],
    });
    expect(readReachCell('Mai Wren <m@a.example>', 'CA').emails).toEqual(['m@a.example']);
    expect(readReachCell('m@a.example 902 555 0111', 'CA')).toMatchObject({
      emails: ['m@a.example'],
      phones: ['+19025550111'],
    });
    expect(readReachCell('cell: 902.555.0111', 'CA').phones).toEqual(['+19025550111']);
  });
  test('what a row of the same person lacks is taken from the next, and a no is kept', () => {
    const mapping: Mapping = {
      columns: ['whole name', 'email', 'phone', 'newsletter'],
      dateOrders: [null, null, null, null],
    };
    const of = (cells: string[]) => {
      const read = readRow(cells, mapping, 'CA', today);
      if (!('person' in read)) throw new Error(sayReason(read.rejected));
      return read.person;
    };
    const joined = absorb(
      of(['Mai Wren', 'm@a.example', '', 'yes']),
      of(['Mai Wren', 'M@A.example', '902 555 0111', 'no']),
    );
    expect(joined).toMatchObject({
      emails: ['m@a.example'],
      phones: ['+19025550111'],
      newsletter: { granted: false },
    });
  });
  test('no cell breaks the reading of a row', () => {
    const mapping: Mapping = {
      columns: ['whole name', 'email or phone', 'birth date', 'newsletter', 'tags'],
      dateOrders: [null, null, 'day first', null, null],
    };
    fc.assert(
      fc.property(fc.array(fc.string({ maxLength: 60 }), { minLength: 5, maxLength: 5 }), (cells) => {
        const read = readRow(cells, mapping, 'CA', today);
        if ('person' in read) {
          expect(read.person.emails.every((e) => e.includes('@'))).toBe(true);
          expect(read.person.phones.every((p) => /^\+\d+$/u.test(p))).toBe(true);
        } else expect(read.rejected).not.toBe('');
      }),
    );
  });
});
