import { describe, expect, test } from 'vitest';
import type { EventPlan } from '#contract/plan.ts';
import { carry, carryRows, differences, rowsApart, sharedFields } from './carry.ts';

/** As much of two plans as is compared here; what is not said is nothing in both. */
const plan = (more: object): EventPlan =>
  ({
    ...Object.fromEntries(sharedFields.map((field) => [field, null])),
    offers: [],
    extras: [],
    codes: [],
    questions: [],
    messages: [],
    surveys: [],
    speakers: [],
    sponsors: [],
    sessions: [],
    waivers: [],
    doors: { goHome: false, handover: false, most: null, certificate: null },
    ...more,
  }) as unknown as EventPlan;
const offer = (id: string, name: string, price = 0) => ({ id, name, price });
const question = (id: string, en: string, offerId: string | null = null) => ({ id, prompt: { en }, offerId });
let made = 0;
const newId = () => {
  made += 1;
  return `new${made}`;
};

describe('what one date says otherwise', () => {
  test('is found whatever the ids and the order of keys; of rows what they point at counts', () => {
    const a = plan({
      summary: 'Soup',
      look: { style: 'calm', theme: 'reader' },
      offers: [offer('a1', 'Helper')],
      questions: [question('q1', 'Boots?', 'a1')],
    });
    const b = plan({
      summary: 'Soup',
      look: { theme: 'reader', style: 'calm' },
      offers: [offer('b1', 'Helper')],
      questions: [question('p1', 'Boots?', 'b1')],
    });
    expect(differences(a, b)).toEqual([]);
    expect(differences(a, plan({ ...b, summary: 'Tea' }))).toEqual(['summary']);
    expect(differences(a, plan({ ...b, questions: [question('p1', 'Boots?')] }))).toEqual(['questions']);
    expect(differences(a, plan({ ...b, offers: [offer('b1', 'Helper', 500)] }))).toEqual(['offers']);
  });

  test('its address, what was decided about its place and until when sessions are proposed are each date’s own', () => {
    for (const field of ['slug', 'beside', 'secondTime', 'call'] as const)
      expect(differences(plan({ [field]: 'x' }), plan({ [field]: 'y' }))).toEqual([]);
  });
});

