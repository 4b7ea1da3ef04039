import { beforeEach, describe, expect, test } from 'vitest';
import { docOf } from '#core/text/doc.ts';
import type { Caller, World } from './harness.ts';
import { lineOn, Scene } from './messageLines.ts';
import type { OpenEvent } from './scenes.ts';

const scene = new Scene();
const { plan, planned, book, ahead } = scene;
let world: World;
let odalys: Caller;
let event: OpenEvent;
beforeEach(() => {
  ({ world, odalys, event } = scene);
});

/** What the event of a test is called. */
const title = () => `Lines ${scene.n}`;

interface Accepted {
  key: string;
  subject: string;
  body: string;
  html: string;
  headers: Record<string, string>;
  calendar: string | null;
}
/** What the stand-in accepted for somebody of this test, oldest first. */
const mailTo = (given: string) =>
  world.app.db.query<Accepted>(
    'select key, subject, body, html, headers, calendar from standin_mail where address = $1 order by accepted_at, key',
    [`${given.toLowerCase()}.lind@harbourpost.example`],
  );
const tell = (mode: 'works' | 'refuses' | 'bounces' | 'complains', remaining: number | null = 1) =>
  odalys.call('PUT /api/standins', { body: { service: 'mail', mode, remaining } });
const outOf = (mail: Accepted) =>
  /\/out\/([\w-]+)/u.exec(mail.headers['List-Unsubscribe'] ?? '')?.[1] ?? null;

