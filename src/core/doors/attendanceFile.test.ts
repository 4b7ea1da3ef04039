import fc from 'fast-check';
import { expect, test } from 'vitest';
import { readTable } from '#core/exchange/table.ts';
import {
  attendanceColumns,
  type FileFrame,
  meantBy,
  readAttendance,
  staysTogether,
} from './attendanceFile.ts';
import { passCode } from './passCode.ts';

/** 9 July 2026, 10:00 to 12:00 in Halifax. */
const frame: FileFrame = {
  from: '2026-07-09T13:00:00.000Z',
  until: '2026-07-09T15:00:00.000Z',
  dates: ['2026-07-09'],
  zone: 'America/Halifax',
};
const read = (text: string, of: FileFrame = frame) =>
  readAttendance(readTable(new TextEncoder().encode(text)), of);

test('columns are known by their headings, each once', () => {
  expect(attendanceColumns(['Name', 'User Email', 'Join time', 'Leave time', 'Duration (minutes)'])).toEqual({
    name: 0,
    email: 1,
    from: 2,
    until: 3,
    minutes: 4,
  });
  expect(attendanceColumns(['Prénom', 'Nom de famille', 'Courriel', 'Présent'])).toEqual({
    given: 0,
    family: 1,
    email: 2,
    there: 3,
  });
  expect(attendanceColumns(['Pass', 'First name', 'Last name', 'Arrived', 'Left'])).toEqual({
    pass: 0,
    given: 1,
    family: 2,
    from: 3,
    until: 4,
  });
});

test('the log of a room online: when each joined and left, by the clock there', () => {
  const { rows } = read(
    'Name,Email,Join time,Leave time\nMai Reed,mai@post.example,07/09/2026 10:02:11 AM,07/09/2026 11:58:00 AM\nTom,,2026-07-09T13:30:00Z,2026-07-09T14:00:00Z\nLou,,10:15,11:00\nSo,,9 July 2026 1:00 pm,9 July 2026 13:30\n',
  );
  expect(rows.map((r) => [r.name, r.stay?.from, r.stay?.until, r.problem])).toEqual([
    // The ninth of July, not the seventh of September: that is the day of the event.
    ['Mai Reed', '2026-07-09T13:02:11.000Z', '2026-07-09T14:58:00.000Z', null],
    ['Tom', '2026-07-09T13:30:00.000Z', '2026-07-09T14:00:00.000Z', null],
    ['Lou', '2026-07-09T13:15:00.000Z', '2026-07-09T14:00:00.000Z', null],
    ['So', '2026-07-09T16:00:00.000Z', '2026-07-09T16:30:00.000Z', null],
  ]);
});

test('a list without times says who was there, and who was not', () => {
  const { rows } = read('Name,Present\nMai Reed,yes\nTom Reed,no\nLou Reed,x\n');
  expect(rows.map((r) => r.stay)).toEqual([
    { from: frame.from, until: frame.until },
    null,
    { from: frame.from, until: frame.until },
  ]);
  expect(rows.every((r) => r.problem === null)).toBe(true);
  // Minutes alone count from the beginning; who has no time where others have one did not come.
  expect(read('Name,Minutes\nMai Reed,45\n').rows[0]!.stay).toEqual({
    from: frame.from,
    until: '2026-07-09T13:45:00.000Z',
  });
  expect(read('Name,Arrived\nMai Reed,10:20\nTom Reed,\n').rows.map((r) => r.stay)).toEqual([
    { from: '2026-07-09T13:20:00.000Z', until: null },
    null,
  ]);
});

test('rows that cannot be used say why, and the others stay', () => {
  const { rows } = read(
    'Name,Email,Joined,Left\n,,10:00,11:00\nMai Reed,,half past,11:00\nTom Reed,,11:00,10:00\nLou Reed,,2026-07-02 10:00,2026-07-02 11:00\nSo Reed,,10:00,11:00\n',
  );
  expect(rows.map((r) => r.problem)).toEqual([
    'row-names-nobody',
    'time-not-read',
    'left-before',
    'not-at-the-event',
    null,
  ]);
  // On several days a time of day alone says nothing.
  const days = { ...frame, dates: ['2026-07-09', '2026-07-10'] };
  expect(read('Name,Joined\nMai Reed,10:00\n', days).rows[0]!.problem).toBe('time-not-read');
  expect(read('Date,Note\n2026-07-09,hello\n2026-07-10,again\n').problem).toBe('list-without-people');
});

const person = (
  registrationId: string,
  given: string,
  family: string,
  email: string,
  pass: string | null = null,
) => ({
  registrationId,
  given,
  family,
  emails: [email],
  pass,
});
const row = (name: string, email = '', pass: string | null = null) => ({ name, email, pass });
const people = [
  person('mai', 'Mai', 'Reed', 'reeds@post.example', passCode(new Uint8Array(12).fill(3))),
  person('tom', 'Tom', 'Reed', 'reeds@post.example'),
  person('ana', 'Ana', 'Côté', 'ana@post.example'),
  person('lou1', 'Lou', 'Tarn', 'lou@one.example'),
  person('lou2', 'Lou', 'Tarn', 'lou@two.example'),
];

test('whom a row names for sure, and who has to be chosen', () => {
  expect(meantBy(row('', '', people[0]!.pass), people).sure).toBe('mai');
  expect(meantBy(row('ana cote'), people).sure).toBe('ana');
  expect(meantBy(row('Côté, Ana'), people).sure).toBe('ana');
  expect(meantBy(row('Ana C.', 'ANA@post.example'), people).sure).toBe('ana');
  // A family shares an address: the name decides, and without one nothing does.
  expect(meantBy(row('Tom Reed', 'reeds@post.example'), people).sure).toBe('tom');
  expect(meantBy(row('', 'reeds@post.example'), people)).toEqual({ sure: null, maybe: ['mai', 'tom'] });
  // Two of one name are told apart by their address.
  expect(meantBy(row('Lou Tarn'), people)).toEqual({ sure: null, maybe: ['lou1', 'lou2'] });
  expect(meantBy(row('Lou Tarn', 'lou@two.example'), people).sure).toBe('lou2');
  // Somebody else at the address of somebody: not for sure.
  expect(meantBy(row('Zed Quill', 'ana@post.example'), people)).toEqual({ sure: null, maybe: ['ana'] });
  // A name that one alone has, at the address of others.
  expect(meantBy(row('Ana Côté', 'reeds@post.example'), people)).toEqual({
    sure: null,
    maybe: ['mai', 'tom', 'ana'],
  });
  expect(meantBy(row('Reed'), people).maybe).toEqual(['mai', 'tom']);
  expect(meantBy(row('Nobody Here'), people)).toEqual({ sure: null, maybe: [] });
});

test('two devices of one person in one room are one stay', () => {
  const at = (minute: number) => new Date(Date.UTC(2026, 6, 9, 13, minute)).toISOString();
  expect(
    staysTogether(
      [
        { from: at(0), until: at(60) },
        { from: at(30), until: at(45) },
        { from: at(80), until: null },
      ],
      at(120),
    ),
  ).toEqual([
    { from: at(0), until: at(60) },
    { from: at(80), until: at(120) },
  ]);
  fc.assert(
    fc.property(fc.array(fc.tuple(fc.nat(100), fc.nat(100)), { minLength: 1, maxLength: 8 }), (some) => {
      const stays = staysTogether(
        some.map(([from, long]) => ({ from: at(from), until: at(from + long) })),
        at(300),
      );
      for (const [n, stay] of stays.entries()) if (n) expect(stay.from > stays[n - 1]!.until!).toBe(true);
    }),
  );
});
