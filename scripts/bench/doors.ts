import { cameraThatSees } from '../../tests/browser/camera.ts';
import { openBrowser } from './browser.ts';
import { quantile, Report } from './report.ts';
import { filledFolder, signedIn, startShipped, stopped } from './site.ts';

// npm run bench -- doors: 1,500 people on a list; five devices that mark 2,000 arrivals a minute between them and look at the list beside
// it; how large the list is that a device takes along; how long a phone takes from a pass before its camera to the answer.
const report = new Report('doors');
const { folder, remove } = await filledFolder();
const port = 45_909;
const child = await startShipped(folder, port);
const origin = `http://localhost:${port}`;
const cookie = await signedIn(origin);
const headers = { cookie, origin, 'content-type': 'application/json' };
const send = async (path: string, method = 'GET', body?: unknown) => {
  const reply = await fetch(`${origin}${path}`, {
    method,
    headers: { ...headers, ...(method === 'POST' ? { 'idempotency-key': crypto.randomUUID() } : {}) },
    ...(body === undefined ? {} : { body: JSON.stringify(body) }),
  });
  if (!reply.ok) throw new Error(`${method} ${path}: ${reply.status} ${await reply.text()}`);
  return reply;
};
const read = async <T>(path: string): Promise<T> => (await (await send(path)).json()) as T;

const people = 1_500;
const a = await read<{ id: string; title: string; startsLocal: string | null }[]>('/api/events');
const event = a.find((e) => e.title === 'Boat Evening' && e.startsLocal?.startsWith('2026-07-09'))!;
const { plan, version } = await read<{ plan: { offers: object[]; slug: string }; version: number }>(
  `/api/events/${event.id}`,
);
await send(`/api/events/${event.id}`, 'PATCH', {
  version,
  change: {
    capacity: null,
    venueId: null,
    waivers: [],
    offers: plan.offers.map((o) => ({ ...o, price: 0, quantity: null, mostPerOrder: 50 })),
  },
});
const [offer] = (await read<{ plan: { offers: { id: string }[] } }>(`/api/events/${event.id}`)).plan.offers;
for (let at = 0; at < people; at += 30)
  await send(`/api/events/${event.id}/orders`, 'POST', {
    buyer: { given: 'Buyer', family: `Nr${at}`, email: `buyer${at}@bench.example`, phone: '' },
    lines: [{ offerId: offer!.id, units: 30 }],
    attendees: Array.from({ length: 30 }, (_, n) => ({
      given: `Given${at + n}`,
      family: `Family${(at + n) % 700}`,
      birthDate: '1990-01-01',
    })),
  });

const list = `/api/events/${event.id}/doors`;
type Listed = { rows: { registrationId: string; attendance: string }[] };
const times = { list: [] as number[], mark: [] as number[], floor: [] as number[] };
const timed = async <T>(into: number[], what: () => Promise<T>): Promise<T> => {
  const began = performance.now();
  const answer = await what();
  into.push(performance.now() - began);
  return answer;
};
const text = await (await send(list)).text();
const { rows } = JSON.parse(text) as Listed;
if (rows.length < people) throw new Error(`Only ${rows.length} of ${people} are on the list.`);
report.row('the list a device takes along, 1,500 people', text.length / 1024, 'kB', {
  goal: { of: 'value', atMost: 1_000 },
});
for (let n = 0; n < 10; n += 1) {
  await timed(times.floor, () => send('/api/me'));
  await timed(times.list, () => send(list));
}
report.row('the list, median', quantile(times.list, 0.5), 'ms', {
  floor: quantile(times.floor, 0.5),
  goal: { of: 'value', atMost: 400 },
});

// Five devices, each with its share of the people, at 2,000 a minute between them for twenty seconds.
const devices = 5;
const pace = 60_000 / 2_000;
const during = 20_000;
const waiting = rows.filter((r) => r.attendance === 'expected').map((r) => r.registrationId);
const alone: number[] = [];
for (const id of waiting.splice(0, 20))
  await timed(alone, () =>
    send(`/api/registrations/${id}/attendance`, 'POST', { eventId: event.id, state: 'arrived' }),
  );
