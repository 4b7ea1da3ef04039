import { openEvent, orderFor } from '../api/scenes.ts';
import { callers, checkAccess, expect, pageOf, type Site, test } from './site.ts';

/** An event of this evening, with a seat for each of two of a family. */
async function twoTonight(site: Site, title: string, given: [string, string], family: string) {
  const staff = callers(site);
  const event = await openEvent(staff, {
    title,
    startsLocal: '2026-07-09T18:00',
    endsLocal: '2026-07-09T23:00',
  });
  const odalys = await staff.as('odalys');
  await odalys.call('POST /api/events/:id/orders', {
    params: { id: event.id },
    body: orderFor(
      event,
      given.map((name) => ({ given: name, family })),
    ),
  });
  return { event, odalys };
}

test('an arrival given without a network is kept on the device, also when the tab closes, and goes out later', async ({
  browser,
  site,
}) => {
  const { event, odalys } = await twoTonight(site, 'Dusk Count', ['Torben', 'Ulrika'], 'Reed');
  const arrived = async () =>
    (await odalys.call('GET /api/events/:id/doors', { params: { id: event.id } })).arrived;

  // The door team begins at the one door of today.
  const door = await pageOf(browser, site, 'Wilhelmina Nguyen', true);
  await door.waitForURL(`**/doors/${event.id}`);
  const row = (page: typeof door, name: string) => page.getByRole('listitem').filter({ hasText: name });
  await expect(row(door, 'Reed, Torben')).toBeVisible();
  await door.context().setOffline(true);
  await row(door, 'Reed, Torben').getByRole('button', { name: 'Arrive' }).click();
  await expect(door.getByText('1 mark is kept on this device and goes out by itself.')).toBeVisible();
  await expect(door.getByRole('status').filter({ hasText: '1 of 2 arrived' })).toBeVisible();
  await checkAccess(door);
  expect(await arrived()).toBe(0);

  // The tab is closed before the network is back.
  const context = door.context();
  await door.close();
  await context.setOffline(false);
  const again = await context.newPage();
  await again.goto(`${site.origin}/doors`);
  await expect(again.getByRole('status').filter({ hasText: '1 of 2 arrived' })).toBeVisible();
  await expect(again.getByText(/kept on this device/u)).toHaveCount(0);
  await expect.poll(arrived).toBe(1);
  const [mark] = await site.started.app.db.query<{ n: number }>(
    `select count(*)::int as n from attendance_marks m join registrations r on r.id = m.registration_id where r.event_id = $1`,
    [event.id],
  );
  expect(mark!.n, 'marked once').toBe(1);
  await context.close();
});

