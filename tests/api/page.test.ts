import { afterAll, beforeAll, expect, test } from 'vitest';
import type { EventPlan } from '#contract/plan.ts';
import { makeWorld, type World } from './harness.ts';
import { openEvent, orderFor } from './scenes.ts';

let world: World;
beforeAll(async () => {
  world = await makeWorld();
});
afterAll(() => world.close());

const save = async (id: string, change: Partial<EventPlan>) => {
  const odalys = await world.as('odalys');
  const { version } = await odalys.call('GET /api/events/:id', { params: { id } });
  return odalys.try('PATCH /api/events/:id', { params: { id }, body: { version, change } });
};
const shown = (slug: string) => world.anyone.call('GET /api/public/events/:slug', { params: { slug } });
const id = () => crypto.randomUUID();

test('questions with answers and buttons reach the page; an address that is none is refused where it stands', async () => {
  const event = await openEvent(world, { title: 'Asked Often' });
  const faq = {
    id: id(),
    question: { en: 'Is there parking?', fr: 'Y a-t-il du stationnement ?' },
    answer: { en: 'Yes.' },
  };
  const button = { id: id(), label: { en: 'How to get there' }, address: 'https://brackenmere.example/way' };
  expect((await save(event.id, { faqs: [faq], buttons: [button] })).status).toBe(200);
  expect(await shown(event.slug)).toMatchObject({ faqs: [faq], buttons: [button] });
  for (const address of ['javascript:alert(1)', 'data:text/html,x', 'the office'])
    expect(
      (await save(event.id, { buttons: [button, { ...button, id: id(), address }] })).problem.fields,
    ).toMatchObject([{ path: 'buttons.1.address', code: 'no-address' }]);
  expect((await save(event.id, { faqs: [{ ...faq, question: { en: ' ' } }] })).problem.fields).toMatchObject([
    { path: 'faqs.0.question.en', code: 'question-empty' },
  ]);
});

test('what registrants are told stands on their page, in the confirmation and on the pass once they have a seat, in their language', async () => {
  const event = await openEvent(world, { title: 'Told Afterwards', price: 1000, capacity: 5 });
  await save(event.id, {
    afterwards: { en: 'Park at the weir.', fr: 'Stationnez au barrage.' },
    french: {
      publicTitle: 'Dit après',
      subtitle: '',
      summary: '',
      description: { type: 'doc', content: [] },
    },
  });
  // Nobody reads it before.
  expect(JSON.stringify(await shown(event.slug))).not.toContain('Park at the weir');
  const { token } = await world.anyone.call('POST /api/public/events/:slug/orders', {
    params: { slug: event.slug },
    body: {
      ...orderFor(event, [{ given: 'Ines', family: 'Roux' }], { email: 'ines.roux@fenmail.example' }),
      language: 'fr',
    },
  });
  const look = () => world.anyone.call('GET /api/public/orders/:token', { params: { token } });
  expect((await look()).event).toMatchObject({ title: 'Dit après', afterwards: '' });
  await world.anyone.call('POST /api/public/orders/:token/pay', {
    params: { token },
    body: { card: '9000 0000 0000 0001', expiry: '08/29' },
  });
  expect((await look()).event.afterwards).toBe('Stationnez au barrage.');
  await world.moveTo('2026-07-09T12:30:00Z');
  const odalys = await world.as('odalys');
  const { rows } = await odalys.call('GET /api/tray', { query: { eventId: event.id, state: 'sent' } });
  const confirmation = rows.find((m) => m.kind === 'registration made')!;
  const mail = await odalys.call('GET /api/messages/:id', { params: { id: confirmation.id } });
  expect(mail.subject).toContain('Dit après');
  expect(mail.body).toMatch(/Stationnez au barrage\.\n\n-- \n/u);
});

test('where people register elsewhere, nobody registers here, and no offer is missing', async () => {
  const odalys = await world.as('odalys');
  const event = await openEvent(world, { title: 'Elsewhere' });
  await save(event.id, { registerAt: 'https://partner.example/join' });
  expect(await shown(event.slug)).toMatchObject({ registerAt: 'https://partner.example/join' });
  const tried = await world.anyone.try('POST /api/public/events/:slug/orders', {
    params: { slug: event.slug },
    body: orderFor(event, [{ given: 'Ada', family: 'Marsh' }], { email: 'ada@fenmail.example' }),
  });
  expect(tried.problem).toMatchObject({
    code: 'registers-elsewhere',
    params: { address: 'https://partner.example/join' },
  });
  const { id: bare } = await odalys.call('POST /api/events', { body: { publicTitle: 'No Offer' } });
  const lacks = async () =>
    (await odalys.call('GET /api/events/:id', { params: { id: bare } })).lacks.map((l) => l.text).join(' ');
  expect(await lacks()).toContain('it has no offer');
  await save(bare, { registerAt: 'https://partner.example/join' });
  expect(await lacks()).not.toContain('it has no offer');
  expect((await save(bare, { registerAt: 'javascript:1' })).problem.fields).toMatchObject([
    { path: 'registerAt', code: 'no-address' },
  ]);
});

