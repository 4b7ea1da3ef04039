import { describe, expect, test } from 'vitest';
import { noTexts } from '#core/contacts/attributes.ts';
import { compileSegment, yearsBefore } from './compile.ts';
import { evaluate, type Facts } from './evaluate.ts';
import {
  freshQuestion,
  neverKindOf,
  neverKinds,
  neverQuestion,
  questionKinds,
  readSegment,
  type Segment,
  segmentLimits,
} from './segment.ts';
import { saySegment } from './sentence.ts';
import { type Asked, daysOf, instantsOf } from './window.ts';

const asked: Asked = { today: '2026-07-09', zone: 'America/Halifax', currency: 'CAD' };
const boats = '018fde66-5700-7000-bbac-d89656d05058';
const hide = '018fde66-5700-7000-bbac-d89656d05059';
const names = {
  of: { [boats]: 'Small Boats', [hide]: 'Hide Appeal' },
  money: (n: number) => `$${n / 100}`,
};
const nobody: Facts = {
  contactId: boats,
  kind: 'person',
  tags: [],
  emails: 0,
  phones: 0,
  street: null,
  movedOn: null,
  postalCode: null,
  birthDate: null,
  language: 'en',
  languages: [],
  texts: noTexts,
  consents: [],
  fields: [],
  units: [],
  organizations: [],
  doNotContact: false,
  memberships: [],
  registered: [],
  attended: [],
  missed: [],
  donations: [],
  served: [],
  signed: [],
  surveys: [],
  household: [],
};
const event = (eventId: string, startsAt: string, unitId = boats) => ({
  eventId,
  startsAt,
  unitId,
  category: 'on the water',
  title: 'Boat Evening',
  seriesId: null,
  arrivedAt: startsAt,
});
const cameTwice: Segment = {
  ask: 'attended',
  times: { is: 'at least', n: 2 },
  of: { unitId: boats },
  within: { when: 'this year' },
};
const neverGave: Segment = { ask: 'donated', amount: { is: 'exactly', n: 0 }, within: { when: 'ever' } };
const holds = (s: Segment, f: Partial<Facts>) => evaluate(s, { ...nobody, ...f }, asked).holds;

describe('a segment in words', () => {
  test.each<[Segment, string]>([
    [
      { all: [cameTwice, neverGave] },
      'People who came at least twice with Small Boats this year and never gave.',
    ],
    [{ all: [] }, 'Everybody.'],
    [{ any: [] }, 'People of whom there are none.'],
    [{ not: { ask: 'tag', tag: 'crew' } }, 'People who do not have the tag “crew”.'],
    [
      {
        any: [
          { ask: 'age', to: 17 },
          { all: [{ ask: 'member', level: 'Student', on: 'today' }, { not: { ask: 'reach', by: 'email' } }] },
        ],
      },
      'People who are 17 or younger or (who are members (Student) and have no email).',
    ],
    [
      {
        ask: 'donated',
        amount: { is: 'at least', n: 5000 },
        fundId: hide,
        within: { when: 'between', from: '2025-01-01', to: '2025-06-30' },
      },
      'People who gave at least $50 to Hide Appeal from 1 Jan 2025 to 30 Jun 2025.',
    ],
    [
      { ask: 'in the household of', who: { ask: 'age', to: 12 } },
      'People who live in the household of people who are 12 or younger.',
    ],
    [
      {
        ask: 'served',
        hours: { is: 'at least', n: 10 },
        role: 'Steward',
        within: { when: 'days', days: 365 },
      },
      'People who served at least 10 hours as “Steward” in the last year.',
    ],
    [{ ask: 'member', on: '2024-05-01' }, 'People who were members on 1 May 2024.'],
    [
      { not: { ask: 'in a unit', unitId: boats, role: 'lead', on: 'today' } },
      'People who are not lead in Small Boats.',
    ],
    [
      { ask: 'consent', topic: 'appeals', channel: 'text message', said: 'no' },
      'People who said no to appeals by text message.',
    ],
    [
      { not: { ask: 'consent', topic: 'newsletter', channel: 'email', said: 'nothing' } },
      'People who were asked about the newsletter.',
    ],
    [
      { ask: 'custom field', fieldId: hide, is: 'at least', value: '40' },
      'People who are those whose “Hide Appeal” is at least “40”.',
    ],
    [{ not: { ask: 'custom field', fieldId: hide, is: 'filled' } }, 'People who have no “Hide Appeal”.'],
    [
      {
        all: [
          { ask: 'detail', detail: 'dietary', is: 'contains', value: 'nut' },
          { not: { ask: 'detail', detail: 'pronouns', is: 'filled' } },
        ],
      },
      'People who have “nut” in their allergies or needs and have no pronouns on record.',
    ],
    [{ ask: 'works for', on: 'today' }, 'People who are with an organization.'],
    [{ ask: 'moved away' }, 'People who have moved away.'],
    [
      {
        ask: 'attended',
        times: { is: 'at least', n: 1 },
        of: { seriesId: boats, category: 'talk' },
        within: { when: 'last year' },
      },
      'People who came at least once to something of “talk” in the series of “Small Boats” last year.',
    ],
    [
      { ask: 'answered a survey', of: {}, within: { when: 'ever' }, question: 'come again', said: 'yes' },
      'People who answered a survey and said “yes” to “come again”.',
    ],
  ])('%j', (segment, words) => expect(saySegment(segment, names)).toBe(words));

  test('every question can be said, asked and compiled as it begins', () => {
    for (const ask of questionKinds) {
      const fresh = freshQuestion(ask);
      const filled = {
        ...fresh,
        ...('tag' in fresh ? { tag: 'crew' } : {}),
        ...('unitId' in fresh ? { unitId: boats } : {}),
        ...('fieldId' in fresh ? { fieldId: hide } : {}),
      } as Segment;
      expect(saySegment(filled, names)).toMatch(/^People who .+\.$/u);
      expect(saySegment({ not: filled }, names)).not.toBe(saySegment(filled, names));
      expect(compileSegment(filled, asked).sql).not.toBe('');
      expect('segment' in readSegment(filled)).toBe(true);
    }
  });
});

