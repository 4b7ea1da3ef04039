import { readFileSync } from 'node:fs';
import { connect } from 'node:net';
import { Caller } from '#tests/api/caller.ts';
import { openEvent, orderFor } from '#tests/api/scenes.ts';
import { Report } from './report.ts';
import { ended, filledFolder, startShipped } from './site.ts';

// npm run bench -- safety [kills] [rows]: what is lost when the server is killed again and again, whether seats are
// oversold, how long the door list waits while somebody attacks, and how much memory stays after many requests. With no
// rows the attacks are left out.
const kills = Number(process.argv[2] ?? 12);
const rows = Number(process.argv[3] ?? 100_000);
const requests = 20_000;
const port = 45_903;
const origin = `http://localhost:${port}`;
const report = new Report('safety');
const none = { goal: { of: 'value', atMost: 0 } } as const;
const sleep = (ms: number) => new Promise((resolve) => setTimeout(resolve, ms));
const say = (text: string) => process.stdout.write(`${text}\n`);

const startServer = () =>
  startShipped(folder, port, {
    ACOLYTE_PAGES: 'off',
    ACOLYTE_PUBLIC_WRITES_PER_MINUTE: '1000000',
    ACOLYTE_FAIR_SHARE: 'off',
  });
async function signIn(name: string): Promise<Caller> {
  const caller = new Caller(origin);
  await caller.call('POST /api/sign-in', {
    body: { email: `${name}@brackenmere.example`, password: 'marsh-wren-2026' },
  });
  return caller;
}
const staff = { as: signIn };

say('  The demonstration’s history …');
const { folder, remove } = await filledFolder();
let server = await startServer();
let odalys = await signIn('odalys');

// ---- Killed again and again ----
const paid = await openEvent(staff, { title: 'Killed', capacity: null, price: 2500, so: ['money'] });
const acknowledged: string[] = [];
const charged: string[] = [];
for (let kill = 0; kill < kills; kill += 1) {
  let up = true;
  const writing = (async () => {
    for (let n = 0; up; n += 1) {
      const given = `Kept${kill}x${n}`;
      const reply = await odalys
        .try('POST /api/contacts', { body: { given, family: 'Durable' } })
        .catch(() => null);
      if (reply?.status === 201) acknowledged.push(given);
    }
  })();
  const paying = (async () => {
    for (let n = 0; up; n += 1) {
      const buyer = new Caller(origin);
      const order = await buyer
        .try('POST /api/public/events/:slug/orders', {
          params: { slug: paid.slug },
          body: orderFor(paid, [{ given: `Payer${kill}x${n}`, family: 'Durable' }]),
        })
        .catch(() => null);
      if (order?.status !== 201) continue;
      charged.push(order.body.token);
      await buyer
        .try('POST /api/public/orders/:token/pay', {
          params: { token: order.body.token },
          body: { card: '9000000000000001', expiry: '08/29' },
        })
        .catch(() => null);
    }
  })();
  // Somewhere else in the middle of it every time.
  await sleep(400 + ((kill * 397) % 900));
  const gone = ended(server);
  server.kill('SIGKILL');
  up = false;
  await Promise.all([writing, paying, gone]);
  server = await startServer();
  odalys = await signIn('odalys');
}
const { contacts } = await odalys.call('GET /api/contacts', { query: { q: 'kept durable', limit: 500 } });
const there = new Set(contacts.map((c) => c.given));
const page = await odalys.call('GET /api/ledger', { query: { eventId: paid.id } });
let unsettled = 0;
for (const token of charged) {
  const order = await odalys.try('GET /api/public/orders/:token', { params: { token } });
  if (order.status !== 200) unsettled += 1;
}
// What was under way when the process died is asked about at the next start.
const lost =
  acknowledged.slice(0, 500).filter((g) => !there.has(g)).length +
  Math.max(0, acknowledged.length - contacts.length);
report.row(`acknowledged over ${kills} kills`, acknowledged.length, 'writes');
report.row('of these lost', lost, 'writes', none);
report.row(`of ${charged.length} orders answered, gone`, unsettled, 'orders', none);
report.row('payments left without an answer', page.unknown.length, 'payments', none);

