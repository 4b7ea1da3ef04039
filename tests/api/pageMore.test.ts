import { afterAll, beforeAll, describe, expect, test } from 'vitest';
import type { EventPlan } from '#contract/plan.ts';
import { type Caller, makeWorld, type World } from './harness.ts';
import { type OpenEvent, openEvent, orderFor } from './scenes.ts';

let world: World;
let odalys: Caller;
let event: OpenEvent;
beforeAll(async () => {
  world = await makeWorld();
  odalys = await world.as('odalys');
  event = await openEvent(world, { title: 'Reed Walk', capacity: 3 });
});
afterAll(() => world.close());

const page = () => odalys.call('GET /api/events/:id', { params: { id: event.id } });
async function save(change: Partial<EventPlan>) {
  const { version } = await page();
  return odalys.try('PATCH /api/events/:id', { params: { id: event.id }, body: { version, change } });
}
const shown = () => world.anyone.call('GET /api/public/events/:slug', { params: { slug: event.slug } });
const book = async (given: string) =>
  (
    await world.anyone.call('POST /api/public/events/:slug/orders', {
      params: { slug: event.slug },
      body: orderFor(event, [{ given, family: `Of-${given}` }]),
    })
  ).token;
const id = () => crypto.randomUUID();
const pdf = (text: string) => Buffer.from(`%PDF-1.7 ${text}`).toString('base64');
const keep = (name: string, content: string, who = odalys) =>
  who.try('POST /api/files', { body: { name, content } });

describe('files for the day', () => {
  test('only who holds a seat reads them, and only those of the event', async () => {
    const map = (await keep('Map of the reeds.pdf', pdf('map'))).body;
    const other = (await keep('Other.pdf', pdf('other'))).body;
    await save({
      dayFiles: [
        { id: id(), label: { en: 'Map', fr: 'Carte' }, address: null, fileId: map.id },
        { id: id(), label: { en: 'Tides' }, address: 'https://tides.example', fileId: null },
      ],
    });
    expect(JSON.stringify(await shown())).not.toContain('Tides');
    const token = await book('Ann');
    const order = await world.anyone.call('GET /api/public/orders/:token', { params: { token } });
    expect(order.event.dayFiles).toMatchObject([
      { label: 'Map', fileId: map.id },
      { address: 'https://tides.example' },
    ]);
    const read = (file: string, of = token) =>
      world.anyone.try('GET /api/public/orders/:token/files/:file', { params: { token: of, file } });
    expect(String((await read(map.id)).body)).toContain('map');
    expect((await read(other.id)).status).toBe(404);
    // Given back, the seat opens nothing any more.
    const seat = order.seats[0]!.id;
    await odalys.call('POST /api/registrations/:id/withdraw', { params: { id: seat }, body: {} });
    expect((await read(map.id)).status).toBe(404);
    const after = await world.anyone.call('GET /api/public/orders/:token', { params: { token } });
    expect(after.event.dayFiles).toEqual([]);
  });

  test('a program, a page or a large file is refused; the same file is kept once', async () => {
    const b64 = (text: string) => Buffer.from(text).toString('base64');
    for (const [name, content] of [
      ['map.pdf', b64('MZ program')],
      ['map.html', b64('<script>')],
      ['run.exe', b64('MZ')],
    ] as const)
      expect((await keep(name, content)).problem.fields).toMatchObject([
        { path: 'content', code: 'no-such-file-kind' },
      ]);
    expect((await keep('big.pdf', pdf('x'.repeat(4_000_001)))).problem.fields).toMatchObject([
      { code: 'file-over-4' },
    ]);
    expect((await keep('a.pdf', pdf('a'))).body.id).toBe((await keep('a.pdf', pdf('a'))).body.id);
    expect((await keep('a.pdf', pdf('a'), await world.as('door'))).status).toBe(403);
  });

  test('what leads nowhere or is not there is said beside it; another unit does not read them', async () => {
    expect(
      (await save({ dayFiles: [{ id: id(), label: { en: '' }, address: 'javascript:1', fileId: null }] }))
        .problem.fields,
    ).toMatchObject([
      { path: 'dayFiles.0.label.en', code: 'name-needed' },
      { path: 'dayFiles.0.address', code: 'no-address' },
    ]);
    expect(
      (await save({ dayFiles: [{ id: id(), label: { en: 'Gone' }, address: null, fileId: id() }] })).problem
        .fields,
    ).toMatchObject([{ path: 'dayFiles.0.fileId', code: 'thing-gone' }]);
    const [file] = await odalys.call('GET /api/events/:id/files', { params: { id: event.id } });
    expect(file).toMatchObject({ name: 'Map of the reeds.pdf' });
    const read = (who: Caller) =>
      who.try('GET /api/events/:id/files/:file', { params: { id: event.id, file: file!.id } });
    expect(String((await read(odalys)).body)).toContain('map');
    expect((await read(await world.as('piers'))).status).toBe(403);
  });
});

