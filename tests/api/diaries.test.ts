import { readFileSync } from 'node:fs';
import { createServer } from 'node:http';
import type { AddressInfo } from 'node:net';
import { join } from 'node:path';
import { afterAll, beforeAll, expect, test } from 'vitest';
import { projectRoot } from '#server/db/root.ts';
import { fetchText, isInside } from '#server/places/fetching.ts';
import { putStandin } from '#server/standins/diaries.ts';
import { type Caller, makeWorld, type World } from './harness.ts';

let world: World;
let odalys: Caller;
let hall: { id: string; main: string };
const address = 'https://portansley.example/rooms.ics';
const text = readFileSync(join(projectRoot(), 'tests/data/outside-calendar.ics'), 'utf8');
beforeAll(async () => {
  world = await makeWorld();
  odalys = await world.as('odalys');
  const found = (await odalys.call('GET /api/choices')).venues.find((v) => v.name === 'Town Hall')!;
  hall = { id: found.id, main: found.rooms.find((r) => r.name === 'Main Hall')!.id };
  await putStandin(world.app.db, address, text);
});
afterAll(() => world.close());

const add = (body: object, who = odalys) =>
  who.try('POST /api/venues/:id/diaries', { params: { id: hall.id }, body: body as never });
const list = () => odalys.call('GET /api/venues/:id/diaries', { params: { id: hall.id } });
async function outside(startsLocal: string, endsLocal: string) {
  const { id } = await odalys.call('POST /api/events', { body: { publicTitle: 'Asking' } });
  const standing = await odalys.call('GET /api/events/:id/place', {
    params: { id },
    query: { venueId: hall.id, roomId: hall.main, startsLocal, endsLocal },
  });
  return standing.outside.map((o) => [o.summary, o.when]);
}

test('a diary at an address is read, and warned about where its times meet', async () => {
  const { body } = await add({ name: 'Town Hall office', address });
  expect(body.entries).toBeGreaterThan(5);
  expect(await list()).toMatchObject([
    { name: 'Town Hall office', problem: null, unread: 0, unknownZones: [] },
  ]);
  // The choir sings on the first Wednesday of August.
  expect(await outside('2026-08-05T18:00', '2026-08-05T20:00')).toEqual([
    ['Town choir, main hall', 'Wednesday 5 August 2026, 19:00–21:00'],
  ]);
  expect(await outside('2026-08-05T12:00', '2026-08-05T17:00')).toEqual([]);
});

test('it is read again by itself; when that fails, what was read before stays, and it is said', async () => {
  const begin =
    'BEGIN:VEVENT\r\nUID:new@x.example\r\nDTSTAMP:20260101T000000Z\r\nDTSTART:20260820T150000Z\r\nDTEND:20260820T160000Z\r\nSUMMARY:Blood drive\r\nEND:VEVENT\r\nEND:VCALENDAR';
  await putStandin(world.app.db, address, text.replace('END:VCALENDAR', begin));
  await world.moveTo('2026-07-09T19:00:00Z');
  expect(await outside('2026-08-20T12:30', '2026-08-20T13:30')).toMatchObject([
    ['Blood drive', expect.anything()],
  ]);
  await odalys.call('PUT /api/standins', { body: { service: 'diaries', mode: 'fails', remaining: 1 } });
  await world.moveTo('2026-07-10T00:30:00Z');
  expect(await list()).toMatchObject([{ problem: 'diary-unread' }]);
  expect(await outside('2026-08-20T12:30', '2026-08-20T13:30')).toHaveLength(1);
  await world.moveTo('2026-07-10T04:00:00Z');
  expect(await list()).toMatchObject([{ problem: null }]);
});

test('a file is a diary too; what is no calendar, or cannot be read, is refused and nothing is added', async () => {
  const before = (await list()).length;
  expect((await add({ name: 'Office', content: 'hello' })).problem.fields).toMatchObject([
    { path: 'content', code: 'diary-not-a-calendar' },
  ]);
  expect(
    (await add({ name: 'Gone', address: 'https://nowhere.example/x.ics' })).problem.fields,
  ).toMatchObject([{ path: 'address', code: 'diary-unread' }]);
  expect((await add({ name: 'Odd', address: 'file:///etc/passwd' })).problem.fields).toMatchObject([
    { path: 'address' },
  ]);
  expect((await add({ name: 'Both', address, content: text })).problem.fields).toMatchObject([
    { path: 'address', code: 'diary-address-or-file' },
  ]);
  expect(await list()).toHaveLength(before);
  const { body } = await add({ name: 'File', content: text, roomId: hall.main });
  await odalys.call('DELETE /api/diaries/:id', { params: { id: body.id } });
  expect(await list()).toHaveLength(before);
  expect((await add({ name: 'Not theirs', content: text }, await world.as('piers'))).status).toBe(403);
});

test('nothing is asked of the machine itself or its own network, whatever a name leads to', async () => {
  for (const ip of [
    '127.0.0.1',
    '10.1.2.3',
    '192.168.1.1',
    '169.254.169.254',
    '::1',
    'fd00::1',
    '::ffff:127.0.0.1',
  ])
    expect(isInside(ip), ip).toBe(true);
  for (const ip of ['93.184.216.34', '2606:2800:220:1::1']) expect(isInside(ip), ip).toBe(false);
  const asked: string[] = [];
  const server = createServer((request, response) => {
    asked.push(request.url!);
    response.end(text);
  }).listen(0);
  const { port } = server.address() as AddressInfo;
  try {
    for (const host of ['127.0.0.1', 'localhost', '[::1]'])
      await expect(fetchText(`http://${host}:${port}/rooms.ics`)).rejects.toThrow('inside');
    expect(asked).toEqual([]);
  } finally {
    server.close();
  }
});
