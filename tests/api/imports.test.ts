import { readFileSync } from 'node:fs';
import { afterAll, beforeAll, describe, expect, test } from 'vitest';
import { resumeChecks, stopChecks } from '#server/imports/checking.ts';
import { resumeImports } from '#server/imports/commands.ts';
import { makeWorld, type World } from './harness.ts';
import { bringIn, checked, openEvent, orderFor } from './scenes.ts';

const file = (name: string) => readFileSync(`tests/data/${name}`);
const sum = (counts: Record<string, number>) => Object.values(counts).reduce((n, x) => n + x, 0);

describe('bringing people in', () => {
  let world: World;
  beforeAll(async () => {
    world = await makeWorld();
  });
  afterAll(() => world.close());
  const apply = async (id: string) =>
    (await world.as('odalys')).call('POST /api/imports/:id/apply', { params: { id } });
  const rowsOf = async (id: string, query: object = {}) =>
    (
      await (
        await world.as('odalys')
      ).call('GET /api/imports/:id/rows', {
        params: { id },
        query: query as never,
      })
    ).rows;
  const contacts = async () =>
    (await world.app.db.query<{ n: number }>('select count(*)::int as n from contacts'))[0]!.n;

  test('five lists of one organization become one record of every person', async () => {
    const before = await contacts();
    let rows = 0;
    for (const name of [
      'members.csv',
      'newsletter.csv',
      'supper-guests.csv',
      'volunteers.tsv',
      'phone.vcf',
    ]) {
      const summary = await bringIn(world, file(name), name);
      expect(summary).toMatchObject({ state: 'checked', stale: false });
      rows += sum(summary.counts);
      expect(summary.doneRows).toBe(summary.allRows);
      expect((await apply(summary.id)).state).toBe('applied');
    }
    expect(rows).toBe(383 + 328 + 137 + 165 + 113);
    const made = (await contacts()) - before;
    // Far fewer people than rows, and not so few that families were thrown together.
    expect(made).toBeLessThan(rows * 0.75);
    expect(made).toBeGreaterThan(383);
    const odalys = await world.as('odalys');
    const found = await odalys.call('GET /api/search', { query: { q: 'nettle ama' } });
    expect(found.contacts[0]).toMatchObject({ given: 'Amara', family: 'Nettle', phone: '+19025550161' });
    const { related } = await odalys.call('GET /api/contacts/:id', { params: { id: found.contacts[0]!.id } });
    expect(related).toContainEqual(
      expect.objectContaining({
        relation: 'in an emergency',
        name: 'Quinlan Rushbrook',
        phone: '+12505550164',
      }),
    );
    // The emergency contact's telephone is not Amara's.
    const taken = await world.app.db.query(
      "select 1 from contact_phones where phone = '+12505550164' and contact_id = $1",
      [found.contacts[0]!.id],
    );
    expect(taken).toHaveLength(0);
  });

  test('the same file a second time changes nothing', async () => {
    const before = await contacts();
    for (const name of ['members.csv', 'phone.vcf']) {
      const again = await bringIn(world, file(name), name);
      expect(again.counts).toMatchObject({ new: 0, changes: 0 });
      expect(again.appliedBefore).not.toBeNull();
      await apply(again.id);
    }
    expect(await contacts()).toBe(before);
  });

  test('somebody who uses a family address stays another person of that household', async () => {
    const guests = await bringIn(world, file('guest-list.csv'), 'guest-list.csv');
    const michael = (await rowsOf(guests.id)).find((r) => r.name === 'Michael Zielinski')!;
    expect(['new', 'look', 'same', 'changes']).toContain(michael.verdict);
    expect(michael.contactName ?? '').not.toMatch(/^(Ted|Theodore)/u);
  });

  test('changes are shown field by field, and the choices decide', async () => {
    const odalys = await world.as('odalys');
    await odalys.call('POST /api/contacts', {
      body: { given: 'Selma', family: 'Sorrel', email: 'selma@fenmail.example', street: '1 Chapel Hill' },
    });
    const { id } = await bringIn(
      world,
      'Name,Email,Phone,Street,Newsletter\nSelma Sorrel,selma@fenmail.example,902 555 0117,9 Mill Pond Ave,yes\n',
    );
    const [row] = await rowsOf(id);
    expect(row).toMatchObject({ verdict: 'changes', contactName: 'Selma Sorrel' });
    expect(row!.changes.map((c) => [c.field, c.before, c.after, c.applied])).toEqual([
      ['phone', null, '+19025550117', true],
      ['address', '1 Chapel Hill', '9 Mill Pond Ave', false],
      ['newsletter', null, 'yes', false],
    ]);
    const { mapping } = await odalys.call('GET /api/imports/:id', { params: { id } });
    await odalys.call('PUT /api/imports/:id/mapping', {
      params: { id },
      body: { ...mapping, choices: { policies: { address: 'take theirs' }, widenConsent: true } },
    });
    await checked(world, id);
    expect((await rowsOf(id))[0]!.changes.every((c) => c.applied)).toBe(true);
    await apply(id);
    const selma = (await odalys.call('GET /api/search', { query: { q: 'selma sorrel' } })).contacts[0]!;
    const record = () => odalys.call('GET /api/contacts/:id', { params: { id: selma.id } });
    expect(await record()).toMatchObject({ street: '9 Mill Pond Ave', phones: [{ phone: '+19025550117' }] });
    const consent = () =>
      world.app.db.query<{ granted: boolean; source: string }>(
        'select granted, source from consents where contact_id = $1',
        [selma.id],
      );
    expect(await consent()).toEqual([{ granted: true, source: 'import of list.csv' }]);

    const withThatPhone = async () =>
      (await odalys.call('GET /api/contacts', { query: { q: '555 0117' } })).contacts.map((c) => c.id);
    expect(await withThatPhone()).toContain(selma.id);

    // A later edit is left alone by undo, and named.
    await odalys.call('PATCH /api/contacts/:id', {
      params: { id: selma.id },
      body: { street: '12 Sluice Lane' },
    });
    const undone = await odalys.call('POST /api/imports/:id/undo', { params: { id } });
    expect(undone).toMatchObject({ removed: 0, restored: 2 });
    expect(undone.kept).toEqual(['Selma Sorrel: street was changed since and stays']);
    expect(await record()).toMatchObject({ street: '12 Sluice Lane', phones: [] });
    expect(await consent()).toEqual([]);
    // What was taken back finds nobody any more.
    expect(await withThatPhone()).not.toContain(selma.id);
  });

  test('cells are put right in place, rows left out, and who somebody is can be said', async () => {
    const odalys = await world.as('odalys');
    const vera = await odalys.call('POST /api/contacts', { body: { given: 'Vera', family: 'Vane' } });
    const { id } = await bringIn(
      world,
      'Name,Email\n,nameless@fenmail.example\nVera Vane,vera@fenmail.example\nZeno Alder,zeno.alder@fenmail.example\n',
    );
    expect((await rowsOf(id)).map((r) => r.verdict)).toEqual(['rejected', 'look', 'new']);
    const csv = await odalys.try('GET /api/imports/:id/rejected.csv', { params: { id } });
    expect(String(csv.body)).toContain(
      'nameless@fenmail.example,2,"There is no name in this row, and nobody has this email."',
    );
    const put = (line: number, body: object) =>
      odalys.call('PATCH /api/imports/:id/rows/:line', { params: { id, line }, body });
    expect(await put(2, { cells: { 0: 'Nils Nobody' } })).toMatchObject({
      verdict: 'new',
      name: 'Nils Nobody',
    });
    expect(await put(3, { decision: 'new' })).toMatchObject({ verdict: 'new', decided: true });
    expect(await put(3, { decision: vera.id })).toMatchObject({
      verdict: 'changes',
      contactName: 'Vera Vane',
      decided: true,
    });
    expect((await rowsOf(id)).map((r) => r.decided)).toEqual([false, true, false]);
    expect(await put(4, { excluded: true })).toMatchObject({ verdict: 'rejected', excluded: true });
    expect((await odalys.call('GET /api/imports/:id', { params: { id } })).counts).toMatchObject({
      new: 1,
      changes: 1,
      rejected: 1,
    });
    await apply(id);
    expect((await odalys.call('GET /api/contacts/:id', { params: { id: vera.id } })).emails).toHaveLength(1);
    expect((await odalys.call('GET /api/search', { query: { q: 'zeno alder' } })).contacts).toEqual([]);
  });

  test('dates that tell no order are asked about, and the answer is remembered for files that look alike', async () => {
    const odalys = await world.as('odalys');
    const content = 'Name,Born on,Crew phone\nUna Ember,02/03/1980,902 555 0118\n';
    const { id, mapping } = await bringIn(world, content, 'first.csv');
    expect(mapping.dateOrders[1]).toBe('ask');
    const refused = await odalys.try('POST /api/imports/:id/apply', { params: { id } });
    expect(refused.problem.fields![0]).toMatchObject({ path: 'columns.1' });
    const orders = [null, 'day first', null] as ('day first' | null)[];
    await odalys.call('PUT /api/imports/:id/mapping', {
      params: { id },
      body: { ...mapping, dateOrders: orders },
    });
    await checked(world, id);
    await apply(id);
    const next = await bringIn(world, content.replace('Una Ember', 'Una Upton'), 'second.csv');
    expect(next.mapping.dateOrders).toEqual(orders);
    expect(next.mappingFrom).toMatchObject({ fileName: 'first.csv' });
  });

  test('a mapping without a name is refused, one that is changed is checked again', async () => {
    const odalys = await world.as('odalys');
    const { id } = await bringIn(world, 'Who,Address\n"Hollis, Thad",thad.new@fenmail.example\n', 'odd.csv');
    const put = (columns: string[]) =>
      odalys.try('PUT /api/imports/:id/mapping', {
        params: { id },
        body: { columns: columns as never, dateOrders: [null, null] },
      });
    expect((await put(['leave', 'street'])).problem.fields?.[0]?.message).toContain('name');
    expect((await put(['whole name', 'email'])).status).toBe(200);
    expect((await checked(world, id)).counts.new + (await checked(world, id)).counts.look).toBe(1);
  });

  test('what changed between the check and applying is looked at again first', async () => {
    const odalys = await world.as('odalys');
    const { id } = await bringIn(world, 'Name,Email\nIlse Oakes,ilse@fenmail.example\n');
    await odalys.call('POST /api/contacts', {
      body: { given: 'Ilse', family: 'Oakes', email: 'ilse@fenmail.example' },
    });
    expect((await odalys.call('GET /api/imports/:id', { params: { id } })).stale).toBe(true);
    expect((await apply(id)).state).toBe('checking');
    expect((await checked(world, id)).counts).toMatchObject({ new: 0, same: 1 });
    expect((await apply(id)).state).toBe('applied');
    const twice = await odalys.try('POST /api/imports/:id/apply', { params: { id } });
    expect(twice.problem.code).toBe('import-state');
  });

  test('undo keeps and names the contacts that something hangs on', async () => {
    const odalys = await world.as('odalys');
    const { id } = await bringIn(
      world,
      'First name,Last name,Email\nYara,Undone,yara@fenmail.example\nZeno,Kept,zeno.kept@fenmail.example\n',
    );
    await apply(id);
    const event = await openEvent(world, { title: 'Hanging' });
    await world.anyone.call('POST /api/public/events/:slug/orders', {
      params: { slug: event.slug },
      body: orderFor(event, [{ given: 'Zeno', family: 'Kept' }], { email: 'zeno.kept@fenmail.example' }),
    });
    const undone = await odalys.call('POST /api/imports/:id/undo', { params: { id } });
    expect(undone.removed).toBe(1);
    expect(undone.kept[0]).toContain('Zeno Kept stays: registrations');
  });

  test('two at once are checked one after the other, one can be cancelled, and nothing was changed', async () => {
    const odalys = await world.as('odalys');
    const before = await contacts();
    const big = `Name,Email\n${Array.from({ length: 3000 }, (_, n) => `Person ${String.fromCharCode(97 + (n % 26))}${n} Fenwick,p${n}@fenmail.example`).join('\n')}\n`;
    const begin = (content: string) =>
      odalys.call('POST /api/imports', {
        body: { fileName: 'big.csv', content: Buffer.from(content).toString('base64') },
      });
    const [first, second] = await Promise.all([
      begin(big),
      begin('Name,Email\nTariq Teal,tariq@fenmail.example\n'),
    ]);
    await odalys.call('POST /api/imports/:id/cancel', { params: { id: first.id } });
    expect((await checked(world, second.id)).counts.new).toBe(1);
    expect((await checked(world, first.id)).state).toBe('cancelled');
    expect(await contacts()).toBe(before);
    const refused = await odalys.try('POST /api/imports/:id/apply', { params: { id: first.id } });
    expect(refused.problem.code).toBe('import-state');
  });

  test('a check cut short by a restart is done at the next start', async () => {
    const odalys = await world.as('odalys');
    const { id } = await bringIn(world, 'Name,Email\nOrla Novak,orla@fenmail.example\n');
    await stopChecks(world.app);
    await world.app.db.query("update imports set state = 'checking' where id = $1", [id]);
    await world.app.db.query('delete from import_rows where import_id = $1', [id]);
    await resumeChecks(world.app);
    expect((await checked(world, id)).counts.new).toBe(1);
    // One that fails says so by stopping, and can be tried again.
    await world.app.db.query("update imports set state = 'checking', content = '' where id = $1", [id]);
    await resumeChecks(world.app);
    expect((await checked(world, id)).state).toBe('cancelled');
    await odalys.call('DELETE /api/imports/:id', { params: { id } });
    expect((await odalys.try('GET /api/imports/:id', { params: { id } })).status).toBe(404);
  });

  test('applying that was cut short by a restart is finished at the next start', async () => {
    const odalys = await world.as('odalys');
    const { id } = await bringIn(world, 'Name,Email\nPia Novak,pia.novak@fenmail.example\n');
    await world.app.db.query("update imports set state = 'applying', done_rows = 0 where id = $1", [id]);
    await resumeImports(world.app);
    const summary = async () => odalys.call('GET /api/imports/:id', { params: { id } });
    while ((await summary()).state === 'applying') await new Promise((resolve) => setImmediate(resolve));
    expect(await summary()).toMatchObject({ state: 'applied', doneRows: 1 });
    expect((await odalys.call('GET /api/search', { query: { q: 'pia novak' } })).contacts).toHaveLength(1);
  });

  test('only what was applied is taken back, once, and counts as brought before', async () => {
    const odalys = await world.as('odalys');
    const list = 'Name,Email\nUrsa Novak,ursa.novak@fenmail.example\n';
    const { id } = await bringIn(world, list);
    const undo = () => odalys.try('POST /api/imports/:id/undo', { params: { id } });
    expect((await undo()).problem.code).toBe('import-not-applied');
    // Checked only, the same file was not brought before.
    expect((await bringIn(world, list)).appliedBefore).toBeNull();
    await apply(id);
    expect((await bringIn(world, list)).appliedBefore).toMatchObject({ id });
    expect((await undo()).body).toMatchObject({ removed: 1 });
    expect((await undo()).problem.code).toBe('import-not-applied');
    expect((await bringIn(world, list)).appliedBefore).toBeNull();
  });

  test('cells that a spreadsheet or a page would run are kept as text', async () => {
    const odalys = await world.as('odalys');
    const { id } = await bringIn(
      world,
      'Name,Email,Notes\n<script>alert(1)</script> Wren,s@fenmail.example,=SUM(A1:A9)\n,x@fenmail.example,"=HYPERLINK(""http://a.example"")"\n',
    );
    const csv = await odalys.try('GET /api/imports/:id/rejected.csv', { params: { id } });
    expect(String(csv.body)).toContain('"\'=HYPERLINK(');
    await apply(id);
    const [note] = await world.app.db.query<{ text: string }>(
      "select text from contact_notes where text like '=SUM%'",
    );
    expect(note).toEqual({ text: '=SUM(A1:A9)' });
  });

  test('files that cannot be read change nothing and say why', async () => {
    const odalys = await world.as('odalys');
    for (const [content, words] of [
      ['Dear all,\nplease come to the supper.\n', 'heading'],
      ['Name,Email\n"Mai,mai@a.example\n', 'quotation'],
      [`Name,Email\n${'x'.repeat(2_000_000)},a@b.example\n`, '20,000'],
      [`Name\n${'Mai Wren\n'.repeat(101_000)}`, '100,000'],
      [Buffer.from([0x89, 0x50, 0x4e, 0x47, 0, 0, 0, 1]), 'a picture'],
      [Buffer.from([0x50, 0x4b, 3, 4, 20, 0]), 'a spreadsheet'],
    ] as const) {
      const reply = await odalys.try('POST /api/imports', {
        body: { fileName: 'list.csv', content: Buffer.from(content as string).toString('base64') },
      });
      expect(reply.status).toBe(422);
      expect(reply.problem.fields![0]!.message).toContain(words);
    }
  });
});
