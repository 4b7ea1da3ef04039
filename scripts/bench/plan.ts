import sharp from 'sharp';
import { openBrowser } from './browser.ts';
import { quantile, Report, timed } from './report.ts';
import { filledFolder, signedIn, startShipped, stopped } from './site.ts';

// npm run bench -- plan: saving one field with fifty writing at once, a large public page, and what it weighs on a phone.
const report = new Report('plan');
const { folder, remove } = await filledFolder();
const port = 45_906;
const child = await startShipped(folder, port);
const origin = `http://localhost:${port}`;
const headers = { cookie: await signedIn(origin), origin, 'content-type': 'application/json' };
const ask = async (method: string, path: string, body?: object) => {
  const reply = await fetch(`${origin}${path}`, {
    method,
    headers,
    ...(body && { body: JSON.stringify(body) }),
  });
  if (!reply.ok) throw new Error(`${method} ${path} was answered ${reply.status}: ${await reply.text()}`);
  return (await reply.json()) as never;
};

interface Page {
  version: number;
  plan: { slug: string };
}
const season: { id: string; title: string; state: string }[] = await ask('GET', '/api/events');
const event = season.find((e) => e.state === 'open' && e.title === 'Open Water Day')!;
const page: Page = await ask('GET', `/api/events/${event.id}`);

// Ten pictures of the size that telephones take, and forty sessions.
const pictures: string[] = [];
for (let n = 0; n < 10; n += 1) {
  const content = await sharp({
    create: {
      width: 3000,
      height: 2000,
      channels: 3,
      noise: { type: 'gaussian', mean: 90 + n * 12, sigma: 18 },
      background: '#888',
    },
  })
    .jpeg({ quality: 85 })
    .toBuffer();
  const kept: { id: string } = await ask('POST', '/api/pictures', {
    content: content.toString('base64'),
    alt: { en: `The marsh, picture ${n}` },
  });
  pictures.push(kept.id);
}
const minutes = (at: number) =>
  `${String(9 + Math.floor(at / 60)).padStart(2, '0')}:${String(at % 60).padStart(2, '0')}`;
await ask('PATCH', `/api/events/${event.id}`, {
  version: page.version,
  change: {
    bannerId: pictures[0],
    gallery: pictures.slice(1),
    sessions: Array.from({ length: 40 }, (_, n) => ({
      id: crypto.randomUUID(),
      kind: 'session',
      title: { en: `Session ${n + 1}: what the reeds keep`, fr: `Séance ${n + 1}` },
      about: { en: 'Half an hour on what grows where the water stands all winter, with time to ask.' },
      day: 1,
      begins: minutes(Math.floor(n / 4) * 40),
      ends: minutes(Math.floor(n / 4) * 40 + 30),
      capacity: 30,
      signUp: true,
    })),
  },
});

// The least that has to be done over HTTP: an answer that asks nothing of the database.
const floor = quantile(await timed(200, () => fetch(`${origin}/healthz`).then((r) => r.text())), 0.95);

// Fifty people, each writing on a plan of their own.
const clients = 50;
const drafts: string[] = [];
for (let n = 0; n < clients; n += 1)
  drafts.push(((await ask('POST', '/api/events', { publicTitle: `Draft ${n}` })) as { id: string }).id);
/** How long saves take when everybody saves so often, with a pause in between. */
async function saving(each: number, pauseMs: number): Promise<number[]> {
  const saves: number[] = [];
  await Promise.all(
    drafts.map(async (id, client) => {
      let { version }: Page = await ask('GET', `/api/events/${id}`);
      // People do not begin at once.
      if (pauseMs) await new Promise((resolve) => setTimeout(resolve, (client / clients) * pauseMs));
      for (let n = 0; n < each; n += 1) {
        const began = performance.now();
        const saved: { version: number } = await ask('PATCH', `/api/events/${id}`, {
          version,
          change: { summary: `Cut and carry, ${pauseMs} ${n}.` },
        });
        saves.push(performance.now() - began);
        version = saved.version;
        if (pauseMs) await new Promise((resolve) => setTimeout(resolve, pauseMs));
      }
    }),
  );
  return saves;
}
report.row('one field saved, 50 clients typing, p95', quantile(await saving(5, 5_000), 0.95), 'ms', {
  goal: { of: 'value', atMost: 200 },
});
const atOnce = performance.now();
const saves = await saving(10, 0);
const seconds = (performance.now() - atOnce) / 1000;
report.row('the same without a pause, p95', quantile(saves, 0.95), 'ms');
report.row('saves in a second then', saves.length / seconds, '/s', { goal: { of: 'value', atLeast: 20 } });
const alone = await timed(60, async (n) => {
  const { version }: Page = await ask('GET', `/api/events/${drafts[0]}`);
  await ask('PATCH', `/api/events/${drafts[0]}`, { version, change: { summary: `Alone ${n}` } });
});
report.row('the same with its page read, one client, p95', quantile(alone, 0.95), 'ms', {
  goal: { of: 'value', atMost: 100 },
});

const path = `/e/${page.plan.slug}`;
const read = (more: Record<string, string> = {}) =>
  fetch(`${origin}${path}`, { headers: more }).then(async (r) => ({
    etag: r.headers.get('etag'),
    text: await r.text(),
  }));
await timed(5, () => read());
const { etag } = await read();
report.row(
  'public page, 40 sessions and 10 pictures, p95',
  quantile(await timed(100, () => read()), 0.95),
  'ms',
  {
    floor,
    goal: { of: 'value', atMost: 60 },
  },
);
report.row(
  'the same, had before, p95',
  quantile(await timed(100, () => read(etag ? { 'if-none-match': etag } : {})), 0.95),
  'ms',
  { floor },
);
report.row(
  'what it shows, asked again, p95',
  quantile(
    await timed(100, () => fetch(`${origin}/api/public/events/${page.plan.slug}`).then((r) => r.text())),
    0.95,
  ),
  'ms',
  { floor },
);

const browser = await openBrowser();
const phone = await browser.newPage({ viewport: { width: 390, height: 844 }, deviceScaleFactor: 2 });
const session = await phone.context().newCDPSession(phone);
await session.send('Network.enable');
let bytes = 0;
session.on('Network.loadingFinished', ({ encodedDataLength }) => {
  bytes += encodedDataLength;
});
await phone.goto(`${origin}${path}`, { waitUntil: 'networkidle' });
report.row('on a phone, until it stands still', bytes / 1000, 'kB', { goal: { of: 'value', atMost: 700 } });
await phone.evaluate(() => window.scrollTo(0, document.body.scrollHeight));
await phone.waitForLoadState('networkidle');
report.row('on a phone, read to its end', bytes / 1000, 'kB');
await browser.close();

report.finish();
await stopped(child);
remove();
process.exit(0);
