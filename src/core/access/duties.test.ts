import { describe, expect, test } from 'vitest';
import { lasts } from './duties.ts';
import { actsAs, factsOf, leads, stagesOf } from './stages.ts';
import type { Viewer } from './viewer.ts';

const event = {
  id: 'open-water',
  unitId: 'boats',
  partnerIds: ['herons'],
  startsAt: '2026-08-08T12:00:00.000Z',
  endsAt: '2026-08-08T19:30:00.000Z',
};
const now = '2026-07-09T12:00:00.000Z';
const somebody = (more: Partial<Viewer>): Viewer => ({
  id: 'x',
  roles: [],
  approves: [],
  unitId: null,
  duties: [],
  ...more,
});
const thatDay = '2026-08-08T11:00:00.000Z';
const stages = (viewer: Viewer, of = event, at = now) =>
  [...stagesOf(viewer, of, at)].map(([stage, depth]) => `${stage} ${depth}`).join(', ');

describe('a duty at one event', () => {
  const co = somebody({ duties: [{ eventId: 'open-water', part: 'co-organizer', stage: null }] });
  const atTheDoor = somebody({ duties: [{ eventId: 'open-water', part: 'helper', stage: 'doors' }] });
  const answering = somebody({ duties: [{ eventId: 'open-water', part: 'helper', stage: 'registration' }] });

  test('a co-organizer may what a unit lead may, there and nowhere else', () => {
    const lead = somebody({ roles: ['unit lead'], unitId: 'boats' });
    expect(stages(co)).toBe(stages(lead));
    expect([...factsOf(co, event, now)].sort()).toEqual([...factsOf(lead, event, now)].sort());
    expect(stages(co, { ...event, id: 'supper' })).toBe('');
    expect([...factsOf(co, { ...event, id: 'supper' }, now)]).toEqual([]);
  });
  test('a helper changes one stage and sees no other', () => {
    expect(stages(atTheDoor, event, thatDay)).toBe('doors change');
    // Names are not taken along long before.
    expect(stages(atTheDoor)).toBe('');
    expect(stages(answering)).toBe('registration change');
    expect(actsAs(atTheDoor, 'door', event, thatDay)).toBe(true);
    expect(actsAs(answering, 'door', event, now)).toBe(false);
    expect(actsAs(answering, 'unit lead', event, now)).toBe(false);
  });
  test('what a helper sees within their stage is what the stage needs', () => {
    expect([...factsOf(atTheDoor, event, thatDay)].sort()).toEqual(['health', 'signature']);
    expect([...factsOf(answering, event, now)]).toEqual(['answers']);
    const writing = somebody({ duties: [{ eventId: 'open-water', part: 'helper', stage: 'messages' }] });
    expect([...factsOf(writing, event, now)]).toEqual(['texts']);
  });
  test('only who may change every stage leads: a helper with the plan does not', () => {
    const planning = somebody({ duties: [{ eventId: 'open-water', part: 'helper', stage: 'plan' }] });
    expect(stages(planning)).toBe('plan change');
    expect(leads(planning, event, now)).toBe(false);
    expect(leads(co, event, now)).toBe(true);
    expect(leads(somebody({ roles: ['unit lead'], unitId: 'boats' }), event, now)).toBe(true);
    expect(leads(somebody({ roles: ['unit lead'], unitId: 'herons' }), event, now)).toBe(false);
  });
  test('it ends with the event: a helper a day after, who organized it a month after', () => {
    const end = (days: number) => new Date(Date.parse(event.endsAt) + days * 86_400_000).toISOString();
    expect(lasts('helper', event, end(0.9))).toBe(true);
    for (const after of [1, 1.5, 40]) expect(lasts('helper', event, end(after))).toBe(false);
    expect(lasts('co-organizer', event, end(29))).toBe(true);
    expect(lasts('lead', event, end(30))).toBe(false);
    expect(lasts('helper', { startsAt: null, endsAt: null }, end(900))).toBe(true);
  });
});

test('a partner unit sees an event among its own, and changes nothing', () => {
  const partner = somebody({ roles: ['unit lead'], unitId: 'herons' });
  expect(stages(partner)).toBe('plan see, wrap-up see');
  expect([...factsOf(partner, event, now)]).toEqual([]);
  expect(stages(partner, { ...event, partnerIds: [] })).toBe('');
  expect(stages(somebody({ roles: ['door'], unitId: 'herons' }))).toBe('');
});