// ---- Three hundred at once for twenty seats ----
const full = await openEvent(staff, {
  title: 'Twenty',
  capacity: 20,
  startsLocal: '2026-07-10T09:00',
  endsLocal: '2026-07-10T16:00',
});
const statuses = await Promise.all(
  Array.from({ length: 300 }, async (_, n) => {
    const reply = await new Caller(origin).try('POST /api/public/events/:slug/orders', {
      params: { slug: full.slug },
      body: orderFor(full, [{ given: `Guest${n}`, family: 'Many' }]),
    });
    return reply.status;
  }),
);
const { rows: seats } = await odalys.call('GET /api/events/:id/registrations', { params: { id: full.id } });
const confirmed = seats.filter((s) => s.state === 'confirmed').length;
const refused = statuses.filter((s) => s !== 201).length;
report.row('of 300 at once for 20 seats, confirmed', confirmed, 'seats', {
  goal: { of: 'value', atLeast: 20, atMost: 20 },
});
report.row('of these neither seated nor on the waitlist', refused, 'parties', none);

// ---- The door list while somebody attacks ----
// Somebody else than the one who attacks.
const watcher = await signIn('door');
async function whileDoing(
  attack: () => Promise<unknown>,
): Promise<{ asked: number; p50: number; p99: number; longest: number; mostMB: number }> {
  const times: number[] = [];
  let mostMB = memory();
  let on = true;
  const watching = (async () => {
    while (on) {
      const began = performance.now();
      await watcher.call('GET /api/events/:id/doors', { params: { id: full.id } });
      times.push(performance.now() - began);
      mostMB = Math.max(mostMB, memory());
      await sleep(10);
    }
  })();
  await attack();
  on = false;
  await watching;
  times.sort((a, b) => a - b);
  const at = (share: number) =>
    Math.round(times[Math.min(times.length - 1, Math.floor(times.length * share))]! * 10) / 10;
  return { asked: times.length, p50: at(0.5), p99: at(0.99), longest: at(1), mostMB };
}
/** What the whole process holds, its threads included, in MB. */
function memory(): number {
  const status = readFileSync(`/proc/${server.pid}/status`, 'utf8');
  return Math.round(Number(/VmRSS:\s+(\d+)/u.exec(status)![1]) / 1024);
}
const bring = async (fileName: string, content: string) => {
  const reply = await odalys.try('POST /api/imports', {
    body: { fileName, content: Buffer.from(content).toString('base64') },
  });
  return reply.status === 200 || reply.status === 201 ? reply.body.id : null;
};
const post = (path: string, body: string) =>
  fetch(`${origin}${path}`, {
    method: 'POST',
    headers: { 'content-type': 'application/json', origin },
    body,
  }).catch(() => null);
