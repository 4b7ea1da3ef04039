import { beforeEach, describe, expect, test } from 'vitest';
import { replyAddress } from '#core/messages/incoming.ts';
import { linkMark } from '#core/messages/links.ts';
import { inTransaction, systemActor } from '#server/app/app.ts';
import { replyToken } from '#server/db/ids.ts';
import { type InMail, takeReply } from '#server/messages/incoming.ts';
import type { Caller, World } from './harness.ts';
import { Scene } from './messageLines.ts';
import { bookFor, type OpenEvent, openEvent } from './scenes.ts';

const scene = new Scene();
let world: World;
let odalys: Caller;
let event: OpenEvent;
beforeEach(() => {
  ({ world, odalys, event } = scene);
});

/** Somebody books, and the mail that confirms it. */
async function confirmed(given: string, at: OpenEvent = event) {
  await bookFor(world, at, [given]);
  await world.runner.run();
  const [message] = await world.app.db.query<{ id: string; address: string; contactId: string }>(
    "select id, address, contact_id from messages where kind = 'registration made' and event_id = $1 and name = $2 and state = 'sent'",
    [at.id, `${given} Sedge`],
  );
  return message!;
}
const toOf = (id: string) => replyAddress(replyToken(world.app.secret, id), 'brackenmere.example');
const hand = (mail: Partial<InMail> & { to: string }) =>
  inTransaction(world.app, systemActor, (w) =>
    takeReply(w, {
      from: 'jun.sedge@harbourpost.example',
      subject: 'Re: hello',
      text: 'Can I bring the dog?',
      headers: { 'message-id': `<${crypto.randomUUID()}@post.example>` },
      ...mail,
    }),
  );
const cameIn = async (who = odalys) => (await who.call('GET /api/incoming')).rows;
const of = async (name: string, who = odalys) =>
  (await cameIn(who)).filter((r) => r.name === `${name} Sedge`);
const mailTo = (address: string) =>
  world.app.db.query<{ subject: string; body: string; headers: Record<string, string> }>(
    'select subject, body, headers from standin_mail where address = $1 order by accepted_at, key',
    [address],
  );