describe('a mail', () => {
  test('is drawn and plain, says why one gets it, and brings the event for a calendar; later ones answer it', async () => {
    await plan(event, [
      lineOn('registration made', { name: 'Confirmation' }),
      lineOn('start', { name: 'Day', offsetDays: -1, preview: { en: 'Bring boots, {{name}}' } }),
    ]);
    await book(event, 'Drawn');
    await world.moveTo(ahead(60));
    const [first, second] = await mailTo('Drawn');
    expect(first!.html).toMatch(/<!doctype html>[\s\S]*Passes, waivers and changes<\/a>/u);
    expect(first!.html).toMatch(/href="[^"]+\/m\/[\w-]{20,}"/u);
    expect(first!.html).not.toMatch(/[\uE000\uE001]/u);
    expect(first!.body).toContain(`You get this because you booked seats for ${title()}.`);
    expect(first!.calendar).toMatch(/METHOD:REQUEST/u);
    expect(first!.calendar!.replaceAll('\r\n ', '')).toContain('mailto:drawn.lind@harbourpost.example');
    expect(first!.headers).toEqual({
      'Message-ID': expect.stringMatching(/^<[\da-f-]{36}@brackenmere\.example>$/u),
      'Auto-Submitted': 'auto-generated',
      'Reply-To': expect.stringMatching(/^reply\+[\da-f]{32}\.[\da-f]{16}@brackenmere\.example$/u),
    });
    // What tells somebody that they have a seat has no way out; a reminder has.
    expect(outOf(first!)).toBeNull();
    expect(second!.headers).toMatchObject({
      'In-Reply-To': first!.headers['Message-ID'],
      References: first!.headers['Message-ID'],
      'List-Unsubscribe-Post': 'List-Unsubscribe=One-Click',
    });
    expect(second!.headers['List-Unsubscribe']).toMatch(/^<http:[^>]+\/api\/public\/out\/[\w-]{20,}>$/u);
    expect(second!.body).toMatch(/No more of these: http:\S+\/out\/[\w-]{20,}$/u);
    expect(second!.html).toContain('>Bring boots, Drawn</div>');
  });

  test('is shown for ever as it was sent, with its headers, without what works like a password', async () => {
    await plan(event, [
      lineOn('registration made', { name: 'Confirmation', subject: { en: 'First words' } }),
    ]);
    await book(event, 'Kept');
    await world.runner.run();
    const [mail] = await mailTo('Kept');
    const read = () => odalys.call('GET /api/messages/:id', { params: { id: mail!.key } });
    const before = await read();
    expect(before.subject).toBe('First words');
    expect(before.html).toContain('Passes, waivers and changes');
    expect(before.headers).toContainEqual({ name: 'Message-ID', value: mail!.headers['Message-ID'] });
    expect(JSON.stringify(before)).not.toMatch(/\/m\/[\w-]{20,}/u);
    const [line] = (await odalys.call('GET /api/events/:id', { params: { id: event.id } })).plan.messages;
    await plan(event, [{ ...line!, subject: { en: 'Other words' }, body: { en: 'Quite another text' } }]);
    expect(await read()).toEqual(before);
  });

  test('that is formatted goes out so, with a plain text made from it, and what does not hold for somebody is left out', async () => {
    const formatted = docOf(
      'Hello {{name}},\n\n{% if owes %}\n\nStill to pay: {{owed}}\n\n{% endif %}\n\nYour pass: {{manage_link}}',
    );
    formatted.content.unshift({
      type: 'heading',
      attrs: { level: 2 },
      content: [{ type: 'text', text: 'See you at {{event}}' }],
    });
    await plan(event, [
      lineOn('registration made', {
        name: 'Formatted',
        body: { en: '' },
        formatted: { en: formatted, fr: null },
      }),
    ]);
    await book(event, 'Formal');
    await world.runner.run();
    const [mail] = await mailTo('Formal');
    expect(mail!.html).toMatch(new RegExp(`<h2 [^>]*>See you at ${title()}</h2>`, 'u'));
    expect(mail!.body).toMatch(new RegExp(`^See you at ${title()}\n\nHello Formal,\n\nYour pass: http`, 'u'));
    expect(mail!.body).not.toContain('Still to pay');
  });

  test('is not sent with a gap in it: it is held back, and says which field is empty', async () => {
    await plan(event, [
      lineOn('start', { name: 'Gap', body: { en: 'Say how: {{survey_link}}' } }),
      lineOn('start', {
        name: 'No gap',
        body: { en: 'Say how: {{ survey_link | default: "at the desk" }}' },
      }),
    ]);
    await book(event, 'Gapless');
    await world.moveTo(ahead(-5));
    expect((await planned(event, 'Gap')).not).toEqual([
      ['Gapless Lind', 'there is nothing to put in for {{survey_link}}'],
    ]);
    expect((await mailTo('Gapless')).map((m) => m.body)).toEqual([
      expect.stringContaining('Say how: at the desk'),
    ]);
  });

  test.each([
    ['{% for x in (1..9) %}{% endfor %}', 'text-tag'],
    ['{{ shift }}', 'field-elsewhere'],
    ['{{ nmae }}', 'not-a-merge-field'],
    ['{% if owed %}', 'text-open'],
  ])('%s is refused while it is written, in either language', async (text, code) => {
    for (const body of [{ en: text }, { en: 'Fine', fr: text }]) {
      const { status, problem } = await plan(event, [lineOn('registration made', { body })]);
      expect(status).toBe(422);
      expect(problem.fields?.[0]).toMatchObject({ path: `messages.0.body.${body.fr ? 'fr' : 'en'}`, code });
    }
    const formatted = { en: docOf(text), fr: null };
    const { problem } = await plan(event, [lineOn('registration made', { body: { en: '' }, formatted })]);
    expect(problem.fields?.[0]).toMatchObject({ path: 'messages.0.body.en', code });
  });

  test('a draft is drawn as one of its people would get it, and of nobody yet, as somebody made up', async () => {
    const params = { id: event.id };
    const line = lineOn('start', {
      offsetDays: -1,
      subject: { en: 'Soon, {{name}}', fr: 'Bientôt, {{name}}' },
    });
    const made = await odalys.call('POST /api/events/:id/lines/preview', { params, body: { line } });
    expect(made).toMatchObject({ key: null, people: [], subject: 'Soon, Mai' });
    await book(event, 'Ane');
    await book(event, 'Bo', undefined, { language: 'fr' });
    const first = await odalys.call('POST /api/events/:id/lines/preview', { params, body: { line } });
    expect(first).toMatchObject({ name: 'Ane Lind', subject: 'Soon, Ane' });
    const { key } = first.people.find((p) => p.name === 'Bo Lind')!;
    const second = await odalys.call('POST /api/events/:id/lines/preview', { params, body: { line, key } });
    expect(second).toMatchObject({ name: 'Bo Lind', subject: 'Bientôt, Bo', language: 'fr' });
    expect(second.html).toContain('<html lang="fr">');
    expect(JSON.stringify(second)).not.toMatch(/\/m\/[\w-]{20,}/u);
    // What is not there yet is not drawn as if it were.
    const { id } = await odalys.call('POST /api/events', { body: { publicTitle: 'Nowhere yet' } });
    const refused = await odalys.try('POST /api/events/:id/lines/preview', {
      params: { id },
      body: {
        line: { ...line, body: { en: '{% if name %}{{ event_link | default: event_link }}{% endif %}' } },
      },
    });
    expect(refused.status).toBe(201);
  });
});

