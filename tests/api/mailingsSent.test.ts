import { beforeEach, describe, expect, test } from 'vitest';
import type { Caller, World } from './harness.ts';
import { Scene } from './messageLines.ts';
import { type OpenEvent, saying } from './scenes.ts';

const scene = new Scene();
const { book, later } = scene;
let world: World;
let odalys: Caller;
let event: OpenEvent;
beforeEach(() => {
  ({ world, odalys, event } = scene);
});

const contactOf = async (given: string): Promise<string> =>
  (await world.app.db.query<{ id: string }>('select id from contacts where given_name = $1', [given]))[0]!.id;
const segmentOf = async (name: string, ids: string[]) =>
  (await odalys.call('POST /api/segments', { body: { name, ids } })).id;
const mailing = { name: 'Word', topic: 'notice' as const, ...saying('A word', 'Dear {{name}}, come.') };
const mails = (given: string) =>
  world.app.db.query<{ subject: string; body: string; html: string }>(
    "select subject, body, html from standin_mail where address = $1 and subject like 'A word%' order by accepted_at",
    [`${given.toLowerCase()}.lind@harbourpost.example`],
  );
const results = async (id: string) => odalys.call('GET /api/mailings/:id', { params: { id } });

describe('whom a mailing is for', () => {
  test('some of an event’s people, but not those in a segment', async () => {
    for (const given of ['Asa', 'Bea', 'Cyr']) await book(event, given);
    const without = [await segmentOf('Not these', [await contactOf('Bea')])];
    const ofEvent = { eventId: event.id, who: 'attendees' as const };
    const preview = await odalys.call('POST /api/mailings/preview', {
      body: { ...mailing, ofEvent, without },
    });
    expect(preview).toMatchObject({ planned: 2, sample: { name: 'Asa Lind', subject: 'A word' } });
    expect(preview.sample!.html).toContain('Dear Asa, come.');
    await odalys.call('POST /api/mailings', { body: { ...mailing, ofEvent, without, expect: 2 } });
    await world.runner.run();
    expect([await mails('Asa'), await mails('Bea'), await mails('Cyr')].map((m) => m.length)).toEqual([
      1, 0, 1,
    ]);
  });

  test('every kind of an event’s people is asked for', async () => {
    await book(event, 'Kin');
    const count = async (who: 'booked' | 'waiting' | 'crew' | 'came' | 'missed' | 'following') =>
      (
        await odalys.call('POST /api/mailings/preview', {
          body: { ...mailing, ofEvent: { eventId: event.id, who } },
        })
      ).planned;
    expect(await count('booked')).toBe(1);
    for (const who of ['waiting', 'crew', 'came', 'missed', 'following'] as const)
      expect(await count(who)).toBe(0);
    await world.app.db.query(
      "insert into attendance (registration_id, event_id, contact_id, state) select id, event_id, contact_id, 'missed' from registrations where event_id = $1 on conflict (registration_id) do update set state = 'missed'",
      [event.id],
    );
    expect([await count('missed'), await count('came')]).toEqual([1, 0]);
  });

  test('for nobody, or for two at once, it is refused', async () => {
    for (const body of [
      mailing,
      { ...mailing, ids: [await contactOf('Asa')], ofEvent: { eventId: event.id, who: 'crew' as const } },
    ])
      expect((await odalys.try('POST /api/mailings/preview', { body })).problem.fields?.[0]).toMatchObject({
        path: 'ids',
        code: 'for-whom',
      });
  });
});

