import fc from 'fast-check';
import { expect, test } from 'vitest';
import { plusMinutes } from '#core/time/clock.ts';
import { instantOf } from '#core/time/wallTime.ts';
import { presenceRefusal, type Rounding, servedHours, standingOf } from './serving.ts';

const at = (time: string, day = '2026-08-08') => instantOf(`${day}T${time}`, 'America/Halifax');
const shift = { startsAt: at('09:00'), endsAt: at('12:00') };
const quarter: Rounding = { roundedTo: 15, rounded: 'nearest' };
const hours = (from: string | null, until: string | null, rule = quarter) =>
  servedHours({ inAt: from && at(from), outAt: until && at(until) }, shift, rule);

test('hours go from when they came until they left, rounded by the rule', () => {
  expect(hours('09:00', '12:00')).toBe(3);
  expect(hours('09:08', '12:00')).toBe(2.75);
  expect(hours('09:07', '12:00')).toBe(3);
  expect(hours('09:08', '12:00', { roundedTo: 15, rounded: 'up' })).toBe(3);
  expect(hours('09:01', '12:00', { roundedTo: 60, rounded: 'down' })).toBe(2);
  expect(hours('09:20', '12:00', { roundedTo: 1, rounded: 'nearest' })).toBe(2.67);
});

test('who came before the start counts from the start; who stayed on, until they left', () => {
  expect(hours('08:20', '12:40')).toBe(3.75);
  expect(hours(null, null)).toBe(3);
  expect(hours('10:00', null)).toBe(2);
  // Out before the shift even began.
  expect(hours('08:00', '08:30')).toBe(0);
});

test('over the end of summer time a night has an hour more', () => {
  const night = { startsAt: at('22:00', '2026-10-31'), endsAt: at('06:00', '2026-11-01') };
  expect(servedHours({ inAt: null, outAt: null }, night, quarter)).toBe(9);
});

test('rounded up is never less than rounded down, and by less than the step', () => {
  fc.assert(
    fc.property(fc.integer({ min: 0, max: 900 }), fc.constantFrom(1, 5, 6, 10, 15, 30, 60), (stay, step) => {
      const presence = { inAt: shift.startsAt, outAt: plusMinutes(shift.startsAt, stay) };
      const of = (rounded: Rounding['rounded']) =>
        servedHours(presence, shift, { roundedTo: step as Rounding['roundedTo'], rounded });
      expect(of('down')).toBeLessThanOrEqual(of('nearest'));
      expect(of('nearest')).toBeLessThanOrEqual(of('up'));
      expect(of('up') - of('down')).toBeLessThanOrEqual(step / 60 + 0.011);
    }),
  );
});

test('from the start on somebody is late, then missing; once there, they are here until they leave', () => {
  const agreed = { state: 'agreed' as const, inAt: null, outAt: null };
  const of = (time: string, more: object = {}) => standingOf({ ...agreed, ...more }, shift, at(time), 10);
  expect(of('08:59')).toBe('to come');
  expect(of('09:00')).toBe('late');
  expect(of('09:09')).toBe('late');
  expect(of('09:10')).toBe('missing');
  expect(of('12:00')).toBe('open');
  expect(of('09:30', { inAt: at('09:20') })).toBe('here');
  expect(of('12:01', { inAt: at('09:20') })).toBe('still here');
  expect(of('12:01', { inAt: at('09:20'), outAt: at('12:00'), state: 'served' })).toBe('left');
  expect(of('12:01', { state: 'missed' })).toBe('missed');
});

test('only who is on the shift is ticked off, not days before, and out only after in', () => {
  const of = (to: 'in' | 'out' | 'expected', time: string, more: object = {}) =>
    presenceRefusal({ state: 'agreed', inAt: null, outAt: null, corrected: false, ...more }, shift, to, time);
  expect(of('in', at('08:00'))).toBe(null);
  expect(of('in', at('20:59', '2026-08-07'))).toBe('far-too-early');
  expect(of('in', at('21:00', '2026-08-07'))).toBe(null);
  expect(of('out', at('11:00'))).toBe('not-in');
  expect(of('out', at('11:00'), { inAt: at('09:00') })).toBe(null);
  expect(of('in', at('09:00'), { state: 'proposed' })).toBe('only-asked');
  expect(of('in', at('09:00'), { state: 'dropped' })).toBe('dropped');
  expect(of('in', at('09:00'), { state: 'missed' })).toBe(null);
  // What the crew lead put right, and what is long over, stays.
  expect(of('expected', at('13:00'), { state: 'served', corrected: true })).toBe('hours-set');
  expect(of('in', at('23:59', '2026-08-09'))).toBe(null);
  expect(of('in', at('00:01', '2026-08-10'))).toBe('long-over');
});
