import { afterAll, beforeAll, describe, expect, test } from 'vitest';
import type { CallBody } from '#contract/applying.ts';
import { Caller } from './caller.ts';
import { makeWorld, type World } from './harness.ts';
import { type OpenEvent, openEvent } from './scenes.ts';

let world: World;
let imani: Caller;
let event: OpenEvent;
const roles: Record<string, string> = {};
let ticket = '';
let paddles = '';
let call = { id: '', slug: '' };
beforeAll(async () => {
  world = await makeWorld();
  imani = await world.as('imani');
  event = await openEvent(world, { title: 'Lagoon Day' });
  ticket = (await imani.call('POST /api/skills', { body: { name: 'Dinghy ticket', certificate: true } })).id;
  paddles = (await imani.call('POST /api/skills', { body: { name: 'Paddles well' } })).id;
  for (const [name, needs] of [
    ['Rescue boat', [ticket]],
    ['Tea', []],
    ['Gate', []],
  ] as const)
    roles[name] = (await imani.call('POST /api/roles', { body: { name, needs: [...needs] } })).id;
  call = await imani.call('POST /api/calls', { body: callBody() });
});
afterAll(() => world.close());

const callBody = (more: Partial<CallBody> = {}) =>
  ({
    eventId: event.id,
    title: { en: 'Help on the lagoon', fr: 'Aidez à la lagune' },
    words: { en: 'Four hours are plenty.' },
    asks: ['availability', 'skills', 'limits', 'company', 'shirt', 'birth date', 'experience'] as const,
    roles: [roles['Rescue boat']!, roles.Tea!],
    open: true,
    ...more,
  }) as CallBody;
const day = '2026-08-08';
const saying = (more: object = {}) => ({
  wishes: [{ roleId: roles['Rescue boat']!, weight: 3 }],
  available: { kind: 'dates' as const, stretches: [{ date: day, from: '08:00', to: '17:00' }] },
  ...more,
});
const person = (given: string) => ({
  given,
  family: 'Helpling',
  email: `${given.toLowerCase()}@helping.example`,
});
const apply = (given: string, said: object = {}, by: Caller = world.anyone) =>
  by.try('POST /api/public/calls/:slug', {
    params: { slug: call.slug },
    body: { person: person(given), said: saying(said) } as never,
  });
const all = async (id = call.id) =>
  (await imani.call('GET /api/calls/:id/applications', { params: { id } })).applications;
const of = async (given: string) => (await all()).find((a) => a.name === `${given} Helpling`)!;
const mailTo = async (given: string) => {
  await world.runner.run();
  return world.app.db.query<{ subject: string; body: string }>(
    'select subject, body from standin_mail where address = $1 order by accepted_at, key',
    [`${given.toLowerCase()}@helping.example`],
  );
};
const tokenIn = (body: string) => /\/helping\/([\w-]+)/u.exec(body)![1]!;
/** How many wait for a word, as the page of the event remarks it. */
const waiting = async () =>
  (await imani.call('GET /api/events/:id', { params: { id: event.id } })).margin.find((n) =>
    n.headline.endsWith('applied to help.'),
  )?.headline ?? '';
const decide = (given: string[], to: 'accepted' | 'declined' | 'resting', more: object = {}) =>
  Promise.all(given.map(async (g) => (await of(g)).id)).then((ids) =>
    imani.try('POST /api/applications/decide', { body: { ids, to, ...more } as never }),
  );
const shift = async (role: string, from: string, to: string) =>
  (
    await imani.call('POST /api/events/:id/shifts', {
      params: { id: event.id },
      body: { role, startsLocal: `${day}T${from}`, endsLocal: `${day}T${to}`, wished: 4 },
    })
  ).id;
const put = (id: string, contactId: string, overrideReason = '') =>
  imani.call('POST /api/shifts/:id/assignments', { params: { id }, body: { contactId, overrideReason } });