const card = (lines: string) => `BEGIN:VCARD\r\nVERSION:4.0\r\n${lines}\r\nFN:Mai Oakes\r\nEND:VCARD\r\n`;
const heavy = {
  any: Array.from({ length: 199 }, (_, n) => ({
    ask: 'registered',
    times: { is: 'exactly', n: n % 7 },
    of: { title: `a${n % 10}` },
    within: { when: 'days', days: 30_000 + n },
  })),
};
const attacks: Record<string, () => Promise<unknown>> = {
  nothing: () => sleep(3000),
  '27 MB of lists before signing in': async () => {
    for (let n = 0; n < 4; n += 1) await post('/api/imports', `[${'[],'.repeat(9_000_000)}[]]`);
    await post('/api/sign-in', `[${'[],'.repeat(9_000_000)}[]]`);
  },
  '250 kB of lists while signed in': async () => {
    for (let n = 0; n < 60; n += 1)
      await odalys.try('POST /api/contacts', { body: Array.from({ length: 60_000 }, () => []) as never });
  },
  'a card with 200,000 parameters': () => bring('a.vcf', card(`TEL${';TYPE=cell'.repeat(200_000)}:1`)),
  '300,000 folds': () => bring('b.vcf', card(`NOTE:a${'\r\n b'.repeat(300_000)}`)),
  'cells of 19 kB': () =>
    bring(
      'c.csv',
      `Name,Phone,Birthday\n${`${'9 '.repeat(9_000)},${'('.repeat(19_000)},${' 1/'.repeat(6_000)}\n`.repeat(40)}`,
    ),
  'a segment of 199 questions, ten times': async () => {
    for (let n = 0; n < 10; n += 1)
      await odalys.try('POST /api/segments/count', { body: { segment: heavy } });
  },
  'headers that trickle in, 200 connections': async () => {
    const sockets = Array.from({ length: 200 }, () => {
      const socket = connect(port, '127.0.0.1');
      socket.on('error', () => {});
      socket.write('GET / HTTP/1.1\r\nHost: localhost\r\n');
      return socket;
    });
    for (let n = 0; n < 20; n += 1) {
      await sleep(200);
      for (const s of sockets) s.write(`X-${n}: y\r\n`);
    }
    for (const s of sockets) s.destroy();
  },
  '2,000 searches, 20 at a time': async () => {
    for (let n = 0; n < 100; n += 1)
      await Promise.all(
        Array.from({ length: 20 }, (_, k) => odalys.try('GET /api/search', { query: { q: `ma ${k}` } })),
      );
  },
  [`${rows} rows brought in and checked`]: async () => {
    const line = (n: number) =>
      `Given${n},Family${n % 5000},person${n}@list.example,${1940 + (n % 60)}-05-0${1 + (n % 9)}`;
    const id = await bring(
      'large.csv',
      `First name,Last name,Email,Birth date\n${Array.from({ length: rows }, (_, n) => line(n)).join('\n')}\n`,
    );
    if (!id) throw new Error('the large list was not taken');
    for (;;) {
      const { state } = await odalys.call('GET /api/imports/:id', { params: { id } });
      if (state !== 'checking') break;
      await sleep(300);
    }
    large = id;
  },
  [`${rows} rows applied`]: () => settled('POST /api/imports/:id/apply', 'applied'),
  [`${rows} rows taken back`]: () => settled('POST /api/imports/:id/undo', 'undone'),
};
let large = '';
async function settled(
  key: 'POST /api/imports/:id/apply' | 'POST /api/imports/:id/undo',
  wanted: string,
): Promise<void> {
  await odalys.call(key, { params: { id: large } });
  for (;;) {
    const { state } = await odalys.call('GET /api/imports/:id', { params: { id: large } });
    if (state === wanted) return;
    await sleep(300);
  }
}
say('\n  The door list, while …');
for (const [name, attack] of rows > 0 ? Object.entries(attacks) : []) {
  const wait = await whileDoing(attack);
  report.row(`p99 during: ${name}`, wait.p99, 'ms', { goal: { of: 'value', atMost: 500 } });
  report.row(`longest during: ${name}`, wait.longest, 'ms');
  report.row(`memory during: ${name}`, wait.mostMB, 'MB');
}

// ---- Memory after many requests ----
const stop = ended(server);
server.kill('SIGTERM');
await stop;
server = await startServer();
odalys = await signIn('odalys');
const many = async (count: number) => {
  for (let n = 0; n < count; n += 20)
    await Promise.all(
      Array.from({ length: 20 }, (_, k) =>
        k % 4 === 0
          ? odalys.try('GET /api/events/:id/doors', { params: { id: full.id } })
          : k % 4 === 1
            ? odalys.try('GET /api/search', { query: { q: `mai ${k}` } })
            : k % 4 === 2
              ? odalys.try('POST /api/contacts', { body: { given: '', family: '\u0000' } })
              : new Caller(origin).try('GET /api/public/events'),
      ),
    );
};
await many(2000);
const before = memory();
await many(requests);
report.row('memory before many requests', before, 'MB');
report.row(`memory after ${requests} more`, memory(), 'MB', {
  floor: before,
  goal: { of: 'ratio', atMost: 1.25 },
});
server.kill('SIGTERM');
report.finish();
remove();
process.exit(0);
