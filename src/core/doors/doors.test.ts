import fc from 'fast-check';
import { expect, test } from 'vitest';
import { clashesOf, hoursOf } from '../crew/clashes.ts';
import { foldLine, writeCalendar } from '../exchange/calendar.ts';
import { writeCsv } from '../exchange/csv.ts';
import { figuresOf } from '../outcomes/figures.ts';
import { problemsWithAnswers, resultsOf, type SurveyQuestion } from '../surveys/results.ts';
import { needOf } from '../waivers/needs.ts';
import { problemsWithSigning, signedText } from '../waivers/signing.ts';
import { passCode, readPassCode, sayPassCode } from './passCode.ts';
import { type DoorFacts, judge } from './verdict.ts';

test('pass codes are read as printed, typed or scanned, and a wrong character is found', () => {
  fc.assert(
    fc.property(
      fc.uint8Array({ minLength: 12, maxLength: 12 }),
      fc.nat(12),
      fc.nat(31),
      (random, at, other) => {
        const code = passCode(random);
        expect(readPassCode(sayPassCode(code))).toBe(code);
        expect(readPassCode(` ${code.toLowerCase()} `)).toBe(code);
        const changed = code.slice(0, at) + '0123456789ABCDEFGHJKMNPQRSTVWXYZ'[other] + code.slice(at + 1);
        // The check is modulo 31, so 0 and Z stand for the same value; every other slip is found.
        fc.pre(changed !== code && !'0Z'.includes(code[at]!) && !'0Z'.includes(changed[at]!));
        expect(readPassCode(changed)).toBeNull();
      },
    ),
  );
  expect(readPassCode('hello')).toBeNull();
});

test('the door lets in who may come in and says what is missing', () => {
  const fine: DoorFacts = {
    seatState: 'confirmed',
    attendance: 'expected',
    waiverMissing: null,
    balance: 0,
    sameEvent: true,
  };
  expect(judge(fine).light).toBe('go');
  expect(judge({ ...fine, waiverMissing: 'guardian' })).toMatchObject({
    light: 'stop',
    headline: 'Waiver missing',
  });
  expect(judge({ ...fine, balance: 500 })).toMatchObject({ light: 'settle', headline: 'Balance due' });
  expect(judge({ ...fine, attendance: 'arrived' }).headline).toBe('Already in');
  expect(judge({ ...fine, sameEvent: false }).headline).toBe('Another event');
  for (const seatState of [
    'asked',
    'held',
    'waitlisted',
    'offered',
    'withdrawn',
    'declined',
    'lapsed',
  ] as const)
    expect(judge({ ...fine, seatState }).light).toBe('stop');
});

test('waivers are asked by the age on the event’s date', () => {
  const child = { birthDate: '2007-08-09', saidMinor: false };
  expect(needOf('everyone', child, '2026-08-08', 19)).toBe('guardian');
  expect(needOf('everyone', child, '2026-08-09', 19)).toBe('self');
  expect(needOf('minors', { birthDate: null, saidMinor: false }, '2026-08-08', 19)).toBe('not asked');
  expect(needOf('adults', child, '2026-08-08', 19)).toBe('not asked');
});

test('a signature needs every clause and the right person, and gives the same text each time', () => {
  const waiver = {
    title: 'On the water',
    version: 3,
    clauses: [
      { id: 'swim', text: 'I can swim.' },
      { id: 'risk', text: 'I know the risk.' },
    ],
  };
  const signing = {
    participant: 'Théo Wren',
    typedName: 'Mai Wren',
    ticked: ['swim', 'risk'],
    relation: 'guardian' as const,
  };
  expect(problemsWithSigning(waiver, signing, 'guardian')).toEqual([]);
  expect(problemsWithSigning(waiver, { ...signing, ticked: ['swim'] }, 'guardian')[0]!.path).toBe(
    'clauses.1',
  );
  expect(
    problemsWithSigning(waiver, { ...signing, typedName: 'Théo Wren' }, 'guardian')[0]!.message,
  ).toContain('own name');
  expect(problemsWithSigning(waiver, { ...signing, typedName: 'Mai' }, 'guardian')[0]!.path).toBe(
    'typedName',
  );
  expect(problemsWithSigning(waiver, { ...signing, relation: 'self' }, 'guardian')[0]!.path).toBe('relation');
  expect(
    signedText(waiver, signing, { title: 'Open Water Day', when: '8 August' }, '2026-07-09T12:00:00.000Z'),
  ).toBe(
    'On the water, version 3\nEvent: Open Water Day, 8 August\nParticipant: Théo Wren\n\n1. [x] I can swim.\n2. [x] I know the risk.\n\nSigned by typing “Mai Wren”, as guardian of Théo Wren\nat 2026-07-09T12:00:00.000Z\n',
  );
});