describe('a call', () => {
  test('shows what is offered, and the days and hours of the event and its shifts as a grid', async () => {
    await shift('Tea', '18:30', '20:15');
    const shown = await world.anyone.call('GET /api/public/calls/:slug', { params: { slug: call.slug } });
    expect(shown).toMatchObject({
      title: { en: 'Help on the lagoon', fr: 'Aidez à la lagune' },
      open: true,
      event: { title: 'Lagoon Day', slug: event.slug },
      grid: { kind: 'dates', days: [day], from: 9, to: 21 },
      you: null,
    });
    expect(shown.roles.map((r) => [r.name, r.needs])).toEqual([
      ['Rescue boat', ['Dinghy ticket']],
      ['Tea', []],
    ]);
  });

  test('says what is wrong with it, and there is one for an event', async () => {
    const wrong = async (more: Partial<CallBody>) =>
      (await imani.try('POST /api/calls', { body: callBody(more) })).problem;
    expect((await wrong({})).code).toBe('call-for-event');
    const season = { eventId: null, fromOn: '2026-05-01', untilOn: '2026-09-30' };
    expect((await wrong({ ...season, roles: [] })).fields).toMatchObject([{ path: 'roles' }]);
    expect((await wrong({ ...season, untilOn: null })).fields).toMatchObject([{ path: 'untilOn' }]);
    expect((await wrong({ ...season, untilOn: '2026-04-30' })).fields).toMatchObject([{ path: 'untilOn' }]);
    expect((await wrong({ ...season, roles: [crypto.randomUUID()] })).fields).toMatchObject([
      { path: 'roles' },
    ]);
  });

  test('closed, or changed by somebody else meanwhile', async () => {
    const { counts: _, ...now } = (await imani.call('GET /api/calls', { query: { eventId: event.id } }))[0]!;
    const change = (version: number, open: boolean) =>
      imani.try('PUT /api/calls/:id', {
        params: { id: call.id },
        body: { ...callBody(), open, version } as never,
      });
    expect((await change(now.version, false)).body).toEqual({ version: now.version + 1 });
    expect((await change(now.version, true)).problem.code).toBe('changed-by-somebody');
    expect(
      (await world.anyone.try('GET /api/public/calls/:slug', { params: { slug: call.slug } })).status,
    ).toBe(404);
    expect((await apply('Nobody')).status).toBe(404);
    expect((await change(now.version + 1, true)).status).toBe(200);
  });
});

