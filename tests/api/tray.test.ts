import { afterAll, beforeAll, describe, expect, test } from 'vitest';
import { makeWorld, type World } from './harness.ts';
import { openEvent, orderFor } from './scenes.ts';

describe('messages that fail', () => {
  let world: World;
  beforeAll(async () => {
    world = await makeWorld();
  });
  afterAll(() => world.close());
  const tray = async (state: 'coming' | 'sent' | 'failed' | 'held back') =>
    (await world.as('odalys')).call('GET /api/tray', { query: { state } as never });

  test('are tried again, given up, and sent by hand once the gateway works; once only', async () => {
    const odalys = await world.as('odalys');
    await odalys.call('PUT /api/standins', { body: { service: 'mail', mode: 'fails', remaining: null } });
    expect(await odalys.call('GET /api/standins')).toContainEqual({
      service: 'mail',
      mode: 'fails',
      remaining: null,
    });
    const event = await openEvent(world, { title: 'Fen Talk' });
    await world.anyone.call('POST /api/public/events/:slug/orders', {
      params: { slug: event.slug },
      body: orderFor(event, [{ given: 'Una', family: 'Tray' }]),
    });
    await world.runner.run();
    const waiting = (await tray('failed')).rows.find((r) => r.name === 'Una Tray')!;
    // Tried once, and again in five minutes.
    expect(waiting.attempts).toBe(1);
    expect(['2026-07-09T12:25:00.000Z', '2026-07-09T12:26:00.000Z']).toContain(waiting.nextTryAt);
    await world.moveTo('2026-07-10T12:00:00.000Z');
    const failed = (await tray('failed')).rows.find((r) => r.id === waiting.id)!;
    expect(failed).toMatchObject({ state: 'failed', attempts: 5, nextTryAt: null });
    await odalys.call('PUT /api/standins', { body: { service: 'mail', mode: 'works', remaining: null } });
    await world.runner.run();
    // Given up means given up, until somebody says so.
    expect((await tray('failed')).rows.map((r) => r.id)).toContain(waiting.id);
    await odalys.call('POST /api/messages/:id/retry', { params: { id: waiting.id }, body: {} });
    await world.runner.run();
    expect((await tray('sent')).rows.find((r) => r.id === waiting.id)).toMatchObject({ state: 'sent' });
    const again = await odalys.try('POST /api/messages/:id/retry', { params: { id: waiting.id }, body: {} });
    expect(again.problem).toMatchObject({ status: 409, code: 'not-failed' });
    const mails = await world.app.db.query<{ subject: string }>(
      "select subject from standin_mail where address = 'una.tray@harbourpost.example'",
    );
    expect(mails.map((m) => m.subject)).toEqual(['You are registered: Fen Talk']);
    const read = await odalys.call('GET /api/messages/:id', { params: { id: waiting.id } });
    expect(read).toMatchObject({ subject: 'You are registered: Fen Talk', name: 'Una Tray' });
    expect(read.body).toContain('Una');
  });

  test('is narrowed to one line or kind, counted by what there is, as far as one reaches', async () => {
    const odalys = await world.as('odalys');
    const whats = await odalys.call('GET /api/tray/whats', { query: { state: 'coming' } });
    const reminder = whats.find((w) => w.what === 'Reminder, a day before')!;
    expect(reminder).toMatchObject({ isLine: true });
    const only = await odalys.call('GET /api/tray', {
      query: { state: 'coming', what: 'Reminder, a day before' },
    });
    expect(only.rows).toHaveLength(reminder.count);
    expect(only.counts.coming).toBe(reminder.count);
    expect(new Set(only.rows.map((r) => r.line))).toEqual(new Set(['Reminder, a day before']));
    expect((await odalys.call('GET /api/tray', { query: { what: 'No such line' } })).rows).toEqual([]);
    // Whoever leads the crew hears of nothing else.
    const theirs = await (await world.as('imani')).call('GET /api/tray/whats', {
      query: { state: 'coming' },
    });
    expect(theirs.map((w) => w.what)).not.toContain('Reminder, a day before');
  });

  test('what is to come can be read as its recipient will get it', async () => {
    const odalys = await world.as('odalys');
    const planned = (await tray('coming')).rows.find((r) => r.name === 'Una Tray')!;
    expect(planned.state).toBe('planned');
    const read = await odalys.call('GET /api/messages/:id', { params: { id: planned.id } });
    expect(read.subject).toContain('Fen Talk');
    expect(read.body).not.toMatch(/\{\{|\}\}/u);
    expect((await odalys.try('GET /api/messages/:id', { params: { id: crypto.randomUUID() } })).status).toBe(
      404,
    );
  });
});
