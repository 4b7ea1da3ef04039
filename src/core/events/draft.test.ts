import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import {
  clash,
  type Draft,
  keepMine,
  kept,
  nothingTyped,
  partsToSend,
  refuse,
  takeTheirs,
  toSend,
  type,
  wrongIn,
} from './draft.ts';

type Plan = { slug: string; publicTitle: string; summary: string; capacity: number; offers: string[] };
const empty: Draft<Plan> = nothingTyped;

describe('a plan while it is written', () => {
  test('each part is sent by itself, on the version it was written on', () => {
    const draft = type(type(empty, { publicTitle: 'A' }, 3), { capacity: 20 }, 5);
    expect(partsToSend(draft)).toEqual(['page', 'place']);
    expect([toSend(draft, 'page'), draft.seen]).toEqual([{ publicTitle: 'A' }, { page: 3, place: 5 }]);
    // Typing on does not make the version newer: what the other saved in between was not seen.
    expect(type(draft, { summary: 'B' }, 9).seen.page).toBe(3);
  });

  test('what is typed while a save runs is sent afterwards', () => {
    const before = type(empty, { publicTitle: 'A' }, 1);
    const sent = toSend(before, 'page')!;
    const after = kept(type(before, { publicTitle: 'AB' }, 1), 'page', sent, 2);
    expect([toSend(after, 'page'), after.seen.page]).toEqual([{ publicTitle: 'AB' }, 2]);
    expect(kept(before, 'page', sent, 2).typed).toEqual({});
  });

  test('a refused field holds nothing else back, and is tried again when it is typed anew', () => {
    const draft = type(empty, { slug: 'Taken', summary: 'kept' }, 1);
    const refused = refuse(draft, toSend(draft, 'page')!, { slug: 'is taken', 'change.slug': 'is taken' });
    expect([toSend(refused, 'page'), wrongIn(refused)]).toEqual([{ summary: 'kept' }, { slug: 'is taken' }]);
    expect(refused.typed.slug).toBe('Taken');
    const anew = type(refused, { slug: 'free' }, 1);
    expect([toSend(anew, 'page'), wrongIn(anew)]).toEqual([{ slug: 'free', summary: 'kept' }, {}]);
    const times = refuse(
      type(empty as Draft<{ startsLocal: string; endsLocal: string }>, { endsLocal: '2026-08-08T08:00' }, 1),
      { endsLocal: '2026-08-08T08:00' },
      { endsLocal: 'before the start' },
    );
    expect(toSend(type(times, { startsLocal: '2026-08-08T07:00' }, 1), 'times')).toEqual({
      startsLocal: '2026-08-08T07:00',
      endsLocal: '2026-08-08T08:00',
    });
    const list = type(empty, { offers: ['a'] }, 1);
    expect(wrongIn(refuse(list, { offers: list.typed.offers! }, { 'offers.0.price': 'below 0' }))).toEqual({
      'offers.0.price': 'below 0',
    });
    // A refusal that names none of the fields stops them all, or it would be sent for ever.
    expect(toSend(refuse(draft, toSend(draft, 'page')!, {}), 'page')).toBeNull();
  });

  test('a clash waits for a decision: mine goes over theirs once theirs was seen, or theirs stays', () => {
    const draft = clash(type(empty, { summary: 'mine' }, 3), 'page', 'Marit saved this');
    expect(toSend(draft, 'page')).toBeNull();
    const mine = keepMine(draft, 'page', 8);
    expect([toSend(mine, 'page'), mine.seen.page]).toEqual([{ summary: 'mine' }, 8]);
    expect(takeTheirs(draft, 'page')).toEqual(empty);
  });

  test('a place goes with its room: refused together, tried again together, and with the times', () => {
    let draft = type(empty, { venueId: 'hall', roomId: 'main', beside: [] } as never, 1);
    draft = refuse(draft, toSend(draft, 'place')!, { venueId: 'taken' });
    expect(toSend(draft, 'place')).toBeNull();
    draft = type(draft, { roomId: 'attic' } as never, 1);
    expect(toSend(draft, 'place')).toEqual({ venueId: 'hall', roomId: 'attic', beside: [] });
    draft = refuse(draft, toSend(draft, 'place')!, { roomId: 'taken' });
    draft = type(draft, { startsLocal: '2026-10-18T18:30' } as never, 1);
    expect(toSend(draft, 'place')).toMatchObject({ venueId: 'hall', roomId: 'attic' });
  });

  test('a place that was refused is tried again once another time was kept, a time once a place was; nothing else is', () => {
    let draft = type(empty, { venueId: 'hall', slug: 'x' } as never, 1);
    draft = refuse(draft, toSend(draft, 'place')!, { venueId: 'taken' });
    draft = refuse(draft, toSend(draft, 'page')!, { slug: 'taken' });
    draft = type(draft, { startsLocal: '2026-10-18T18:30' } as never, 1);
    // Sent together, the place is heard first and refused at the time that stands.
    draft = refuse(draft, toSend(draft, 'place')!, { venueId: 'taken' });
    expect(toSend(draft, 'place')).toBeNull();
    draft = kept(draft, 'times', toSend(draft, 'times')!, 2);
    expect(toSend(draft, 'place')).toEqual({ venueId: 'hall' });
    draft = type(draft, { endsLocal: '2026-10-18T22:30' } as never, 2);
    draft = refuse(draft, toSend(draft, 'times')!, { endsLocal: 'taken' });
    draft = kept(draft, 'place', toSend(draft, 'place')!, 3);
    expect(toSend(draft, 'times')).toEqual({ endsLocal: '2026-10-18T22:30' });
    expect(toSend(draft, 'page')).toBeNull();
  });

  test('nothing typed is ever lost: it is kept in the end, or still there', () => {
    const step = fc.oneof(
      fc.record({
        do: fc.constant('type' as const),
        field: fc.constantFrom('slug', 'summary', 'capacity'),
        to: fc.nat(99),
      }),
      fc.record({
        do: fc.constantFrom('keep' as const, 'refuse' as const, 'clash' as const, 'mine' as const),
        part: fc.constantFrom('page' as const, 'place' as const),
      }),
    );
    fc.assert(
      fc.property(fc.array(step, { maxLength: 30 }), (steps) => {
        let draft = empty;
        let version = 1;
        const last: Record<string, unknown> = {};
        const server: Record<string, unknown> = {};
        for (const s of steps) {
          if (s.do === 'type') {
            last[s.field] = s.to;
            draft = type(draft, { [s.field]: s.to } as never, version);
            continue;
          }
          const sent = toSend(draft, s.part);
          if (s.do === 'mine') draft = keepMine(draft, s.part, version);
          else if (!sent) continue;
          else if (s.do === 'refuse') draft = refuse(draft, sent, { [Object.keys(sent)[0]!]: 'no' });
          else if (s.do === 'clash') draft = clash(draft, s.part, 'somebody');
          else {
            version += 1;
            Object.assign(server, sent);
            draft = kept(draft, s.part, sent, version);
          }
          for (const [field, value] of Object.entries(last))
            expect(field in draft.typed ? draft.typed[field as 'slug'] : server[field]).toBe(value);
        }
      }),
    );
  });
});
