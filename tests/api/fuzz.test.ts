import { afterAll, beforeAll, expect, test } from 'vitest';
import type { Endpoint } from '#contract/endpoint.ts';
import { everything } from '#contract/index.ts';
import { type Caller, linkTo, makeWorld, takeWritesBack, type World } from './harness.ts';
import { openEvent, orderFor } from './scenes.ts';
import { numbers, plain, shapeOf } from './shapes.ts';

/**
 * Bad inputs thrown at every endpoint, always the same: from its shape, with something in it that is wrong. More with ACOLYTE_FUZZ.
 */
const perEndpoint = Number(process.env.ACOLYTE_FUZZ ?? 16);
/** Streams never end, and have tests of their own. */
const endless = (key: string) => key.endsWith('/stream');

const pills: unknown[] = [
  '',
  ' ',
  '\u0000',
  'a\u0000b',
  '\ud800',
  'x\udfff',
  'line\r\nBCC: somebody@elsewhere.example',
  '\u202eabc',
  "'; drop table contacts; --",
  '%_\\%',
  '{{own_link}} \uE000own 00000000-0000-7000-8000-000000000000\uE001',
  '__proto__',
  'x'.repeat(30_000),
  '0001-01-01',
  '1799-12-31',
  '9999-99-99',
  '275760-09-13',
  '2026-02-30',
  '2026-03-08T02:30',
  '9999-12-31T23:59',
  '+999999-12-31T23:59:59.999Z',
  '00000000-0000-0000-0000-000000000000',
  'ffffffff-ffff-ffff-ffff-ffffffffffff',
  0,
  -1,
  0.1,
  1e308,
  -1e308,
  2 ** 31,
  2 ** 53,
  9_223_372_036_854_776_000,
  null,
  true,
  false,
  [],
  {},
  [null],
  [[[[[]]]]],
  { all: [{ not: { any: [] } }] },
  {
    ask: 'donated',
    amount: { is: 'at least', n: 1e9 },
    within: { when: 'between', from: '1800-01-01', to: '2199-12-31' },
  },
  { en: '\u0000', fr: null },
  { length: 1e9 },
  Array.from({ length: 300 }, () => 'x'),
];

let known: string[] = [];

/** The same with one or two of its parts exchanged for something wrong. */
function spoiled(value: unknown, random: () => number): unknown {
  const pill = () => structuredClone(pills[Math.floor(random() * pills.length)]);
  const copy = structuredClone(value);
  for (let n = random() < 0.7 ? 1 : 2; n > 0; n -= 1) {
    let at: unknown = copy;
    for (;;) {
      const keys = at && typeof at === 'object' ? Object.keys(at) : [];
      if (!keys.length) return pill();
      const key = keys[Math.floor(random() * keys.length)]!;
      const below = (at as Record<string, unknown>)[key];
      if (below && typeof below === 'object' && Object.keys(below).length && random() < 0.75) {
        at = below;
        continue;
      }
      (at as Record<string, unknown>)[key] = pill();
      break;
    }
  }
  return copy;
}

let world: World;
let odalys: Caller;
let tokens: string[] = [];
let slug = '';
beforeAll(async () => {
  world = await makeWorld();
  odalys = await world.as('odalys');
  const event = await openEvent(world, { price: 2500, waiver: 'On the water', capacity: 4 });
  slug = event.slug;
  const { orderId } = await odalys.call('POST /api/events/:id/orders', {
    params: { id: event.id },
    body: orderFor(event, [{ given: 'Sunniva', family: 'Aldous', birthDate: '1988-02-03' }]),
  });
  const shift = await odalys.call('POST /api/events/:id/shifts', {
    params: { id: event.id },
    body: {
      role: 'Landing',
      place: '',
      startsLocal: '2026-08-08T08:00',
      endsLocal: '2026-08-08T12:00',
      wished: 2,
    },
  });
  const { id: contactId } = await odalys.call('POST /api/contacts', {
    body: { given: 'Torben', family: 'Aldous' },
  });
  const segment = await odalys.call('POST /api/segments', {
    body: { name: 'All of them', segment: { all: [] } },
  });
  const { rows } = await odalys.call('GET /api/events/:id/registrations', { params: { id: event.id } });
  const { id: importId } = await odalys.call('POST /api/imports', {
    body: {
      fileName: 'list.csv',
      content: Buffer.from('First name,Last name\nCorin,Blythe\n').toString('base64'),
    },
  });
  const { units, venues, funds, waivers } = await odalys.call('GET /api/choices');
  known = [
    event.id,
    orderId,
    shift.id,
    contactId,
    segment.id,
    importId,
    rows[0]!.id,
    event.offers[0]!.id,
    units[0]!.id,
    venues[0]!.id,
    funds[0]!.id,
    waivers[0]!.id,
    '0190a0de-0000-7000-8000-000000000000',
  ];
  tokens = [
    ...(await Promise.all(
      (
        [
          ['manage', orderId],
          ['crew', contactId],
          ['own', contactId],
        ] as const
      ).map(async ([kind, id]) => (await linkTo(world.app, kind, id)).split('/').at(-1)!),
    )),
    'x'.repeat(27),
  ];
  await world.runner.run();
  // What would be written is taken back at its end, so that every input meets the same.
  takeWritesBack(world);
});
afterAll(() => world.close());

for (const [at, [key, endpoint]] of (Object.entries(everything) as [string, Endpoint][]).entries())
  test.skipIf(endless(key))(`${key} answers bad input with words`, async () => {
    const random = numbers(at + 1);
    const pick = <T>(list: readonly T[]): T => list[Math.floor(random() * list.length)]!;
    const [body, query, params] = [shapeOf(endpoint.body), shapeOf(endpoint.query), shapeOf(endpoint.params)];
    for (let n = 0; n < perEndpoint; n += 1) {
      const good = plain(body, random, known);
      const sent = {
        params: {
          ...(plain(params, random, known) as object),
          ...(key.includes(':token') ? { token: pick(tokens) } : {}),
          ...(key.includes(':slug') ? { slug } : {}),
          ...(random() < 0.15
            ? {
                id: pick(['%00', '..', 'null', "1' or '1'='1", 'x'.repeat(3000)]),
              }
            : {}),
        },
        ...(endpoint.query
          ? { query: random() < 0.8 ? (spoiled(plain(query, random, known), random) as object) : {} }
          : {}),
        ...(key.startsWith('GET') ? {} : { body: n % 5 === 0 ? good : spoiled(good, random) }),
      };
      const { status, problem } = await (endpoint.who === 'public' ? world.anyone : odalys).try(
        key as 'GET /api/me',
        sent as never,
        n % 17 === 3
          ? { origin: pick(['', 'null', 'http://', '\u00e9', 'https://elsewhere.example:99999']) }
          : {},
      );
      expect(
        status,
        `${key} ${JSON.stringify(sent).slice(0, 1500)} ${JSON.stringify(problem)?.slice(0, 300)}`,
      ).toBeLessThan(500);
      if (status >= 400 && problem && typeof problem === 'object' && 'code' in problem)
        expect(problem.title, `${key} says what is wrong`).toMatch(/\w{3}/u);
    }
  });