test('who never came, and who never gave, are questions of their own', () => {
  for (const kind of neverKinds) {
    const question = neverQuestion(kind);
    expect(neverKindOf(question)).toBe(kind);
    expect(saySegment(question, names)).toBe(`People who ${kind}.`);
  }
  for (const kind of questionKinds) expect(neverKindOf(freshQuestion(kind))).toBeNull();
  // “Exactly none” is the same.
  expect(neverKindOf({ ask: 'donated', amount: { is: 'exactly', n: 0 }, within: { when: 'ever' } })).toBe(
    'never gave',
  );
});

describe('windows', () => {
  test('begin and end at midnight of the organization, also across a clock change', () => {
    expect(instantsOf({ when: 'this year' }, asked)).toEqual({
      from: '2026-01-01T04:00:00.000Z',
      before: null,
    });
    expect(instantsOf({ when: 'between', from: '2026-03-08', to: '2026-03-08' }, asked)).toEqual({
      from: '2026-03-08T04:00:00.000Z',
      before: '2026-03-09T03:00:00.000Z',
    });
    expect(daysOf({ when: 'last year' }, asked)).toEqual({ from: '2025-01-01', to: '2025-12-31' });
    expect(daysOf({ when: 'days', days: 9 }, asked)).toEqual({ from: '2026-06-30', to: null });
  });
  test('a birthday on 29 February counts from the last of February', () => {
    expect(yearsBefore('2024-02-29', 1)).toBe('2023-02-28');
    expect(yearsBefore('2024-02-29', 4)).toBe('2020-02-29');
  });
});

