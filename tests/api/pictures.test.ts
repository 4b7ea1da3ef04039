import sharp from 'sharp';
import { afterAll, beforeAll, describe, expect, test } from 'vitest';
import { type Caller, makeWorld, type World } from './harness.ts';
import { openEvent } from './scenes.ts';

let world: World;
let odalys: Caller;
beforeAll(async () => {
  world = await makeWorld();
  odalys = await world.as('odalys');
});
afterAll(() => world.close());

/** A picture of one colour with a red right half. */
const drawn = (width: number, height: number) =>
  sharp({ create: { width, height, channels: 3, background: '#9DB8AD' } }).composite([
    {
      input: {
        create: { width: Math.floor(width / 2), height, channels: 3, background: '#ff0000' },
      },
      left: Math.ceil(width / 2),
      top: 0,
    },
  ]);
const bringIn = (bytes: Buffer, more: object = {}, by: Caller = odalys) =>
  by.try('POST /api/pictures', {
    body: { content: bytes.toString('base64'), alt: { en: 'Two canoes' }, ...more },
  });
const fetched = async (id: string, size: string) => {
  const response = await fetch(`${world.origin}/api/public/pictures/${id}/${size}`);
  return {
    status: response.status,
    headers: response.headers,
    body: Buffer.from(await response.arrayBuffer()),
  };
};
const reasonOf = async (bytes: Buffer, more: object = {}) => (await bringIn(bytes, more)).problem.fields;

