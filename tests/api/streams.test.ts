import { afterAll, beforeAll, describe, expect, test } from 'vitest';
import { demoPassword } from '#server/staff/demoSignIns.ts';
import { makeWorld, type World } from './harness.ts';
import { bringIn, openEvent, orderFor } from './scenes.ts';

/** Listens to a stream of server-sent events as a page does. */
async function listen(world: World, path: string) {
  const signedIn = await fetch(`${world.origin}/api/sign-in`, {
    method: 'POST',
    headers: { 'content-type': 'application/json', origin: world.origin },
    body: JSON.stringify({ email: 'odalys@brackenmere.example', password: demoPassword }),
  });
  const cookie = signedIn.headers.get('set-cookie')!.split(';')[0]!;
  const stop = new AbortController();
  const response = await fetch(`${world.origin}${path}`, { headers: { cookie }, signal: stop.signal });
  const reader = response.body!.pipeThrough(new TextDecoderStream()).getReader();
  const seen: { event: string; figures: Record<string, number> }[] = [];
  let text = '';
  let wake: () => void = () => undefined;
  const reading = (async () => {
    for (;;) {
      const { done, value } = await reader.read();
      if (done) return;
      text += value;
      for (let end = text.indexOf('\n\n'); end >= 0; end = text.indexOf('\n\n')) {
        const [event, data] = text.slice(0, end).split('\n');
        text = text.slice(end + 2);
        if (event?.startsWith('event: '))
          seen.push({ event: event.slice(7), figures: JSON.parse(data!.slice(6)) });
      }
      wake();
    }
  })().catch(() => undefined);
  return {
    response,
    seen,
    /** Waits until what was seen satisfies a condition. */
    until: async (holds: () => boolean) => {
      while (!holds())
        await new Promise<void>((resolve) => {
          wake = resolve;
        });
    },
    close: async () => {
      stop.abort();
      await reading;
    },
  };
}

describe('open pages hear of changes', () => {
  let world: World;
  beforeAll(async () => {
    world = await makeWorld();
  });
  afterAll(() => world.close());

  test('a registration is heard of once it is kept, on the page of its event only', async () => {
    const event = await openEvent(world, { title: 'Heard' });
    const other = await openEvent(world, { title: 'Not Heard' });
    const [page, elsewhere] = [
      await listen(world, `/api/events/${event.id}/stream`),
      await listen(world, `/api/events/${other.id}/stream`),
    ];
    expect(page.response.headers.get('content-type')).toContain('text/event-stream');
    await page.until(() => page.seen.some((s) => s.event === 'ready'));
    await elsewhere.until(() => elsewhere.seen.some((s) => s.event === 'ready'));
    const refused = await world.anyone.try('POST /api/public/events/:slug/orders', {
      params: { slug: event.slug },
      body: { ...orderFor(event, [{ given: 'Ada', family: 'Heard' }]), lines: [] },
    });
    expect(refused.status).toBe(422);
    expect(page.seen.filter((s) => s.event === 'changed')).toEqual([]);
    await world.anyone.call('POST /api/public/events/:slug/orders', {
      params: { slug: event.slug },
      body: orderFor(event, [{ given: 'Ada', family: 'Heard' }]),
    });
    await page.until(() => page.seen.some((s) => s.event === 'changed'));
    expect(elsewhere.seen.map((s) => s.event)).toEqual(['ready']);
    await Promise.all([page.close(), elsewhere.close()]);
  });

  test('applying a file says how far it is, up to the end, and so does taking it back', async () => {
    const rows = Array.from({ length: 400 }, (_, n) => `Far${n},Stream,far${n}@stream.example`);
    const { id } = await bringIn(world, `First name,Last name,Email\n${rows.join('\n')}\n`, 'far.csv');
    const page = await listen(world, `/api/imports/${id}/stream`);
    await page.until(() => page.seen.length > 0);
    const odalys = await world.as('odalys');
    await odalys.call('POST /api/imports/:id/apply', { params: { id } });
    const figures = () => page.seen.filter((s) => s.event === 'changed').map((s) => s.figures);
    await page.until(() => figures().some((f) => f.done === f.all));
    const done = figures().map((f) => f.done!);
    expect(done).toEqual([...done].sort((a, b) => a - b));
    expect(figures().every((f) => f.done! <= f.all!)).toBe(true);
    const before = page.seen.length;
    await odalys.call('POST /api/imports/:id/undo', { params: { id } });
    await page.until(() => page.seen.slice(before).some((s) => s.figures.done === 400));
    await page.close();
  });

  test('a stranger hears nothing', async () => {
    const event = await openEvent(world, { title: 'Private' });
    const reply = await world.anyone.try('GET /api/events/:id/stream', { params: { id: event.id } });
    expect(reply.status).toBe(401);
  });
});
