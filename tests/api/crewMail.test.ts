import { beforeAll, expect, test } from 'vitest';
import { instantOf } from '#core/time/wallTime.ts';
import { type Caller, linkTo } from './harness.ts';
import { Scene } from './messageLines.ts';

const scene = new Scene();
let imani: Caller;
beforeAll(async () => {
  imani = await scene.world.as('imani');
});
const params = () => ({ id: scene.event.id });
const day = () => scene.begins.slice(0, 10);
const person = (given: string, language = 'en') =>
  imani.call('POST /api/contacts', {
    body: {
      given,
      family: 'Mailer',
      email: given === 'Mute' ? '' : `${given.toLowerCase()}@mailer.example`,
      language,
    } as never,
  });
const shift = async (role: string, from: string, to: string, people: string[]) => {
  const { id } = await imani.call('POST /api/events/:id/shifts', {
    params: params(),
    body: { role, place: 'Quay', startsLocal: `${day()}T${from}`, endsLocal: `${day()}T${to}`, wished: 3 },
  });
  for (const contactId of people)
    await imani.call('POST /api/shifts/:id/assignments', { params: { id }, body: { contactId } });
  return id;
};

test('each of the crew gets the words with their own shifts; who gets it and how it reads is seen before', async () => {
  const [ann, ben, mute] = [
    (await person('Ann')).id,
    (await person('Ben', 'fr')).id,
    (await person('Mute')).id,
  ];
  await shift('Rope', '08:00', '10:00', [ann, mute]);
  await shift('Lamp', '12:00', '14:00', [ann, ben]);
  const write = (body: object) =>
    imani.try('POST /api/events/:id/crew/mail', {
      params: params(),
      body: { subject: 'Bring boots', words: 'It rained all week.\n\nBoots, please.', ...body },
    });
  const seen = (await write({ trying: true })).body;
  expect(seen).toMatchObject({
    to: 2,
    without: [{ name: 'Mute Mailer' }],
    example: { name: 'Ann Mailer', subject: 'Bring boots' },
  });
  expect(seen.example!.body).toMatch(/Boots, please\.[\s\S]+Rope, Quay[\s\S]+Lamp, Quay/u);
  // The link to somebody's own page is theirs alone.
  expect(seen.example!.body).not.toMatch(/\/crew\/[\w-]{20}/u);
  const mail = async () => {
    await scene.world.runner.run();
    return scene.world.app.db.query<{ address: string; subject: string; body: string }>(
      "select address, subject, body from standin_mail where subject = 'Bring boots' order by address",
    );
  };
  expect(await mail()).toEqual([]);
  expect((await write({ roles: ['Rope'], trying: true })).body).toMatchObject({ to: 1 });
  expect((await write({ words: ' ' })).problem.fields![0]).toMatchObject({ path: 'words' });
  expect((await write({ roles: ['Nobody'] })).problem.code).toBe('nobody-to-write-to');
  expect((await write({})).body).toMatchObject({ to: 2 });
  const [first, second] = await mail();
  expect(first).toMatchObject({ address: 'ann@mailer.example' });
  expect(first!.body).toMatch(/Hello Ann[\s\S]+Rope[\s\S]+Lamp[\s\S]+\/crew\/[\w-]{20}/u);
  expect(second!.body).toMatch(/Bonjour Ben[\s\S]+Vos quarts[\s\S]+Lamp/u);
  expect(second!.body).not.toContain('Rope');
  // What somebody types cannot bring a link of ours, or a field, along.
  await write({ subject: 'Fields', words: 'Dear {{name}}, {{shifts_link}}' });
  await scene.world.runner.run();
  const [typed] = await scene.world.app.db.query<{ body: string }>(
    "select body from standin_mail where subject = 'Fields' limit 1",
  );
  expect(typed!.body).toContain('Dear {{name}}, {{shifts_link}}');
});

test('whoever lives by another clock clashes by instants, and reads by whose clock a time is', async () => {
  const { world, odalys } = scene;
  const far = await odalys.call('POST /api/events', { body: { publicTitle: 'Wetlands Online' } });
  await odalys.call('PATCH /api/events/:id', {
    params: { id: far.id },
    body: {
      version: 1,
      change: { zone: 'Europe/Dublin', startsLocal: `${day()}T09:00`, endsLocal: `${day()}T20:00` },
    },
  });
  const online = async (from: string, to: string) =>
    (
      await imani.call('POST /api/events/:id/shifts', {
        params: { id: far.id },
        body: { role: 'Host', startsLocal: `${day()}T${from}`, endsLocal: `${day()}T${to}`, wished: 3 },
      })
    ).id;
  const cara = (await person('Cara')).id;
  await odalys.call('PATCH /api/contacts/:id', { params: { id: cara }, body: { zone: 'Europe/Dublin' } });
  await shift('Bell', '09:00', '11:00', [cara]);
  const put = async (id: string) =>
    (
      await imani.call('POST /api/shifts/:id/assignments', { params: { id }, body: { contactId: cara } })
    ).clashes.map((c) => c.kind);
  // Two in the afternoon there is ten in the morning here; ten there is six here.
  expect(await put(await online('14:00', '15:00'))).toEqual(['overlap']);
  expect(await put(await online('10:00', '12:00'))).toEqual([]);
  await world.runner.run();
  const { shifts } = await world.anyone.call('GET /api/public/crew/:token', {
    params: { token: (await linkTo(world.app, 'crew', cara)).split('/').at(-1)! },
  });
  expect(shifts.map((s) => [s.zone, s.startsLocal.slice(11), s.startsAt])).toEqual([
    ['Europe/Dublin', '10:00', instantOf(`${day()}T10:00`, 'Europe/Dublin')],
    ['America/Halifax', '09:00', instantOf(`${day()}T09:00`, 'America/Halifax')],
  ]);
  const { body: tried } = await imani.try('POST /api/events/:id/crew/mail', {
    params: params(),
    body: { subject: 'Bells', words: 'Ring.', roles: ['Bell'], trying: true },
  });
  expect(tried.example!.body).toMatch(/Bell, Quay, .* 09:00–11:00 \(2 h\), Halifax time/u);
});