describe('a segment for one person', () => {
  test('counts events once, in their unit and window', () => {
    const came = [event('a', '2026-05-01T22:00:00.000Z'), event('a', '2026-05-01T22:00:00.000Z')];
    expect(holds(cameTwice, { attended: came })).toBe(false);
    expect(holds(cameTwice, { attended: [...came, event('b', '2026-06-01T22:00:00.000Z')] })).toBe(true);
    expect(holds(cameTwice, { attended: [...came, event('b', '2026-06-01T22:00:00.000Z', hide)] })).toBe(
      false,
    );
    expect(holds(cameTwice, { attended: [...came, event('b', '2025-06-01T22:00:00.000Z')] })).toBe(false);
  });
  test('at most and exactly hold for somebody without any', () => {
    expect(holds(neverGave, {})).toBe(true);
    expect(
      holds({ ask: 'missed', times: { is: 'at most', n: 1 }, of: {}, within: { when: 'ever' } }, {}),
    ).toBe(true);
    expect(
      holds(neverGave, { donations: [{ fundId: hide, amount: 100, at: '2024-01-01T00:00:00.000Z' }] }),
    ).toBe(false);
  });
  test('an age not known is no age, and so in no group of ages and in its opposite', () => {
    expect(holds({ ask: 'age', to: 17 }, {})).toBe(false);
    expect(holds({ not: { ask: 'age', to: 17 } }, {})).toBe(true);
    expect(holds({ ask: 'age', from: 18, to: 18 }, { birthDate: '2008-07-09' })).toBe(true);
    expect(holds({ ask: 'age', from: 18 }, { birthDate: '2008-07-10' })).toBe(false);
  });
  test('the household is looked at person by person', () => {
    const child = { ...nobody, contactId: hide, birthDate: '2018-01-01' };
    const parent = { ...nobody, birthDate: '1984-01-01' };
    const who: Segment = { ask: 'in the household of', who: { ask: 'age', to: 12 } };
    expect(holds(who, { ...parent, household: [parent, child] })).toBe(true);
    expect(holds(who, { ...parent, household: [parent] })).toBe(false);
    expect(holds(who, parent)).toBe(false);
  });
  test('a membership holds on its first and its last day, and says what it is today', () => {
    const memberships = [{ level: 'Life', from: '2020-01-01', until: '2025-12-31' }];
    const on = (day: string, level?: string) =>
      holds({ ask: 'member', on: day, ...(level ? { level } : {}) }, { memberships });
    expect([on('2019-12-31'), on('2020-01-01'), on('2025-12-31'), on('2026-01-01')]).toEqual([
      false,
      true,
      true,
      false,
    ]);
    expect([on('2021-01-01', ' life '), on('2021-01-01', 'Student')]).toEqual([true, false]);
    const why = evaluate({ ask: 'member', on: 'today' }, { ...nobody, memberships }, asked);
    expect(why).toMatchObject({ holds: false, found: 'was a member (Life)' });
  });
  test('fields of our own are compared by their kind', () => {
    const field = (kind: string, value: string) => ({ fields: [{ fieldId: hide, kind, value }] });
    const is = (test: 'is' | 'contains' | 'at least' | 'at most' | 'filled', value: string, f: object) =>
      holds({ ask: 'custom field', fieldId: hide, is: test, value }, f);
    expect(is('at least', '9', field('number', '10'))).toBe(true);
    expect(is('at most', '9', field('number', '10'))).toBe(false);
    expect(is('is', '10.0', field('number', '10'))).toBe(true);
    // As text, “9” comes after “10”: text has no size here.
    expect(is('at least', '9', field('text', '10'))).toBe(false);
    expect(is('at most', '2026-07-09', field('date', '2026-07-09'))).toBe(true);
    expect(is('contains', 'KAY', field('text', 'sea kayak'))).toBe(true);
    expect(is('filled', '', {})).toBe(false);
  });
  test('consent is asked by topic and channel; saying nothing is an answer too', () => {
    const consents = [{ topic: 'appeals', channel: 'email', granted: false }];
    const said = (channel: 'email' | 'text message', word: 'yes' | 'no' | 'nothing') =>
      holds({ ask: 'consent', topic: 'appeals', channel, said: word }, { consents });
    expect([said('email', 'no'), said('email', 'yes'), said('text message', 'nothing')]).toEqual([
      true,
      false,
      true,
    ]);
  });
  test('survey answers: the question by its words, a number exactly, a text in part', () => {
    const surveys = [
      {
        ...event('a', '2026-05-01T22:00:00.000Z'),
        answeredOn: '2026-05-03',
        answers: [
          { question: 'Would you come again?', said: '5' },
          { question: 'What was best?', said: 'The herons at dusk' },
        ],
      },
    ];
    const said = (question: string | undefined, answer: string | undefined) =>
      holds(
        {
          ask: 'answered a survey',
          of: {},
          within: { when: 'ever' },
          ...(question ? { question } : {}),
          ...(answer ? { said: answer } : {}),
        },
        { surveys },
      );
    expect(said('come AGAIN', '5')).toBe(true);
    expect(said('best', '5')).toBe(false);
    expect(said(undefined, 'HERONS')).toBe(true);
    expect(said('best', undefined)).toBe(true);
    expect(said('worst', undefined)).toBe(false);
    expect(
      holds({ ask: 'answered a survey', of: { unitId: hide }, within: { when: 'ever' } }, { surveys }),
    ).toBe(false);
  });
  test('who moved away from a day to come still lives there', () => {
    expect(holds({ ask: 'moved away' }, { movedOn: '2026-07-09' })).toBe(true);
    expect(holds({ ask: 'moved away' }, { movedOn: '2026-07-10' })).toBe(false);
    expect(holds({ ask: 'reach', by: 'address' }, { street: '4 Chapel Hill' })).toBe(true);
    expect(holds({ ask: 'reach', by: 'address' }, { street: '4 Chapel Hill', movedOn: '2026-01-01' })).toBe(
      false,
    );
  });
  test('says why, question by question', () => {
    const why = evaluate(
      { all: [cameTwice, neverGave] },
      { ...nobody, attended: [event('a', '2026-05-01T22:00:00.000Z')] },
      asked,
    );
    expect(why.of.map((r) => [r.holds, r.found])).toEqual([
      [false, 'once'],
      [true, 'nothing'],
    ]);
  });
});