describe('applying', () => {
  test('is answered alike whoever it is; a file that is a program is refused; what is wrong is said where', async () => {
    const bring = (name: string, content: string | Buffer) =>
      world.anyone.try('POST /api/public/calls/:slug/files', {
        params: { slug: call.slug },
        body: { name, content: Buffer.from(content).toString('base64') },
      });
    expect((await bring('ticket.pdf', Buffer.from([0x7f, 0x45, 0x4c, 0x46, 2, 1]))).status).toBe(422);
    expect((await bring('ticket.txt', '#!/bin/sh\nrm -rf /')).status).toBe(422);
    const { body: file } = await bring('ticket.txt', 'Dinghies, no. 77');
    const skills = [
      { skillId: ticket, number: '77', until: '2027-03-01', fileId: file.id },
      { skillId: paddles, number: 'nothing', until: '2020-01-01', fileId: null },
    ];
    const { status, body } = await apply('Ada', {
      skills,
      company: 'with Bea',
      shirt: 'M',
      limits: { shifts: 1 },
    });
    expect([status, body]).toEqual([201, { done: true }]);
    const ada = await of('Ada');
    expect(ada).toMatchObject({ state: 'new', files: [{ id: file.id, name: 'ticket.txt' }], shifts: 0 });
    expect(ada.said!.skills).toEqual([
      skills[0],
      { skillId: paddles, number: '', until: null, fileId: null },
    ]);
    const content = await imani.try('GET /api/applications/:id/files/:file', {
      params: { id: ada.id, file: file.id },
    });
    expect(String(content.body)).toBe('Dinghies, no. 77');
    const wrong = async (said: object) =>
      (await apply('Wrong', said)).problem.fields?.map((f: { path: string }) => f.path);
    expect(await wrong({ wishes: [] })).toEqual(['said.wishes']);
    expect(await wrong({ available: null })).toEqual(['said.available']);
    expect(await wrong({ wishes: [{ roleId: roles.Gate, weight: 1 }] })).toEqual(['said.wishes.0.roleId']);
    expect(await wrong({ limits: { shifts: 0 } })).toEqual(['said.limits.shifts']);
    expect(await wrong({ birthDate: '2030-01-01' })).toEqual(['said.birthDate']);
    // A file of another application is not to be had by naming it.
    expect((await apply('Thief', { skills })).problem.code).toBe('file-gone');
    expect((await all()).some((a) => a.name.startsWith('Thief') || a.name.startsWith('Wrong'))).toBe(false);
  });

  test('in somebody’s name a second time takes nothing away: it waits beside it, and whoever has the address hears of it', async () => {
    await apply('Bea', { experience: 'Two summers' });
    const token = tokenIn((await mailTo('Bea')).at(-1)!.body);
    expect((await apply('Bea', { experience: 'None at all' })).body).toEqual({ done: true });
    const bea = await of('Bea');
    expect([bea.said!.experience, bea.again!.experience]).toEqual(['Two summers', 'None at all']);
    expect(
      (await mailTo('Bea')).filter((m) => m.subject === 'You offered to help: Help on the lagoon'),
    ).toHaveLength(2);
    await imani.call('POST /api/applications/:id/again', { params: { id: bea.id }, body: { take: false } });
    expect((await of('Bea')).again).toBeNull();
    // By their own link they say what they mean.
    await world.anyone.call('PUT /api/public/applications/:token', {
      params: { token },
      body: { said: saying({ experience: 'Three summers' }) } as never,
    });
    expect((await of('Bea')).said!.experience).toBe('Three summers');
    await apply('Bea', { experience: 'Four' });
    await imani.call('POST /api/applications/:id/again', {
      params: { id: bea.id },
      body: { take: true },
    });
    expect(await of('Bea')).toMatchObject({ again: null, said: { experience: 'Four' } });
  });

  test('twice at the same moment is once', async () => {
    const both = await Promise.all([apply('Cleo'), apply('Cleo')]);
    expect(both.map((r) => r.status)).toEqual([201, 201]);
    expect((await all()).filter((a) => a.name === 'Cleo Helpling')).toHaveLength(1);
  });

  test('the crew lead asks, and the answer comes by their own link; nobody knows more by it', async () => {
    await apply('Dora');
    const token = tokenIn((await mailTo('Dora')).at(-1)!.body);
    const dora = await of('Dora');
    await imani.call('POST /api/applications/:id/ask', {
      params: { id: dora.id },
      body: { words: 'Can you tow?' },
    });
    const letter = (await mailTo('Dora')).at(-1)!;
    expect(letter.body).toContain('Can you tow?');
    expect(tokenIn(letter.body)).toBe(token);
    const page = await world.anyone.call('GET /api/public/applications/:token', { params: { token } });
    expect(page).toMatchObject({
      name: 'Dora',
      state: 'new',
      question: 'Can you tow?',
      answer: '',
      shiftsToken: null,
    });
    await world.anyone.call('POST /api/public/applications/:token/answer', {
      params: { token },
      body: { words: 'Yes.' },
    });
    expect(await of('Dora')).toMatchObject({ question: 'Can you tow?', answer: 'Yes.' });
  });
});