describe('carried to another date', () => {
  test('who is asked to sign goes by the tickets, sessions and questions of the same names there', () => {
    const rule = (part: object) => ({
      id: 'r',
      waiverId: 'w',
      offerIds: [],
      sessionIds: [],
      answered: null,
      ...part,
    });
    const from = plan({
      offers: [offer('a1', 'Canoe')],
      questions: [question('q1', 'Do you swim?')],
      sessions: [{ id: 's1', title: { en: 'Dusk' }, speakerIds: [] }],
      waivers: [rule({ offerIds: ['a1'], sessionIds: ['s1'], answered: { questionId: 'q1', is: ['yes'] } })],
    });
    const to = plan({
      offers: [offer('b1', 'Canoe')],
      questions: [question('p1', 'Do you swim?')],
      sessions: [{ id: 't1', title: { en: 'Dusk' }, speakerIds: [] }],
      waivers: [rule({ id: 'own' })],
    });
    const { waivers } = carry(from, to, ['waivers'], newId);
    expect(waivers).toEqual([
      rule({ id: 'own', offerIds: ['b1'], sessionIds: ['t1'], answered: { questionId: 'p1', is: ['yes'] } }),
    ]);
    expect(differences(from, { ...to, waivers } as never)).toEqual([]);
  });

  test('rows keep the ids they have there: by name, else by place, else they are new', () => {
    const from = plan({ offers: [offer('a1', 'Helper'), offer('a2', 'Child'), offer('a3', 'Guest')] });
    const to = plan({ offers: [offer('b2', 'Child'), offer('b9', 'Old name')] });
    // Child by its name; Helper in the place of nobody who is left; Guest is new.
    const change = carry(from, to, ['offers'], newId);
    expect(change.offers!.map((o) => o.id)).toEqual(['new1', 'b2', 'new2']);
    expect(
      carry(
        plan({ offers: [offer('a1', 'Helper')] }),
        plan({ offers: [offer('b1', 'Friend')] }),
        ['offers'],
        newId,
      ).offers,
    ).toEqual([offer('b1', 'Helper')]);
  });

  test('a line that is narrowed by an answer goes by the question of the same words there', () => {
    const line = (id: string, column: string) => ({
      id,
      name: 'Bring boots',
      moment: 'start',
      narrowed: [
        { column, is: 'any of', values: ['Yes'] },
        { column: 'offer', is: 'any of', values: ['Helper'] },
      ],
    });
    const from = plan({ questions: [question('q1', 'Boots?')], messages: [line('m1', 'q1')] });
    const to = plan({ questions: [question('p1', 'Boots?')], messages: [line('n1', 'p1')] });
    expect(differences(from, to)).toEqual([]);
    expect(differences(from, plan({ ...to, messages: [line('n1', 'state')] }))).toEqual(['messages']);
    expect(carry(from, { ...to, messages: [] }, ['messages'], newId).messages).toMatchObject([
      { narrowed: [{ column: 'p1' }, { column: 'offer' }] },
    ]);
  });

  test('questions point at the ticket of the same name there, or at all where there is none', () => {
    const from = plan({ offers: [offer('a1', 'Helper')], questions: [question('q1', 'Boots?', 'a1')] });
    const has = plan({ offers: [offer('b1', 'Helper')], questions: [] });
    expect(carry(from, has, ['questions'], newId).questions).toMatchObject([{ offerId: 'b1' }]);
    expect(carry(from, plan({}), ['questions'], newId).questions).toMatchObject([{ offerId: null }]);
    // Carried together they find each other, also where the ticket is new there.
    const both = carry(from, plan({}), ['offers', 'questions'], newId);
    expect(both.questions![0]!.offerId).toBe(both.offers![0]!.id);
  });

  test('carried, nothing differs any more', () => {
    const from = plan({
      summary: 'Soup',
      offers: [offer('a1', 'Helper'), offer('a2', 'Child', 500)],
      questions: [question('q1', 'Boots?', 'a2'), question('q2', 'Soup?')],
      speakers: [{ id: 's1', contactId: null, name: 'Ida' }],
      sessions: [{ id: 't1', title: { en: 'Opening' }, speakerIds: ['s1'] }],
    });
    const to = plan({
      summary: 'Tea',
      offers: [offer('b1', 'Child')],
      questions: [question('p1', 'Soup?', 'b1')],
      speakers: [{ id: 'r1', contactId: null, name: 'Bo' }],
    });
    const fields = ['summary', 'offers', 'questions', 'speakers', 'sessions'] as const;
    expect(differences(from, to)).toEqual(
      [...fields].sort((a, b) => sharedFields.indexOf(a) - sharedFields.indexOf(b)),
    );
    expect(differences(from, { ...to, ...carry(from, to, fields, newId) })).toEqual([]);
  });
});

describe('row by row', () => {
  const line = (id: string, name: string, offsetDays = -1) => ({ id, name, offsetDays });
  const there = plan({ messages: [line('m1', 'Day'), line('m2', 'Week', -7), line('m3', 'Thanks')] });
  const here = plan({ messages: [line('n9', 'Boats'), line('n1', 'Day'), line('n2', 'Week', -6)] });

  test('is said what a date has of its own, what it says otherwise, and what it lacks', () => {
    expect(rowsApart(there, here, 'messages')).toEqual({
      own: ['n9'],
      changed: ['n2'],
      missing: [{ id: 'm3', name: 'Thanks' }],
    });
    expect(rowsApart(there, there, 'messages')).toEqual({ own: [], changed: [], missing: [] });
    expect(rowsApart(there, here, 'summary')).toBeNull();
    // Two of one name are two.
    const twice = plan({ messages: [line('a', 'Day'), line('b', 'Day')] });
    expect(rowsApart(there, twice, 'messages')).toMatchObject({ own: ['b'], changed: [] });
  });

  test('those that are chosen are as they are there, and the others stay; what is missing comes last', () => {
    expect(carryRows(there, here, 'messages', ['n2'], newId).messages).toEqual([
      line('n9', 'Boats'),
      line('n1', 'Day'),
      line('n2', 'Week', -7),
    ]);
    const back = carryRows(there, here, 'messages', ['m3'], newId).messages!;
    expect(back).toMatchObject([{ name: 'Boats' }, { name: 'Day' }, { offsetDays: -6 }, { name: 'Thanks' }]);
    expect(here.messages.map((m) => m.id)).not.toContain(back.at(-1)!.id);
    expect(carryRows(there, here, 'messages', [], newId).messages).toEqual(here.messages);
    // Nothing of its own gives its place up for it.
    const own = plan({ messages: [line('n9', 'Boats')] });
    expect(
      carryRows(plan({ messages: [line('m3', 'Thanks')] }), own, 'messages', ['m3'], newId).messages,
    ).toMatchObject([{ id: 'n9', name: 'Boats' }, { name: 'Thanks' }]);
  });
});