describe('segments from outside', () => {
  const problems = (value: unknown) => {
    const read = readSegment(value);
    return 'problems' in read ? read.problems : [];
  };
  const nested = (depth: number): unknown => (depth === 0 ? { all: [] } : { not: nested(depth - 1) });
  test('nested twenty deep is read, far deeper is refused', () => {
    expect(problems(nested(20))).toEqual([]);
    expect(problems(nested(200))[0]!.params).toEqual({ depth: segmentLimits.depth });
    expect(
      problems({ all: Array.from({ length: 300 }, () => ({ ask: 'not to be contacted' })) })[0]!.code,
    ).toBe('too-many-questions');
  });
  test('what is wrong is said with where', () => {
    expect(problems({ all: [{ ask: 'tag', tag: '' }, { any: [{ ask: 'shoe size' }] }] })).toEqual([
      { path: 'all.0.tag', code: 'say-which' },
      { path: 'all.1.any.0.ask', code: 'no-such-question', params: { question: 'shoe size' } },
    ]);
    expect(
      problems({
        ask: 'attended',
        times: { is: 'at least', n: -1 },
        of: {},
        within: { when: 'between', from: '2026-02-01', to: '2026-01-01' },
      }).map((p) => p.path),
    ).toEqual(['times.n', 'within.to']);
    for (const odd of [null, 7, 'x', [], { all: 3 }]) expect(problems(odd)).not.toEqual([]);
    const ofEvents = (of: object) =>
      problems({ ask: 'attended', times: { is: 'at least', n: 1 }, of, within: { when: 'ever' } }).map(
        (p) => p.path,
      );
    expect(ofEvents({ category: 'talk', title: 'x'.repeat(200) })).toEqual([]);
    for (const odd of [7, null, ['talk'], 'x'.repeat(201)]) {
      expect(ofEvents({ category: odd })).toEqual(['of.category']);
      expect(ofEvents({ title: odd })).toEqual(['of.title']);
      expect(ofEvents({ unitId: odd })).toEqual(['of.unitId']);
    }
  });
  test('every parameter stands in the condition, also where a question holds for everybody', () => {
    for (const n of [0, 1, 2])
      for (const is of ['at least', 'at most', 'exactly'] as const) {
        const { sql, params } = compileSegment(
          {
            all: [
              { ask: 'attended', times: { is, n }, of: { category: 'talk' }, within: { when: 'this year' } },
              { ask: 'served', hours: { is, n }, role: 'Steward', within: { when: 'days', days: 9 } },
            ],
          },
          asked,
        );
        params.forEach((_, at) => {
          expect(sql).toContain(`$${at + 1}`);
        });
      }
  });
  test('what somebody typed is never part of the SQL', () => {
    const typed = "'; drop table contacts; --";
    const { sql, params } = compileSegment(
      {
        all: [
          { ask: 'tag', tag: typed },
          {
            ask: 'attended',
            times: { is: 'at least', n: 1 },
            of: { title: typed, category: typed },
            within: { when: 'ever' },
          },
        ],
      },
      asked,
    );
    expect(sql).not.toContain('drop');
    expect(params.filter((p) => String(p).includes('drop'))).toHaveLength(3);
  });
});