describe('what a mailing says', () => {
  const paragraph = (text: string, href?: string) => ({
    type: 'paragraph',
    content: [{ type: 'text', text, ...(href && { marks: [{ type: 'link', attrs: { href } }] }) }],
  });

  test('is said to each in their language, formatted, with what is linked counted in both', async () => {
    await book(event, 'Jill');
    await book(event, 'Luc');
    await world.app.db.query("update contacts set language = 'fr' where given_name = 'Luc'");
    const doc = (text: string, href: string) => ({
      type: 'doc',
      content: [paragraph(`${text} {{name}}`), paragraph('the map', href)],
    });
    const said = {
      subject: { en: 'A word', fr: 'A word, en français' },
      preview: { en: '', fr: '' },
      body: { en: '', fr: '' },
      formatted: { en: doc('Dear', 'https://fen.example/map'), fr: doc('Cher', 'https://fen.example/carte') },
    } as never;
    const ids = [await contactOf('Jill'), await contactOf('Luc')];
    const { id } = await odalys.call('POST /api/mailings', { body: { ...mailing, said, ids, expect: 2 } });
    await world.runner.run();
    const [[jill], [luc]] = [await mails('Jill'), await mails('Luc')];
    expect([jill!.subject, luc!.subject]).toEqual(['A word', 'A word, en français']);
    expect([jill!.body.split('\n')[0], luc!.body.split('\n')[0]]).toEqual(['Dear Jill', 'Cher Luc']);
    expect(jill!.html).toMatch(/<a [^>]*href="[^"]*\/l\/[\w-]+"[^>]*>the map<\/a>/u);
    expect(jill!.html).not.toContain('fen.example');
    expect((await results(id)).links.map((l) => l.url)).toEqual([
      'https://fen.example/carte',
      'https://fen.example/map',
    ]);
    expect((await results(id)).said.subject).toEqual({ en: 'A word', fr: 'A word, en français' });
  });

  test('can be of the event whose people it goes to, or to which it calls those who have no seat', async () => {
    await book(event, 'Mo');
    const rest = await odalys.call('POST /api/contacts', {
      body: { given: 'Nia', family: 'Lind', email: 'nia.lind@harbourpost.example' },
    });
    const ids = [await contactOf('Mo'), rest.id];
    const about = { ...mailing, ...saying('A word on {{event}}', '{{when}}, {{place}}: {{event_link}}') };
    const preview = await odalys.call('POST /api/mailings/preview', {
      body: { ...about, ids, withoutSeatOf: event.id },
    });
    expect(preview).toMatchObject({ planned: 1, leftOut: [], sample: { name: 'Nia Lind' } });
    expect(preview.sample!.subject).toMatch(/^A word on Lines \d+$/u);
    expect(preview.sample!.body).toMatch(/09:00.*: http\S+\/e\/lines-\d+/u);
    const { id } = await odalys.call('POST /api/mailings', {
      body: { ...about, ids, withoutSeatOf: event.id, expect: 1 },
    });
    await world.runner.run();
    const [mail] = await mails('Nia');
    // The page of the event is counted as other links are.
    expect((await results(id)).links).toEqual([
      { url: expect.stringMatching(/\/e\/lines-\d+$/u), followed: 0 },
    ]);
    expect(mail!.body).toMatch(/: http\S+\/l\/[\w-]+\n/u);
    const [{ id: messageId }] = (await world.app.db.query<{ id: string }>(
      'select id from messages where mailing_id = $1',
      [id],
    )) as [{ id: string }];
    const reply = (body: { words: string; automatic?: boolean }) =>
      odalys.call('POST /api/messages/:id/reply', { params: { id: messageId }, body });
    await reply({ words: 'I am away', automatic: true });
    expect((await results(id)).wroteBack).toBe(0);
    await reply({ words: 'Gladly!' });
    expect((await results(id)).wroteBack).toBe(1);
    // Whoever asks for a seat, or waits for one, is not called to it either.
    await world.app.db.query("update registrations set state = 'waitlisted' where event_id = $1", [event.id]);
    const { planned } = await odalys.call('POST /api/mailings/preview', {
      body: { ...about, ids, withoutSeatOf: event.id },
    });
    expect(planned).toBe(1);
  });

  test('is refused where it says what it cannot know, and not sent with a gap', async () => {
    const ids = [await contactOf('Mo')];
    for (const field of ['event', 'shift', 'manage_link'])
      expect(
        (
          await odalys.try('POST /api/mailings/preview', {
            body: { ...mailing, ...saying('A word', `{{${field}}}`), ids },
          })
        ).problem.fields,
      ).toMatchObject([{ path: 'said.body.en', code: 'field-elsewhere' }]);
    await world.app.db.query('update events set slug = null where id = $1', [event.id]);
    const body = {
      ...mailing,
      ...saying('A word', '{{event_link}}'),
      ids,
      withoutSeatOf: event.id,
      expect: 1,
    };
    expect((await odalys.try('POST /api/mailings', { body })).problem.code).toBe('field-empty');
    expect(
      (await odalys.try('POST /api/mailings', { body: { ...body, ...saying(' ', '') } })).problem.fields,
    ).toEqual(
      ['subject', 'body'].map((part) =>
        expect.objectContaining({ path: `said.${part}.en`, code: 'nothing-written' }),
      ),
    );
  });
});