describe('a mail that comes back', () => {
  const contactOf = async (given: string) =>
    await world.app.db.query<{ id: string; email: string; bounced: boolean }>(
      `select c.id, e.email, e.bounced_at is not null as bounced from contacts c join contact_emails e on e.contact_id = c.id where c.given_name = $1 order by e.position`,
      [given],
    );
  test.each(['refuses', 'bounces'] as const)(
    'because nobody has the address (%s): noted, and nothing more goes there',
    async (mode) => {
      const given = mode === 'refuses' ? 'Refused' : 'Bounced';
      await plan(event, [
        lineOn('registration made', { name: 'Confirmation' }),
        lineOn('start', { name: 'Day', offsetDays: -1 }),
      ]);
      await tell(mode);
      await book(event, given);
      await world.runner.run();
      await world.moveTo(scene.later(2));
      expect((await contactOf(given)).map((e) => e.bounced)).toEqual([true]);
      const { goes } = await planned(event, 'Confirmation');
      expect(goes.map(([name, state]) => [name, state])).toEqual([[`${given} Lind`, 'bounced']]);
      expect((await planned(event, 'Day')).not).toEqual([[`${given} Lind`, 'the email address bounced']]);
      const [entry] = await world.app.db.query<{ n: number }>(
        "select count(*)::int as n from audit where action = 'noted that an address bounced' and subject_id = $1",
        [(await contactOf(given))[0]!.id],
      );
      expect(entry!.n).toBe(1);
    },
  );

  test('goes to another address that somebody gives, which is theirs from then on, and so does what was held back', async () => {
    await plan(event, [
      lineOn('registration made', { name: 'Confirmation' }),
      lineOn('start', { name: 'Day', offsetDays: -1 }),
    ]);
    await tell('bounces');
    await book(event, 'Mistyped');
    await world.moveTo(scene.later(3));
    const tray = await odalys.call('GET /api/tray', { query: { state: 'failed', q: 'mistyped.l' } });
    expect(tray.rows.map((r) => [r.name, r.state])).toEqual([['Mistyped Lind', 'bounced']]);
    const params = { id: tray.rows[0]!.id };
    const again = (body: object) => odalys.try('POST /api/messages/:id/retry', { params, body });
    for (const [body, code] of [
      [{}, 'bounced-there'],
      [{ email: 'MISTYPED.lind@harbourpost.example' }, 'bounced-there'],
      [{ email: 'nothing' }, 'not-an-email'],
    ] as const)
      expect((await again(body)).problem.fields?.[0]).toMatchObject({ path: 'email', code });
    await again({ email: 'well.lind@harbourpost.example' });
    await world.runner.run();
    const [mail] = await mailTo('Well');
    expect(mail!.headers['Message-ID']).toMatch(/^<[\da-f-]{36}\.1@/u);
    expect((await contactOf('Mistyped')).map((e) => [e.email, e.bounced])).toEqual([
      ['well.lind@harbourpost.example', false],
      ['mistyped.lind@harbourpost.example', true],
    ]);
    expect((await planned(event, 'Day')).goes.map(([name, state]) => [name, state])).toEqual([
      ['Mistyped Lind', 'planned'],
    ]);
    const day = (await planned(event, 'Day')).rows[0]!.plannedFor!.slice(0, 10);
    const onDay = async (of: string) =>
      (await odalys.call('GET /api/tray', { query: { state: 'coming', day: of, q: 'Mistyped' } })).rows
        .length;
    expect([await onDay(day), await onDay('2020-01-01')]).toEqual([1, 0]);
    expect((await again({})).problem.code).toBe('not-failed');
  });

  test('because whoever got it complained: they get no more reminders of it, and it is noted once', async () => {
    await plan(event, [
      lineOn('start', { name: 'Week', offsetDays: -7 }),
      lineOn('start', { name: 'Day', offsetDays: -1 }),
      lineOn('registration made', { name: 'Confirmation' }),
    ]);
    await book(event, 'Cross');
    await world.moveTo(ahead(8 * 24 * 60));
    await tell('complains');
    await world.moveTo(ahead(6 * 24 * 60));
    expect((await planned(event, 'Day')).not).toEqual([['Cross Lind', 'wants no more reminders of this']]);
    expect((await planned(event, 'Week')).sent).toBe(1);
  });
});

