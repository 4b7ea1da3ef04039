import { describe, expect, test } from 'vitest';
import type { AskedColumn, RegistrationRow } from '#contract/seats.ts';
import { comparisonsOf, narrowed } from '#core/seats/narrowing.ts';
import { conditionsOf, isQuickView, narrowColumns, quickViews, readConditions } from './narrowing.ts';

const row = (part: Partial<RegistrationRow>): RegistrationRow => ({
  id: 'r',
  orderId: 'o',
  orderNumber: 1001,
  contactId: null,
  given: 'Fern',
  family: 'Alder',
  email: null,
  phone: null,
  buyer: 'Fern Alder',
  buyerEmail: null,
  offer: 'Walk',
  offerId: 'w',
  extras: [],
  sessions: [],
  state: 'confirmed',
  attendance: null,
  arrivedAt: null,
  waiver: 'not asked',
  due: 0,
  received: 0,
  balance: 0,
  source: null,
  answers: {},
  care: false,
  linkReasons: [],
  walkIn: false,
  paysOwn: false,
  since: '2026-07-01T12:00:00.000Z',
  queuePlace: null,
  offeredUntil: null,
  ...part,
});
const asked = (part: Partial<AskedColumn>): AskedColumn => ({
  id: 'q',
  prompt: 'How do you come?',
  kind: 'one of',
  scope: 'attendee',
  choices: ['by bus', 'on foot'],
  onNameTag: false,
  ...part,
});
const dayOf = (at: string) => at.slice(0, 10);

describe('what is chosen by one press', () => {
  const left = (view: keyof typeof quickViews, part: Partial<RegistrationRow>) =>
    narrowed([row(part)], { q: '', conditions: conditionsOf(view) }, dayOf).length === 1;
  test.each<[keyof typeof quickViews, Partial<RegistrationRow>, boolean]>([
    ['everyone', { state: 'held' }, true],
    ['everyone', { state: 'waitlisted' }, false],
    ['everyone', { state: 'asked' }, false],
    ['waiver', { waiver: 'guardian' }, true],
    ['waiver', { waiver: 'signed' }, false],
    ['owes', { balance: 1 }, true],
    ['owes', { balance: 1, state: 'waitlisted' }, false],
    ['owes', { balance: 0 }, false],
    ['back', { balance: -1, state: 'withdrawn' }, true],
    ['back', { balance: 0 }, false],
    ['waiting', { state: 'offered' }, true],
    ['gone', { state: 'lapsed' }, true],
    ['all', { state: 'declined' }, true],
  ])('%s: %j is %s', (view, part, is) => {
    expect(left(view, part)).toBe(is);
  });

  test('each compares its column as that can be compared', () => {
    const columns = narrowColumns([row({ balance: 5 })], [], dayOf);
    for (const view of Object.keys(quickViews)) {
      expect(isQuickView(view)).toBe(true);
      for (const { column, is } of conditionsOf(view as keyof typeof quickViews)) {
        const found = columns.find((c) => c.id === column)!;
        expect(comparisonsOf[found.kind]).toContain(is);
      }
    }
    expect(isQuickView('toString')).toBe(false);
  });
});

describe('what the table can be narrowed by', () => {
  test('columns in which something stands, with what stands in them; and every question', () => {
    const columns = narrowColumns(
      [row({ waiver: 'self' }), row({ waiver: 'signed', offer: 'Canoe' })],
      [
        asked({}),
        asked({ id: 't', kind: 'yes or no', prompt: 'Can you swim?', choices: [] }),
        asked({ id: 'n', kind: 'number', prompt: 'Seats', choices: [] }),
      ],
      dayOf,
    );
    const of = (id: string) => columns.find((c) => c.id === id);
    expect(of('offer')!.choices.map((c) => c.value)).toEqual(['Canoe', 'Walk']);
    expect(of('waiver')!.choices).toEqual([
      { value: 'self', label: 'has to sign' },
      { value: 'signed', label: 'signed' },
    ]);
    // Nobody gave an address, came through a link, or bought anything along.
    for (const empty of ['email', 'source', 'extras', 'arrived']) expect(of(empty)).toBeUndefined();
    expect(of('q')).toMatchObject({ kind: 'choice', heading: 'How do you come?' });
    expect(of('t')!.choices.map((c) => c.value)).toEqual(['yes', 'no']);
    expect(of('n')).toMatchObject({ kind: 'number', choices: [] });
  });

  test('an address that was cut or made up narrows nothing', () => {
    const good = [{ column: 'offer', is: 'any of', values: ['Walk'] }];
    expect(readConditions(JSON.stringify(good))).toEqual(good);
    for (const wrong of [
      '',
      '{',
      '7',
      '{"column":"offer"}',
      '[null,1,{"column":2,"values":[]},{"column":"x"}]',
      '[{"column":"offer","is":"like","values":[]}]',
      '[{"column":"offer","is":"any of","values":[1]}]',
    ])
      expect(readConditions(wrong)).toEqual([]);
  });
});