describe('a mailing for later', () => {
  test('waits for its time, can be stopped until then, and goes only to who has not said no since', async () => {
    await book(event, 'Dag');
    await book(event, 'Eli');
    const ids = [await contactOf('Dag'), await contactOf('Eli')];
    for (const contactId of ids)
      await odalys.call('POST /api/contacts/:id/consents', {
        params: { id: contactId },
        body: { topic: 'invitations', channel: 'email', granted: true },
      });
    const body = { ...mailing, topic: 'invitations' as const, ids, at: later(120), expect: 2 };
    const { id } = await odalys.call('POST /api/mailings', { body });
    await world.moveTo(later(60));
    expect(await mails('Dag')).toEqual([]);
    await odalys.call('POST /api/contacts/:id/consents', {
      params: { id: ids[1]! },
      body: { topic: 'invitations', channel: 'email', granted: false },
    });
    await world.moveTo(later(70));
    expect(await mails('Dag')).toHaveLength(1);
    expect(await mails('Eli')).toEqual([]);
    expect(await results(id)).toMatchObject({
      sent: 1,
      leftOut: [{ why: 'said no to this since it was written', people: 1, names: ['Eli Lind'] }],
    });
    expect((await odalys.try('POST /api/mailings/:id/stop', { params: { id } })).problem.code).toBe(
      'mailing-gone',
    );
    const stopped = await odalys.call('POST /api/mailings', {
      body: { ...body, ids: [ids[0]!], at: later(120), expect: 1 },
    });
    await odalys.call('POST /api/mailings/:id/stop', { params: { id: stopped.id } });
    await odalys.call('POST /api/mailings/:id/stop', { params: { id: stopped.id } });
    await world.moveTo(later(180));
    expect(await mails('Dag')).toHaveLength(1);
    expect(await results(stopped.id)).toMatchObject({
      sent: 0,
      planned: 0,
      stoppedAt: expect.any(String),
      leftOut: [{ why: 'the mailing was stopped', people: 1 }],
    });
  });
});

describe('what came of a mailing', () => {
  test('its links lead where they were said to, are counted, and nobody is sent anywhere else', async () => {
    await book(event, 'Fay');
    const { id } = await odalys.call('POST /api/mailings', {
      body: {
        ...mailing,
        ids: [await contactOf('Fay')],
        ...saying('A word', 'Dear {{name}}, see https://fen.example/maps?a=1&b=2 and https://fen.example/b.'),
        expect: 1,
      },
    });
    await world.runner.run();
    const [mail] = await mails('Fay');
    const tokens = [...mail!.body.matchAll(/\/l\/([\w-]+)/gu)].map((m) => m[1]!);
    expect(tokens).toHaveLength(2);
    // What is read is what was written.
    expect(mail!.html).toContain('>fen.example/maps?a=1&amp;b=2</a>');
    const follow = (token: string) => fetch(`${world.origin}/l/${token}`, { redirect: 'manual' });
    for (let times = 0; times < 2; times += 1) {
      const answer = await follow(tokens[0]!);
      expect([answer.status, answer.headers.get('location')]).toEqual([
        302,
        'https://fen.example/maps?a=1&b=2',
      ]);
    }
    expect((await follow('https%3A%2F%2Fevil.example')).status).toBe(404);
    expect((await results(id)).links).toEqual([
      { url: 'https://fen.example/maps?a=1&b=2', followed: 2 },
      { url: 'https://fen.example/b', followed: 0 },
    ]);
  });

  test('who booked within two weeks, and who wants no more', async () => {
    await book(event, 'Gil');
    await book(event, 'Hal');
    const ids = [await contactOf('Gil'), await contactOf('Hal')];
    const { id } = await odalys.call('POST /api/mailings', {
      body: { ...mailing, topic: 'invitations', ids, expect: 2 },
    });
    await world.moveTo(later(5));
    expect(await results(id)).toMatchObject({ sent: 2, booked: 0, left: 0, gave: 0 });
    await book(event, 'Gil');
    const [mail] = await mails('Hal');
    const token = /\/out\/([\w-]+)/u.exec(mail!.body)![1]!;
    const params = { token };
    expect(await world.anyone.call('GET /api/public/out/:token', { params })).toMatchObject({
      of: 'topic',
      title: 'invitations to events',
      out: false,
    });
    await world.anyone.call('POST /api/public/out/:token', { params });
    expect((await world.anyone.call('GET /api/public/out/:token', { params })).out).toBe(true);
    expect(await results(id)).toMatchObject({ booked: 1, left: 1 });
    const preview = await odalys.call('POST /api/mailings/preview', {
      body: { ...mailing, topic: 'invitations', ids },
    });
    expect(preview.leftOut).toEqual([{ why: 'said no to invitations', people: 1, names: ['Hal Lind'] }]);
  });
});