describe('the way out of a mail', () => {
  const post = (token: string, body: string, type = 'application/x-www-form-urlencoded') =>
    fetch(`${world.origin}/api/public/out/${token}`, {
      method: 'POST',
      headers: { 'content-type': type },
      body,
    });

  test('is taken in one step by a mail reader, is the same twice, and leads back (RFC 8058)', async () => {
    await plan(event, [
      lineOn('start', { name: 'Week', offsetDays: -7 }),
      lineOn('start', { name: 'Day', offsetDays: -1 }),
      lineOn('balance due', { name: 'Owed', offsetDays: -1 }),
    ]);
    await book(event, 'Leaves');
    await world.moveTo(ahead(6 * 24 * 60));
    const [mail] = await mailTo('Leaves');
    const token = outOf(mail!)!;
    const params = { token };
    expect(await world.anyone.call('GET /api/public/out/:token', { params })).toEqual({
      of: 'event',
      title: title(),
      organization: 'Brackenmere Wetland Trust',
      language: 'en',
      out: false,
    });
    for (let times = 0; times < 2; times += 1)
      expect((await post(token, 'List-Unsubscribe=One-Click')).status).toBe(201);
    expect((await world.anyone.call('GET /api/public/out/:token', { params })).out).toBe(true);
    expect((await planned(event, 'Day')).not).toEqual([['Leaves Lind', 'wants no more reminders of this']]);
    // What is no reminder still goes: there is nothing to pay here, which is another reason.
    expect((await planned(event, 'Owed')).not).toEqual([['Leaves Lind', 'nothing is left to pay']]);
    await world.anyone.call('POST /api/public/out/:token', { params, body: { back: true } });
    expect((await planned(event, 'Day')).goes).toHaveLength(1);
    // The token of another is no use: it only opens its own.
    const other = token.slice(0, -1) + (token.endsWith('A') ? 'B' : 'A');
    expect((await post(other, 'List-Unsubscribe=One-Click')).status).toBe(404);
  });
});