describe('deciding', () => {
  test('accepting writes what they can do on record, unseen, and tells them; a certificate is seen by hand', async () => {
    const { contactId, id } = await of('Ada');
    expect((await decide(['Ada'], 'accepted', { words: 'Bring boots.' })).body).toEqual({
      changed: 1,
      told: 1,
    });
    expect((await decide(['Ada'], 'accepted')).problem.code).toBe('is-so-already');
    expect((await mailTo('Ada')).at(-1)!.body).toContain('Bring boots.');
    const held = async () => imani.call('GET /api/contacts/:id/skills', { params: { id: contactId } });
    expect((await held()).map((h) => [h.name, h.number, h.until, h.seen])).toEqual([
      ['Dinghy ticket', '77', '2027-03-01', false],
      ['Paddles well', '', null, false],
    ]);
    await imani.call('POST /api/applications/:id/skills/:skill/seen', { params: { id, skill: ticket } });
    expect((await held())[0]).toMatchObject({ seen: true, seenBy: 'Imani Okarro' });
  });

  test('several at once; whoever it is so of already is left alone, and resting is said to nobody', async () => {
    const before = (await mailTo('Cleo')).length;
    expect(await waiting()).toBe('3 people applied to help.');
    expect((await decide(['Ada', 'Cleo', 'Dora'], 'accepted')).body).toEqual({ changed: 2, told: 2 });
    expect(await waiting()).toBe('1 person applied to help.');
    await apply('Cleo', { experience: 'Much' });
    expect(await waiting()).toBe('2 people applied to help.');
    await imani.call('POST /api/applications/:id/again', {
      params: { id: (await of('Cleo')).id },
      body: { take: false },
    });
    expect((await mailTo('Cleo')).length).toBe(before + 1);
    expect((await decide(['Cleo'], 'resting')).body).toEqual({ changed: 1, told: 0 });
    expect((await mailTo('Cleo')).length).toBe(before + 1);
    expect((await decide(['Bea'], 'declined')).body).toEqual({ changed: 1, told: 1 });
    const token = tokenIn((await mailTo('Bea')).find((m) => m.body.includes('/helping/'))!.body);
    const late = await world.anyone.try('PUT /api/public/applications/:token', {
      params: { token },
      body: { said: saying() } as never,
    });
    expect(late.problem.code).toBe('application-declined');
  });

  test('what they said decides who can be put on, and who comes first', async () => {
    const early = await shift('Rescue boat', '09:00', '12:00');
    const late = await shift('Rescue boat', '16:00', '18:00');
    const found = async (id: string) =>
      (await imani.call('GET /api/shifts/:id/candidates', { params: { id } })).shown
        .filter((c) => c.name.endsWith('Helpling'))
        .map((c) => [c.name.split(' ')[0], c.wish, c.against.map((a) => a.text)]);
    const there = await found(early);
    expect(there[0]).toEqual(['Ada', 3, []]);
    // Who was declined is not looked for; who rests or was accepted is, with what speaks against it.
    expect(there.map(([name]) => name)).toEqual(['Ada', 'Dora']);
    expect(there[1]![2]).toEqual(['has no Dinghy ticket on record']);
    expect((await found(late))[0]).toEqual(['Ada', 3, ['said they cannot be there then']]);
    const { contactId } = await of('Ada');
    expect((await put(early, contactId)).assigned).toBe(true);
    // One shift is the most they want.
    const more = await put(await shift('Tea', '13:00', '14:00'), contactId);
    expect(more).toMatchObject({ assigned: false });
    expect(more.clashes.map((c) => c.text)).toEqual(['wants 1 shift at most, and has 1']);
    const { contactId: cleo } = await of('Cleo');
    const { contactId: bea } = await of('Bea');
    // Outside the hours that both said: the decision says all of them.
    const tea = await shift('Tea', '18:00', '19:00');
    expect((await put(tea, cleo)).clashes.map((c) => c.text)).toEqual(['rests']);
    expect((await put(tea, bea)).clashes.map((c) => c.text)).toEqual(['was declined for this crew']);
    expect(await of('Ada')).toMatchObject({ shifts: 1, hours: 3 });
    const [shown] = (await imani.call('GET /api/calls', { query: { eventId: event.id } })).map(
      (c) => c.counts,
    );
    expect(shown).toEqual({ invited: 0, new: 0, accepted: 2, declined: 1, resting: 1 });
  });

  test('two serve together or never, and what was said last of them holds', async () => {
    const [ada, dora] = [await of('Ada'), await of('Dora')];
    const pair = (kind: 'together' | 'apart') =>
      imani.call('POST /api/applications/:id/pairs', {
        params: { id: ada.id },
        body: { contactId: dora.contactId, kind },
      });
    await pair('together');
    await pair('apart');
    const { pairs } = await of('Dora');
    expect(pairs).toMatchObject([{ contactId: ada.contactId, name: 'Ada Helpling', kind: 'apart' }]);
    await imani.call('DELETE /api/applications/:id/pairs/:pair', {
      params: { id: dora.id, pair: pairs[0]!.id },
    });
    expect((await of('Ada')).pairs).toEqual([]);
    const self = await imani.try('POST /api/applications/:id/pairs', {
      params: { id: ada.id },
      body: { contactId: ada.contactId, kind: 'apart' },
    });
    expect(self.problem.fields).toMatchObject([{ path: 'contactId' }]);
  });
});