describe('pictures', () => {
  test('are kept in several widths and two kinds, without what the camera wrote into them', async () => {
    const bytes = await drawn(2000, 1000)
      .withExif({ IFD0: { Copyright: 'Odalys' }, IFD3: { GPSLatitude: '44/1' } })
      .jpeg()
      .toBuffer();
    const kept = await bringIn(bytes);
    expect(kept.status).toBe(200);
    expect(kept.body).toMatchObject({ width: 1600, height: 800, focusX: 0.5, alt: { en: 'Two canoes' } });
    const { id } = kept.body;
    for (const [size, type, width] of [
      ['400.webp', 'image/webp', 400],
      ['800.jpg', 'image/jpeg', 800],
      ['1600.webp', 'image/webp', 1600],
      // Asked for a width there is none of: the next wider, else the widest.
      ['500.jpg', 'image/jpeg', 800],
      ['9999.jpg', 'image/jpeg', 1600],
    ] as const) {
      const { headers, body } = await fetched(id, size);
      expect(headers.get('content-type')).toBe(type);
      expect(headers.get('cache-control')).toContain('immutable');
      const metadata = await sharp(body).metadata();
      expect(metadata.width).toBe(width);
      expect(metadata.exif).toBeUndefined();
    }
    expect((await fetched(id, '800.svg')).status).toBe(404);
    expect((await fetched(crypto.randomUUID(), '800.jpg')).status).toBe(404);
  });

  test('stand upright, whichever way the camera was held', async () => {
    const lying = await drawn(300, 200).withMetadata({ orientation: 6 }).jpeg().toBuffer();
    expect((await bringIn(lying)).body).toMatchObject({ width: 200, height: 300 });
  });

  test('are cut around what matters, and know where that is afterwards', async () => {
    const bytes = await drawn(600, 300).png().toBuffer();
    const { body } = await bringIn(bytes, { shape: 'square', focus: { x: 1, y: 0.5 } });
    expect(body).toMatchObject({ width: 300, height: 300, focusX: 1, focusY: 0.5 });
    // The right half is red, and is what is left.
    const { channels } = await sharp((await fetched(body.id, '400.jpg')).body).stats();
    expect(channels[0]!.mean).toBeGreaterThan(240);
    expect(channels[1]!.mean).toBeLessThan(20);
  });

  test('the same picture brought in twice, also at once, is one', async () => {
    const bytes = await drawn(50, 40).png().toBuffer();
    const [a, b] = await Promise.all([bringIn(bytes), bringIn(bytes)]);
    const later = await bringIn(bytes);
    expect(new Set([a.body.id, b.body.id, later.body.id]).size).toBe(1);
  });

  test('what is no picture, broken, too large or would fill the memory is refused with a reason', async () => {
    const svg = Buffer.from(
      '<svg xmlns="http://www.w3.org/2000/svg"><script>alert(1)</script><rect width="9" height="9"/></svg>',
    );
    const html = Buffer.from('<html><script>alert(1)</script></html>');
    const png = await drawn(80, 80).png().toBuffer();
    for (const bytes of [svg, html])
      expect(await reasonOf(bytes)).toMatchObject([{ path: 'content', code: 'no-picture-kind' }]);
    expect(await reasonOf(png.subarray(0, png.length / 2))).toMatchObject([{ code: 'picture-broken' }]);
    const huge = await sharp({ create: { width: 10_000, height: 10_000, channels: 3, background: '#fff' } })
      .png({ compressionLevel: 9 })
      .toBuffer();
    expect(huge.length).toBeLessThan(2_000_000);
    expect(await reasonOf(huge)).toMatchObject([
      { code: 'too-many-pixels', message: 'The picture has more than 50 megapixels.' },
    ]);
    // As large as its beginning says it is a picture.
    const long = Buffer.concat([png, Buffer.alloc(20_000_001 - png.length)]);
    expect(await reasonOf(long)).toMatchObject([{ code: 'file-over-20' }]);
    expect((await bringIn(Buffer.alloc(40_000_000))).status).toBe(413);
    expect(await reasonOf(png, { alt: { en: ' ' } })).toMatchObject([{ path: 'alt.en', code: 'alt-needed' }]);
  });

  test('of a moving picture the first is taken', async () => {
    const frame = (background: string) =>
      sharp({ create: { width: 20, height: 20, channels: 3, background } })
        .png()
        .toBuffer();
    const gif = await sharp([await frame('#00ff00'), await frame('#ff0000')], { join: { animated: true } })
      .gif()
      .toBuffer();
    const { body } = await bringIn(gif);
    expect(body).toMatchObject({ width: 20, height: 20 });
    const { channels } = await sharp((await fetched(body.id, '20.jpg')).body).stats();
    expect(channels[1]!.mean).toBeGreaterThan(200);
  });

  test('on an event they reach its page; one that is not there is refused; those used before can be chosen again', async () => {
    const event = await openEvent(world, { title: 'Pictured' });
    const { body: banner } = await bringIn(await drawn(900, 450).webp().toBuffer());
    const save = async (change: object) => {
      const { version } = await odalys.call('GET /api/events/:id', { params: { id: event.id } });
      return odalys.try('PATCH /api/events/:id', { params: { id: event.id }, body: { version, change } });
    };
    expect((await save({ bannerId: banner.id, gallery: [banner.id] })).status).toBe(200);
    expect((await save({ gallery: [crypto.randomUUID()] })).problem.fields).toMatchObject([
      { code: 'picture-gone' },
    ]);
    const shown = await world.anyone.call('GET /api/public/events/:slug', { params: { slug: event.slug } });
    expect(shown).toMatchObject({ bannerId: banner.id, gallery: [banner.id], pictures: [{ id: banner.id }] });
    await odalys.call('PATCH /api/pictures/:id', {
      params: { id: banner.id },
      body: { alt: { en: 'The landing at dawn', fr: 'Le quai à l’aube' }, focus: { x: 0.2, y: 0.9 } },
    });
    const { pictures } = await (await world.as('piers')).call('GET /api/pictures');
    expect(pictures.find((p) => p.id === banner.id)).toMatchObject({
      alt: { en: 'The landing at dawn' },
      by: 'Odalys Ferrant',
    });
    const copy = await odalys.call('POST /api/events', { body: { publicTitle: 'Again', from: event.id } });
    expect((await odalys.call('GET /api/events/:id', { params: { id: copy.id } })).plan.bannerId).toBe(
      banner.id,
    );
  });

  test('another unit’s lead sees those on public pages only, and describes none of them', async () => {
    const piers = await world.as('piers');
    const seen = async (by: Caller) => (await by.call('GET /api/pictures')).pictures.map((p) => p.id);
    const bytes = await drawn(70, 70).png().toBuffer();
    const { body: drafted } = await bringIn(bytes, { alt: { en: 'For a surprise in May' } });
    expect(await seen(odalys)).toContain(drafted.id);
    expect(await seen(piers)).not.toContain(drafted.id);
    const say = (id: string, by: Caller) =>
      by.try('PATCH /api/pictures/:id', { params: { id }, body: { alt: { en: 'Something else' } } });
    expect((await say(drafted.id, piers)).problem.code).toBe('not-your-picture');
    // The same file of another unit is another picture: nothing is learnt of the first, and what was typed is kept.
    const { body: own } = await bringIn(bytes, { alt: { en: 'Our canoe' } }, piers);
    expect(own).toMatchObject({ alt: { en: 'Our canoe' }, by: 'Piers Lachance' });
    expect(own.id).not.toBe(drafted.id);
    expect(await seen(piers)).toContain(own.id);
    expect((await say(own.id, piers)).status).toBe(200);
    expect((await say(own.id, odalys)).status).toBe(200);
  });

  test('are brought in by those who plan events, and nobody else', async () => {
    const bytes = await drawn(60, 60).png().toBuffer();
    for (const who of ['marit', 'imani', 'door'] as const)
      expect((await bringIn(bytes, {}, await world.as(who))).status).toBe(403);
    expect((await bringIn(bytes, {}, world.anyone)).status).toBe(401);
  });
});
