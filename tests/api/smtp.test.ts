import { generateKeyPairSync } from 'node:crypto';
import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import type { AddressInfo } from 'node:net';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { SMTPServer } from 'smtp-server';
import { afterAll, beforeAll, beforeEach, expect, test } from 'vitest';
import type { Letter } from '#server/app/app.ts';
import { RefusedForGood } from '#server/app/app.ts';
import { makeSmtp, smtpFrom } from '#server/messages/smtp.ts';
import { makeWorld, type World } from './harness.ts';
import { openEvent, orderFor } from './scenes.ts';

interface Taken {
  from: string;
  to: string[];
  raw: string;
}
const taken: Taken[] = [];
/** What the server answers a recipient, or a whole mail, with. */
let refuses: { rcpt?: number; data?: number } = {};
let server: SMTPServer;
let url = '';
let folder = '';
let keyFile = '';

const failed = (code: number, words: string) => Object.assign(new Error(words), { responseCode: code });
beforeAll(async () => {
  folder = mkdtempSync(join(tmpdir(), 'acolyte-smtp-'));
  keyFile = join(folder, 'key.pem');
  const { privateKey } = generateKeyPairSync('rsa', { modulusLength: 2048 });
  writeFileSync(keyFile, privateKey.export({ type: 'pkcs8', format: 'pem' }));
  server = new SMTPServer({
    authOptional: true,
    // Connections are kept for more mail; nobody waits for them.
    closeTimeout: 100,
    disabledCommands: ['STARTTLS', 'AUTH'],
    onRcptTo: (_, __, done) => done(refuses.rcpt ? failed(refuses.rcpt, 'no such person here') : undefined),
    onData(stream, session, done) {
      const chunks: Buffer[] = [];
      stream.on('data', (chunk: Buffer) => chunks.push(chunk));
      stream.on('end', () => {
        if (refuses.data) return done(failed(refuses.data, 'try another time'));
        taken.push({
          from: session.envelope.mailFrom ? session.envelope.mailFrom.address : '',
          to: session.envelope.rcptTo.map((r) => r.address),
          raw: Buffer.concat(chunks).toString('utf8'),
        });
        done();
      });
    },
  });
  await new Promise<void>((resolve) => server.listen(0, '127.0.0.1', () => resolve()));
  url = `smtp://127.0.0.1:${(server.server.address() as AddressInfo).port}`;
});
afterAll(async () => {
  await new Promise<void>((resolve) => server.close(() => resolve()));
  rmSync(folder, { recursive: true });
});
beforeEach(() => {
  taken.length = 0;
  refuses = {};
});

const letter: Letter = {
  key: '01900000-0000-7000-8000-000000000001',
  from: { name: 'Brackenmere Wetland Trust', address: 'hello@brackenmere.example' },
  to: { name: 'Mai Sallow', address: 'mai@fenmail.example' },
  subject: 'Tomorrow: Open Water Day, à l’aube',
  text: 'Hello Mai',
  html: '<p>Hello Mai</p>',
  headers: {
    'Message-ID': '<01900000-0000-7000-8000-000000000001@brackenmere.example>',
    'List-Unsubscribe': '<https://brackenmere.example/api/public/out/abc>',
    'List-Unsubscribe-Post': 'List-Unsubscribe=One-Click',
  },
  calendar: { method: 'REQUEST', text: 'BEGIN:VCALENDAR\r\nMETHOD:REQUEST\r\nEND:VCALENDAR\r\n' },
};
/** The headers of a mail, unfolded. */
const headersOf = (raw: string) =>
  Object.fromEntries(
    raw
      .split(/\r\n\r\n/u, 1)[0]!
      .replace(/\r\n[ \t]+/gu, ' ')
      .split('\r\n')
      .map((line) => [line.slice(0, line.indexOf(':')), line.slice(line.indexOf(':') + 2)]),
  );

test('a mail leaves by a real server: plain, drawn and for the calendar, under an identity that stays', async () => {
  const send = await makeSmtp({ url, dkim: { domain: 'brackenmere.example', selector: 'mail', keyFile } });
  await send(letter);
  await send(letter);
  const [first, second] = taken;
  expect(first).toMatchObject({ from: 'hello@brackenmere.example', to: ['mai@fenmail.example'] });
  const headers = headersOf(first!.raw);
  expect(headers).toMatchObject({
    From: 'Brackenmere Wetland Trust <hello@brackenmere.example>',
    To: 'Mai Sallow <mai@fenmail.example>',
    'Message-ID': letter.headers['Message-ID'],
    'List-Unsubscribe': letter.headers['List-Unsubscribe'],
    'List-Unsubscribe-Post': 'List-Unsubscribe=One-Click',
  });
  expect(headersOf(second!.raw)['Message-ID']).toBe(letter.headers['Message-ID']);
  expect(first!.raw).toMatch(/Content-Type: text\/plain/u);
  expect(first!.raw).toMatch(/Content-Type: text\/html/u);
  expect(first!.raw).toMatch(/Content-Type: text\/calendar;[^\r]*method=REQUEST/iu);
  // What a mail service goes by is signed (RFC 6376), the way out with it (RFC 8058 section 4).
  expect(headers['DKIM-Signature']).toContain('d=brackenmere.example;');
  expect(headers['DKIM-Signature']).toContain('s=mail;');
  const signed = /; h=([^;]+);/u
    .exec(headers['DKIM-Signature']!)![1]!
    .toLowerCase()
    .replaceAll(' ', '')
    .split(':');
  for (const name of ['from', 'to', 'subject', 'message-id', 'list-unsubscribe', 'list-unsubscribe-post'])
    expect(signed).toContain(name);
});

