import { describe, expect, test } from 'vitest';
import { sayNote } from '#core/words/notes.ts';
import { sayPin } from '#core/words/pins.ts';
import { sayProblem } from '#core/words/problems.ts';
import { arrive, moveCopy } from './copy.ts';
import { type MarginFacts, marginOf } from './margin.ts';
import { problemsWithSchedule, remarksOnSchedule } from './schedule.ts';
import '#core/words/spoken.ts';
import { problemWithSlug, proposeSlug } from './slug.ts';
import { type SpineFacts, spineOf } from './spine.ts';

const zone = 'America/Halifax';
const schedule = (
  startsLocal: string | null,
  endsLocal: string | null = null,
  doorsLocal: string | null = null,
) => ({ startsLocal, endsLocal, doorsLocal, registrationClosesLocal: null as string | null, zone });

describe('schedules', () => {
  test('an end after midnight is the next day, an end before the start is said to be', () => {
    expect(problemsWithSchedule(schedule('2026-03-06T20:30', '2026-03-07T00:30'))).toEqual([]);
    expect(problemsWithSchedule(schedule('2026-03-06T20:30', '2026-03-06T00:30'))[0]).toMatchObject({
      path: 'endsLocal',
      code: 'end-next-day',
      params: { time: '00:30' },
    });
    expect(problemsWithSchedule(schedule('2026-03-06T20:30', '2026-03-01T00:30'))[0]!.code).toBe(
      'end-before-start',
    );
  });
  test('a time the clocks leave out is refused with its neighbours', () => {
    const [gap] = problemsWithSchedule(schedule('2026-03-08T02:30'));
    expect(sayProblem(gap!.code, gap!.params)).toBe(
      '02:30 does not exist on that date in Halifax: the clocks go forward. 01:30 or 03:30?',
    );
  });
  test('a repeated hour and a date that has passed are remarked on', () => {
    expect(remarksOnSchedule(schedule('2026-11-01T01:30'), '2026-07-09').join(' ')).toContain('comes twice');
    expect(remarksOnSchedule(schedule('2026-07-01T10:00'), '2026-07-09')[0]).toContain('has passed');
  });
  test('an unknown zone and doors after the start are refused', () => {
    expect(problemsWithSchedule({ ...schedule(null), zone: 'Mars/Base' })[0]!.path).toBe('zone');
    expect(problemsWithSchedule(schedule('2026-08-08T09:00', null, '2026-08-08T09:30'))[0]!.path).toBe(
      'doorsLocal',
    );
  });
  test('registration closes by the end, at a time that exists', () => {
    const closing = (registrationClosesLocal: string, ends: string | null = '2026-03-08T16:00') =>
      problemsWithSchedule({ ...schedule('2026-03-08T09:00', ends), registrationClosesLocal });
    expect(closing('2026-03-08T16:00')).toEqual([]);
    expect(closing('2026-03-08T16:01')[0]!.path).toBe('registrationClosesLocal');
    expect(closing('2026-03-08T09:01', null)[0]!.code).toBe('closes-after-start');
    expect(closing('2026-03-08T02:30')[0]!.code).toBe('time-removed');
  });
});

test('public addresses', () => {
  expect(proposeSlug("Fête de l'Étang 2026 🎉")).toBe('fete-de-letang-2026');
  expect(proposeSlug('Chœur & Straßenfest: Þórshöfn')).toBe('choeur-strassenfest-thorshofn');
  expect(proposeSlug('🎉')).toBe('');
  expect(problemWithSlug('open-water-day')).toBeNull();
  for (const odd of [
    'Open Water',
    'ÉTÉ',
    '../etc/passwd',
    'a',
    '🎉',
    '-x-',
    'a--b',
    'x'.repeat(61),
    'shifts',
  ])
    expect(problemWithSlug(odd)).not.toBeNull();
  expect(problemWithSlug('Open Water')?.params).toEqual({ better: 'open-water' });
});

test('a copy moves everything dated by the same days and fills in no date', () => {
  const from = {
    startsLocal: '2025-08-09T09:00',
    endsLocal: '2025-08-09T16:30',
    doorsLocal: '2025-08-09T08:30',
    registrationClosesLocal: '2025-08-07T18:00',
    shifts: [{ startsLocal: '2025-08-09T08:30', endsLocal: '2025-08-09T12:30' }],
  };
  expect(moveCopy(from, '2026-08-08')).toMatchObject({
    startsLocal: '2026-08-08T09:00',
    doorsLocal: '2026-08-08T08:30',
    registrationClosesLocal: '2026-08-06T18:00',
    shifts: [{ startsLocal: '2026-08-08T08:30', endsLocal: '2026-08-08T12:30' }],
  });
  const undated = moveCopy(from, null);
  expect(undated).toMatchObject({ startsLocal: null, endsLocal: null, shifts: [], waits: from });
});

