import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { sayReason } from '#core/words/reasons.ts';
import { readTable } from '../exchange/table.ts';
import { likenessOf, proposeMapping, reachOf } from './columns.ts';
import { columnMeanings } from './mapping.ts';
import { everyPerson } from './parts.ts';
import { readRow } from './reading.ts';
import { type PersonRow, rowParts } from './rows.ts';

const today = '2026-07-09';
const bytes = (text: string) => new TextEncoder().encode(text);

/** Everybody whom a file names, as an import reads it without being told anything. */
function everybody(content: string | Uint8Array) {
  const table = readTable(typeof content === 'string' ? bytes(content) : content);
  const mapping = { ...proposeMapping(table), reach: reachOf(table.headings) };
  const rows = everyPerson(table.rows, mapping).map((row) => ({
    row,
    read: readRow(row.cells, mapping, 'CA', today, [], row.part),
  }));
  return {
    table,
    mapping,
    people: rows.flatMap(({ read }) => ('person' in read ? [read.person] : [])),
    rejected: rows.flatMap(({ read }) => ('rejected' in read ? [sayReason(read.rejected)] : [])),
    remarks: rows.flatMap(({ read }) => ('remarks' in read ? read.remarks.map(sayReason) : [])),
    rows,
  };
}
const name = (p: PersonRow) => `${p.given} ${p.family}`.trim();

