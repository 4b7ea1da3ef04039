import { describe, expect, test } from 'vitest';
import type { EventReach } from '#core/access/stages.ts';
import type { Viewer } from '#core/access/viewer.ts';
import {
  isTold,
  mayBeTold,
  type Notice,
  noticedKinds,
  sayNoticed,
  sumUp,
  tellOf,
  toldAt,
} from './notices.ts';

const now = '2026-07-09T12:20:00.000Z';
const viewer = (part: Partial<Viewer>): Viewer => ({
  id: 'one',
  roles: [],
  approves: [],
  unitId: null,
  duties: [],
  ...part,
});
const event: EventReach = {
  id: 'event',
  unitId: 'boats',
  partnerIds: ['herons'],
  startsAt: '2026-07-10T12:00:00.000Z',
  endsAt: '2026-07-10T16:00:00.000Z',
};
const toldOf = (who: Viewer, at: EventReach | null = event) =>
  noticedKinds.filter((what) => isTold(who, what, at, now));

describe('who may be told of what', () => {
  test('a coordinator of everything, whoever leads the unit of what happens in it', () => {
    expect(toldOf(viewer({ roles: ['coordinator'] }))).toEqual(noticedKinds);
    expect(toldOf(viewer({ roles: ['unit lead'], unitId: 'boats' }))).toEqual(noticedKinds);
    expect(toldOf(viewer({ roles: ['unit lead'], unitId: 'mudlarks' }))).toEqual([]);
  });

  test('a partner unit of nothing: it sees the plan and what came of it, and not who comes', () => {
    expect(toldOf(viewer({ roles: ['unit lead'], unitId: 'herons' }))).toEqual([]);
  });

  test('the others of their part of it', () => {
    expect(toldOf(viewer({ roles: ['treasurer'] }))).toEqual(['gift']);
    expect(toldOf(viewer({ roles: ['crew lead'] }))).toEqual([
      'application came',
      'shift taken',
      'shift given back',
      'nobody steps in',
      'swap wished',
    ]);
    expect(toldOf(viewer({ roles: ['approver'] }))).toEqual(['plan back']);
    expect(toldOf(viewer({ roles: ['door'] }))).toEqual([]);
    const helper = (stage: 'crew' | 'registration') =>
      viewer({ duties: [{ eventId: 'event', part: 'helper', stage }] });
    expect(toldOf(helper('crew'))).toEqual([
      'application came',
      'shift taken',
      'shift given back',
      'nobody steps in',
      'swap wished',
    ]);
    expect(toldOf(helper('registration'))).toEqual([]);
    expect(toldOf(viewer({ duties: [{ eventId: 'event', part: 'lead', stage: null }] }))).toEqual(
      noticedKinds,
    );
    expect(toldOf(viewer({ duties: [{ eventId: 'other', part: 'lead', stage: null }] }))).toEqual([]);
  });

  test('of a gift to no event, whoever keeps the money of all', () => {
    expect(toldOf(viewer({ roles: ['treasurer'] }), null)).toEqual(['gift']);
    expect(toldOf(viewer({ roles: ['treasurer'], unitId: 'boats' }), null)).toEqual([]);
    expect(toldOf(viewer({ roles: ['unit lead'], unitId: 'boats' }), null)).toEqual([]);
    // Of an application for a season, whoever leads all crews.
    expect(toldOf(viewer({ roles: ['crew lead'] }), null)).toEqual(['application came']);
    expect(toldOf(viewer({ roles: ['crew lead'], unitId: 'boats' }), null)).toEqual([]);
  });

  test('nobody can ask for what they could never be told', () => {
    const asks = (who: Viewer) => noticedKinds.filter((what) => mayBeTold(who, what));
    expect(asks(viewer({ roles: ['door'] }))).toEqual([]);
    expect(asks(viewer({ roles: ['crew lead'] }))).toEqual([
      'application came',
      'shift taken',
      'shift given back',
      'nobody steps in',
      'swap wished',
    ]);
    expect(asks(viewer({ duties: [{ eventId: 'event', part: 'helper', stage: 'crew' }] }))).toEqual([
      'application came',
      'shift taken',
      'shift given back',
      'nobody steps in',
      'swap wished',
    ]);
    expect(asks(viewer({ duties: [{ eventId: 'event', part: 'helper', stage: 'doors' }] }))).toEqual([]);
    expect(asks(viewer({ duties: [{ eventId: 'event', part: 'co-organizer', stage: null }] }))).toEqual(
      noticedKinds,
    );
  });
});

describe('when they are told', () => {
  test('soon is five minutes later; the morning is the next one by the clock on the wall', () => {
    expect(toldAt('soon', now, '08:00', 'America/Halifax')).toBe('2026-07-09T12:25:00.000Z');
    expect(toldAt('each morning', now, '08:00', 'America/Halifax')).toBe('2026-07-10T11:00:00.000Z');
    expect(toldAt('each morning', '2026-07-09T10:59:00.000Z', '08:00', 'America/Halifax')).toBe(
      '2026-07-09T11:00:00.000Z',
    );
    // What happens at eight is told on the next day: this morning's has gone.
    expect(toldAt('each morning', '2026-07-09T11:00:00.000Z', '08:00', 'America/Halifax')).toBe(
      '2026-07-10T11:00:00.000Z',
    );
    // The clock went back in the night of 1 November: eight is an hour later.
    expect(toldAt('each morning', '2026-10-31T12:00:00.000Z', '08:00', 'America/Halifax')).toBe(
      '2026-11-01T12:00:00.000Z',
    );
  });
});

describe('what they are told', () => {
  const of = (part: Partial<Notice>): Notice => ({
    what: 'registration',
    event: 'Open Water Day',
    who: 'Jun Baptiste',
    count: null,
    amount: null,
    currency: null,
    words: '',
    ...part,
  });

  test('is summed up, most first', () => {
    expect(
      sumUp([of({ what: 'gift' }), of({}), of({ who: 'Juno Baptiste' }), of({ what: 'seats given up' })]),
    ).toBe('2 registrations, 1 booking given up, 1 gift');
  });

  test('stands event by event, each with what belongs to it', () => {
    expect(
      tellOf([
        of({ count: 2 }),
        of({ event: null, what: 'gift', who: 'Ottoline Marsh', amount: 12_000, currency: 'CAD' }),
        of({ what: 'question', who: 'Nils Sedge', words: 'Is there parking?' }),
      ]),
    ).toBe(
      'Open Water Day\n– Registration: Jun Baptiste, 2 seats\n– Question on the board: Nils Sedge. “Is there parking?”\n\nApart from events\n– Gift: Ottoline Marsh, $120',
    );
  });

  test('has words for every kind', () => {
    for (const what of noticedKinds) {
      expect(sayNoticed(what)).toMatch(/^[A-Z]/u);
      expect(sumUp([of({ what })])).toMatch(/^1 /u);
    }
  });
});