test('the spine puts today into the stage that has been reached, after what has happened', () => {
  const facts: SpineFacts = {
    zone,
    now: '2026-07-09T12:20:00.000Z',
    createdAt: '2026-03-12T12:00:00.000Z',
    createdFrom: '2025',
    startsAt: '2026-08-08T12:00:00.000Z',
    endsAt: '2026-08-08T19:30:00.000Z',
    doorsAt: '2026-08-08T11:30:00.000Z',
    lastDayToSubmit: null,
    submittedAt: '2026-05-28T12:00:00.000Z',
    submittedLate: false,
    toDecide: [],
    conditions: [],
    clearance: [],
    openedAt: '2026-06-15T12:00:00.000Z',
    registrationClosesAt: '2026-08-06T21:00:00.000Z',
    shiftsUnfilled: 2,
    firstShiftAt: '2026-08-08T11:30:00.000Z',
    messages: [],
    surveyAt: null,
    surveyAnswers: 0,
  };
  const spine = spineOf(facts);
  expect(spine.today).toEqual({ code: 'before', params: { days: 30 }, stage: 'registration', afterPins: 1 });
  expect(sayPin(spine.today)).toBe('today, 30 days before');
  expect(spine.stages.map((s) => s.standing)).toEqual([
    'done',
    'done',
    'current',
    'ahead',
    'ahead',
    'ahead',
    'ahead',
  ]);
  expect(spine.stages[3]!.pins[0]).toMatchObject({ code: 'unfilled', params: { places: 2 }, late: true });
  expect(spineOf({ ...facts, now: '2026-08-09T12:00:00.000Z' }).today).toMatchObject({
    code: 'the-day-after',
    stage: 'wrap-up',
  });
});

test('the margin puts what cannot go on first, and falls silent when all is well', () => {
  const well: MarginFacts = {
    state: 'open',
    currency: 'CAD',
    daysToStart: 30,
    over: false,
    lacks: [],
    daysToSubmit: null,
    stuck: [],
    asksLateBy: 0,
    sentBack: null,
    proposedBy: null,
    conditions: [],
    waiversMissing: { minors: 0, adults: 0, unknown: 0 },
    waiting: { parties: 0, people: 0, free: null, firstFit: null },
    offersOut: 0,
    unfilled: { places: 0, shifts: 0, firstRole: null },
    messagesFailed: 0,
    paymentsUnknown: 0,
    owedBack: { orders: 0, amount: 0 },
    owing: { orders: 0, amount: 0 },
    overdue: { orders: 0, amount: 0 },
    hoursOpen: 0,
    shiftsAsked: 0,
    applied: 0,
    crewMissing: 0,
    nobodySteps: 0,
    stepping: 0,
    swaps: 0,
    disputed: 0,
    talliesWaiting: 0,
    survey: null,
    checksFailing: [],
  };
  expect(marginOf(well)).toEqual([]);
  const notes = marginOf({
    ...well,
    waiversMissing: { minors: 3, adults: 2, unknown: 0 },
    waiting: { parties: 2, people: 10, free: 4, firstFit: { name: 'Vetch', seats: 4, orderId: 'x' } },
    messagesFailed: 1,
  });
  expect(notes.map((n) => sayNote(n.code, n.params).headline)).toEqual([
    '1 message failed.',
    'A party of 4 fits now.',
    '3 children have no guardian’s signature.',
    '2 waivers still missing.',
  ]);
  // What somebody says of their attendance is asked about once the event is over, until it is answered.
  const disputed = marginOf({ ...well, over: true, state: 'closed', disputed: 2 });
  expect(disputed.map((n) => sayNote(n.code, n.params).headline)).toContain(
    '2 people say that their attendance is not right.',
  );
  // What was counted is looked at before the event as well: it may be counted earlier.
  for (const over of [false, true])
    expect(
      marginOf({ ...well, over, talliesWaiting: 1 }).map((n) => sayNote(n.code, n.params).headline),
    ).toContain('1 tally waits to be looked at.');
  const conditions = [
    { step: 'Safety', what: 'A second boat.', blocks: true, daysLeft: 3 },
    { step: 'Finance', what: 'A cash box.', blocks: false, daysLeft: -2 },
    { step: 'Safety', what: 'Lamps.', blocks: false, daysLeft: null },
  ];
  const said = (facts: Partial<MarginFacts>) =>
    marginOf({ ...well, ...facts }).map((n) => [n.tone, sayNote(n.code, n.params).headline]);
  expect(said({ applied: 2, shiftsAsked: 1 })).toEqual([
    ['need', '1 person asks for a shift.'],
    ['need', '2 people applied to help.'],
  ]);
  expect(said({ state: 'cleared', conditions })).toEqual([
    ['stop', 'A condition by Finance is 2 days late.'],
    ['need', 'It opens once a condition by Safety is met.'],
    ['know', 'Condition by Safety.'],
  ]);
  expect(said({ state: 'cleared', conditions: [conditions[2]!] })).toEqual([
    ['need', 'Cleared, and not open yet.'],
    ['know', 'Condition by Safety.'],
  ]);
  expect(said({ state: 'in clearance', asksLateBy: 2 })).toEqual([['need', 'Sent 2 days late.']]);
  expect(said({ state: 'draft', asksLateBy: 2 })).toEqual([]);
  // The step that is later presses more.
  const stuck = [
    { step: 'Safety', overdueDays: 10 },
    { step: 'Finance', overdueDays: 14 },
  ];
  expect(marginOf({ ...well, state: 'in clearance', stuck }).map((n) => n.params.step)).toEqual([
    'Finance',
    'Safety',
  ]);
  const later = marginOf({
    ...well,
    waiversMissing: { minors: 1, adults: 0, unknown: 0 },
    daysToStart: 1,
  })[0]!;
  expect(later.urgency).toBeGreaterThan(notes[2]!.urgency);
  const [young] = marginOf({ ...well, waiversMissing: { minors: 0, adults: 0, unknown: 1 } });
  expect(sayNote(young!.code, young!.params).headline).toBe('The age of 1 person is not known.');
  // Shifts of a date made a year ahead are no need yet.
  const unfilled = (daysToStart: number) =>
    marginOf({ ...well, daysToStart, unfilled: { places: 1, shifts: 1, firstRole: 'Gate' } })[0]!.tone;
  expect([101, 100].map(unfilled)).toEqual(['know', 'need']);
  // Until three days before, the reminder still goes out by itself.
  const unsigned = (daysToStart: number) =>
    marginOf({ ...well, daysToStart, waiversMissing: { minors: 0, adults: 1, unknown: 0 } })[0]!.code;
  expect([4, 3].map(unsigned)).toEqual(['waivers-missing', 'waivers-missing-soon']);
  // The nearer the last day to send, the more it presses; more than ten days ahead nothing is said.
  const sending = (daysToSubmit: number) => marginOf({ ...well, state: 'draft', daysToSubmit })[0];
  expect([11, 10, 1, 0].map((d) => sending(d)?.code)).toEqual([
    undefined,
    'days-to-send',
    'days-to-send',
    'last-day-to-send',
  ]);
  const pressing = [10, 1, 0, -1].map((d) => sending(d)!.urgency);
  expect(pressing).toEqual([...pressing].sort((a, b) => a - b));
  expect(marginOf({ ...well, state: 'draft', daysToSubmit: -2, daysToStart: 12 })[0]).toMatchObject({
    tone: 'stop',
    code: 'late-for-clearance',
    due: { code: 'days-late', params: { days: 2 } },
  });
});