test('the doors open without a network: the list is there, a pass is known, an arrival goes out later', async ({
  browser,
  site,
}) => {
  const { event, odalys } = await twoTonight(site, 'Night Ferry', ['Sigrun', 'Tarek'], 'Fenn');
  const list = () => odalys.call('GET /api/events/:id/doors', { params: { id: event.id } });
  const [pass] = await site.started.app.db.query<{ code: string }>(
    "select pass_code as code from registrations where event_id = $1 and given_name = 'Tarek'",
    [event.id],
  );

  const door = await pageOf(browser, site, 'odalys', true);
  await door.goto(`/doors/${event.id}`);
  await expect(door.getByText('Fenn, Sigrun')).toBeVisible();
  // The page and what it loads are kept, and the list.
  await expect
    .poll(() =>
      door.evaluate(async () => {
        const cache = await caches.open('doors');
        const kept = (await cache.keys()).map((r) => new URL(r.url).pathname);
        return kept.includes('/doors') && kept.some((p) => p.endsWith('.js'));
      }),
    )
    .toBe(true);
  const stored = await door.evaluate(
    () =>
      new Promise<string>((resolve, reject) => {
        const opening = indexedDB.open('acolyte-door-list');
        opening.onerror = () => reject(opening.error);
        opening.onsuccess = () => {
          const all = opening.result.transaction('taken').objectStore('taken').getAll();
          all.onsuccess = () => resolve(all.result.map((t) => new TextDecoder().decode(t.content)).join(' '));
        };
      }),
  );
  expect(stored.length).toBeGreaterThan(100);
  // What lies on the device cannot be read there.
  expect(stored).not.toContain('Fenn');

  await door.context().setOffline(true);
  await door.reload();
  await expect(door.getByText('Fenn, Sigrun')).toBeVisible();
  await expect(door.getByTestId('offline')).toContainText('List from');
  const search = door.getByLabel('Find by name, phone or pass');
  await search.fill(pass!.code);
  await search.press('Enter');
  const lamp = door.getByRole('alert').filter({ hasText: 'Tarek Fenn' });
  await expect(lamp).toContainText('Come in');
  await lamp.getByRole('button', { name: 'Arrive' }).click();
  await expect(door.getByRole('status').filter({ hasText: '1 of 2 arrived' })).toBeVisible();
  await search.fill('000000000000Z');
  await search.press('Enter');
  await expect(door.getByRole('alert')).toContainText('Not on this list');
  await checkAccess(door);
  expect((await list()).arrived).toBe(0);

  await door.context().setOffline(false);
  await expect.poll(async () => (await list()).arrived).toBe(1);
  await expect(door.getByTestId('offline')).toHaveCount(0);

  // Signed out, nothing of it stays.
  await door.goto('/doors?all');
  await door.getByRole('button', { name: 'Sign out' }).click();
  await door.waitForURL(/sign-in/u);
  await expect
    .poll(() =>
      door.evaluate(
        () =>
          new Promise<number>((resolve) => {
            const opening = indexedDB.open('acolyte-door-list');
            opening.onsuccess = () => {
              const count = opening.result.transaction('taken').objectStore('taken').count();
              count.onsuccess = () => resolve(count.result);
            };
          }),
      ),
    )
    .toBe(0);
  await door.context().close();
});

test('a device without room says that there is no list without a network; one that was lost loses its list', async ({
  browser,
  site,
}) => {
  const { event } = await twoTonight(site, 'Lost Lantern', ['Sigrun', 'Tarek'], 'Fenn');
  const door = await pageOf(browser, site, 'Wilhelmina Nguyen', true);
  await door.waitForURL(`**/doors/${event.id}`);
  await expect(door.getByText('Fenn, Sigrun')).toBeVisible();
  const kept = () =>
    door.evaluate(
      () =>
        new Promise<number>((resolve) => {
          const opening = indexedDB.open('acolyte-door-list');
          opening.onsuccess = () => {
            const count = opening.result.transaction('taken').objectStore('taken').count();
            count.onsuccess = () => resolve(count.result);
          };
        }),
    );
  await expect.poll(kept).toBeGreaterThan(0);

  await test.step('no room', async () => {
    await door.evaluate(() => {
      const { put } = IDBObjectStore.prototype;
      IDBObjectStore.prototype.put = function (this: IDBObjectStore, ...rest: Parameters<typeof put>) {
        if (this.name === 'taken') throw new DOMException('no room', 'QuotaExceededError');
        return put.apply(this, rest);
      };
    });
    await door
      .getByRole('listitem')
      .filter({ hasText: 'Fenn, Sigrun' })
      .getByRole('button', { name: 'Arrive' })
      .click();
    await expect(
      door.getByText('This device has no room for the list: without a network there is none.'),
    ).toBeVisible();
    // The doors go on all the same.
    await expect(door.getByRole('status').filter({ hasText: '1 of 2 arrived' })).toBeVisible();
    await checkAccess(door);
  });

  await test.step('lost: the coordinator ends what is signed in for it, and its list goes', async () => {
    const page = await pageOf(browser, site, 'odalys');
    await page.goto('/team');
    await page.getByRole('button', { name: /Wilhelmina Nguyen/u }).click();
    const dialog = page.getByRole('dialog');
    await expect(dialog.getByText('What their devices took along from the doors goes')).toBeVisible();
    await dialog.getByRole('button', { name: 'Sign them out everywhere' }).click();
    await page.context().close();
    await expect.poll(kept).toBe(0);
  });
  await door.context().close();
});
