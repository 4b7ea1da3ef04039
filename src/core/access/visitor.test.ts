import { describe, expect, test } from 'vitest';
import { isListedFor, maySee, type Seen, type Visibility, type Visitor, visibilities } from './visitor.ts';

const today = '2026-07-09';
const event = (visibility: Visibility, more: Partial<Seen> = {}): Seen => ({
  id: 'e',
  visibility,
  unitId: 'herons',
  partnerIds: ['boats'],
  ...more,
});
const visitor = (more: Partial<Visitor> = {}): Visitor => ({
  contactId: 'c',
  memberships: [],
  invitedTo: new Set(),
  partOf: new Set(),
  ...more,
});
const member = (unitId: string | null, until: string | null = null) =>
  visitor({ memberships: [{ unitId, from: '2020-01-01', until }] });
const seen = (by: Visitor | null) => visibilities.filter((v) => maySee(event(v), by, today));

describe('who of the public sees an event', () => {
  test('a stranger sees what is for everybody, and what they have the link to', () => {
    expect(seen(null)).toEqual(['everyone', 'link']);
    expect(seen(visitor())).toEqual(['everyone', 'link']);
  });
  test('a member of the organization sees what is for members; one of a unit that takes part, what is for units too', () => {
    expect(seen(member(null))).toEqual(['everyone', 'members', 'link']);
    expect(seen(member('mudlarks'))).toEqual(['everyone', 'members', 'link']);
    expect(seen(member('herons'))).toEqual(['everyone', 'members', 'units', 'link']);
    expect(seen(member('boats'))).toEqual(['everyone', 'members', 'units', 'link']);
  });
  test('a membership that ended yesterday is none; one that ends today still is', () => {
    expect(seen(member('herons', '2026-07-08'))).toEqual(['everyone', 'link']);
    expect(seen(member('herons', '2026-07-09'))).toContain('units');
  });
  test('whoever is invited, or holds something there, sees it whatever it says', () => {
    expect(seen(visitor({ invitedTo: new Set(['e']) }))).toEqual([...visibilities]);
    expect(seen(visitor({ partOf: new Set(['e']) }))).toEqual([...visibilities]);
    expect(seen(visitor({ partOf: new Set(['other']) }))).toEqual(['everyone', 'link']);
  });
  test('an event of no unit is for no unit’s members', () => {
    expect(maySee(event('units', { unitId: null, partnerIds: [] }), member(null), today)).toBe(false);
  });
  test('listed is apart: what is for those with the link is in no list', () => {
    const listed = (v: Visibility, on: boolean) =>
      isListedFor({ ...event(v), listed: on }, member('herons'), today);
    expect(visibilities.filter((v) => listed(v, true))).toEqual(['everyone', 'members', 'units']);
    expect(visibilities.filter((v) => listed(v, false))).toEqual([]);
  });
});
