import { beforeEach, expect, test } from 'vitest';
import type { Letter } from '#server/app/app.ts';
import type { Caller, World } from './harness.ts';
import { lineOn, Scene } from './messageLines.ts';
import type { OpenEvent } from './scenes.ts';

const scene = new Scene();
const { plan, planned, book, ahead } = scene;
let world: World;
let odalys: Caller;
let event: OpenEvent;
let begins = '';
beforeEach(async () => {
  ({ world, odalys, event, begins } = scene);
  await odalys.call('PUT /api/standins', { body: { service: 'mail', mode: 'works', remaining: null } });
});

const said = (subject: string, words: string) => ({
  subject: { en: subject },
  body: { en: `Hello {{name}},\n\n${words}\n\n{{organization}}` },
});
const mailTo = (address: string) =>
  world.app.db.query<{ subject: string; body: string; headers: Record<string, string> }>(
    "select subject, body, headers from standin_mail where address = $1 and subject not like 'You are%' and subject not like '%: Lines%' order by accepted_at, key",
    [address],
  );
/** How a line stands with those who get it: their state, and with which line they go. */
const how = async (line: string) =>
  (await planned(event, line)).rows.map((r) => [r.name, r.state, r.wentWith]);
const threeLines = () =>
  plan(event, [
    lineOn('start', { name: 'Day', offsetDays: -1, ...said('Tomorrow', 'It is tomorrow.') }),
    lineOn('start', {
      name: 'Bring',
      offsetMinutes: -(24 * 60 - 10),
      ...said('What to bring', 'A raincoat.'),
    }),
    lineOn('start', { name: 'Hour', offsetMinutes: -60, ...said('Soon', 'It is soon.') }),
  ]);

test('what goes to one person within minutes goes as one mail, is seen to before, and reads as it went', async () => {
  await threeLines();
  await book(event, 'Ila');
  expect(await how('Day')).toEqual([['Ila Lind', 'planned', null]]);
  expect(await how('Bring')).toEqual([['Ila Lind', 'planned', 'Day']]);
  await world.moveTo(ahead(23 * 60));
  const [mail, ...more] = await mailTo('ila.lind@harbourpost.example');
  expect(more).toEqual([]);
  expect(mail!.subject).toBe('Tomorrow · What to bring');
  expect(mail!.body).toMatch(
    /^Hello Ila,\n\nIt is tomorrow\.\n\nWhat to bring\n\nA raincoat\.\n\nBrackenmere Wetland Trust\n\n-- \n/u,
  );
  expect(await how('Bring')).toEqual([['Ila Lind', 'sent', 'Day']]);
  const [row] = (await planned(event, 'Bring')).rows;
  expect(row).toMatchObject({ sentAt: ahead(24 * 60), plannedFor: ahead(24 * 60 - 10) });
  const read = await odalys.call('GET /api/messages/:id', { params: { id: row!.id } });
  expect(read).toMatchObject({ subject: 'Tomorrow · What to bring', wentWith: 'Day' });
  await world.moveTo(ahead(30));
  expect((await mailTo('ila.lind@harbourpost.example')).map((m) => m.subject)).toEqual([
    'Tomorrow · What to bring',
    'Soon',
  ]);
});

test('several shifts of one helper are one reminder; what is for the crew is not mixed with the rest', async () => {
  await plan(event, [
    lineOn('shift start', {
      name: 'Shift',
      offsetDays: -1,
      ...said('Your shift', 'You are down for {{shift}}.'),
    }),
    lineOn('start', { name: 'Briefing', offsetDays: -1, audience: 'crew', ...said('Briefing', 'At eight.') }),
    lineOn('start', { name: 'Day', offsetDays: -1, ...said('Tomorrow', 'It is tomorrow.') }),
  ]);
  await book(event, 'Oda');
  const [oda] = await world.app.db.query<{ id: string }>("select id from contacts where given_name = 'Oda'");
  const day = begins.slice(0, 10);
  for (const [role, from, until] of [
    ['Landing', '09:00', '12:00'],
    ['Tea tent', '09:10', '09:40'],
  ] as const) {
    const shift = await odalys.call('POST /api/events/:id/shifts', {
      params: { id: event.id },
      body: { role, startsLocal: `${day}T${from}`, endsLocal: `${day}T${until}`, wished: 1 },
    });
    await odalys.call('POST /api/shifts/:id/assignments', {
      params: { id: shift.id },
      body: { contactId: oda!.id, overrideReason: 'She can do both' },
    });
  }
  await world.moveTo(ahead(23 * 60));
  const mails = await mailTo('oda.lind@harbourpost.example');
  expect(mails.map((m) => m.subject).sort()).toEqual(['Tomorrow', 'Your shift · Briefing']);
  const shifts = mails.find((m) => m.subject !== 'Tomorrow')!;
  expect(shifts.body.match(/You are down for /gu)).toHaveLength(2);
  expect(shifts.body.match(/Hello Oda/gu)).toHaveLength(1);
  // A shift is theirs until they give it back; of the rest they can have no more, and find how.
  expect(shifts.headers['List-Unsubscribe']).toBeDefined();
  expect((await how('Shift')).map(([, state]) => state)).toEqual(['sent', 'sent']);
  expect((await how('Briefing')).map(([, , line]) => line)).toContain('Shift');
  expect(await how('Day')).toContainEqual(['Oda Lind', 'sent', null]);
});

test('where that mail is not taken, each is tried again, and still goes once', async () => {
  await threeLines();
  await book(event, 'Tor');
  await odalys.call('PUT /api/standins', { body: { service: 'mail', mode: 'fails', remaining: 1 } });
  await world.moveTo(ahead(24 * 60));
  expect([await how('Day'), await how('Bring')]).toEqual([
    [['Tor Lind', 'failed', null]],
    [['Tor Lind', 'planned', 'Day']].map(([name, state]) => [name, state, null]),
  ]);
  await world.moveTo(ahead(23 * 60));
  expect([await how('Day'), await how('Bring')]).toEqual([
    [['Tor Lind', 'sent', null]],
    [['Tor Lind', 'sent', 'Day']],
  ]);
  expect((await mailTo('tor.lind@harbourpost.example')).map((m) => m.subject)).toEqual([
    'Tomorrow · What to bring',
  ]);
});

test('killed after it was handed over, nothing goes twice', async () => {
  await threeLines();
  await book(event, 'Uma');
  const { mail } = world.app;
  const { transaction } = world.app.db;
  const handed: string[] = [];
  world.app.mail = async (letter: Letter) => {
    await mail(letter);
    if (letter.to.name !== 'Uma Lind') return;
    handed.push(letter.subject);
    // The process ends here: nothing is marked.
    world.app.db.transaction = () => Promise.reject(new Error('gone'));
  };
  await world.moveTo(ahead(24 * 60)).catch(() => undefined);
  world.app.db.transaction = transaction;
  world.app.mail = mail;
  expect(handed).toEqual(['Tomorrow · What to bring']);
  expect([await how('Day'), await how('Bring')]).toEqual([
    [['Uma Lind', 'due', null]],
    [['Uma Lind', 'due', 'Day']],
  ]);
  await world.moveTo(ahead(23 * 60));
  expect([await how('Day'), await how('Bring')]).toEqual([
    [['Uma Lind', 'sent', null]],
    [['Uma Lind', 'sent', 'Day']],
  ]);
  expect((await mailTo('uma.lind@harbourpost.example')).map((m) => m.subject)).toEqual([
    'Tomorrow · What to bring',
  ]);
});