test('what waits for a date arrives at its distance; what was given meanwhile stays, what no longer fits is let go', () => {
  const waits = {
    startsLocal: '2025-08-09T09:00',
    endsLocal: '2025-08-09T16:30',
    doorsLocal: '2025-08-09T08:30',
    registrationClosesLocal: '2025-08-07T18:00',
    shifts: [{ startsLocal: '2025-08-08T18:00', endsLocal: '2025-08-08T20:00' }],
  };
  const nothing = { endsLocal: null, doorsLocal: null, registrationClosesLocal: null };
  expect(arrive(waits, { ...nothing, startsLocal: '2026-08-08T09:00' })).toEqual({
    startsLocal: '2026-08-08T09:00',
    endsLocal: '2026-08-08T16:30',
    doorsLocal: '2026-08-08T08:30',
    registrationClosesLocal: '2026-08-06T18:00',
    shifts: [{ startsLocal: '2026-08-07T18:00', endsLocal: '2026-08-07T20:00' }],
  });
  // In the evening the old end is over and the old doors still fit; a door time given by hand counts.
  expect(
    arrive(waits, { ...nothing, doorsLocal: '2026-08-08T18:30', startsLocal: '2026-08-08T19:00' }),
  ).toMatchObject({
    endsLocal: null,
    doorsLocal: '2026-08-08T18:30',
  });
  // So does an end.
  expect(
    arrive(waits, { ...nothing, endsLocal: '2026-08-08T12:00', startsLocal: '2026-08-08T09:00' }).endsLocal,
  ).toBe('2026-08-08T12:00');
  // In the morning the old doors would open too late.
  expect(arrive(waits, { ...nothing, startsLocal: '2026-08-08T07:00' })).toMatchObject({
    endsLocal: '2026-08-08T16:30',
    doorsLocal: null,
  });
});

test('a copy of a copy without a date has what its own source had waiting', () => {
  const from = {
    startsLocal: '2025-08-09T09:00',
    endsLocal: null,
    doorsLocal: null,
    registrationClosesLocal: null,
    shifts: [{ startsLocal: '2025-08-09T08:30', endsLocal: '2025-08-09T12:30' }],
  };
  const once = moveCopy(from, null);
  const twice = moveCopy({ ...once, shifts: [] }, '2027-08-07', once.waits);
  expect(twice.startsLocal).toBe('2027-08-07T09:00');
  expect(twice.shifts).toEqual([{ startsLocal: '2027-08-07T08:30', endsLocal: '2027-08-07T12:30' }]);
  expect(twice.waits).toBeNull();
});