test('a draft is looked at by its preview link, until that is stopped; another is made then', async () => {
  const odalys = await world.as('odalys');
  const { id: draft } = await odalys.call('POST /api/events', { body: { publicTitle: 'Still a Draft' } });
  await save(draft, { summary: 'Not for everybody yet.', notes: 'The gate code is 4711.' });
  const asked = { params: { id: draft } };
  expect(await odalys.call('GET /api/events/:id/preview', asked)).toEqual({ token: null });
  const { token } = await odalys.call('POST /api/events/:id/preview', asked);
  // Made twice it is the same.
  expect(await odalys.call('POST /api/events/:id/preview', asked)).toEqual({ token });
  const look = (of: string) => world.anyone.try('GET /api/public/previews/:token', { params: { token: of } });
  const page = await look(token);
  expect(page.body).toMatchObject({
    title: 'Still a Draft',
    summary: 'Not for everybody yet.',
    state: 'open',
  });
  expect(JSON.stringify(page.body)).not.toContain('code is 4711');
  // The link shows the page and nothing else: nobody registers, and other links do not lead here.
  expect((await world.anyone.try('GET /api/public/orders/:token', { params: { token } })).status).toBe(404);
  await odalys.call('DELETE /api/events/:id/preview', asked);
  expect((await look(token)).status).toBe(404);
  const again = await odalys.call('POST /api/events/:id/preview', asked);
  expect(again.token).not.toBe(token);
  expect((await look(token)).status).toBe(404);
  expect((await look(again.token)).status).toBe(200);
  for (const who of ['piers', 'marit', 'door'] as const)
    expect((await (await world.as(who)).try('POST /api/events/:id/preview', asked)).status).toBe(403);
  await odalys.call('POST /api/events/:id/state', { params: { id: draft }, body: { move: 'shelve' } });
  expect((await look(again.token)).status).toBe(404);
});

test('an address that names the date moves with it, until somebody could have it', async () => {
  const odalys = await world.as('odalys');
  const open = await openEvent(world, { title: 'Dated Address', startsLocal: '2026-08-08T09:00' });
  const at = (date: string) => ({ startsLocal: `${date}T09:00`, endsLocal: `${date}T11:00` });
  const again = async () =>
    (
      await odalys.call('POST /api/events', {
        body: { publicTitle: 'Dated Address', from: open.id, date: '2026-09-02' },
      })
    ).id;
  const slug = async (of: string) =>
    (await odalys.call('GET /api/events/:id', { params: { id: of } })).plan.slug;
  const [first, second] = [await again(), await again()];
  expect([await slug(first), await slug(second)]).toEqual([
    'dated-address-2026-09-02',
    'dated-address-2026-09-02-2',
  ]);
  await save(first, at('2026-09-03'));
  await save(second, at('2026-09-03'));
  expect([await slug(first), await slug(second)]).toEqual([
    'dated-address-2026-09-03',
    'dated-address-2026-09-02-2',
  ]);
  // Another has it: it stays.
  await save(second, { slug: 'dated-address-2026-09-04' });
  expect((await save(first, at('2026-09-04'))).status).toBe(200);
  expect(await slug(first)).toBe('dated-address-2026-09-03');
  await save(open.id, { slug: 'dated-address-2026-08-08' });
  await save(open.id, at('2026-08-09'));
  expect(await slug(open.id)).toBe('dated-address-2026-08-08');
});

test('an address that an event had leads on; it is nobody else’s while the event is to come', async () => {
  const odalys = await world.as('odalys');
  const event = await openEvent(world, { title: 'Moved Address', startsLocal: '2026-08-08T09:00' });
  const first = event.slug;
  // What is typed through on the way was nobody's address.
  expect((await save(event.id, { slug: 'moved-o' })).status).toBe(200);
  expect((await save(event.id, { slug: 'moved-once' })).status).toBe(200);
  await world.moveTo('2026-07-10T12:00:00Z');
  expect((await save(event.id, { slug: 'moved-twice' })).status).toBe(200);
  await expect(shown('moved-o')).rejects.toThrow();
  for (const slug of [first, 'moved-once', 'moved-twice'])
    expect(await shown(slug)).toMatchObject({ title: 'Moved Address', slug: 'moved-twice' });
  const other = await odalys.call('POST /api/events', { body: { publicTitle: 'Covets It' } });
  expect((await save(other.id, { slug: 'moved-once' })).problem.fields).toMatchObject([
    { path: 'slug', code: 'slug-taken' },
  ]);
  // That of a draft, which nobody could have, is free at once.
  expect((await save(other.id, { slug: 'covets-much' })).status).toBe(200);
  await world.moveTo('2026-07-10T13:00:00Z');
  expect((await save(other.id, { slug: 'covets-more' })).status).toBe(200);
  const third = await odalys.call('POST /api/events', { body: { publicTitle: 'Third' } });
  expect((await save(third.id, { slug: 'covets-much' })).status).toBe(200);
  // Its own former address may be taken back.
  await world.moveTo('2026-07-10T14:00:00Z');
  expect((await save(event.id, { slug: 'moved-once' })).status).toBe(200);
  expect(await shown('moved-twice')).toMatchObject({ slug: 'moved-once' });
  // Once the event is over, another may have it, and then it leads there.
  await world.moveTo('2026-08-20T12:00:00Z');
  expect((await save(other.id, { slug: first })).status).toBe(200);
  await expect(shown(first)).rejects.toThrow();
  expect((await odalys.call('GET /api/events/:id', { params: { id: other.id } })).plan.slug).toBe(first);
});
