import { afterAll, beforeAll, expect, test } from 'vitest';
import type { Endpoint } from '#contract/endpoint.ts';
import { everything } from '#contract/index.ts';
import { type LinkKind, openLink } from '#server/app/app.ts';
import { makeWorld, takeWritesBack, type World } from './harness.ts';
import { openEvent, orderFor } from './scenes.ts';
import { numbers, plain, shapeOf } from './shapes.ts';

/** Where the links of each kind lead. */
const places: Record<LinkKind, string> = {
  manage: 'orders',
  seat: 'guests',
  invited: 'invitations',
  feed: 'mine',
  own: 'own',
  receipt: 'receipts',
  preview: 'previews',
  crew: 'crew',
  application: 'applications',
  survey: 'surveys',
  gift: 'gifts',
  pledge: 'pledges',
  out: 'out',
  follow: 'follow',
  signed: 'signed',
  here: 'here',
  kiosk: 'here',
  cosign: 'cosign',
  count: 'count',
  widget: 'initiatives',
};
const kinds = Object.keys(places) as LinkKind[];
const endpoints = (Object.entries(everything) as [keyof typeof everything, Endpoint][]).filter(
  ([key]) => key.includes('/api/public/') && key.includes(':token'),
);

let world: World;
/** Of each kind, links to whatever there is: also such as no page of that kind could have. */
const tokens = new Map<LinkKind, string[]>();
let known: string[] = [];
beforeAll(async () => {
  world = await makeWorld();
  const odalys = await world.as('odalys');
  const event = await openEvent(world, { price: 2500, waiver: 'On the water' });
  const { orderId } = await odalys.call('POST /api/events/:id/orders', {
    params: { id: event.id },
    body: orderFor(event, [{ given: 'Sunniva', family: 'Aldous', birthDate: '1988-02-03' }]),
  });
  const { rows } = await odalys.call('GET /api/events/:id/registrations', { params: { id: event.id } });
  known = [orderId, rows[0]!.id, rows[0]!.contactId!, event.id];
  const now = world.app.clock.now();
  for (const kind of kinds)
    tokens.set(
      kind,
      await Promise.all(known.map((id) => openLink({ app: world.app, tx: world.app.db, now }, kind, id))),
    );
  await world.runner.run();
  takeWritesBack(world);
});
afterAll(() => world.close());

test('every public address with a link is one of a kind', () => {
  expect(new Set(endpoints.map(([key]) => key.split('/')[3]))).toEqual(new Set(Object.values(places)));
});

/** What is sent besides the link is as it should be, so that the link alone decides. */
function sentTo(endpoint: Endpoint, token: string, random: () => number) {
  const good = (of: 'body' | 'query' | 'params', more: object = {}) => {
    const schema = endpoint[of];
    if (!schema) return undefined;
    const shape = shapeOf(schema);
    for (let n = 0; n < 300; n += 1) {
      const value = { ...(plain(shape, random, known) as object), ...more };
      if (schema.safeParse(value).success) return value;
    }
    throw new Error(`nothing fits ${of} of this endpoint`);
  };
  return { params: good('params', { token }), query: good('query'), body: good('body') } as never;
}

/** What somebody may make of a link they have. */
const altered = (token: string): string[] => [
  token.slice(0, -1),
  `${token}A`,
  token.slice(1),
  token.toLowerCase() === token ? token.toUpperCase() : token.toLowerCase(),
  [...token].reverse().join(''),
  (token.startsWith('A') ? 'B' : 'A') + token.slice(1),
  token.slice(0, -1) + (token.endsWith('A') ? 'B' : 'A'),
  `${token}%00`,
  `${token} `,
  `${token.slice(0, 13)}%`,
];

for (const [at, [key, endpoint]] of endpoints.entries())
  test(`${key} is opened by its own links alone`, async () => {
    const random = numbers(at + 1);
    const kind = kinds.find((k) => places[k] === key.split('/')[3])!;
    const ask = async (token: string) =>
      (await world.anyone.try(key as 'GET /api/me', sentTo(endpoint, token, random))).status;
    const one = <T>(list: readonly T[]): T => list[Math.floor(random() * list.length)]!;
    // That of a poster and that of a shared device lead to one page, which tells them apart.
    for (const other of kinds.filter((k) => places[k] !== places[kind]))
      expect(await ask(one(tokens.get(other)!)), `a link of kind ${other}`).toBe(404);
    for (const wrong of altered(one(tokens.get(kind)!)))
      expect([400, 404, 422], wrong).toContain(await ask(wrong));
  });
