import { expect, test } from 'vitest';
import {
  afterSaying,
  applicationStates,
  decisionRefused,
  keptOf,
  maySay,
  type Offered,
  problemsWithSaid,
  type Said,
} from './applying.ts';
import { noLimits } from './limits.ts';

const offered: Offered = {
  roles: ['boat', 'gate'],
  skills: [
    { id: 'ticket', certificate: true },
    { id: 'paddles', certificate: false },
  ],
  asks: ['availability', 'skills', 'limits', 'company', 'shirt', 'birth date', 'experience'],
  kind: 'dates',
};
const said: Said = {
  wishes: [{ roleId: 'boat', weight: 3 }],
  skills: [
    { skillId: 'ticket', number: '12', until: '2027-01-01', fileId: 'f' },
    { skillId: 'paddles', number: '12', until: '2027-01-01', fileId: 'f' },
  ],
  available: { kind: 'dates', stretches: [{ date: '2026-08-08', from: '09:00', to: '17:00' }] },
  limits: { ...noLimits, shifts: 3 },
  company: 'Mai',
  shirt: 'M',
  birthDate: '1990-01-01',
  experience: 'Two summers.',
};
const wrong = (part: Partial<Said>, of: Partial<Offered> = {}) =>
  problemsWithSaid({ ...said, ...part }, { ...offered, ...of }, '2026-07-09').map((p) => [p.path, p.code]);

test('what is wrong is said at its place', () => {
  expect(wrong({})).toEqual([]);
  expect(wrong({ wishes: [] })).toEqual([['wishes', 'wish-needed']]);
  expect(wrong({ wishes: [...said.wishes, { roleId: 'gone', weight: 1 }] })).toEqual([
    ['wishes.1.roleId', 'role-gone'],
  ]);
  expect(wrong({ skills: [{ ...said.skills[0]!, skillId: 'gone' }] })).toEqual([
    ['skills.0.skillId', 'skill-gone'],
  ]);
  expect(wrong({ available: { kind: 'dates', stretches: [] } })).toEqual([['available', 'available-needed']]);
  expect(wrong({ available: null })).toEqual([['available', 'available-needed']]);
  expect(
    wrong({ available: { kind: 'week', stretches: [{ weekday: 1, from: '09:00', to: '10:00' }] } }),
  ).toEqual([['available', 'available-needed']]);
  expect(
    wrong({ available: { kind: 'dates', stretches: [{ date: '2026-08-08', from: '12:00', to: '09:00' }] } }),
  ).toEqual([['available.stretches.0.to', 'stretch-ends-before']]);
  expect(wrong({ birthDate: '2026-07-10' })).toEqual([['birthDate', 'in-the-future']]);
});

test('what is not asked is neither looked at nor kept; a skill that is no certificate keeps no number', () => {
  const asks = { asks: [] };
  expect(wrong({ available: null, birthDate: '2030-01-01', skills: [] }, asks)).toEqual([]);
  expect(keptOf(said, { ...offered, asks: [] })).toEqual({
    wishes: said.wishes,
    skills: [],
    available: null,
    limits: noLimits,
    company: '',
    shirt: '',
    birthDate: null,
    experience: '',
  });
  expect(keptOf(said, offered)).toEqual({
    ...said,
    skills: [said.skills[0], { skillId: 'paddles', number: '', until: null, fileId: null }],
  });
});

test('nobody is decided on before they said something; who was accepted stays so whatever they change', () => {
  expect(decisionRefused('invited', 'accepted')).toBe('not-applied');
  for (const from of applicationStates.filter((s) => s !== 'invited'))
    for (const to of ['accepted', 'declined', 'resting'] as const)
      expect(decisionRefused(from, to)).toBe(from === to ? 'is-so-already' : null);
  expect(applicationStates.filter(maySay)).toEqual(['invited', 'new', 'accepted', 'resting']);
  expect(applicationStates.map(afterSaying)).toEqual(['new', 'new', 'accepted', 'new', 'new']);
});
