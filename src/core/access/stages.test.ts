import { describe, expect, test } from 'vitest';
import type { Role } from '#core/staff/roles.ts';
import { bindingUnit, eventFacts, factsOf, maySee, seesStageEverywhere, stagesOf } from './stages.ts';
import type { Viewer } from './viewer.ts';

const now = '2026-08-08T12:00:00.000Z';
const event = {
  id: 'open-water',
  partnerIds: [],
  unitId: 'boats',
  startsAt: '2026-08-08T13:00:00.000Z',
  endsAt: '2026-08-08T17:00:00.000Z',
};
const viewer = (role: Role, unitId: string | null = null): Viewer => ({
  id: 'x',
  roles: [role],
  approves: [],
  unitId,
  duties: [],
});

describe('what a role reaches of an event', () => {
  test('facts, by hand', () => {
    const facts = (role: Role, unitId: string | null = null) =>
      [...factsOf(viewer(role, unitId), event, now)].join(' ');
    expect({
      coordinator: facts('coordinator'),
      'unit lead': facts('unit lead', 'boats'),
      treasurer: facts('treasurer'),
      approver: facts('approver'),
      'crew lead': facts('crew lead'),
      door: facts('door'),
    }).toEqual({
      coordinator: eventFacts.join(' '),
      'unit lead': eventFacts.join(' '),
      treasurer: 'money',
      approver: 'texts',
      'crew lead': '',
      door: 'health signature',
    });
    for (const role of ['unit lead', 'treasurer', 'approver', 'crew lead', 'door'] as const)
      expect(facts(role, 'herons'), `${role} of another unit`).toBe('');
  });

  test('stages, by hand', () => {
    const said = (role: Role, unitId: string | null = null) =>
      [...stagesOf(viewer(role, unitId), event, now)]
        .map(([s, d]) => (d === 'change' ? s.toUpperCase() : s))
        .join(' ');
    expect(said('approver')).toBe('plan clearance');
    expect(said('treasurer')).toBe('plan registration wrap-up');
    expect(said('crew lead')).toBe('plan CREW DOORS');
    expect(said('door')).toBe('DOORS');
    expect(said('unit lead', 'boats')).toBe('PLAN CLEARANCE REGISTRATION CREW MESSAGES DOORS WRAP-UP');
    expect(said('unit lead')).toBe('');
    expect(said('unit lead', 'herons')).toBe('');
    expect(said('treasurer', 'herons')).toBe('');
  });

  test('the door has its list from 48 hours before to 24 hours after', () => {
    const at = (when: string) => maySee(viewer('door'), event, 'doors', when);
    expect(at('2026-08-06T12:59:59.000Z')).toBe(false);
    expect(at('2026-08-06T13:00:00.000Z')).toBe(true);
    expect(at('2026-08-09T17:00:00.000Z')).toBe(true);
    expect(at('2026-08-09T17:00:01.000Z')).toBe(false);
    expect(maySee(viewer('door'), { ...event, startsAt: null, endsAt: null }, 'doors', now)).toBe(false);
    // Doors open earlier than it begins.
    expect(
      maySee(
        viewer('door'),
        { ...event, doorsAt: '2026-08-08T10:00:00.000Z' },
        'doors',
        '2026-08-06T11:00:00.000Z',
      ),
    ).toBe(true);
  });

  test('sums over all events are for those who see each of them', () => {
    expect(seesStageEverywhere(viewer('treasurer'), 'registration')).toBe(true);
    expect(seesStageEverywhere(viewer('treasurer', 'boats'), 'registration')).toBe(false);
    expect(seesStageEverywhere(viewer('unit lead', 'boats'), 'registration')).toBe(false);
    expect(seesStageEverywhere(viewer('crew lead'), 'registration')).toBe(false);
    expect(seesStageEverywhere(viewer('coordinator', 'boats'), 'registration')).toBe(true);
  });

  test('an event is begun for one’s own unit; a coordinator chooses', () => {
    expect(bindingUnit(viewer('coordinator', 'boats'))).toBeUndefined();
    expect(bindingUnit(viewer('unit lead', 'boats'))).toBe('boats');
    expect(bindingUnit(viewer('unit lead'))).toBeNull();
  });
});
