import { afterAll, beforeAll, expect, test } from 'vitest';
import { type Caller, makeWorld, type World } from './harness.ts';

let world: World;
let odalys: Caller;
let piers: Caller;
beforeAll(async () => {
  world = await makeWorld();
  odalys = await world.as('odalys');
  piers = await world.as('piers');
});
afterAll(() => world.close());

const proposal = {
  title: 'Lanterns on the Lagoon',
  about: 'Families float paper lanterns at dusk. We would need two canoes.',
  name: 'Jo Lamp',
  email: 'jo.lamp@harbourpost.example',
};
const propose = (more: object = {}) =>
  world.anyone.try('POST /api/public/propose', { body: { ...proposal, ...more } });
const open = (words = { en: 'Tell us what you have in mind.' }) =>
  odalys.call('PUT /api/event-proposals', { body: { open: true, words } });
const drafts = async (who = odalys) =>
  (await who.call('GET /api/events')).filter((e) => e.title === proposal.title);
const decide = (who: Caller, id: string, take: boolean, words = '') =>
  who.try('POST /api/events/:id/proposal', { params: { id }, body: { take, words } });
const letters = (kind: string) =>
  world.app.db.query<{ address: string; subject: string; body: string }>(
    'select address, subject, body from messages where kind = $1 order by created_at, id',
    [kind],
  );

test('nobody may propose an event before the organization wants it', async () => {
  expect((await world.anyone.try('GET /api/public/propose')).status).toBe(404);
  expect((await propose()).status).toBe(404);
  expect((await fetch(`${world.origin}/propose`)).status).toBe(404);
  expect(
    (await piers.try('PUT /api/event-proposals', { body: { open: true, words: { en: '' } } })).status,
  ).toBe(403);
});

test('a proposal is a draft of the unit it is for, with a contact behind it, told on the Desk and answered', async () => {
  await open();
  const { words, units } = await world.anyone.call('GET /api/public/propose');
  expect(words.en).toBe('Tell us what you have in mind.');
  const unitId = units.find((u) => u.name === 'Small Boats')!.id;
  const reply = await propose({
    unitId,
    date: '2026-09-05',
    begins: '19:30',
    ends: '21:00',
    where: 'Sluice Landing',
    people: 40,
    phone: '902 555 0144',
  });
  // Whoever asks learns nothing of who is known.
  expect(reply.body).toEqual({ done: true });
  const [draft] = await drafts(piers);
  const page = await piers.call('GET /api/events/:id', { params: { id: draft!.id } });
  expect(page).toMatchObject({
    state: 'draft',
    plan: { startsLocal: '2026-09-05T19:30', endsLocal: '2026-09-05T21:00', capacity: 40 },
    proposal: {
      name: 'Jo Lamp',
      wishes: '2026-09-05 19:30–21:00, Sluice Landing',
      state: 'new',
      contactId: expect.any(String),
    },
  });
  expect(page.margin.map((n) => n.headline)).toContain('Proposed by Jo Lamp.');
  expect((await piers.call('GET /api/desk')).entries.map((e) => e.text)).toContainEqual(
    expect.stringContaining('Proposed by Jo Lamp.'),
  );
  const contact = await odalys.call('GET /api/contacts/:id', { params: { id: page.proposal!.contactId! } });
  expect(contact.family).toBe('Lamp');
  // Who only sees the plan does not see where somebody is reached.
  const tobias = await (await world.as('tobias')).call('GET /api/events/:id', { params: { id: draft!.id } });
  expect(tobias.proposal).toBeNull();
  expect((await decide(await world.as('tobias'), draft!.id, true)).status).toBe(403);

  expect((await decide(piers, draft!.id, true, 'We lend you three.')).status).toBe(201);
  expect(await letters('event taken')).toMatchObject([
    { address: proposal.email, body: expect.stringContaining('We lend you three.') },
  ]);
  // Decided once, by whoever came first.
  expect((await decide(odalys, draft!.id, false)).problem.code).toBe('decided');
  expect((await piers.call('GET /api/events/:id', { params: { id: draft!.id } })).state).toBe('draft');
});

test('one for no unit waits with the coordinator; declined, its draft is shelved and they are told', async () => {
  await propose({ title: 'Midnight Swim', email: 'ann.reef@harbourpost.example', name: 'Ann Reef' });
  const all = await odalys.call('GET /api/events');
  const { id } = all.find((e) => e.title === 'Midnight Swim')!;
  expect((await piers.call('GET /api/events')).some((e) => e.id === id)).toBe(false);
  expect((await odalys.call('GET /api/event-proposals')).waiting).toBe(1);
  expect((await decide(odalys, id, false, 'The water is too cold.')).status).toBe(201);
  expect((await odalys.call('GET /api/events/:id', { params: { id } })).state).toBe('shelved');
  expect((await letters('event declined'))[0]).toMatchObject({
    address: 'ann.reef@harbourpost.example',
    body: expect.stringContaining('The water is too cold.'),
  });
  expect((await odalys.call('GET /api/event-proposals')).waiting).toBe(0);
});

test('what is missing or wrong stands beside its field, and nothing is made of it', async () => {
  const before = (await odalys.call('GET /api/events')).length;
  const wrong = async (more: object) => (await propose(more)).problem.fields!.map((f) => f.path);
  expect(await wrong({ title: ' ' })).toEqual(['title']);
  expect(await wrong({ about: '' })).toEqual(['about']);
  expect(await wrong({ email: 'nowhere' })).toEqual(['email']);
  expect(await wrong({ email: '' })).toEqual(['email']);
  expect(await wrong({ phone: 'call me' })).toEqual(['phone']);
  expect(await wrong({ begins: '25:00' })).toEqual(['begins']);
  expect(await wrong({ unitId: '00000000-0000-7000-8000-000000000000' })).toEqual(['unitId']);
  expect((await odalys.call('GET /api/events')).length).toBe(before);
});

test('a day without a time is kept as it was written, and erasing whoever proposed it leaves the draft', async () => {
  await propose({
    title: 'Reed Songs',
    name: 'Ed Reed',
    email: 'ed.reed@harbourpost.example',
    date: '2026-10-01',
    language: 'fr',
  });
  const { id } = (await odalys.call('GET /api/events')).find((e) => e.title === 'Reed Songs')!;
  const page = await odalys.call('GET /api/events/:id', { params: { id } });
  expect(page.plan.startsLocal).toBeNull();
  expect(page.proposal!.wishes).toBe('2026-10-01');
  await odalys.call('POST /api/contacts/:id/erase', {
    params: { id: page.proposal!.contactId! },
    body: { name: 'Ed Reed' },
  });
  const after = await odalys.call('GET /api/events/:id', { params: { id } });
  expect(after.proposal).toBeNull();
  expect(after.state).toBe('draft');
});