describe('who people turn to', () => {
  const ask = (more: object = {}) =>
    world.anyone.try('POST /api/public/events/:slug/question', {
      params: { slug: event.slug },
      body: { name: 'Wil Osk', email: 'wil@harbourpost.example', words: 'May the dog come?', ...more },
    });
  test('behind a form the address is nowhere told, and what is written reaches it', async () => {
    expect((await ask()).status).toBe(404);
    await save({
      organizer: { how: 'form', name: 'Imani', email: 'imani@brackenmere.example', phone: '902 555 0101' },
    });
    expect((await shown()).organizer).toEqual({ name: 'Imani', email: null, phone: null, form: true });
    expect(JSON.stringify(await shown())).not.toContain('imani@');
    expect((await ask()).status).toBe(201);
    await world.runner.run();
    expect((await ask({ email: 'nowhere' })).problem.fields).toMatchObject([
      { path: 'email', code: 'not-an-email' },
    ]);
    expect((await ask({ words: '?' })).problem.fields).toMatchObject([
      { path: 'words', code: 'words-needed' },
    ]);
    const { rows } = await odalys.call('GET /api/tray', {
      query: { eventId: event.id, state: 'sent' },
    } as never);
    const sent = rows.find((m: { kind: string }) => m.kind === 'question')!;
    const message = await odalys.call('GET /api/messages/:id', { params: { id: sent.id } });
    expect(message.address).toBe('imani@brackenmere.example');
    expect(message.body).toContain('May the dog come?');
    expect(message.body).toContain('wil@harbourpost.example');
  });

  test('or with everything shown', async () => {
    await save({
      organizer: { how: 'shown', name: 'Imani', email: 'imani@brackenmere.example', phone: '902 555 0101' },
    });
    expect((await shown()).organizer).toEqual({
      name: 'Imani',
      email: 'imani@brackenmere.example',
      phone: '902 555 0101',
      form: false,
    });
    expect((await ask()).status).toBe(404);
    expect(
      (await save({ organizer: { how: 'form', name: '', email: 'x', phone: '' } })).problem.fields,
    ).toMatchObject([{ path: 'organizer.email' }]);
  });
});

test('a goal tells how near it is, and moves on; without one nobody is counted', async () => {
  expect((await shown()).goal).toBeNull();
  await save({ goal: [1, 3] });
  expect((await shown()).goal).toEqual({ reached: 0, next: 1, after: 3 });
  await book('Bo');
  expect((await shown()).goal).toEqual({ reached: 1, next: 3, after: null });
});

test('the look of a page is kept, and comes along to a copy', async () => {
  await save({ look: { style: 'programme', theme: 'dark' } });
  expect((await shown()).look).toEqual({ style: 'programme', theme: 'dark' });
  const copy = await odalys.call('POST /api/events', { body: { publicTitle: 'Again', from: event.id } });
  expect((await odalys.call('GET /api/events/:id', { params: { id: copy.id } })).plan).toMatchObject({
    look: { style: 'programme', theme: 'dark' },
    goal: [1, 3],
  });
});
