import { spawn, spawnSync } from 'node:child_process';
import { cpSync, mkdirSync, mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { chromium as driver } from '@playwright/test';
import sharp from 'sharp';
import { build, chromium, install, root, run, say, stop } from './shared.mjs';

// npm run screenshots: one picture of each main view, from the demonstration as it begins.
await install();
await build();
const executablePath = await chromium();
if (!executablePath) stop('Chromium is needed for the pictures.');
const folder = mkdtempSync(join(tmpdir(), 'acolyte-pictures-'));
if (process.env.ACOLYTE_FILLED) cpSync(process.env.ACOLYTE_FILLED, folder, { recursive: true });
else if ((await run('node', [join(root, 'dist/server/fill.js'), folder])) !== 0)
  stop('The demonstration could not be filled.');
rmSync(join(folder, 'owner.json'), { force: true });
const base = 'http://localhost:45902';
const server = spawn('node', [join(root, 'dist/server/main.js')], {
  env: { ...process.env, NODE_ENV: 'production', ACOLYTE_DATA: folder, ACOLYTE_LOG: 'off', PORT: '45902' },
  stdio: 'ignore',
});
// Whatever goes wrong below, no server is left behind to answer the next run with old pictures.
process.on('exit', () => server.kill('SIGKILL'));
server.on('exit', (code) => code && stop('The server stopped; is another one running on port 45902?'));
while (
  !(await fetch(`${base}/healthz`).then(
    (r) => r.ok,
    () => false,
  ))
)
  await new Promise((r) => setTimeout(r, 100));

const browser = await driver.launch({
  executablePath,
  args: [
    '--no-sandbox',
    '--disable-background-networking',
    '--disable-component-update',
    '--disable-sync',
    '--no-first-run',
  ],
});
const out = join(root, 'docs/screenshots');
mkdirSync(out, { recursive: true });
const pageOf = async (email, phone = false) => {
  const context = await browser.newContext({
    baseURL: base,
    viewport: phone ? { width: 390, height: 844 } : { width: 1280, height: 800 },
    timezoneId: 'America/Halifax',
    locale: 'en-CA',
  });
  if (email)
    await context.request.post('/api/sign-in', {
      data: { email, password: 'marsh-wren-2026' },
      headers: { origin: base },
    });
  return context.newPage();
};
const shot = async (page, path, before) => {
  await page.goto(path);
  await page.waitForLoadState('networkidle').catch(() => undefined);
  await page.locator('h1').first().waitFor();
  await before?.(page);
  await page.evaluate(() => document.fonts.ready);
  return page.screenshot();
};
const take = async (page, path, name, before) => {
  writeFileSync(join(out, `${name}.png`), await shot(page, path, before));
  say(`  ${name}.png`);
};
/** The first page of a PDF as a picture. */
const sheetOf = async (pdf, scale) => {
  const page = await browser.newPage();
  const library = join(root, 'node_modules/pdfjs-dist/build');
  const script = 'text/javascript';
  const parts = {
    'page.html': {
      contentType: 'text/html',
      body: `<canvas></canvas><script type="module">
        import * as pdfjs from './pdf.mjs';
        pdfjs.GlobalWorkerOptions.workerSrc = './pdf.worker.mjs';
        const sheet = await (await pdfjs.getDocument('./paper.pdf').promise).getPage(1);
        const viewport = sheet.getViewport({ scale: ${scale} });
        const canvas = Object.assign(document.querySelector('canvas'), { width: viewport.width, height: viewport.height });
        await sheet.render({ canvasContext: canvas.getContext('2d'), viewport }).promise;
        document.title = 'drawn';
      </script>`,
    },
    'pdf.mjs': { contentType: script, path: join(library, 'pdf.mjs') },
    'pdf.worker.mjs': { contentType: script, path: join(library, 'pdf.worker.mjs') },
    'paper.pdf': { contentType: 'application/pdf', body: pdf },
  };
  await page.route(/\/paper\//u, (route) => route.fulfill(parts[route.request().url().split('/').at(-1)]));
  await page.goto(`${base}/paper/page.html`);
  await page.waitForFunction(() => document.title === 'drawn');
  const drawn = await page.locator('canvas').screenshot();
  await page.close();
  return drawn;
};
/** Several pictures in one, side by side. */
/** Puts pictures beside each other, in rows where they would be too wide to be looked at. */
const beside = async (name, ...shots) => {
  const [gap, widest] = [20, 5300];
  let [left, top, row, width] = [0, 0, 0, 0];
  const parts = [];
  for (const input of shots) {
    const size = await sharp(input).metadata();
    if (left > 0 && left + size.width > widest) [left, top, row] = [0, top + row + gap, 0];
    parts.push({ input, left, top });
    left += size.width + gap;
    row = Math.max(row, size.height);
    width = Math.max(width, left - gap);
  }
  await sharp({ create: { width, height: top + row, channels: 3, background: '#b9ae9b' } })
    .composite(parts)
    .png()
    .toFile(join(out, `${name}.png`));
  say(`  ${name}.png`);
};
const odalys = await pageOf('odalys@brackenmere.example');
const events = await (await odalys.request.get('/api/events')).json();
const idOf = (title, from = '') =>
  events.find((e) => e.title === title && (e.startsLocal ?? '') >= from && !e.isTemplate).id;
const water = idOf('Open Water Day', '2026-07');
const settled = (selector) => (page) => page.locator(selector).first().waitFor();
await take(odalys, '/desk', 'desk', settled('#contents section a'));
const cut = events.find((e) => e.title === 'First Wednesday Reed Cut' && e.seriesId);
await beside(
  'season',
  await shot(odalys, '/season', settled('.mark')),
  await shot(odalys, `/season/series/${cut.seriesId}`, settled('section ol li')),
  await shot(odalys, '/season?form=month&month=2026-08', settled('table a')),
);
// The public calendar at both sizes, and the page of a member.
const member = await pageOf(null, true);
const mine = await shot(member, '/mine', async (page) => {
  await page.getByLabel('Email').fill('delacroix-nguyen@harbourpost.example');
  await page.getByRole('button', { name: 'Send the code' }).click();
  const told = page.getByText('This is a demonstration');
  await told.waitFor();
  await page.getByLabel('Code').fill(/code is (\d{3} \d{3})/u.exec(await told.textContent())[1]);
  await page.getByRole('button', { name: 'Sign in' }).click();
  await page.getByRole('button', { name: /^Mai / }).click();
  await page.getByRole('heading', { name: 'Your seats' }).waitFor();
});
await beside(
  'public-calendar',
  await shot(await pageOf(null), '/?show=month&month=2026-08', async (page) => {
    await page.getByRole('link', { name: /^Open Water Day/u }).hover();
    await page.getByText('Paddle the lagoon').waitFor();
  }),
  await shot(await pageOf(null, true), '/', settled('.pub:not(.early) li')),
  mine,
);
// A plan, and what moving it by a week would bring about.
await beside(
  'event-plan',
  await shot(odalys, `/events/${water}/plan`, settled('form, .form')),
  await shot(odalys, `/events/${water}/plan`, async (page) => {
    await page.getByLabel('Date', { exact: true }).fill('2026-08-15');
    await page.getByRole('button', { name: 'See what follows' }).click();
    await page.getByRole('heading', { name: 'By itself' }).waitFor();
  }),
);
const symposium = idOf('Reedbed Symposium', '2026-07');
// Clearance as who decides it sees it, and the rules with what they would have changed.
const tobias = await pageOf('tobias@brackenmere.example');
await beside(
  'event-clearance',
  await shot(tobias, `/events/${symposium}/clearance`, async (page) => {
    await page.getByLabel('Clear with conditions').check({ force: true });
    await page.getByLabel('Condition 1').waitFor();
  }),
  await shot(odalys, '/team/clearance', async (page) => {
    await page.getByRole('button', { name: 'Premises', exact: true }).click();
    await page.getByText('No past event would have needed other steps.').waitFor();
  }),
);
await beside(
  'agenda-places',
  await shot(odalys, `/events/${symposium}/plan`, async (page) => {
    await page.locator('#section-agenda li').first().waitFor();
    await page.evaluate(() => document.querySelector('#section-agenda').scrollIntoView());
  }),
  await shot(odalys, '/team/registers', async (page) => {
    await page.getByRole('button', { name: 'Change Town Hall' }).click();
    await page.getByLabel('Name of the room').first().waitFor();
    await page.getByLabel('Name of the room').first().scrollIntoViewIfNeeded();
  }),
);
// The page of a large event at both sizes, side by side.
const made = await odalys.request.post(`/api/events/${symposium}/preview`, { headers: { origin: base } });
const { token } = await made.json();
const halves = [];
for (const phone of [false, true]) {
  const page = await pageOf(null, phone);
  await page.goto(`/p/${token}?style=programme`);
  const programme = page.getByRole('heading', { name: 'Programme' });
  await programme.waitFor();
  await programme.evaluate((h) => h.scrollIntoView());
  await page.evaluate(() => document.fonts.ready);
  halves.push(await page.screenshot());
}
await beside('public-large', ...halves);
// Who is registered, narrowed by an answer and chosen; what is printed of them; what is asked of them, as a phone shows it.
await beside(
  'event-registration',
  await shot(odalys, `/events/${water}/registration`, async (page) => {
    await page.getByRole('button', { name: 'Add a condition' }).click();
    await page.getByLabel('What is compared').selectOption({ label: 'How do you come?' });
    await page.getByRole('button', { name: 'by car', exact: true }).click();
    await page.getByLabel('Choose all').check();
    await page.getByRole('button', { name: 'Write to them' }).waitFor();
  }),
  await shot(odalys, `/events/${water}/registration`, async (page) => {
    await page.getByRole('button', { name: 'Print', exact: true }).click();
    await page.getByText('Ten labels on a sheet', { exact: false }).waitFor();
  }),
  await shot(odalys, `/events/${water}/plan`, async (page) => {
    const preview = page.getByRole('region', { name: 'As people see it on a phone' });
    await preview.getByText('by car', { exact: true }).click();
    await page.locator('#section-questions').evaluate((section) => section.scrollIntoView());
    await preview.getByLabel('Free seats in your car').waitFor();
  }),
);
// What can be had of an event, with all that an offer says; people who ask, side by side.
await beside(
  'event-offers',
  await shot(odalys, `/events/${idOf('Fen Supper', '2026-07')}/plan`, async (page) => {
    await page.locator('#section-offers summary').first().click();
    await page.locator('#section-offers').evaluate((section) => section.scrollIntoView());
  }),
  await shot(odalys, `/events/${idOf('Night Watch at the Hide')}/registration`, async (page) => {
    await page.getByRole('checkbox').first().waitFor();
  }),
);
// Applications, the form on a phone, the board, who could take a shift, what fills the gaps, who steps in, and time going down.
const calls = await (await odalys.request.get(`/api/calls?eventId=${water}`)).json();
await beside(
  'event-crew',
  await shot(odalys, `/volunteers/${calls[0].id}`, async (page) => {
    await page.getByRole('row').nth(1).waitFor();
  }),
  await shot(await pageOf(null, true), `/help/${calls[0].slug}`, async (page) => {
    const grid = page.getByRole('button', { name: 'Sat 8 Aug', exact: true });
    await grid.click();
    await grid.evaluate((el) => el.scrollIntoView({ block: 'center' }));
  }),
  await shot(odalys, `/events/${water}/crew`, settled('.shift')),
  await shot(odalys, `/events/${water}/crew`, async (page) => {
    await page.locator('.shift.short').first().click();
    await page.getByRole('button', { name: 'Assign somebody' }).click();
    await page.getByRole('region', { name: 'Who could' }).getByRole('listitem').first().waitFor();
  }),
  await shot(odalys, `/events/${water}/crew`, async (page) => {
    await page.getByRole('button', { name: 'Fill the gaps' }).click();
    await page.getByRole('button', { name: 'Work it out' }).click();
    await page.getByText('What stays open').waitFor();
  }),
  await shot(odalys, `/events/${water}/crew`, async (page) => {
    await page.locator('select', { hasText: 'All days' }).first().selectOption('all');
    await page.locator('.shift', { hasText: 'asked to step in' }).first().click();
    await page.getByRole('region', { name: 'Who steps in' }).scrollIntoViewIfNeeded();
  }),
  await shot(odalys, `/events/${water}/crew?flow=down`, settled('.shift')),
);
const everybody = await shot(odalys, '/contacts', settled('.table'));
// Of those seen lately the one of whom most is known.
const seen = (await (await odalys.request.get('/api/contacts?sort=seen&limit=400')).json()).contacts;
const records = [];
for (const c of seen) records.push(await (await odalys.request.get(`/api/contacts/${c.id}`)).json());
const richness = (c) =>
  [
    c.tags.length,
    c.notes.length,
    c.related.length,
    c.companions.length,
    c.emails.length,
    c.phones.length,
    c.fields.some((f) => f.value),
    c.totals.hours,
    c.totals.givenEver,
    c.totals.attended > 5,
  ].filter(Boolean).length + new Set(c.ties.map((t) => t.kind)).size;
const known = records.sort((a, b) => richness(b) - richness(a))[0];
await beside('contacts', everybody, await shot(odalys, `/contacts/${known.id}`, settled('ol li')));
// The books, the account with the card processor, a month that is settled with a file of the bank, and the account of an event.
const { payouts } = await (await odalys.request.get('/api/cards')).json();
const bankFile = [
  'Date,Description,Amount',
  ...payouts
    .slice(0, 3)
    .map((p) => `${p.at.slice(0, 10)},CARDS PAYOUT ${p.id},${(p.amount / 100).toFixed(2)}`),
  '2026-07-09,MOBILE DEPOSIT,400.00',
  '2026-07-07,SERVICE CHARGE,-12.50',
].join('\n');
await beside(
  'ledger',
  await shot(odalys, '/ledger?show=accounts', settled('table')),
  await shot(odalys, '/ledger?show=cards', settled('table')),
  await shot(odalys, '/ledger?show=bank', async (page) => {
    await page
      .locator('input[type=file]')
      .setInputFiles({ name: 'july.csv', mimeType: 'text/csv', buffer: Buffer.from(bankFile) });
    await page.getByText('CARDS PAYOUT').first().waitFor();
    // What was said of it goes by itself.
    await page.getByText('lines brought in', { exact: false }).waitFor({ state: 'hidden' });
  }),
  await shot(
    odalys,
    `/events/${events.find((e) => e.title === 'Fen Supper' && e.startsLocal?.startsWith('2025')).id}/wrap-up`,
    async (page) => {
      await page.getByText('What it brings').waitFor();
      await page
        .getByRole('heading', { name: 'What it brought and cost' })
        .evaluate((heading) => heading.scrollIntoView());
    },
  ),
);
// A survey as it is planned and answered, what was said, and what was learnt beside the next copy; what was counted, on a phone too, and what it comes to.
const overnight = events.find(
  (e) => e.title === 'Mudlarks Overnight' && e.startsLocal?.startsWith('2026'),
).id;
const { page: counting } = await (await odalys.request.get(`/api/events/${overnight}/outcomes`)).json();
const [clear] = (await (await odalys.request.get('/api/initiatives')).json()).filter((i) =>
  /^Clear/u.test(i.name),
);
const waterBefore = events.find((e) => e.title === 'Open Water Day' && e.startsLocal?.startsWith('2025')).id;
await beside(
  'wrap-up',
  await shot(odalys, `/events/${water}/plan`, async (page) => {
    await page.getByRole('region', { name: 'On a phone' }).last().waitFor();
    await page.locator('#section-survey').evaluate((section) => section.scrollIntoView());
  }),
  await shot(odalys, `/events/${waterBefore}/wrap-up?see=survey`, async (page) => {
    await page.getByText('on average').first().waitFor();
    await page.getByLabel('Told apart by').selectOption('first time');
    await page.getByText('Beside the others').first().waitFor();
  }),
  await shot(member, '/mine', async (page) => {
    await page.getByRole('link', { name: 'How was Mudlarks Overnight?' }).click();
    await page.getByText('How did your child like it?').waitFor();
  }),
  await shot(odalys, `/events/${water}/plan`, async (page) => {
    await page.getByText('From before:').first().waitFor();
  }),
  await shot(odalys, `/events/${overnight}/wrap-up?see=outcomes`, settled('main table')),
  await shot(await pageOf(null, true), new URL(counting).pathname, settled('form')),
  await shot(odalys, `/records?show=initiatives&id=${clear.id}`, settled('.apexcharts-line-series')),
);
// A page to give on at both sizes, and the receipts of a year; one of them as it is printed, where this machine can draw a PDF.
const { rows } = await (await odalys.request.get('/api/receipts?year=2025')).json();
const advantage = rows.find((r) => r.advantage > 0);
const paper = await (await odalys.request.get(`/api/receipts/${advantage.id}/receipt.pdf`)).body();
const drawn = spawnSync('pdftoppm', ['-png', '-r', '70', '-singlefile', '-'], { input: paper });
await beside(
  'giving',
  await shot(await pageOf(null), '/give/a-hide-by-the-reedbed', settled('progress')),
  await shot(await pageOf(null, true), '/give/a-hide-by-the-reedbed', settled('progress')),
  await shot(odalys, '/ledger?show=receipts&year=2025', settled('table')),
  ...(drawn.status === 0 ? [drawn.stdout] : []),
);
// The plan of messages of an event, one line as it is written and seen by one of its people; the Tray, what people wrote back, and what goes out all year.
await beside(
  'messages',
  await shot(odalys, `/events/${water}/messages`, settled('.lines li')),
  await shot(odalys, `/events/${water}/messages`, async (page) => {
    await page.getByRole('button', { name: 'More to do with Reminder, a day before' }).click();
    await page.getByRole('menuitem', { name: 'Change it' }).click();
    const dialog = page.getByRole('dialog');
    await dialog.getByRole('button', { name: 'Formatted' }).click();
    await dialog.getByRole('button', { name: 'See it as they get it' }).click();
    const pass = dialog.frameLocator('iframe').getByRole('link', { name: /Your pass|Votre billet/u });
    await pass.waitFor();
    await dialog.locator('iframe').scrollIntoViewIfNeeded();
    // Drawn, and not only there.
    await pass.scrollIntoViewIfNeeded();
    await page.evaluate(() => new Promise((r) => requestAnimationFrame(() => requestAnimationFrame(r))));
  }),
  await shot(odalys, '/tray', settled('.table')),
  await shot(odalys, '/tray?state=in', settled('.lines li')),
  await shot(odalys, '/tray?state=year', settled('.lines li')),
);
const bringing = await shot(odalys, '/import', async (page) => {
  await page.locator('input[type=file]').setInputFiles(join(root, 'tests/data/members.csv'));
  await page.getByRole('button', { name: /^New [1-9]/u }).waitFor();
});
const reviewing = await shot(odalys, '/contacts/review', async (page) => {
  await page.locator('main table').waitFor();
  // One that is not plain.
  await page.getByText('needs a person to decide').or(page.locator('main table')).first().waitFor();
  for (let n = 0; n < 80 && !(await page.getByText('needs a person to decide').count()); n += 1)
    await page.keyboard.press('j');
});
await beside('bringing-in', bringing, reviewing);
// Events side by side, who comes back, who drifts away, a report for the board as it is read and as it is printed, a segment.
const compared = events
  .filter((e) => /^(Open Water Day|Fen Supper)$/u.test(e.title) && e.state === 'wrapped')
  .map((e) => e.id);
const [written] = (await (await odalys.request.get('/api/reports')).json()).filter((r) =>
  /^The year/u.test(r.title),
);
await beside(
  'records',
  await shot(odalys, `/records?show=compare&of=${compared.join(',')}`, settled('main table')),
  await shot(odalys, '/records?show=series', settled('.apexcharts-bar-area')),
  await shot(odalys, '/records?show=returns', async (page) => {
    await page.getByRole('heading', { name: 'The ways people go' }).waitFor();
  }),
  await shot(odalys, '/records?show=drifting', settled('main table')),
  await shot(odalys, `/records?show=reports&id=${written.id}`, settled('article')),
  await sheetOf(await (await odalys.request.get(`/api/reports/${written.id}/report.pdf`)).body(), 1),
  await shot(odalys, '/records/segments', async (page) => {
    await page.getByRole('link', { name: 'Come often, never gave' }).click();
    await page.locator('fieldset select').first().waitFor();
    await page.getByText(/^of 1,/u).waitFor();
  }),
);
// The page of an event, the form of a booking, and the booking, on a phone.
const phone = await pageOf(null, true);
const eventPage = await shot(phone, '/e/open-water-day-2026-08-08', settled('.pub:not(.early) h2'));
const booking = await shot(phone, '/e/fen-talk-otters/register', async (page) => {
  await page.getByRole('button', { name: '+ Listener' }).click();
  await page.getByLabel('First name').first().fill('Bao');
  await page.getByLabel('Last name').first().fill('Delacroix-Nguyen');
  await page.getByLabel('Email').fill('bao@harbourpost.example');
  await page.getByText('yes', { exact: true }).click();
  await page.getByLabel('First name').nth(1).fill('Linh');
  await page.getByRole('button', { name: 'Last name Delacroix-Nguyen too' }).scrollIntoViewIfNeeded();
});
await phone.getByRole('button', { name: 'Register', exact: true }).click();
await phone.getByRole('button', { name: 'Send them a link' }).first().waitFor();
await phone.evaluate(() => document.fonts.ready);
await beside('public-event', eventPage, booking, await phone.screenshot());
// What is signed, and the doors: the team begins at the one door of today, where people check themselves in as well.
const ownPhone = await pageOf(null, true);
const signing = await shot(ownPhone, '/sign/mudlarks-this-year', settled('form'));
const waivers = await (await odalys.request.get('/api/waivers')).json();
const { id: form } = waivers.find((w) => w.title === 'On the water');
const wording = await shot(odalys, `/team/waivers/${form}`, settled('summary'));
const doorPhone = await pageOf('door@brackenmere.example', true);
const doorList = await shot(doorPhone, '/doors', settled('li'));
const tonight = new URL(doorPhone.url()).pathname.split('/').at(-1);
/** Asks as the coordinator, from her page. */
const ask = (method, path, body) =>
  odalys.evaluate(
    async ([of, address, sent]) => {
      const answer = await fetch(address, {
        method: of,
        headers: { 'content-type': 'application/json', 'idempotency-key': crypto.randomUUID() },
        ...(sent && { body: JSON.stringify(sent) }),
      });
      if (!answer.ok) throw new Error(`${of} ${address}: ${answer.status} ${await answer.text()}`);
      return answer.json();
    },
    [method, path, body],
  );
/** Somebody on the list of this evening who has signed what is asked. */
const signedSeat = async (given) => {
  const { rows, waivers: asked } = await ask('GET', `/api/events/${tonight}/doors`);
  const row = rows.find((r) => r.given === given);
  for (const id of row.toSign) {
    const waiver = asked.find((w) => w.id === id);
    await ask('POST', `/api/registrations/${row.registrationId}/signatures`, {
      waiverId: id,
      version: waiver.version,
      relation: 'self',
      typedName: `${given} Quillfeather`,
      ticked: waiver.clauses.map((c) => c.id),
      initials: {},
      chosen: {},
      declared: false,
      drawn: null,
      answers: {},
    });
  }
  return row;
};
/** A session of this evening that people sign up for, a seat that is not paid, and the pass of one that was given up. */
const arrange = async () => {
  const { version, plan } = await ask('GET', `/api/events/${tonight}`);
  const session = {
    id: 'aaaaaaaa-0000-4000-8000-000000000001',
    kind: 'session',
    title: { en: 'Otters at dusk' },
    about: { en: '' },
    day: 1,
    begins: '19:30',
    ends: '20:15',
    trackId: null,
    roomId: null,
    capacity: null,
    signUp: true,
    speakerIds: [],
  };
  await ask('PATCH', `/api/events/${tonight}`, {
    version,
    change: { sessions: [...plan.sessions, session], capacity: plan.capacity + 6 },
  });
  const order = (given) => ({
    buyer: { given, family: 'Quillfeather', email: `${given.toLowerCase()}@harbourpost.example`, phone: '' },
    lines: [{ offerId: plan.offers[0].id, units: 1 }],
    attendees: [{ given, family: 'Quillfeather', birthDate: '1990-01-01' }],
  });
  await ask('POST', `/api/events/${tonight}/orders`, order('Wren'));
  await signedSeat('Wren');
  const { token } = await ask('POST', `/api/public/events/${plan.slug}/orders`, order('Sable'));
  const held = await ask('GET', `/api/events/${tonight}/registrations`);
  const { id, orderId, due } = held.rows.find((r) => r.given === 'Sable');
  await ask('POST', `/api/orders/${orderId}/payments`, { method: 'cash', amount: due });
  const { seats } = await ask('GET', `/api/public/orders/${token}`);
  await ask('POST', `/api/registrations/${id}/withdraw`, {});
  return seats[0].pass.code;
};
// Each answer of the door: come in, already in, something to sign first, no code of ours; then how the doors stand.
const answers = [];
const answered = async () => {
  await doorPhone.locator('.lamp h2').first().waitFor();
  answers.push(await doorPhone.screenshot());
  await doorPhone.locator('.lamp').getByRole('button', { name: 'Close' }).click();
};
// Whoever may come in: the first of the list, by their names.
const mayComeIn = (await ask('GET', `/api/events/${tonight}/doors`)).rows
  .filter((r) => r.family && !r.missing.length && r.attendance === 'expected')
  .map((r) => `${r.family}, ${r.given}`)
  .slice(0, 4);
await doorPhone.getByText(mayComeIn[0]).click();
await answered();
const rowOf = (name) => doorPhone.getByRole('listitem').filter({ hasText: name });
for (const name of mayComeIn.slice(0, 3)) {
  await rowOf(name).getByRole('button', { name: 'Arrive' }).click();
  await rowOf(name).getByRole('button', { name: 'Undo' }).waitFor();
}
await doorPhone.getByText(mayComeIn[0]).click();
await answered();
await doorPhone.getByText('Guest to be named').first().click();
await answered();
const search = doorPhone.getByLabel('Find by name, phone or pass');
await search.fill('7QK3-M2XA-91ZT-X');
await search.press('Enter');
await answered();
// Another session, a seat that is not paid, one that is not confirmed: of events that the coordinator arranges for it.
const notConfirmed = await arrange();
await doorPhone.reload();
await doorPhone.getByLabel('Which door').selectOption({ index: 1 });
await search.fill(mayComeIn[3].split(', ')[0]);
await doorPhone.getByRole('button', { name: mayComeIn[3] }).click();
await answered();
await doorPhone.getByLabel('Which door').selectOption({ index: 0 });
await search.fill('Quillfeather');
await doorPhone.getByRole('button', { name: /Quillfeather/u }).click();
await answered();
await search.fill(notConfirmed);
await search.press('Enter');
await answered();
await search.fill('');
await doorPhone.getByRole('button', { name: 'Live' }).click();
await doorPhone.locator('.apexcharts-line').first().waitFor();
await doorPhone.evaluate(() => document.fonts.ready);
answers.push(await doorPhone.screenshot());
const night = idOf('Mudlarks Overnight', '2026');
const wasThere = await shot(odalys, `/events/${night}/doors`, settled('tbody tr'));
await shot(odalys, `/events/${tonight}/doors`, async (page) => {
  await page.getByRole('button', { name: 'Let people check themselves in' }).click();
  await page.getByText('Poster with the code').waitFor();
});
const { selfCheckIn } = await (await odalys.request.get(`/api/events/${tonight}/doors`)).json();
const here = await shot(ownPhone, new URL(selfCheckIn).pathname, settled('form'));
const poster = await sheetOf(
  await (await odalys.request.get(`/api/events/${tonight}/self-check-in.pdf`)).body(),
  0.95,
);
await beside('door', wording, wasThere, signing, doorList, ...answers, here, poster);
await browser.close();
server.kill('SIGTERM');
await new Promise((r) => server.on('exit', r));
rmSync(folder, { recursive: true, force: true });
