import { afterAll, beforeAll, describe, expect, test } from 'vitest';
import { belongings, copies } from '#server/contacts/merging.ts';
import { lookingOf } from '#server/contacts/pairs.ts';
import { makeWorld, type World } from './harness.ts';
import { openEvent, orderFor } from './scenes.ts';

describe('the same person twice', () => {
  let world: World;
  beforeAll(async () => {
    world = await makeWorld();
  });
  afterAll(() => world.close());
  const odalys = () => world.as('odalys');
  const add = async (given: string, family: string, more: object = {}) =>
    (await (await odalys()).call('POST /api/contacts', { body: { given, family, ...more } })).id;
  const record = async (id: string) => (await odalys()).call('GET /api/contacts/:id', { params: { id } });
  const pairs = async () => (await odalys()).call('GET /api/pairs', { query: { limit: 200 } });
  const register = (
    event: Awaited<ReturnType<typeof openEvent>>,
    given: string,
    family: string,
    email: string,
  ) =>
    world.anyone.call('POST /api/public/events/:slug/orders', {
      params: { slug: event.slug },
      body: orderFor(event, [{ given, family }], { email }),
    });
  /** Every row that belongs to a contact, table by table. */
  const everythingOf = async (id: string) => {
    const rows: Record<string, unknown[]> = {};
    for (const b of belongings as readonly { table: string; column: string; id?: string }[]) {
      if (b.table === 'audit') continue;
      const found = await world.app.db.query(
        `select ${b.id ?? 'id'} as id from ${b.table} where ${b.column} = $1 order by 1`,
        [id],
      );
      if (found.length) rows[`${b.table}.${b.column}`] = found.map((r) => r.id);
    }
    return rows;
  };

  test('every column that points at a contact is known to merging', async () => {
    const columns = await world.app.db.query<{ at: string }>(
      `select c.conrelid::regclass || '.' || a.attname as at from pg_constraint c
         join pg_attribute a on a.attrelid = c.conrelid and a.attnum = any(c.conkey)
       where c.contype = 'f' and c.confrelid = 'contacts'::regclass order by 1`,
    );
    const known = new Set([
      ...belongings.map((b) => `${b.table}.${b.column}`),
      ...copies.map((c) => `${c.table}.contact_id`),
    ]);
    // What is derived from the contact, or is about the merge itself, or about what an import did, stays.
    const staying = [
      'contact_keys.contact_id',
      'contact_totals.contact_id',
      'contacts.merged_into',
      'merges.kept',
      'merges.merged',
      'pairs.contact_a',
      'pairs.contact_b',
      'participation.contact_id',
      // Whoever is signed in is looked up by the contact that theirs was merged into.
      'visitor_sessions.contact_id',
      // What is still to be planned is planned by who has it then.
      'year_round_stale.contact_id',
    ];
    expect(columns.map((c) => c.at).filter((at) => !known.has(at))).toEqual(staying);
  });

  test('somebody who registers unsurely becomes a contact of their own and is put up for a decision', async () => {
    const event = await openEvent(world, { title: 'Reed Day' });
    const known = await add('Katherine', 'Quill', { phone: '902 555 0171' });
    await register(event, 'Kate', 'Quill', 'kate.quill@fenmail.example');
    const { pairs: open } = await pairs();
    const pair = open.find((p) => [p.a.id, p.b.id].includes(known))!;
    expect(pair.findings.map((f) => f.words)).toContain(
      'given names that are short for each other, Kate and Katherine',
    );
    expect(pair.held).toBe('no email, telephone or birth date confirms the name');
    const other = pair.a.id === known ? pair.b : pair.a;
    expect(other).toMatchObject({ given: 'Kate', seats: 1 });

    // Merged: the seat, order and messages come over, the old link leads to the one that stays.
    const before = { known: await everythingOf(known), other: await everythingOf(other.id) };
    const { mergeId } = await (await odalys()).call('POST /api/pairs/:id/decide', {
      params: { id: pair.id },
      body: { decision: 'same', keep: known },
    });
    const merged = await record(other.id);
    expect(merged).toMatchObject({ id: known, given: 'Katherine', phones: [{ phone: '+19025550171' }] });
    expect(merged.emails.map((e) => e.email)).toEqual(['kate.quill@fenmail.example']);
    expect(merged.totals.coming).toBe(1);
    expect(await everythingOf(other.id)).toEqual({});
    const search = await (await odalys()).call('GET /api/search', { query: { q: 'quill' } });
    expect(search.contacts.map((c) => c.id)).toEqual([known]);
    const lifeline = await (await odalys()).call('GET /api/contacts/:id/lifeline', {
      params: { id: other.id },
      query: {},
    });
    expect(lifeline.entries.map((e) => e.text)).toContain('merged Kate Quill into this contact');

    // Taken apart: exactly what was.
    const back = await (await odalys()).call('POST /api/merges/:id/undo', { params: { id: mergeId! } });
    expect(back).toMatchObject({ contactId: other.id, since: 0, left: [] });
    expect(await everythingOf(known)).toEqual(before.known);
    expect(await everythingOf(other.id)).toEqual(before.other);
    expect(await record(known)).toMatchObject({ id: known, emails: [] });
    expect((await record(other.id)).id).toBe(other.id);
    const again = await (await odalys()).try('POST /api/merges/:id/undo', { params: { id: mergeId! } });
    expect(again.problem.code).toBe('merge-undone');
    expect((await pairs()).pairs.map((p) => p.id)).not.toContain(pair.id);
  });

  test('what came since goes to the one whose name it carries, later edits stay', async () => {
    const caller = await odalys();
    const event = await openEvent(world, { title: 'Heron Count' });
    const zora = await add('Zora', 'Yates', { email: 'yates@fenmail.example', birthDate: '1970-02-03' });
    const noor = await add('Noor', 'Yates', { phone: '902 555 0172', street: '4 Chapel Hill' });
    const { mergeId } = await caller.call('POST /api/contacts/:id/merge', {
      params: { id: zora },
      body: { other: noor },
    });
    expect(await record(zora)).toMatchObject({ street: '4 Chapel Hill', birthDate: '1970-02-03' });
    await register(event, 'Noor', 'Yates', 'yates@fenmail.example');
    await world.app.db.query(
      "update registrations set contact_id = $1 where given_name = 'Noor' and family_name = 'Yates'",
      [zora],
    );
    await world.app.db.query("update orders set buyer_contact_id = $1 where buyer_given = 'Noor'", [zora]);
    await caller.call('PATCH /api/contacts/:id', { params: { id: zora }, body: { street: '9 Harbour St' } });
    const back = await caller.call('POST /api/merges/:id/undo', { params: { id: mergeId } });
    expect(back).toMatchObject({ since: 2, left: ['street was changed since and stays'] });
    expect((await record(noor)).totals.coming).toBe(1);
    expect((await record(zora)).totals.coming).toBe(0);
    expect(await record(zora)).toMatchObject({ street: '9 Harbour St' });
  });

  test('consent never gets wider, doubled shifts and emails stand once, and all come back', async () => {
    const caller = await odalys();
    const event = await openEvent(world, { title: 'Boardwalk' });
    const a = await add('Hester', 'Cole', { email: 'hester@fenmail.example' });
    const b = await add('Hester', 'Cole', { phone: '902 555 0173', doNotContact: true });
    const { id: shift } = await caller.call('POST /api/events/:id/shifts', {
      params: { id: event.id },
      body: {
        role: 'Carpenter',
        place: '',
        startsLocal: '2026-08-08T09:00',
        endsLocal: '2026-08-08T12:00',
        wished: 3,
        publicSignUp: true,
      },
    });
    for (const contactId of [a, b])
      await world.app.db.query(
        "insert into assignments (id, shift_id, contact_id, state, source, clashes, made_at) values ($1, $2, $3, 'agreed', 'staff', '[]', now())",
        [crypto.randomUUID(), shift, contactId],
      );
    await world.app.db.query(
      "insert into contact_emails (id, contact_id, email, email_key) values ($1, $2, 'Hester@fenmail.example', 'hester@fenmail.example')",
      [crypto.randomUUID(), b],
    );
    const before = await everythingOf(b);
    const { mergeId } = await caller.call('POST /api/contacts/:id/merge', {
      params: { id: a },
      body: { other: b },
    });
    const merged = await record(a);
    expect(merged.doNotContact).toBe(true);
    expect(merged.emails).toHaveLength(1);
    const states = () =>
      world.app.db.query<{ contactId: string; state: string }>(
        'select contact_id, state from assignments where shift_id = $1 order by state',
        [shift],
      );
    expect(await states()).toEqual([
      { contactId: a, state: 'agreed' },
      { contactId: a, state: 'dropped' },
    ]);
    await caller.call('POST /api/merges/:id/undo', { params: { id: mergeId } });
    expect(await everythingOf(b)).toEqual(before);
    expect((await states()).map((s) => s.state)).toEqual(['agreed', 'agreed']);
    expect((await record(a)).doNotContact).toBe(false);
  });

  test('nobody is merged into themself, and a merge under a newer one has to wait', async () => {
    const caller = await odalys();
    const [a, b, c] = [await add('Una', 'Oakes'), await add('Una', 'Oaks'), await add('Oona', 'Oakes')];
    const itself = await caller.try('POST /api/contacts/:id/merge', {
      params: { id: a },
      body: { other: a },
    });
    expect(itself.problem).toMatchObject({ status: 409, code: 'merge-itself' });
    const first = await caller.call('POST /api/contacts/:id/merge', {
      params: { id: b },
      body: { other: c },
    });
    const second = await caller.call('POST /api/contacts/:id/merge', {
      params: { id: a },
      body: { other: b },
    });
    // An old link leads on through both.
    expect((await record(c)).id).toBe(a);
    const early = await caller.try('POST /api/merges/:id/undo', { params: { id: first.mergeId } });
    expect(early.problem.code).toBe('merge-later');
    await caller.call('POST /api/merges/:id/undo', { params: { id: second.mergeId } });
    await caller.call('POST /api/merges/:id/undo', { params: { id: first.mergeId } });
    expect(await Promise.all([a, b, c].map(async (id) => (await record(id)).id))).toEqual([a, b, c]);
    const twice = await caller.try('POST /api/contacts/:id/merge', {
      params: { id: a },
      body: { other: crypto.randomUUID() },
    });
    expect(twice.status).toBe(404);
  });

  test('all contacts are compared in the background; a decision is never asked again', async () => {
    const caller = await odalys();
    const look = async () => {
      await caller.call('POST /api/pairs/look', {});
      // From the first moment on a page sees that it is under way.
      const { looking } = await pairs();
      expect(looking.running || looking.done > 0).toBe(true);
      while (lookingOf(world.app).running || (await pairs()).looking.done === 0)
        await new Promise((resolve) => setImmediate(resolve));
    };
    await world.app.db.query('delete from pairs');
    const senior = await add('Maria', 'Marsh', {
      phone: '902 555 0174',
      street: '7 Heronry Cl',
      postalCode: 'B1A 2C3',
    });
    const junior = await add('Marie', 'Marsh', {
      phone: '902 555 0174',
      street: '7 Heronry Cl',
      postalCode: 'B1A 2C3',
    });
    await look();
    const found = (await pairs()).pairs.find(
      (p) => [p.a.id, p.b.id].sort().join() === [senior, junior].sort().join(),
    )!;
    expect(found.held).not.toBeNull();
    await caller.call('POST /api/pairs/:id/decide', {
      params: { id: found.id },
      body: { decision: 'household' },
    });
    expect((await record(senior)).related).toContainEqual(
      expect.objectContaining({ relation: 'same household', contactId: junior }),
    );
    await look();
    expect((await pairs()).pairs.map((p) => p.id)).not.toContain(found.id);
    // Merged into another record, what was decided about them stays decided.
    const twin = await add('Maria', 'Marsh-Holt');
    const { mergeId } = await caller.call('POST /api/contacts/:id/merge', {
      params: { id: twin },
      body: { other: senior, chosen: {} },
    });
    const carried = await world.app.db.query<{ state: string }>(
      'select state from pairs where (contact_a = $1 and contact_b = $2) or (contact_a = $2 and contact_b = $1)',
      [twin, junior],
    );
    expect(carried).toEqual([{ state: 'household' }]);
    await caller.call('POST /api/merges/:id/undo', { params: { id: mergeId } });
    await caller.call('POST /api/pairs/:id/reopen', { params: { id: found.id } });
    expect((await pairs()).pairs.map((p) => p.id)).toContain(found.id);
  });

  test('pairs that are surely the same are merged together; the lines can be moved', async () => {
    const caller = await odalys();
    await world.app.db.query('delete from pairs');
    const one = await add('Petra', 'Dunlin', { phone: '902 555 0175' });
    const two = crypto.randomUUID();
    const three = crypto.randomUUID();
    for (const id of [two, three])
      await world.app.db.query(
        `insert into contacts (id, given_name, family_name, source, created_at, updated_at) values ($1, 'PETRA', 'Dunlin', 'a list', now(), now())`,
        [id],
      );
    const alike = (a: string, b: string, probability: number) =>
      world.app.db.query(
        "insert into pairs (id, contact_a, contact_b, probability, outcome, findings, found_by, found_at) values ($1, least($2::uuid, $3::uuid), greatest($2::uuid, $3::uuid), $4, 'same', '[]', 'test', now())",
        [crypto.randomUUID(), a, b, probability],
      );
    await alike(one, two, 0.999);
    await alike(two, three, 0.998);
    const before = await pairs();
    expect(before.sure).toEqual([0.999, 0.998]);
    expect(before.histogram[99]).toBe(2);
    const wrong = await caller.try('PUT /api/pairs/thresholds', { body: { same: 0.6, look: 0.8 } });
    expect(wrong.problem.fields![0]!.path).toBe('look');
    await caller.call('PUT /api/pairs/thresholds', { body: { same: 0.97, look: 0.2 } });
    expect((await pairs()).thresholds).toEqual({ same: 0.97, look: 0.2 });
    const result = await caller.call('POST /api/pairs/merge-sure', { body: { from: 0.97 } });
    expect(result.merged).toBe(1);
    expect((await record(two)).id).toBe(one);
    // Nobody is chained to the first through the second: that is looked at anew.
    expect((await record(three)).id).toBe(three);
  });
});
