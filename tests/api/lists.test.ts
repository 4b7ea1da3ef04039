import { afterAll, beforeAll, describe, expect, test } from 'vitest';
import type { Caller, World } from './harness.ts';
import { makeWorld } from './harness.ts';
import { saying } from './scenes.ts';

describe('lists of contacts, and writing to them', () => {
  let world: World;
  let odalys: Caller;
  const ids: Record<string, string> = {};
  beforeAll(async () => {
    world = await makeWorld();
    odalys = await world.as('odalys');
    for (const [given, family] of [
      ['Ada', 'Reed'],
      ['Ben', 'Reed'],
      ['Cleo', 'Marsh'],
      ['Dov', 'Sedge'],
    ] as const)
      ids[given] = (
        await odalys.call('POST /api/contacts', {
          body: { given, family, email: `${given.toLowerCase()}@fenmail.example` },
        })
      ).id;
  });
  afterAll(() => world.close());
  const say = (given: string, topic: 'newsletter' | 'invitations', granted: boolean) =>
    odalys.call('POST /api/contacts/:id/consents', {
      params: { id: ids[given]! },
      body: { topic, channel: 'email', granted },
    });
  const mail = async () =>
    world.app.db.query<{ address: string; subject: string; body: string }>(
      'select address, subject, body from standin_mail order by address',
    );

  test('views are kept for oneself or the team, opened by whoever may see them, and changed by name', async () => {
    const imani = await world.as('imani');
    const filter = { q: 'reed', sort: 'added', hidden: ['postal'] } as const;
    const { id } = await odalys.call('POST /api/views', {
      body: { name: 'Reeds', filter: { ...filter, hidden: [...filter.hidden] } },
    });
    await odalys.call('POST /api/views', {
      body: { name: 'For all', shared: true, filter: { kind: 'person' } },
    });
    expect((await odalys.call('GET /api/views')).map((v) => [v.name, v.shared, v.mine])).toEqual([
      ['For all', true, false],
      ['Reeds', false, true],
    ]);
    expect((await imani.call('GET /api/views')).map((v) => v.name)).toEqual(['For all']);
    const again = await odalys.call('POST /api/views', { body: { name: 'REEDS', filter: { q: 'marsh' } } });
    expect(again.id).toBe(id);
    expect((await odalys.call('GET /api/views'))[1]).toMatchObject({
      name: 'REEDS',
      filter: { q: 'marsh', tag: '', kind: null, segment: null, sort: 'name', reverse: false, hidden: [] },
    });
    expect((await imani.try('DELETE /api/views/:id', { params: { id } })).status).toBe(404);
    const team = (await imani.call('GET /api/views'))[0]!.id;
    expect((await imani.try('DELETE /api/views/:id', { params: { id: team } })).status).toBe(403);
    await odalys.call('DELETE /api/views/:id', { params: { id } });
    const nameless = await odalys.try('POST /api/views', { body: { name: ' ', filter: {} } });
    expect(nameless.problem.fields![0]!.message).toBe('Give the view a name.');
  });

  test('contacts are put into a segment by hand and taken out again; a living one is left to its questions', async () => {
    const { id } = await odalys.call('POST /api/segments', {
      body: { name: 'Boat keepers', ids: [ids.Ada!, ids.Ben!] },
    });
    const segment = await odalys.call('GET /api/segments/:id', { params: { id } });
    expect(segment).toMatchObject({ byHand: true, count: 2, sentence: 'People put together by hand.' });
    const put = (of: string[], remove = false) =>
      odalys.call('POST /api/segments/:id/members', { params: { id }, body: { ids: of, remove } });
    // Only whom it changed, so that undoing it takes nobody else out.
    expect((await put([ids.Ben!, ids.Cleo!])).changed).toEqual([ids.Cleo]);
    expect((await put([ids.Ada!, ids.Dov!], true)).changed).toEqual([ids.Ada]);
    const listed = await odalys.call('GET /api/contacts', { query: { segment: id } });
    expect(listed.contacts.map((c) => c.given)).toEqual(['Cleo', 'Ben']);
    const both = await odalys.call('GET /api/contacts', { query: { segment: id, q: 'reed' } });
    expect(both).toMatchObject({ total: 1, contacts: [{ given: 'Ben' }] });
    const asked = await odalys.try('PATCH /api/segments/:id', {
      params: { id },
      body: { segment: { all: [] } },
    });
    expect(asked.problem.fields![0]!.message).toContain('by hand');

    const living = await odalys.call('POST /api/segments', {
      body: { name: 'Everybody', segment: { all: [] } },
    });
    const refused = await odalys.try('POST /api/segments/:id/members', {
      params: { id: living.id },
      body: { ids: [ids.Ada!] },
    });
    expect(refused.problem.code).toBe('segment-lives');
    const filtered = await odalys.call('GET /api/contacts', { query: { segment: living.id, q: 'sedge' } });
    expect(filtered.contacts.map((c) => c.given)).toEqual(['Dov']);
  });

  test('the table is ordered as a whole, blanks last, and everybody a filter finds can be chosen', async () => {
    const list = async (query: object) =>
      (await odalys.call('GET /api/contacts', { query: { q: '', ...query } as never })).contacts.map(
        (c) => c.given,
      );
    const reeds = { q: 'e' };
    expect(await list({ ...reeds, sort: 'name' })).toEqual(['Cleo', 'Ada', 'Ben', 'Dov']);
    expect(await list({ ...reeds, sort: 'name', reverse: 'true' })).toEqual(['Dov', 'Ben', 'Ada', 'Cleo']);
    expect(await list({ ...reeds, sort: 'email' })).toEqual(['Ada', 'Ben', 'Cleo', 'Dov']);
    expect(await list({ ...reeds, sort: 'added' })).toEqual(['Dov', 'Cleo', 'Ben', 'Ada']);
    await odalys.call('PATCH /api/contacts/:id', {
      params: { id: ids.Ben! },
      body: { postalCode: 'B1X 1A1' },
    });
    await odalys.call('PATCH /api/contacts/:id', {
      params: { id: ids.Dov! },
      body: { postalCode: 'B9X 1A1' },
    });
    expect((await list({ ...reeds, sort: 'postal' })).slice(0, 2)).toEqual(['Ben', 'Dov']);
    expect((await list({ ...reeds, sort: 'postal', reverse: 'true' })).slice(0, 2)).toEqual(['Dov', 'Ben']);
    // Page by page it is one order.
    const pages = [
      await list({ sort: 'email', limit: 2 }),
      await list({ sort: 'email', limit: 2, offset: 2 }),
    ];
    expect(pages.flat()).toEqual((await list({ sort: 'email' })).slice(0, 4));
    const found = await odalys.call('GET /api/contacts/ids', { query: { q: 'reed' } });
    expect(found.ids.sort()).toEqual([ids.Ada, ids.Ben].sort());
  });

  test('hundreds of chosen contacts are taken along, as a table and as cards', async () => {
    const many = Array.from({ length: 600 }, () => crypto.randomUUID());
    const csv = await odalys.try('POST /api/contacts/chosen.csv', {
      body: { ids: [...many, ids.Ada!, ids.Cleo!] },
    });
    expect(csv.status).toBe(200);
    expect(String(csv.body).split('\r\n').filter(Boolean)).toHaveLength(3);
    const cards = await odalys.try('POST /api/contacts/chosen.vcf', { body: { ids: [...many, ids.Dov!] } });
    expect(String(cards.body).match(/^FN:.+$/gmu)).toEqual(['FN:Dov Sedge']);
    const nobody = await odalys.try('POST /api/contacts/chosen.csv', { body: { ids: [] } });
    expect(nobody.status).toBe(422);
  });

  test('a message says beforehand who gets it and who does not, and then does just that', async () => {
    await say('Ada', 'newsletter', true);
    await say('Ben', 'newsletter', false);
    await odalys.call('PATCH /api/contacts/:id', {
      params: { id: ids.Dov! },
      body: { emails: [{ email: 'ADA@fenmail.example' }] },
    });
    await say('Dov', 'newsletter', true);
    const wanted = {
      ids: [ids.Ada!, ids.Ben!, ids.Cleo!, ids.Dov!],
      topic: 'newsletter',
      ...saying('Reed news, {{name}}', 'Dear {{name}}, see {{own_link}}. {{organization}}'),
    } as const;
    const body = { ...wanted, ids: [...wanted.ids] };
    const preview = await odalys.call('POST /api/mailings/preview', { body });
    expect(preview).toMatchObject({
      planned: 1,
      sample: { subject: expect.stringContaining('Reed news') },
    });
    expect(preview.leftOut.map((l) => [l.why, l.people]).sort()).toEqual([
      ['never said yes to the newsletter', 1],
      ['said no to the newsletter', 1],
      ['somebody else at the same address gets the copy', 1],
    ]);
    const send = (more: object) =>
      odalys.try('POST /api/mailings', { body: { ...body, name: 'July news', expect: 1, ...more } });
    expect((await send({ expect: 4 })).problem.code).toBe('mailing-changed');
    expect((await send(saying('x', 'Dear {{nmae}}'))).problem.fields).toMatchObject([
      { path: 'said.body.en', message: '“nmae” is not a merge field.' },
    ]);
    expect((await send(saying(' ', 'x'))).problem.fields![0]!.path).toBe('said.subject.en');
    expect((await send({ ids: undefined })).problem.fields![0]!.path).toBe('ids');
    const sent = await send({});
    expect(sent.body).toMatchObject({ planned: 1, leftOut: 3 });
    await world.runner.run();
    const letters = await mail();
    expect(letters).toHaveLength(1);
    expect(letters[0]!.body).toMatch(
      /^Dear (?:Ada|Dov), see http:\/\/\S+\/own\/\S{10,}\. Brackenmere Wetland Trust\n\n-- \nYou get this because you said yes to our news\.\n[^\n]+\nNo more of these: \S+\/out\/\S+$/u,
    );
    // The link in it opens that person's own page.
    const token = /\/own\/(\S+)\./u.exec(letters[0]!.body)![1]!;
    const own = await world.anyone.call('GET /api/public/own/:token', { params: { token } });
    expect(own.person.given).toBe(letters[0]!.body.slice(5, 8));
    expect((await odalys.call('GET /api/mailings'))[0]).toMatchObject({
      name: 'July news',
      sent: 1,
      heldBack: 3,
      failed: 0,
    });
    const held = await odalys.call('GET /api/tray', { query: { state: 'held back' } });
    expect(held.rows.map((r) => r.whyNot)).toContain('said no to the newsletter');
    const lifeline = await odalys.call('GET /api/contacts/:id/lifeline', {
      params: { id: own.person.id },
      query: { kind: 'message' },
    });
    expect(lifeline.entries[0]!.detail).toContain('Reed news');
  });

  test('whoever says no between writing and sending gets nothing', async () => {
    const before = (await mail()).length;
    // The gateway takes nothing for now, so that both wait to be tried again.
    await odalys.call('PUT /api/standins', { body: { service: 'mail', mode: 'fails', remaining: 2 } });
    const { id: segmentId } = await odalys.call('POST /api/segments', {
      body: { name: 'Two', ids: [ids.Ben!, ids.Cleo!] },
    });
    await odalys.call('POST /api/mailings', {
      body: {
        name: 'Come along',
        segmentId,
        topic: 'invitations',
        ...saying('Reed Day', 'Come!'),
        expect: 2,
      },
    });
    await world.runner.run();
    const failed = await odalys.call('GET /api/tray', { query: { state: 'failed' } });
    expect(failed.counts.failed).toBe(2);
    await say('Cleo', 'invitations', false);
    await odalys.call('PATCH /api/contacts/:id', {
      params: { id: ids.Ben! },
      body: { deceasedOn: '2026-07-08' },
    });
    await world.moveTo('2026-07-12T12:00:00Z');
    expect(await mail()).toHaveLength(before);
    const held = await odalys.call('GET /api/tray', { query: { state: 'held back' } });
    expect(
      held.rows
        .filter((r) => r.reason === 'Come along')
        .map((r) => r.whyNot)
        .sort(),
    ).toEqual(['died', 'said no to this since it was written']);
  });
});
