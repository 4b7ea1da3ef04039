import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { problemsWithAgenda, remarksOnAgenda } from './checking.ts';
import { refusalsOf, seatsLeft } from './choosing.ts';
import {
  daysOf,
  inOrder,
  isPlaced,
  meet,
  nextTimes,
  type Session,
  sessionsAlong,
  slotsOf,
  wallTimesOf,
} from './session.ts';

const session = (
  id: string,
  times: [number, string, string] | null,
  more: Partial<Session> = {},
): Session => ({
  id,
  kind: 'session',
  title: { en: id },
  about: { en: '' },
  day: times?.[0] ?? null,
  begins: times?.[1] ?? null,
  ends: times?.[2] ?? null,
  trackId: null,
  roomId: null,
  capacity: null,
  signUp: true,
  speakerIds: [],
  ...more,
});
const frame = {
  startsLocal: '2026-10-31T09:00',
  endsLocal: '2026-11-01T17:00',
  zone: 'America/Halifax',
  tracks: [{ id: 'reeds' }],
  speakers: [{ id: 'ida' }, { id: 'bo' }],
  rooms: ['hall'],
};
const codes = (sessions: Session[], before: Session[] = []) =>
  problemsWithAgenda(sessions, frame, before).map((p) => `${p.path} ${p.code}`);

describe('when a session is', () => {
  test('by the day of its event; one that ends at or before its beginning ends the day after', () => {
    const times = (s: Session) => (isPlaced(s) ? wallTimesOf(s, '2026-10-31') : null);
    expect(times(session('a', [2, '09:30', '10:15']))).toEqual({
      startsLocal: '2026-11-01T09:30',
      endsLocal: '2026-11-01T10:15',
    });
    expect(times(session('b', [1, '23:00', '01:00']))).toEqual({
      startsLocal: '2026-10-31T23:00',
      endsLocal: '2026-11-01T01:00',
    });
  });
  test('two meet when they share a moment, also over midnight; end to end they do not', () => {
    const a = session('a', [1, '23:00', '01:00']);
    expect(meet(a, session('b', [2, '00:30', '02:00']))).toBe(true);
    expect(meet(a, session('c', [2, '01:00', '02:00']))).toBe(false);
    expect(meet(a, session('d', null))).toBe(false);
  });
  test('the next one of a day comes right after the one that ends last, as long as that; over midnight on the next day', () => {
    const day = [
      session('a', [1, '09:00', '12:00']),
      session('b', [1, '10:00', '10:45']),
      session('c', [2, '08:00', '18:00']),
      session('d', null),
    ];
    expect(nextTimes(day, 1, '2026-10-31T09:00')).toEqual({ day: 1, begins: '12:00', ends: '13:30' });
    const short = [session('a', [1, '09:00', '09:05'])];
    expect(nextTimes(short, 1, null)).toEqual({ day: 1, begins: '09:05', ends: '09:20' });
    const late = [session('a', [1, '23:30', '00:10'])];
    expect(nextTimes(late, 1, null)).toEqual({ day: 2, begins: '00:10', ends: '00:50' });
  });
  test('the first of a day begins with its event, on later days at nine', () => {
    expect(nextTimes([], 1, '2026-10-31T18:30')).toEqual({ day: 1, begins: '18:30', ends: '19:15' });
    expect(nextTimes([], 2, '2026-10-31T18:30')).toEqual({ day: 2, begins: '09:00', ends: '09:45' });
    expect(nextTimes([], 1, null)).toEqual({ day: 1, begins: '09:00', ends: '09:45' });
  });
  test('whatever stands there: what is put next meets nothing of its day', () => {
    const time = fc
      .tuple(fc.integer({ min: 0, max: 23 }), fc.integer({ min: 0, max: 59 }))
      .map(([h, m]) => `${String(h).padStart(2, '0')}:${String(m).padStart(2, '0')}`);
    fc.assert(
      fc.property(fc.array(fc.tuple(time, time), { maxLength: 6 }), (times) => {
        const day = times.map(([begins, ends], n) => session(String(n), [1, begins, ends]));
        const next = nextTimes(day, 1, null);
        expect(day.filter((s) => meet(s, next))).toEqual([]);
      }),
    );
  });
  test('put later or earlier they stay as they stand to each other, over midnight too; none is put before its event', () => {
    const at = (day: number, begins: string, ends: string) => ({ id: begins, day, begins, ends });
    expect(
      sessionsAlong(
        [
          at(1, '09:00', '10:00'),
          at(1, '22:30', '23:30'),
          { ...at(1, '', ''), day: null, begins: null, ends: null },
        ],
        120,
      ),
    ).toEqual([
      { ...at(1, '11:00', '12:00'), id: '09:00' },
      { ...at(2, '00:30', '01:30'), id: '22:30' },
      { id: '', day: null, begins: null, ends: null },
    ]);
    expect(sessionsAlong([at(1, '09:00', '10:00'), at(2, '00:30', '01:30')], -600)).toEqual([
      at(1, '09:00', '10:00'),
      { ...at(1, '14:30', '15:30'), id: '00:30' },
    ]);
  });

  test('an event that ends in the small hours is one of that evening', () => {
    expect(daysOf({ startsLocal: '2026-03-06T20:30', endsLocal: '2026-03-07T00:30' })).toBe(1);
    expect(daysOf({ startsLocal: '2026-10-31T09:00', endsLocal: '2026-11-01T17:00' })).toBe(2);
    expect(daysOf({ startsLocal: '2026-10-31T09:00', endsLocal: null })).toBe(1);
  });
});