describe('a reply to a message', () => {
  test('comes back to whoever it is of: Tray, Desk, lifeline', async () => {
    const { id, contactId } = await confirmed('Jun');
    const [mail] = await mailTo('jun.sedge@harbourpost.example');
    expect(mail!.headers['Reply-To']).toBe(toOf(id));
    await hand({
      to: mail!.headers['Reply-To']!,
      text: 'Can I bring the dog?\n\nOn Thursday, 9 July, we wrote:\n> Hello',
    });
    expect((await of('Jun'))[0]).toMatchObject({
      what: 'reply',
      words: 'Can I bring the dog?',
      elsewhere: false,
      automatic: false,
      contactId,
      messageId: id,
      settledAt: null,
    });
    const entries = await odalys.call('GET /api/contacts/:id/lifeline', { params: { id: contactId } });
    expect(JSON.stringify(entries)).toContain('wrote back');
    expect(JSON.stringify(await odalys.call('GET /api/desk'))).toContain('People wrote back');
    // What is shown of the mail does not hold the address: it is as good as having got it.
    const shown = await odalys.call('GET /api/messages/:id', { params: { id } });
    expect(shown.headers.find((h) => h.name === 'Reply-To')!.value).toBe(
      'reply+[their own]@brackenmere.example',
    );
    const kept = await world.app.db.query<{ headers: object }>('select headers from messages where id = $1', [
      id,
    ]);
    expect(JSON.stringify(kept)).not.toContain(replyToken(world.app.secret, id));
  });

  test('is taken once, from an address of ours alone, and not without end', async () => {
    const { id } = await confirmed('Kai');
    const other = await confirmed('Lea');
    const [hex, mac] = replyToken(world.app.secret, id).split('.') as [string, string];
    const [, otherMac] = replyToken(world.app.secret, other.id).split('.');
    const lie = (token: string) => hand({ to: replyAddress(token, 'brackenmere.example') });
    expect(await lie(`${hex}.${otherMac}`)).toBe(false);
    expect(await lie(`${hex}.${mac.slice(0, 15)}${mac.endsWith('0') ? '1' : '0'}`)).toBe(false);
    expect(await lie(replyToken('another secret', id))).toBe(false);
    expect(await hand({ to: 'events@brackenmere.example' })).toBe(false);
    expect(await of('Kai')).toEqual([]);
    const headers = { 'message-id': '<one@post.example>' };
    expect(await hand({ to: toOf(id), headers })).toBe(true);
    expect(await hand({ to: toOf(id).toUpperCase(), headers })).toBe(true);
    expect(await of('Kai')).toHaveLength(1);
    for (let n = 1; n < 50; n += 1) expect(await hand({ to: toOf(id) })).toBe(true);
    expect(await hand({ to: toOf(id) })).toBe(false);
  });

  test('by a machine is kept, waits for nobody and sets off nothing', async () => {
    await odalys.call('PUT /api/account/notices', {
      body: { wishes: [{ what: 'wrote back', when: 'soon' }], onlyMine: false, leastGift: 0 },
    });
    const { id } = await confirmed('Mia');
    const count = async () =>
      (await world.app.db.query<{ n: number }>('select count(*)::int as n from messages'))[0]!.n;
    const before = await count();
    await hand({ to: toOf(id), text: 'I am away.', headers: { 'auto-submitted': 'auto-replied' } });
    await world.moveTo(scene.later(10));
    expect((await of('Mia'))[0]).toMatchObject({ automatic: true, settledBy: '' });
    expect((await of('Mia'))[0]!.settledAt).not.toBeNull();
    expect(await count()).toBe(before);
    await hand({ to: toOf(id), text: 'Back again: may I come later?' });
    await world.moveTo(scene.later(10));
    const [told] = await world.app.db.query<{
      subject: string;
      body: string;
      headers: Record<string, string>;
    }>(
      "select subject, body, headers from messages where kind = 'notice' and body like '%may I come later%'",
    );
    expect(told!.subject).toBe('1 reply by mail');
    // Nor does what tells the team take replies: their own answering machine would go on for ever.
    expect(told!.headers).not.toHaveProperty('Reply-To');
    await odalys.call('PUT /api/account/notices', { body: { wishes: [], onlyMine: false, leastGift: 0 } });
  });

  test('is answered to the address we had written to, whatever it says it is from', async () => {
    const { id, address } = await confirmed('Noa');
    await hand({
      to: toOf(id),
      from: 'somebody.else@elsewhere.example',
      subject: `Re: hello\r\nBcc: all@elsewhere.example`,
      text: `<script>alert(1)</script> ${linkMark('manage', id)}`,
    });
    const [one] = await of('Noa');
    expect(one).toMatchObject({ elsewhere: true, address: 'somebody.else@elsewhere.example' });
    expect(one!.subject).not.toMatch(/[\r\n]/u);
    expect(one!.words).not.toMatch(/[\uE000\uE001]/u);
    const empty = await odalys.try('POST /api/incoming/:id/answer', {
      params: { id: one!.id },
      body: { words: ' ' },
    });
    expect(empty.status).toBe(422);
    await odalys.call('POST /api/incoming/:id/answer', {
      params: { id: one!.id },
      body: { words: 'Yes, on a lead.' },
    });
    await world.runner.run();
    expect(await mailTo('somebody.else@elsewhere.example')).toEqual([]);
    const answer = (await mailTo(address)).at(-1)!;
    expect(answer.subject).toBe('Re: hello Bcc: all@elsewhere.example');
    expect(answer.body).toContain('Yes, on a lead.\n\nOdalys Ferrant\n');
    expect(answer.body).toContain('> <script>alert(1)</script>');
    // A link that was smuggled in leads nowhere.
    expect(answer.body).not.toContain('/m/');
    expect(answer.headers['Reply-To']).toMatch(/^reply\+/u);
    expect(answer.headers.Bcc).toBeUndefined();
    expect((await of('Noa'))[0]).toMatchObject({ settledBy: 'Odalys Ferrant', answer: 'Yes, on a lead.' });
    // Who wrote an answer without having read that one is told of it first.
    const again = (seen: string) =>
      odalys.try('POST /api/incoming/:id/answer', {
        params: { id: one!.id },
        body: { words: 'No dogs.', seen },
      });
    expect((await again('')).problem).toMatchObject({ status: 409, code: 'answered-meanwhile' });
    expect((await again('Yes, on a lead.')).status).toBe(201);
    // Both go, also within one instant of a clock that stands still.
    await world.runner.run();
    expect((await mailTo(address)).at(-1)!.body).toContain('No dogs.');
    const put = (settled: boolean) =>
      odalys.call('PUT /api/incoming/:id', { params: { id: one!.id }, body: { settled } });
    await put(false);
    expect((await of('Noa'))[0]!.settledAt).toBeNull();
    await put(true);
    expect((await of('Noa'))[0]!.settledAt).not.toBeNull();
  });

  test('is seen by those who see the message, and by nobody else', async () => {
    const boats = await openEvent(world, {
      title: 'Boats',
      unit: 'Small Boats',
      startsLocal: '2028-05-02T09:00',
      endsLocal: '2028-05-02T12:00',
    });
    const there = await confirmed('Ola', boats);
    const here = await confirmed('Pia');
    await hand({ to: toOf(there.id) });
    await hand({ to: toOf(here.id) });
    const piers = await world.as('piers');
    expect(await of('Ola', piers)).toHaveLength(1);
    expect(await of('Pia', piers)).toEqual([]);
    expect((await piers.call('GET /api/incoming')).open).toBe(1);
    const imani = await world.as('imani');
    expect(await cameIn(imani)).toEqual([]);
    const [pia] = await of('Pia');
    for (const who of [piers, imani]) {
      const params = { id: pia!.id };
      expect(
        (await who.try('POST /api/incoming/:id/answer', { params, body: { words: 'No.' } })).status,
      ).toBe(404);
      expect((await who.try('PUT /api/incoming/:id', { params, body: { settled: true } })).status).toBe(404);
    }
    for (const who of ['door', 'tobias', 'marit'] as const)
      expect((await (await world.as(who)).try('GET /api/incoming')).status).toBe(403);
  });

  test('goes with whoever asks to be forgotten', async () => {
    const { id, contactId } = await confirmed('Rut');
    await hand({ to: toOf(id) });
    await odalys.call('POST /api/contacts/:id/erase', {
      params: { id: contactId },
      body: { name: 'Rut Sedge' },
    });
    expect(JSON.stringify(await cameIn())).not.toContain('Rut');
    // What was sent is no longer known, nor is a reply to it.
    expect(await hand({ to: toOf(id) })).toBe(false);
  });

  test('can be tried with the stand-in, of what can be replied to', async () => {
    const { id } = await confirmed('Sam');
    await odalys.call('POST /api/messages/:id/reply', { params: { id }, body: { words: 'Just trying.' } });
    await odalys.call('POST /api/messages/:id/reply', {
      params: { id },
      body: { words: 'Away.', automatic: true },
    });
    expect((await of('Sam')).map((r) => [r.words, r.automatic])).toEqual([
      ['Just trying.', false],
      ['Away.', true],
    ]);
    await odalys.call('POST /api/password-resets', { body: { email: 'marit@brackenmere.example' } });
    await world.runner.run();
    const [reset] = await world.app.db.query<{ id: string }>(
      "select id from messages where kind = 'reset' and state = 'sent' order by sent_at desc limit 1",
    );
    const reply = (word: string) =>
      odalys.try('POST /api/messages/:id/reply', { params: { id: word }, body: { words: 'Hello' } });
    expect((await reply(reset!.id)).status).toBe(409);
    world.app.takesReplies = false;
    expect((await reply(id)).problem.code).toBe('no-standin');
    const silent = await confirmed('Tom');
    const [kept] = await world.app.db.query<{ headers: object }>(
      'select headers from messages where id = $1',
      [silent.id],
    );
    expect(kept!.headers).not.toHaveProperty('Reply-To');
    world.app.takesReplies = true;
  });
});

describe('the form on the page of an event', () => {
  test('waits for an answer in the Tray, which goes to whoever asked', async () => {
    const { version } = await odalys.call('GET /api/events/:id', { params: { id: event.id } });
    await odalys.call('PATCH /api/events/:id', {
      params: { id: event.id },
      body: {
        version,
        change: {
          organizer: { how: 'form', name: 'Piers Lachance', email: 'piers@brackenmere.example', phone: '' },
        },
      },
    });
    const asked = await world.anyone.try('POST /api/public/events/:slug/question', {
      params: { slug: event.slug },
      body: { name: 'Uma Reed', email: 'uma.reed@fenmail.example', words: 'Is there a bus?' },
    });
    expect(asked.status).toBe(201);
    const one = (await cameIn()).find((r) => r.name === 'Uma Reed')!;
    expect(one).toMatchObject({
      what: 'question',
      messageId: null,
      contactId: null,
      words: 'Is there a bus?',
    });
    await odalys.call('POST /api/incoming/:id/answer', {
      params: { id: one.id },
      body: { words: 'The 12.' },
    });
    await world.runner.run();
    expect((await mailTo('uma.reed@fenmail.example')).at(-1)!.body).toContain('The 12.');
  });
});