const begun = performance.now();
let due = 0;
let marked = 0;
const under: Promise<void>[] = [];
while (performance.now() - begun < during) {
  const at = begun + due * pace;
  if (performance.now() < at) await new Promise((resolve) => setTimeout(resolve, at - performance.now()));
  due += 1;
  const id = waiting.shift();
  if (!id) break;
  under.push(
    timed(times.mark, () =>
      send(`/api/registrations/${id}/attendance`, 'POST', {
        eventId: event.id,
        state: 'arrived',
        markId: crypto.randomUUID(),
        at: new Date().toISOString(),
        sentAt: new Date().toISOString(),
      }),
    ).then(() => {
      marked += 1;
    }),
  );
  // Each device looks at the list every few seconds.
  if (due % Math.round((devices * 15_000) / pace / devices / 5) === 0)
    under.push(send(list).then(async (r) => void (await r.text())));
}
await Promise.all(under);
const took = (performance.now() - begun) / 60_000;
report.row('arrivals marked, five devices together', marked / took, 'a minute', {
  goal: { of: 'value', atLeast: 1_900 },
});
report.row('an arrival until it is answered, p95', quantile(times.mark, 0.95), 'ms', {
  floor: quantile(alone, 0.5),
  goal: { of: 'value', atMost: 300 },
});
const after = JSON.parse(await (await send(list)).text()) as Listed;
const inside = after.rows.filter((r) => r.attendance === 'arrived').length;
report.row('of the arrivals marked, those the list has', inside / (marked + alone.length), 'of all', {
  goal: { of: 'value', atLeast: 1 },
});

// A camera that sees passes, on a page as large as a phone's and as slow as a cheap one. The page itself notes when the picture turns dark,
// which is when a code is before the camera, and when the answer stands there.
const { token } = (await (
  await send(`/api/public/events/${plan.slug}/orders`, 'POST', {
    buyer: { given: 'Hanne', family: 'Quist', email: 'hanne@bench.example', phone: '' },
    lines: [{ offerId: offer!.id, units: 8 }],
    attendees: Array.from({ length: 8 }, (_, n) => ({
      given: `Scanned${n}`,
      family: 'Quist',
      birthDate: '1990-01-01',
    })),
  })
).json()) as { token: string };
const { seats } = await read<{ seats: { pass: { code: string } }[] }>(`/api/public/orders/${token}`);
const camera = cameraThatSees(
  seats.map((s) => s.pass.code),
  2,
);
const browser = await openBrowser(camera.args);
const context = await browser.newContext({ viewport: { width: 390, height: 844 }, hasTouch: true });
const [name, value] = cookie.split('=') as [string, string];
await context.addCookies([{ name, value, url: origin }]);
const page = await context.newPage();
const session = await context.newCDPSession(page);
await page.goto(`${origin}/doors/${event.id}`);
await page.getByRole('button', { name: 'Scan', exact: true }).click();
await page.locator('video').waitFor();
await session.send('Emulation.setCPUThrottlingRate', { rate: 4 });
await page.evaluate(`{
  window.scans = [];
  const canvas = new OffscreenCanvas(16, 16);
  const context = canvas.getContext('2d', { willReadFrequently: true });
  let since = null;
  let dark = true;
  requestAnimationFrame(function next(now) {
    const lamp = document.querySelector('.lamp:not(p) h2');
    if (lamp && since !== null) window.scans.push(now - since);
    if (lamp) {
      since = null;
      document.querySelector('.lamp:not(p) .acts:last-child button:last-child').click();
    }
    const video = document.querySelector('video');
    if (video && video.videoWidth && !lamp) {
      context.drawImage(video, 0, 0, 16, 16);
      const { data } = context.getImageData(0, 0, 16, 16);
      const light = data.filter((_, at) => at % 4 === 0).reduce((sum, v) => sum + v, 0) / 256;
      const isDark = light < 225;
      if (isDark && !dark) since = now;
      if (!isDark) since = null;
      dark = isDark;
    }
    requestAnimationFrame(next);
  });
}`);
let scans: number[] = [];
for (let tries = 0; scans.length < 8; tries += 1) {
  if (tries === 240) throw new Error(`Only ${scans.length} passes were read in two minutes.`);
  await new Promise((resolve) => setTimeout(resolve, 500));
  scans = await page.evaluate<number[]>('window.scans');
}
report.row('a pass before the camera until the answer, slow phone, median', quantile(scans, 0.5), 'ms', {
  floor: 1000 / 60,
  goal: { of: 'value', atMost: 300 },
});
await browser.close();
camera.remove();
report.finish();
await stopped(child);
remove();
process.exit(0);