describe('following without a seat', () => {
  const slug = async () =>
    (await odalys.call('GET /api/events/:id', { params: { id: event.id } })).plan.slug!;
  const ask = async (name: string, email: string, of: 'event' | 'series' = 'event') =>
    world.anyone.try('POST /api/public/events/:slug/followers', {
      params: { slug: await slug() },
      body: { of, name, email },
    });
  const followToken = async (email: string) => {
    const [mail] = await world.app.db.query<{ body: string }>(
      "select body from standin_mail where address = $1 and subject like 'Shall we tell you%' order by accepted_at desc limit 1",
      [email],
    );
    return /\/follow\/([\w-]+)/u.exec(mail?.body ?? '')?.[1] ?? null;
  };

  test('whoever asks is written to once, and follows when they say so from there; what is asked tells nothing', async () => {
    await plan(event, [
      lineOn('start', { name: 'For followers', audience: 'following', offsetMinutes: -60 }),
    ]);
    const email = 'fen.reader@harbourpost.example';
    expect((await ask('Fen Reader', email)).status).toBe(201);
    // Asked again, or of somebody who follows already, the answer is the same, and no second mail goes that day.
    expect((await ask('Fen Reader', email)).status).toBe(201);
    await world.runner.run();
    const mails = () => world.app.db.query('select 1 from standin_mail where address = $1', [email]);
    expect(await mails()).toHaveLength(1);
    expect((await planned(event, 'For followers')).goes).toEqual([]);
    const params = { token: (await followToken(email))! };
    expect(await world.anyone.call('GET /api/public/follow/:token', { params })).toMatchObject({
      of: 'event',
      title: title(),
      name: 'Fen Reader',
      follows: false,
    });
    await world.anyone.call('POST /api/public/follow/:token', { params, body: { follows: true } });
    await world.anyone.call('POST /api/public/follow/:token', { params, body: { follows: true } });
    expect((await planned(event, 'For followers')).goes.map(([name]) => name)).toEqual(['Fen Reader']);
    expect((await ask('Fen Reader', email)).status).toBe(201);
    await world.moveTo(ahead(30));
    const [reminder] = await world.app.db.query<{ body: string; headers: Record<string, string> }>(
      "select body, headers from standin_mail where address = $1 and subject like 'Coming up%'",
      [email],
    );
    expect(reminder!.body).toContain(`You get this because you asked to hear of ${title()}.`);
    expect(reminder!.body).toMatch(/More about it: http:\S+\/e\//u);
    const out = /\/out\/([\w-]+)/u.exec(reminder!.headers['List-Unsubscribe']!)![1]!;
    await world.anyone.call('POST /api/public/out/:token', { params: { token: out } });
    expect((await world.anyone.call('GET /api/public/follow/:token', { params })).follows).toBe(false);
  });

  test('who takes a seat is written to as an attendee', async () => {
    await plan(event, [lineOn('start', { name: 'Followers', audience: 'following', offsetDays: -1 })]);
    const email = 'sitter.lind@harbourpost.example';
    await ask('Sitter Lind', email);
    await world.runner.run();
    const params = { token: (await followToken(email))! };
    await world.anyone.call('POST /api/public/follow/:token', { params, body: { follows: true } });
    await book(event, 'Sitter');
    expect((await planned(event, 'Followers')).not).toEqual([
      ['Sitter Lind', 'has a seat, and is written to as an attendee'],
    ]);
  });

  test.each([
    [{ name: '', email: 'a@b.example' }, 'name'],
    [{ name: 'A', email: 'no address' }, 'email'],
  ])('%j is refused beside its field', async ({ name, email }, path) => {
    const { status, problem } = await ask(name, email);
    expect(status).toBe(422);
    expect(problem.fields?.[0]?.path).toBe(path);
  });

  test('an event that stands alone has no series to hear of', async () => {
    expect((await ask('A', 'a@harbourpost.example', 'series')).problem.code).toBe('no-series');
  });

  test('a link in a message asks somebody we know without a form', async () => {
    await plan(event, [
      lineOn('registration made', { name: 'Asks', body: { en: 'Hear of it: {{follow_link}}' } }),
      lineOn('end', { name: 'After', audience: 'following', offsetDays: 1 }),
    ]);
    await book(event, 'Linked');
    await world.runner.run();
    const [mail] = await mailTo('Linked');
    const token = /\/follow\/([\w-]+)/u.exec(mail!.body)![1]!;
    await world.anyone.call('POST /api/public/follow/:token', { params: { token }, body: { follows: true } });
    expect((await planned(event, 'After')).not.map(([name]) => name)).toEqual(['Linked Lind']);
  });

  test('of a series, every date of it that is to come; and out of one is out of all', async () => {
    await plan(event, [lineOn('start', { name: 'Dates', audience: 'following', offsetDays: -1 })]);
    await odalys.call('POST /api/series', {
      body: {
        eventId: event.id,
        rule: 'FREQ=MONTHLY;BYMONTHDAY=20;COUNT=3',
        startsLocal: `${scene.begins.slice(0, 10)}T09:00`,
        extra: [],
        skipped: [],
        horizon: 12,
        opens: true,
      },
    });
    const email = 'dates.reader@harbourpost.example';
    expect((await ask('Dates Reader', email, 'series')).status).toBe(201);
    await world.runner.run();
    const params = { token: (await followToken(email))! };
    expect(await world.anyone.call('GET /api/public/follow/:token', { params })).toMatchObject({
      of: 'series',
      title: title(),
    });
    await world.anyone.call('POST /api/public/follow/:token', { params, body: { follows: true } });
    const coming = async () =>
      (await odalys.call('GET /api/tray', { query: { state: 'coming', q: email } })).rows.filter(
        (r) => r.line === 'Dates',
      );
    expect(await coming()).toHaveLength(3);
    await world.moveTo(ahead(60));
    expect(await coming()).toHaveLength(2);
    const [mail] = await world.app.db.query<{ headers: Record<string, string> }>(
      "select headers from standin_mail where address = $1 and subject like 'Coming up%'",
      [email],
    );
    const out = { token: /\/out\/([\w-]+)/u.exec(mail!.headers['List-Unsubscribe']!)![1]! };
    expect(await world.anyone.call('GET /api/public/out/:token', { params: out })).toMatchObject({
      of: 'series',
      title: title(),
      out: false,
    });
    await world.anyone.call('POST /api/public/out/:token', { params: out });
    expect((await world.anyone.call('GET /api/public/out/:token', { params: out })).out).toBe(true);
    expect(await coming()).toHaveLength(0);
    await world.anyone.call('POST /api/public/out/:token', { params: out, body: { back: true } });
    expect(await coming()).toHaveLength(2);
  });
});