describe('files nobody tidied', () => {
  test('a yes to “opted out” is a no to the newsletter', () => {
    const { people } = everybody(
      'Surname,Forename,Opted out?,E-mail\nHollis,Thad,yes,thad@postbox.example\nVetch,Pat,no,pat@postbox.example\nXu,Mei,,mei@postbox.example\n',
    );
    expect(people.map((p) => p.newsletter?.granted ?? null)).toEqual([false, true, null]);
  });
  test('the day somebody unsubscribed is a no', () => {
    const { people } = everybody(
      'Name,Unsubscribed,Mail\nThad Hollis,2024-03-01,thad@postbox.example\nPat Vetch,,pat@postbox.example\n',
    );
    expect(people.map((p) => p.newsletter?.granted ?? null)).toEqual([false, null]);
  });
  test('words of subscribing are known under any heading, and their date beside them', () => {
    const { mapping, people } = everybody(
      'Email Address,First Name,Last Name,Status,Opt-in time\nthad@postbox.example,Thad,Hollis,subscribed,2021-02-03 10:00:00\npat@postbox.example,Pat,Vetch,unsubscribed,2021-02-03 10:00:00\nmei@postbox.example,Mei,Xu,cleaned,2021-02-03 10:00:00\n',
    );
    expect(mapping.columns.slice(3)).toEqual(['newsletter', 'newsletter date']);
    expect(people.map((p) => p.newsletter)).toEqual([
      { granted: true, on: '2021-02-03' },
      { granted: false, on: '2021-02-03' },
      { granted: false, on: '2021-02-03' },
    ]);
  });
  test('a children’s register: the order of dates from the heading, the parent a person of their own', () => {
    const { table, mapping, people } = everybody(
      'Mudlarks register 2025;;;;;\nconfidential;;;;;\n;;;;;\nChild’s name;Date of birth (mm/dd/yyyy);Parent’s name;Parent email;Parent mobile;Allergies\nLéo Delacroix-Nguyen;03/04/2016;Camille Delacroix;camille@postbox.example;902 555 0144;nuts\nMai Delacroix-Nguyen;05/06/2018;Camille Delacroix;camille@postbox.example;902 555 0144;\nTotal: 2;;;;;\n',
    );
    expect(table.headingLine).toBe(4);
    expect(mapping.dateOrders[1]).toBe('month first');
    expect(people.map((p) => [name(p), p.emails, p.phones, p.birthDate, p.dietary, p.wards])).toEqual([
      ['Léo Delacroix-Nguyen', [], [], '2016-03-04', 'nuts', []],
      [
        'Camille Delacroix',
        ['camille@postbox.example'],
        ['+19025550144'],
        null,
        null,
        ['Léo Delacroix-Nguyen'],
      ],
      ['Mai Delacroix-Nguyen', [], [], '2018-05-06', null, []],
      [
        'Camille Delacroix',
        ['camille@postbox.example'],
        ['+19025550144'],
        null,
        null,
        ['Mai Delacroix-Nguyen'],
      ],
    ]);
  });
  test('mother and father, or two in one cell, are two guardians with what is each one’s', () => {
    const apart = everybody(
      'Child first name,Child last name,Mother,Mother phone,Father,Father phone,Father email\nNina,Tarn,Oona Tarn,902 555 0145,Piers Tarn,902 555 0146,piers@tarn.example\n',
    );
    expect(apart.mapping.columns).toEqual([
      'given name',
      'family name',
      'guardian name',
      'guardian phone',
      'other guardian name',
      'other guardian phone',
      'other guardian email',
    ]);
    expect(apart.people.map((p) => [name(p), p.phones, p.emails, p.wards])).toEqual([
      ['Nina Tarn', [], [], []],
      ['Oona Tarn', ['+19025550145'], [], ['Nina Tarn']],
      ['Piers Tarn', ['+19025550146'], ['piers@tarn.example'], ['Nina Tarn']],
    ]);
    const together = everybody(
      'Child,Parents,Parent email\nNina Tarn,Oona & Piers Tarn,oona@tarn.example\nOtis Reed,,\n',
    );
    expect(together.people.map((p) => [name(p), p.emails, p.wards])).toEqual([
      ['Nina Tarn', [], []],
      ['Oona Tarn', ['oona@tarn.example'], ['Nina Tarn']],
      ['Piers Tarn', [], ['Nina Tarn']],
      ['Otis Reed', [], []],
    ]);
    const numbered = everybody(
      'Child,Parent 1 first name,Parent 1 last name,Parent 2 first name,Parent 2 last name\nNina Tarn,Oona,Tarn,Piers,Reed\n',
    );
    expect(numbered.people.map(name)).toEqual(['Nina Tarn', 'Oona Tarn', 'Piers Reed']);
  });
  test('what runs out does so ahead, where only two digits of the year are written; a birth never lies ahead', () => {
    const field = {
      id: '0190a5c1-0000-7000-8000-000000000001',
      name: 'First aid until',
      kind: 'date',
      choices: [],
    } as const;
    const table = readTable(
      bytes(
        'Name,Birthday,Paid until,First aid until\nThad Hollis,17/3/27,31/12/27,5/6/28\nPat Vetch,18/4/80,30/11/26,1/2/27\n',
      ),
    );
    const mapping = proposeMapping(table, 'CA', [field]);
    expect(mapping.columns).toEqual(['whole name', 'birth date', 'member until', `field ${field.id}`]);
    // Nothing in the last column tells the day from the month; the others do.
    expect(mapping.dateOrders).toEqual([null, 'day first', 'day first', 'ask']);
    const readWith = (dateOrders: typeof mapping.dateOrders) =>
      table.rows.map((r) => {
        const read = readRow(r.cells, { ...mapping, dateOrders }, 'CA', today, [field]);
        if ('rejected' in read) throw new Error(sayReason(read.rejected));
        return [
          read.person.birthDate,
          read.person.memberships[0]?.until,
          read.person.fields[0]?.value ?? null,
          read.remarks.length,
        ];
      });
    expect(readWith([null, 'day first', 'day first', 'day first'])).toEqual([
      ['1927-03-17', '2027-12-31', '2028-06-05', 0],
      ['1980-04-18', '2026-11-30', '2027-02-01', 0],
    ]);
    // Until somebody was asked it is left out and said.
    expect(readWith(mapping.dateOrders).map((r) => r.slice(2))).toEqual([
      [null, 1],
      [null, 1],
    ]);
  });
  test('a column of yes and no names nobody, and a plain name counts before whose list it is', () => {
    const { mapping } = everybody(
      'Member,Household,Name,Email\nyes,Hollis,Thad Hollis,thad@postbox.example\nno,Vetch,Pat Vetch,pat@postbox.example\n',
    );
    expect(mapping.columns).toEqual(['leave', 'leave', 'whole name', 'email']);
    const supper = everybody('Guest,Table\nThad Hollis,4\nPat Vetch,4\n');
    expect(supper.mapping.columns).toEqual(['whole name', 'leave']);
  });
  test('where somebody wrote that there is nothing, there is nobody', () => {
    const { people, remarks } = everybody(
      'First name,Last name,Phone,Parent,Emergency contact,Emergency phone\nPatricia (Pat),Vetch,n/a,-,none,\nMei,Xu,none,N/A,n/a,n/a\n',
    );
    expect(people.map((p) => [name(p), p.phones, p.emergencies])).toEqual([
      ['Patricia (Pat) Vetch', [], []],
      ['Mei Xu', [], []],
    ]);
    expect(remarks).toEqual([]);
  });
  test('a guardian without a name is said, not invented', () => {
    const { people, remarks } = everybody('Child,Parent email\nLéo Delacroix,camille@postbox.example\n');
    expect(people.map(name)).toEqual(['Léo Delacroix']);
    expect(remarks).toEqual(['the guardian has no name in this row; left out']);
  });
  test('a list of households: two people a row, each with what carries their name', () => {
    const { people, rows } = everybody(
      'Household,Address,City,Prov,Postal Code,Home Phone,Cell,Email 1,Email 2,Member no\n"Hollis, Thad & Marie",12 Mill Rd,Port Ansley,NS,b3h 1a1,(902) 555-0111 (home),902.555.0112,thad@postbox.example,mh@postbox.example,17\n"Mr. and Mrs. John Vetch",14 Mill Rd,Port Ansley,NS,B3H1A1,902 555 0114 ext 3,,vetch@postbox.example,,18\n',
    );
    const [thad, marie, john] = people;
    expect(people.map(name)).toEqual(['Thad Hollis', 'Marie Hollis', 'John Vetch']);
    expect([thad!.emails, marie!.emails]).toEqual([['thad@postbox.example'], ['mh@postbox.example']]);
    for (const p of [thad!, marie!])
      expect([p.street, p.postalCode]).toEqual(['12 Mill Rd, Port Ansley, NS', 'B3H 1A1']);
    // Two telephones are taken one each; what each is for is kept.
    expect([thad!.phones, marie!.phones]).toEqual([['+19025550111'], ['+19025550112']]);
    expect(thad!.kinds['+19025550111']).toBe('home');
    expect(marie!.kinds).toEqual({ '+19025550112': 'mobile' });
    expect([thad!.memberships.length, marie!.memberships.length]).toEqual([1, 0]);
    expect(john!.phones).toEqual(['+19025550114']);
    expect(rows.map(({ row }) => [row.line, row.ofLine ?? null, row.part ?? 'own'])).toEqual([
      [2, null, 'own'],
      [1002, 2, 'partner'],
      [3, null, 'own'],
    ]);
  });
  test('a no of two people in one cell counts for both, a yes for the first only', () => {
    const { people } = everybody(
      'Name,Email,Newsletter\nThad & Marie Hollis,hollis@postbox.example,no\nAnn & Bo Vetch,vetch@postbox.example,yes\n',
    );
    expect(people.map((p) => p.newsletter?.granted ?? null)).toEqual([false, false, true, null]);
    expect(people.every((p) => p.emails.length === 1)).toBe(true);
  });
  test('three people in one cell are given back', () => {
    const { rejected } = everybody('Name,Email\n"Anne, Bob and Carl Hollis",h@postbox.example\n');
    expect(rejected).toEqual(['3 people are named in one cell; give each a row.']);
  });
  test('French headings in Windows-1252: Nom beside Prénom is the family name', () => {
    const { table, people } = everybody(
      Buffer.from(
        'Prénom;Nom;Courriel;Téléphone;Date de naissance;Adresse;Ville;Code postal;Infolettre;Langue\nÉlodie;Gagné;elodie@postbox.example;902-555-0144;17 mars 1980;12, rue du Moulin;Port Ansley;B3H 1A1;oui;français\n',
        'latin1',
      ),
    );
    expect(table.encoding).toBe('Windows-1252');
    expect(people[0]).toMatchObject({
      given: 'Élodie',
      family: 'Gagné',
      birthDate: '1980-03-17',
      street: '12, rue du Moulin, Port Ansley',
      postalCode: 'B3H 1A1',
      language: 'fr',
      newsletter: { granted: true },
    });
  });
  test('no heading at all: who is who is read from the cells', () => {
    const { table, mapping, people } = everybody(
      'Thomas,Hollis,thad@postbox.example,902-555-0144\nPatricia,Vetch,pat@postbox.example,902-555-0145\nWilliam,Xu,will@postbox.example,902-555-0146\n',
    );
    expect(table).toMatchObject({
      headingLine: 0,
      headings: ['Column 1', 'Column 2', 'Column 3', 'Column 4'],
    });
    expect(table.rows).toHaveLength(3);
    expect(mapping.columns).toEqual(['given name', 'family name', 'email', 'phone']);
    expect(people.map(name)).toEqual(['Thomas Hollis', 'Patricia Vetch', 'William Xu']);
    // Files without headings look alike to nobody: what one column meant says nothing of the next file.
    expect(likenessOf(table.headings)).toBeNull();
  });
  test('an address book of emails with the name before it', () => {
    const { mapping, people, rejected } = everybody(
      'Attendee,Table,Paid\n"Thad Hollis <thad@postbox.example>",4,$45.00\n"Pat Vetch <pat@postbox.example>",4,45\nTotal,,90\n',
    );
    expect(mapping.columns).toEqual(['whole name', 'leave', 'leave']);
    expect(people.map((p) => [name(p), p.emails[0]])).toEqual([
      ['Thad Hollis', 'thad@postbox.example'],
      ['Pat Vetch', 'pat@postbox.example'],
    ]);
    expect(rejected).toEqual(['This row sums the others up.']);
  });
  test('emails alone are people known by their email', () => {
    const { people } = everybody('Email\nthad@postbox.example\npat@postbox.example\n');
    expect(people.map((p) => [name(p), p.emails[0]])).toEqual([
      ['', 'thad@postbox.example'],
      ['', 'pat@postbox.example'],
    ]);
  });
  test('a crew sheet: how to reach them by contents, name and telephone of the emergency contact in one cell', () => {
    const { mapping, people } = everybody(
      'Crew sheet 2025\t\t\t\nName\tReach them at\tCan do\tDOB\tEmergency contact (name + phone)\nThad Hollis\tthad@postbox.example 902 555 0144\tchainsaw; canoe\t17/4/80\tMarie Hollis 902 555 0199\nPat Vetch\t902-555-0145, pat@postbox.example\tfirst aid\t12/11/79\tSis: 9025550198\nMei Xu\t902-555-0146\t\t\t902 555 0197\n',
    );
    expect(mapping.columns[1]).toBe('email or phone');
    expect(people.map((p) => p.emergencies[0])).toEqual([
      { name: 'Marie Hollis', phone: '+19025550199' },
      { name: 'Sis', phone: '+19025550198' },
      { name: 'Emergency contact', phone: '+19025550197' },
    ]);
    expect(people.map((p) => p.phones)).toEqual([['+19025550144'], ['+19025550145'], ['+19025550146']]);
  });
  test('lines that are no people are rejected, and say why', () => {
    const { people, rejected } = everybody(
      'Guest,Phone,Email\nThad Hollis,,\nPage 1 of 2,,\nMei Xu,902 555 0146,\nPrinted 3 May 2026,,\n136 guests,,\n',
    );
    expect(people.map(name)).toEqual(['Thad Hollis', 'Mei Xu']);
    expect(rejected).toEqual([
      '“Page 1 of 2” is no person.',
      '“Printed 3 May 2026” is no person.',
      '“136 guests” is no person.',
    ]);
  });
  test('a postal code at the end of an address in one cell is found', () => {
    const { people } = everybody(
      'Name,Mailing address\nThad Hollis,"12 Mill Rd, Port Ansley NS b3h 1a1"\nPat Vetch,"7 Elm St\nPortland, ME 04101"\nMei Xu,"9 Reed Way, Port Ansley"\n',
    );
    expect(people.map((p) => [p.street, p.postalCode])).toEqual([
      ['12 Mill Rd, Port Ansley NS', 'B3H 1A1'],
      ['7 Elm St, Portland, ME', '04101'],
      ['9 Reed Way, Port Ansley', null],
    ]);
  });
  test('a company in the list of names is an organization', () => {
    const { people } = everybody('Name,Email\nKettle & Sons Ltd,info@kettle.example\nMei Xu,mei@a.example\n');
    expect(people.map((p) => [p.kind, name(p)])).toEqual([
      ['organization', 'Kettle & Sons Ltd'],
      ['person', 'Mei Xu'],
    ]);
  });
  test('whatever columns are said to mean and whatever stands in them, every part of a row is read or refused', () => {
    const cell = fc.oneof(
      fc.string({ maxLength: 40 }),
      fc.constantFrom(
        'Thad & Marie Hollis',
        'a@b.example / 902 555 0111',
        'thad@b.example (work); 902 555 0111 (home); 902 555 0112 (cell)',
        '29297',
        '=1+1',
        '<script>',
        'Total',
        '()',
        '/',
        '& &',
        ', ,',
        '<a@b.example>',
      ),
    );
    fc.assert(
      fc.property(
        fc.array(fc.tuple(fc.constantFrom(...columnMeanings), cell), { minLength: 1, maxLength: 12 }),
        fc.constantFrom(...rowParts),
        (columns, part) => {
          const mapping = {
            columns: columns.map(([meaning]) => meaning),
            dateOrders: columns.map(() => 'day first' as const),
          };
          const read = readRow(
            columns.map(([, c]) => c),
            mapping,
            'CA',
            today,
            [],
            part,
          );
          if ('rejected' in read) {
            expect(sayReason(read.rejected)).not.toBe('');
            return;
          }
          const { person } = read;
          expect(name(person).length <= 200 && (name(person) || person.emails.length)).toBeTruthy();
          expect(person.emails.every((e) => e.includes('@'))).toBe(true);
          expect(person.phones.every((p) => /^\+\d+$/u.test(p))).toBe(true);
          for (const value of Object.keys(person.kinds))
            expect([...person.emails, ...person.phones]).toContain(value);
          // A guardian's row never tells anything of the child but that it is in their care.
          if (part === 'guardian') {
            expect([person.birthDate, person.dietary, person.statedId, person.newsletter]).toEqual([
              null,
              null,
              null,
              null,
            ]);
            expect([person.memberships, person.fields, person.notes, person.tags]).toEqual([[], [], [], []]);
          }
        },
      ),
      { numRuns: 1000 },
    );
  });
});