test('shifts clash when they overlap, not when they touch', () => {
  const shift = (shiftId: string, from: string, to: string) => ({
    shiftId,
    label: shiftId,
    startsAt: `2026-08-${from}:00.000Z`,
    endsAt: `2026-08-${to}:00.000Z`,
  });
  const morning = shift('morning', '08T12:00', '08T16:00');
  expect(clashesOf(shift('noon', '08T15:59', '08T18:00'), [morning])[0]!.kind).toBe('overlap');
  expect(clashesOf(shift('noon', '08T16:00', '08T18:00'), [morning])).toEqual([]);
  expect(clashesOf(shift('night', '08T22:00', '09T03:00'), [morning])[0]).toMatchObject({
    kind: 'short rest',
  });
  expect(hoursOf(morning.startsAt, morning.endsAt)).toBe(4);
});

test('survey results count every point and reconcile with what was answered', () => {
  const questions: SurveyQuestion[] = [
    { id: 'liked', kind: 'scale', prompt: '', choices: [], required: true },
    { id: 'again', kind: 'one of', prompt: '', choices: ['yes', 'no'], required: false },
  ];
  const [liked, again] = resultsOf(questions, [
    { liked: 5, again: 'yes' },
    { liked: 3 },
    { liked: 4, again: 'no' },
  ]);
  expect(liked).toMatchObject({
    answered: 3,
    mean: 4,
    counts: [{ count: 0 }, { count: 0 }, { count: 1 }, { count: 1 }, { count: 1 }],
  });
  expect(again).toMatchObject({ answered: 2, mean: null });
  expect(problemsWithAnswers(questions, { liked: 6, other: 'x' }).map((p) => p.path)).toEqual([
    'answers.liked',
    'answers.other',
  ]);
  expect(problemsWithAnswers(questions, {}).map((p) => p.path)).toEqual(['answers.liked']);
});

test('an event’s figures reconcile, and say so when they do not', () => {
  const figures = figuresOf({
    seats: [
      { state: 'confirmed', attendance: 'arrived', walkIn: false },
      { state: 'confirmed', attendance: 'missed', walkIn: false },
      { state: 'withdrawn', attendance: null, walkIn: false },
    ],
    movements: [
      { kind: 'seats', amount: 2500, method: 'card' },
      { kind: 'donation', amount: 1000, method: 'card' },
      { kind: 'seats', amount: -500, method: 'card' },
    ],
    stints: [
      { state: 'served', hours: 4 },
      { state: 'missed', hours: 4 },
    ],
    survey: { asked: 4, answered: 1 },
  });
  expect(figures).toMatchObject({
    arrived: 1,
    missed: 1,
    expected: 0,
    hoursServed: 4,
    money: { seats: 2500, donations: 1000, refunds: 500, net: 3000 },
  });
  expect(figures.checks.every((c) => c.holds)).toBe(true);
  const broken = figuresOf({
    seats: [{ state: 'withdrawn', attendance: 'arrived', walkIn: false }],
    movements: [],
    stints: [],
    survey: { asked: 1, answered: 2 },
  });
  expect(broken.checks.filter((c) => !c.holds)).toHaveLength(2);
});

test('CSV cells that a spreadsheet would run are made harmless; telephones stay', () => {
  expect(
    writeCsv(
      ['Name', 'Phone', 'Note'],
      [
        ['=SUM(A1:A9)', '+19025550161', '@x'],
        ['a,b', '-5', '-cmd'],
      ],
    ),
  ).toBe("\ufeffName,Phone,Note\r\n'=SUM(A1:A9),+19025550161,'@x\r\n\"a,b\",-5,'-cmd\r\n");
});

test('calendar files fold at 75 octets and escape text', () => {
  const file = writeCalendar(
    'Shifts',
    [
      {
        uid: 'a',
        startsAt: '2026-08-08T12:00:00.000Z',
        endsAt: null,
        summary: 'Paddle; lagoon, shore',
        description: 'é'.repeat(60),
        sequence: 2,
      },
    ],
    '2026-07-09T12:20:00.000Z',
  );
  expect(file).toContain('DTSTART:20260808T120000Z\r\n');
  expect(file).toContain('SUMMARY:Paddle\\; lagoon\\, shore\r\n');
  for (const line of file.split('\r\n'))
    expect(new TextEncoder().encode(line).length).toBeLessThanOrEqual(75);
  fc.assert(
    fc.property(
      fc.string({ unit: 'grapheme' }),
      (text) =>
        foldLine(text.replace(/[\r\n]/gu, '')).replaceAll('\r\n ', '') === text.replace(/[\r\n]/gu, ''),
    ),
  );
});