describe('people known before', () => {
  let season: { id: string; slug: string };
  test('are written to once, and find what is known of them, but no birth date', async () => {
    season = await imani.call('POST /api/calls', {
      body: callBody({
        eventId: null,
        fromOn: '2026-05-01',
        untilOn: '2026-10-31',
        title: { en: 'The summer' },
      }),
    });
    const { contactId } = await of('Ada');
    await world.app.db.query("update contacts set birth_date = '1990-02-03' where id = $1", [contactId]);
    const invite = (body: object) =>
      imani.call('POST /api/calls/:id/invite', { params: { id: season.id }, body });
    const tried = await invite({ contactIds: [contactId], helped: true, trying: true });
    expect(tried.names).toContain('Ada Helpling');
    expect(await all(season.id)).toEqual([]);
    expect(await invite({ contactIds: [contactId] })).toEqual({ invited: 1, names: ['Ada Helpling'] });
    expect((await invite({ contactIds: [contactId] })).invited).toBe(0);
    const letter = (await mailTo('Ada')).at(-1)!;
    expect(letter.subject).toBe('Will you help again? The summer');
    const params = { token: tokenIn(letter.body) };
    const page = await world.anyone.call('GET /api/public/applications/:token', { params });
    expect(page).toMatchObject({ state: 'invited', call: { grid: { kind: 'week' } } });
    expect(page.said).toMatchObject({
      wishes: [{ roleId: roles['Rescue boat'], weight: 3 }],
      available: null,
      company: 'with Bea',
      shirt: 'M',
      birthDate: null,
      limits: { shifts: 1 },
    });
    expect(page.said.skills.map((s) => [s.skillId, s.number])).toEqual([
      [ticket, '77'],
      [paddles, ''],
    ]);
    const one = (await all(season.id))[0]!;
    const early = await imani.try('POST /api/applications/decide', {
      body: { ids: [one.id], to: 'accepted' },
    });
    expect(early.problem.code).toBe('not-applied');
    await world.anyone.call('PUT /api/public/applications/:token', {
      params,
      body: {
        said: {
          ...page.said,
          available: { kind: 'week', stretches: [{ weekday: 6, from: '08:00', to: '24:00' }] },
        },
      },
    });
    expect((await all(season.id))[0]).toMatchObject({ state: 'new', age: 36 });
  });

  test('of a season it counts where there is no application for the event itself', async () => {
    const other = await openEvent(world, {
      title: 'September Day',
      startsLocal: '2026-09-05T09:00',
      endsLocal: '2026-09-05T16:00',
    });
    const [one] = await all(season.id);
    await imani.call('POST /api/applications/decide', {
      body: { ids: [one!.id], to: 'accepted', tell: false },
    });
    const add = async (startsLocal: string, endsLocal: string) =>
      (
        await imani.call('POST /api/events/:id/shifts', {
          params: { id: other.id },
          body: { role: 'Tea', startsLocal, endsLocal, wished: 2 },
        })
      ).id;
    // 5 September 2026 is a Saturday. Ada has one shift of the summer already, and wants no more.
    const against = async (id: string) => (await put(id, one!.contactId)).clashes.map((c) => c.text);
    expect(await against(await add('2026-09-05T09:00', '2026-09-05T12:00'))).toEqual([
      'wants 1 shift at most, and has 1',
    ]);
    expect(await against(await add('2026-09-04T18:00', '2026-09-04T20:00'))).toEqual([
      'said they cannot be there then',
      'wants 1 shift at most, and has 1',
    ]);
  });

  test('whoever was invited and applies on the page of the call has one application', async () => {
    const { contactId } = await of('Dora');
    await imani.call('POST /api/calls/:id/invite', {
      params: { id: season.id },
      body: { contactIds: [contactId] },
    });
    const sent = await world.anyone.try('POST /api/public/calls/:slug', {
      params: { slug: season.slug },
      body: {
        person: person('Dora'),
        said: saying({
          available: { kind: 'week', stretches: [{ weekday: 6, from: '08:00', to: '12:00' }] },
        }),
      } as never,
    });
    expect(sent.status).toBe(201);
    const doras = (await all(season.id)).filter((a) => a.contactId === contactId);
    expect(doras.map((a) => a.state)).toEqual(['new']);
    expect(doras[0]!.said!.available).toMatchObject({ kind: 'week' });
  });

  test('whoever is signed in applies as themselves, and finds what they said', async () => {
    const ada = new Caller(world.origin);
    const { ticket: code } = await ada.call('POST /api/public/sign-in', {
      body: { email: 'ada@helping.example' },
    });
    const mails = await mailTo('Ada');
    await ada.call('POST /api/public/sign-in/code', {
      body: { ticket: code, code: /\d{3} \d{3}/u.exec(mails.at(-1)!.body)![0] },
    });
    const { you } = await ada.call('GET /api/public/calls/:slug', { params: { slug: call.slug } });
    expect(you).toMatchObject({ name: 'Ada Helpling', applied: true, said: { company: 'with Bea' } });
    await ada.call('POST /api/public/calls/:slug', {
      params: { slug: call.slug },
      body: { said: { ...you!.said, company: 'alone' } },
    });
    expect(await of('Ada')).toMatchObject({ state: 'accepted', again: null, said: { company: 'alone' } });
    // Nobody signed in, and nobody named.
    const nobody = await world.anyone.try('POST /api/public/calls/:slug', {
      params: { slug: call.slug },
      body: { said: saying() } as never,
    });
    expect(nobody.problem.fields).toMatchObject([{ path: 'person.given' }]);
  });

  test('who is erased is gone from it, with what they said and their files; files nobody named go after a day', async () => {
    const { contactId } = await of('Ada');
    const odalys = await world.as('odalys');
    const does = await odalys.call('GET /api/contacts/:id/erasure', { params: { id: contactId } });
    expect(does.goes).toContain('2 applications to help');
    await odalys.call('POST /api/contacts/:id/erase', {
      params: { id: contactId },
      body: { name: 'Ada Helpling' } as never,
    });
    expect((await all()).some((a) => a.name.startsWith('Ada'))).toBe(false);
    const left = async () => world.app.db.query('select id from application_files');
    expect(await left()).toEqual([]);
    await world.anyone.call('POST /api/public/calls/:slug/files', {
      params: { slug: call.slug },
      body: { name: 'loose.txt', content: Buffer.from('Nothing').toString('base64') },
    });
    expect(await left()).toHaveLength(1);
    await world.moveTo('2026-07-11T13:00:00.000Z');
    expect(await left()).toEqual([]);
  });
});
