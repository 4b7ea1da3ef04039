import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { hasPart, needsSecondStep, problemWithAccountChange } from './accounts.ts';
import { problemWithPassword } from './password.ts';
import { sayDevice, sessionLasts } from './sessions.ts';
import { makeThrottle } from './throttle.ts';

const owner = {
  name: 'Odalys Ferrant',
  email: 'odalys@brackenmere.example',
  organization: 'Brackenmere Wetland Trust',
};
const common = new Set(['password123', 'iloveyou', 'sunshine', 'qwertyuiop']);
const problem = (password: string) => problemWithPassword(password, owner, common);

describe('a password', () => {
  test('that is tried first is refused', () => {
    for (const bad of [
      'short',
      'aaaaaaaaaaaa',
      'abababababab',
      'PASSWORD123',
      'iloveyou123!',
      '2026sunshine',
      'abcdefghijkl',
      '0987654321',
      'qwertyuiop',
      'brackenmere2026',
      'OdalysFerrant1',
      'Odalys.2026!',
      'x'.repeat(201),
    ])
      expect(problem(bad), bad).not.toBeNull();
  });
  test('that is long and one’s own is taken, whatever characters it has', () => {
    for (const good of [
      'marsh-wren-2026',
      'correct horse battery',
      'zwölf graue Reiher',
      '🦢🦆🐸🌾 im Moor stehen',
    ])
      expect(problem(good), good).toBeNull();
  });
});

test('sessions end when nobody uses them, and in any case', () => {
  const at = (hours: number) => new Date(Date.UTC(2026, 6, 1) + hours * 3_600_000).toISOString();
  expect(sessionLasts({ createdAt: at(0), seenAt: at(0) }, at(11.9))).toBe(true);
  expect(sessionLasts({ createdAt: at(0), seenAt: at(0) }, at(12))).toBe(false);
  expect(sessionLasts({ createdAt: at(0), seenAt: at(24 * 13.9) }, at(24 * 14 - 1))).toBe(true);
  expect(sessionLasts({ createdAt: at(0), seenAt: at(24 * 14 - 1) }, at(24 * 14))).toBe(false);
  expect(sayDevice('Mozilla/5.0 (X11; Linux x86_64) AppleWebKit/537.36 Chrome/126 Safari/537.36')).toBe(
    'Chrome on Linux',
  );
  expect(sayDevice('')).toBe('Unknown browser');
});

describe('tries are slowed down', () => {
  test('the wait doubles after the free ones, and success forgets them', () => {
    const t = makeThrottle({ free: 3 });
    const waits: number[] = [];
    for (let n = 0; n < 6; n += 1) {
      t.failed('a', 1000);
      waits.push(t.wait('a', 1000));
    }
    expect(waits).toEqual([0, 0, 1000, 2000, 4000, 8000]);
    expect(t.wait('b', 1000)).toBe(0);
    t.succeeded('a');
    expect(t.wait('a', 1000)).toBe(0);
  });
  test('never longer than the longest wait, forgotten in time, and nobody fills the memory', () => {
    fc.assert(
      fc.property(fc.integer({ min: 1, max: 200 }), (times) => {
        const t = makeThrottle({ free: 2, most: 60_000, forget: 300_000, keys: 10 });
        for (let n = 0; n < times; n += 1) t.failed('k', 0);
        expect(t.wait('k', 0)).toBeLessThanOrEqual(60_000);
        expect(t.wait('k', 400_000)).toBe(0);
        for (let n = 0; n < 40; n += 1) for (let m = 0; m < 5; m += 1) t.failed(`other ${n}`, 400_000);
        expect(t.wait('k', 400_000)).toBe(0);
        expect(t.wait('other 39', 400_000)).toBeGreaterThan(0);
        expect(t.wait('other 1', 400_000)).toBe(0);
      }),
    );
  });
});

test('somebody is of the staff by one role, or by one part in an event that lasts', () => {
  expect(hasPart({ roles: ['door'], duties: [] })).toBe(true);
  expect(hasPart({ roles: [], duties: ['one'] })).toBe(true);
  expect(hasPart({ roles: [], duties: [] })).toBe(false);
});

test('a coordinator is always left, and nobody changes their own rights', () => {
  const all = [
    { id: 'a', roles: ['coordinator'] as const, resting: false },
    { id: 'b', roles: ['coordinator', 'door'] as const, resting: true },
    { id: 'c', roles: ['door'] as const, resting: false },
  ];
  expect(problemWithAccountChange({ resting: true }, all[0]!, 'c', all)).toBe('last-coordinator');
  expect(problemWithAccountChange({ roles: ['door'] }, all[0]!, 'c', all)).toBe('last-coordinator');
  expect(problemWithAccountChange({ resting: true }, all[2]!, 'a', all)).toBeNull();
  expect(problemWithAccountChange({ roles: ['coordinator'] }, all[2]!, 'c', all)).toBe('own-rights');
  expect(problemWithAccountChange({ roles: ['door'] }, all[2]!, 'c', all)).toBeNull();
  expect(problemWithAccountChange({ resting: false }, all[1]!, 'a', all)).toBeNull();
  expect(needsSecondStep(['door', 'treasurer'], true)).toBe(true);
  expect(needsSecondStep(['treasurer'], false)).toBe(false);
  expect(needsSecondStep(['door', 'crew lead'], true)).toBe(false);
});