test('nothing that stands in a name or a subject begins another header, and an address of another script is reached', async () => {
  const send = await makeSmtp({ url });
  await send({
    ...letter,
    subject: 'A\r\nBcc: evil@evil.example',
    to: { name: 'Mai\r\nX-Evil: 1', address: 'mai@bücher.example' },
    headers: { ...letter.headers, References: '<a@b>\r\nX-Evil: 2' },
  });
  const headers = headersOf(taken[0]!.raw);
  expect(Object.keys(headers)).not.toContain('X-Evil');
  expect(Object.keys(headers)).not.toContain('Bcc');
  // It travels as ASCII (RFC 5891), and is read back at the other end.
  expect(taken[0]!.to).toEqual(['mai@bücher.example']);
  expect(headers.To).toContain('mai@xn--bcher-kva.example');
});

test.each([
  ['an address the server does not have', { rcpt: 550 }, true],
  ['a mailbox that is full', { rcpt: 452 }, false],
  ['a mail it does not take now', { data: 451 }, false],
  ['a mail it does not take at all', { data: 554 }, false],
])('%s', async (_, answers, forGood) => {
  refuses = answers;
  const error = await (await makeSmtp({ url }))(letter).then(
    () => null,
    (e: unknown) => e,
  );
  expect(error).toBeInstanceOf(Error);
  expect(error instanceof RefusedForGood).toBe(forGood);
  expect(taken).toEqual([]);
});

test('no server there is a failure that is tried again', async () => {
  const send = await makeSmtp({ url: 'smtp://127.0.0.1:1' });
  await expect(send(letter)).rejects.toThrow(/ECONNREFUSED/u);
});

test.each([
  [{}, null],
  [{ ACOLYTE_SMTP: 'smtp://a' }, { url: 'smtp://a' }],
  [{ ACOLYTE_SMTP: 'a:25' }, /begins with smtp/u],
  [
    { ACOLYTE_SMTP: 'smtp://a', ACOLYTE_MAIL_PER_MINUTE: '30' },
    { url: 'smtp://a', perMinute: 30 },
  ],
  [{ ACOLYTE_SMTP: 'smtp://a', ACOLYTE_MAIL_PER_MINUTE: 'many' }, /a whole number/u],
  [{ ACOLYTE_SMTP: 'smtps://a', ACOLYTE_DKIM_DOMAIN: 'b' }, /all three, or none/u],
  [
    {
      ACOLYTE_SMTP: 'smtps://a',
      ACOLYTE_DKIM_DOMAIN: 'b',
      ACOLYTE_DKIM_SELECTOR: 's',
      ACOLYTE_DKIM_KEY: 'k',
    },
    { url: 'smtps://a', dkim: { domain: 'b', selector: 's', keyFile: 'k' } },
  ],
])('configured by %j', (env, means) => {
  if (means instanceof RegExp) expect(() => smtpFrom(env)).toThrow(means);
  else expect(smtpFrom(env)).toEqual(means);
});

test('the product sends by it: what the server knows nobody for bounces, what it does not take now goes later', async () => {
  const world: World = await makeWorld();
  world.app.mail = await makeSmtp({ url });
  const event = await openEvent(world, { title: 'By a server' });
  const odalys = await world.as('odalys');
  const state = async (name: string) =>
    (
      await world.app.db.query<{ state: string }>(
        'select state from messages where event_id = $1 and name like $2',
        [event.id, `${name}%`],
      )
    ).map((m) => m.state);
  const book = (given: string) =>
    world.anyone.call('POST /api/public/events/:slug/orders', {
      params: { slug: event.slug },
      body: orderFor(event, [{ given, family: 'Served' }]),
    });
  refuses = { rcpt: 550 };
  await book('Nobody');
  await world.runner.run();
  expect(await state('Nobody')).toContain('bounced');
  refuses = { data: 451 };
  await book('Later');
  await world.runner.run();
  expect(await state('Later')).toContain('failed');
  refuses = {};
  await world.moveTo(new Date(Date.parse(world.app.clock.now()) + 6 * 60_000).toISOString());
  expect(await state('Later')).toContain('sent');
  expect(taken.map((t) => t.to)).toEqual([['later.served@harbourpost.example']]);
  expect(taken[0]!.raw).toContain('text/calendar');
  expect(
    (await odalys.call('GET /api/tray', { query: { state: 'failed' } })).rows.map((r) => r.name),
  ).toEqual(['Nobody Served']);
  await world.close();
});