test('a timetable has each placed session once, in order, grouped by when it begins', () => {
  const time = fc
    .tuple(fc.integer({ min: 0, max: 23 }), fc.integer({ min: 0, max: 59 }))
    .map(([h, m]) => `${String(h).padStart(2, '0')}:${String(m).padStart(2, '0')}`);
  const any = fc.array(fc.option(fc.tuple(fc.integer({ min: 1, max: 3 }), time, time)), { maxLength: 20 });
  fc.assert(
    fc.property(any, (all) => {
      const sessions = all.map((times, at) => session(String(at), times));
      const shown = slotsOf(sessions).flatMap((d) =>
        d.slots.flatMap((s) => s.sessions.map((x) => ({ day: d.day, begins: s.begins, x }))),
      );
      expect(shown.map((s) => s.x.id).sort()).toEqual(
        sessions
          .filter(isPlaced)
          .map((s) => s.id)
          .sort(),
      );
      expect(shown.every((s) => s.x.day === s.day && s.x.begins === s.begins)).toBe(true);
      expect(shown.map((s) => s.x.id)).toEqual(
        inOrder(sessions)
          .filter(isPlaced)
          .map((s) => s.id),
      );
    }),
  );
});

describe('what is wrong with an agenda', () => {
  test('outside its event, half placed, without length, untitled, at a time the clock takes away', () => {
    expect(codes([session('a', [1, '08:30', '09:30'])])).toEqual(['sessions.0.begins session-outside']);
    expect(codes([session('a', [2, '16:00', '17:30'])])).toEqual(['sessions.0.begins session-outside']);
    expect(codes([session('a', [3, '10:00', '11:00'])])).toEqual(['sessions.0.begins session-outside']);
    expect(codes([session('a', [1, '10:00', '10:00'])])).toEqual(['sessions.0.ends session-no-length']);
    expect(codes([{ ...session('a', null), day: 1 }])).toEqual(['sessions.0.begins session-half-placed']);
    expect(codes([session('a', null, { title: { en: ' ' } })])).toEqual([
      'sessions.0.title.en session-untitled',
    ]);
    expect(
      problemsWithAgenda([session('a', [2, '02:15', '03:30'])], {
        ...frame,
        startsLocal: '2026-03-07T09:00',
        endsLocal: '2026-03-08T17:00',
      }).map((p) => p.code),
    ).toEqual(['time-removed']);
  });
  test('what its event moved away from is no longer refused, unless it is put somewhere else outside', () => {
    const early = session('a', [1, '08:30', '09:30']);
    expect(codes([early], [early])).toEqual([]);
    expect(codes([{ ...early, begins: '08:00' }], [early])).toEqual(['sessions.0.begins session-outside']);
    expect(remarksOnAgenda([early], frame, [], []).map((r) => r.code)).toEqual(['outside']);
  });
  test('a track, room or speaker that is not there', () => {
    expect(
      codes([session('a', null, { trackId: 'birds', roomId: 'attic', speakerIds: ['ida', 'eve'] })]),
    ).toEqual([
      'sessions.0.trackId thing-gone',
      'sessions.0.roomId room-elsewhere',
      'sessions.0.speakerIds thing-gone',
    ]);
  });
  test('a speaker or a room needed twice at once is remarked on; a break needs neither', () => {
    const rooms = [{ id: 'hall', name: 'Hall', capacity: 50 }];
    const speakers = [{ id: 'ida', name: 'Ida' }];
    const a = session('a', [1, '10:00', '11:00'], { roomId: 'hall', speakerIds: ['ida'], capacity: 60 });
    const b = session('b', [1, '10:30', '11:30'], { roomId: 'hall', speakerIds: ['ida'] });
    expect(remarksOnAgenda([a, b], frame, speakers, rooms).map((r) => r.code)).toEqual([
      'more-than-room',
      'speaker-twice',
      'room-twice',
    ]);
    const pause = session('p', [1, '10:30', '11:30'], { kind: 'break', roomId: 'hall' });
    expect(remarksOnAgenda([{ ...a, capacity: 50 }, pause], frame, speakers, rooms)).toEqual([]);
  });
});

describe('choosing sessions', () => {
  const open = (id: string, times: [number, string, string], left: number | null = null, more = {}) => ({
    ...session(id, times, more),
    left,
  });
  test('the smaller of what is said and what the room holds', () => {
    expect(seatsLeft({ capacity: 30 }, 20, 5)).toBe(15);
    expect(seatsLeft({ capacity: null }, null, 5)).toBeNull();
    expect(seatsLeft({ capacity: 3 }, null, 5)).toBe(0);
  });
  test('full, at the same time, not open to sign up; who has a seat keeps it', () => {
    const sessions = [
      open('a', [1, '10:00', '11:00'], 0),
      open('b', [1, '10:30', '11:30']),
      open('c', [1, '12:00', '13:00'], 3, { signUp: false }),
      open('d', [1, '14:00', '15:00'], 0),
    ];
    expect([...refusalsOf(['a', 'b', 'c', 'd', 'x'], new Set(['a']), sessions)]).toEqual([
      ['b', { code: 'sessions-meet', other: 'a' }],
      ['c', { code: 'session-not-open' }],
      ['d', { code: 'session-full' }],
      ['x', { code: 'session-not-open' }],
    ]);
  });
});
