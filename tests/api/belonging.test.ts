import sharp from 'sharp';
import { afterAll, beforeAll, describe, expect, test } from 'vitest';
import type { Caller, World } from './harness.ts';
import { makeWorld } from './harness.ts';
import { bringIn, checked } from './scenes.ts';

/** The smallest picture there is: one pixel. */
const pixel =
  'iVBORw0KGgoAAAANSUhEUgAAAAEAAAABCAYAAAAfFcSJAAAADUlEQVR42mNkYPhfDwAChwGA60e6kgAAAABJRU5ErkJggg==';

describe('what somebody belongs to', () => {
  let world: World;
  let odalys: Caller;
  beforeAll(async () => {
    world = await makeWorld();
    odalys = await world.as('odalys');
  });
  afterAll(() => world.close());
  const add = async (given: string, family: string, more: object = {}) =>
    (await odalys.call('POST /api/contacts', { body: { given, family, ...more } })).id;
  const record = (id: string) => odalys.call('GET /api/contacts/:id', { params: { id } });
  const unit = async (name: string) =>
    (await odalys.call('GET /api/choices')).units.find((u) => u.name === name)!.id;

  test('memberships have dates; a role in a unit is found with the unit', async () => {
    const id = await add('Orla', 'Vetch');
    const params = { id };
    await odalys.call('POST /api/contacts/:id/ties', {
      params,
      body: {
        kind: 'membership',
        level: 'Life',
        number: '7',
        from: '2020-01-01',
        until: '2024-12-31',
      },
    });
    const boats = await unit('Small Boats');
    const { id: role } = await odalys.call('POST /api/contacts/:id/ties', {
      params,
      body: { kind: 'unit', unitId: boats, role: 'Treasurer', from: '2025-03-01' },
    });
    const { ties } = await record(id);
    expect(ties).toMatchObject([
      { kind: 'membership', level: 'Life', number: '7', from: '2020-01-01', until: '2024-12-31' },
      { kind: 'unit', name: 'Small Boats', role: 'Treasurer', from: '2025-03-01', until: null },
    ]);
    const there = await odalys.call('GET /api/units/:id/people', { params: { id: boats } });
    expect(there.people).toEqual([
      { contactId: id, name: 'Orla Vetch', role: 'Treasurer', from: '2025-03-01', until: null },
    ]);

    const twice = await odalys.try('POST /api/contacts/:id/ties', {
      params,
      body: { kind: 'unit', unitId: boats, role: 'treasurer' },
    });
    expect(twice.problem.code).toBe('tie-there');
    await odalys.call('PATCH /api/ties/:kind/:id', {
      params: { kind: 'unit', id: role },
      body: { until: '2026-06-30' },
    });
    // Ended, it can begin again.
    await odalys.call('POST /api/contacts/:id/ties', {
      params,
      body: { kind: 'unit', unitId: boats, role: 'Treasurer', from: '2026-07-01' },
    });
    const backwards = await odalys.try('PATCH /api/ties/:kind/:id', {
      params: { kind: 'unit', id: role },
      body: { from: '2026-07-01' },
    });
    expect(backwards.problem.fields).toMatchObject([
      { path: 'until', message: 'The last day is before the first.' },
    ]);
    const gone = await odalys.call('DELETE /api/ties/:kind/:id', { params: { kind: 'unit', id: role } });
    expect(gone).toMatchObject({ kind: 'unit', role: 'Treasurer', until: '2026-06-30' });
    expect((await record(id)).ties).toHaveLength(2);
  });

  test('“a member on a day” and “in the unit” are asked of segments', async () => {
    const id = await add('Selma', 'Quill');
    await odalys.call('POST /api/contacts/:id/ties', {
      params: { id },
      body: { kind: 'membership', level: 'Household', from: '2024-05-01', until: '2025-04-30' },
    });
    const asked = async (segment: object) =>
      (await odalys.call('POST /api/segments/why', { body: { segment: { ...segment }, contactId: id } }))
        .holds;
    expect(await asked({ ask: 'member', on: '2024-05-01' })).toBe(true);
    expect(await asked({ ask: 'member', on: '2025-04-30', level: 'household' })).toBe(true);
    expect(await asked({ ask: 'member', on: '2025-05-01' })).toBe(false);
    expect(await asked({ ask: 'member', on: 'today' })).toBe(false);
    expect(await asked({ ask: 'in a unit', unitId: await unit('Mudlarks'), on: 'today' })).toBe(false);
  });

  test('an organization is a contact with its people, never taken for a person', async () => {
    const id = await add('Giles', 'Ember');
    const make = (name: string) =>
      odalys.call('POST /api/contacts/:id/ties', {
        params: { id },
        body: { kind: 'organization', name, role: 'grounds' },
      });
    await make('Ansley College');
    const [tie] = (await record(id)).ties;
    expect(tie).toMatchObject({ kind: 'organization', name: 'Ansley College', role: 'grounds' });
    const organization = tie!.kind === 'organization' ? tie!.organizationId : '';
    expect(await record(organization)).toMatchObject({
      kind: 'organization',
      family: 'Ansley College',
      people: [{ contactId: id, name: 'Giles Ember', role: 'grounds' }],
    });
    // The same name, written a little differently, is the same organization.
    const again = await odalys.call('POST /api/contacts', {
      body: { given: '', family: 'ansley  college', kind: 'organization' },
    });
    expect(again).toMatchObject({ id: organization, existed: true });
    // A person of that name is somebody else, and they are not merged.
    const person = await add('', 'Ansley College');
    expect(person).not.toBe(organization);
    const merged = await odalys.try('POST /api/contacts/:id/merge', {
      params: { id: organization },
      body: { other: person },
    });
    expect(merged.problem.code).toBe('merge-kinds');
    const listed = await odalys.call('GET /api/contacts', { query: { kind: 'organization' } });
    expect(listed.contacts.map((c) => c.family)).toEqual(['Ansley College']);
    const found = await odalys.call('GET /api/search', { query: { q: 'ansley' } });
    expect(found.contacts.map((c) => c.kind)).toContain('organization');
    const itself = await odalys.try('POST /api/contacts/:id/ties', {
      params: { id: organization },
      body: { kind: 'organization', name: 'Ansley College' },
    });
    expect(itself.problem.fields![0]!.path).toBe('name');
  });

  test('fields of our own are filled in by their kind, and go only when their name is typed', async () => {
    const id = await add('Thad', 'Hollis');
    const field = async (name: string, kind: 'date' | 'number' | 'one of', choices: string[] = []) =>
      (await odalys.call('POST /api/fields', { body: { name, kind, choices } })).id;
    const aid = await field('First aid until', 'date');
    const boots = await field('Boot size', 'number');
    const key = await field('Key', 'one of', ['Reedhouse', 'Tool shed', 'reedhouse']);
    const put = (fields: Record<string, string>) =>
      odalys.try('PATCH /api/contacts/:id', { params: { id }, body: { fields, street: '1 Chapel Hill' } });
    const wrong = await put({ [aid]: 'soon', [boots]: '43', [key]: 'Boathouse' });
    expect(wrong.status).toBe(422);
    expect(wrong.problem.fields).toEqual([
      { path: `fields.${aid}`, message: 'There is no such date.' },
      { path: `fields.${key}`, message: 'One of: reedhouse, Tool shed.' },
    ]);
    // Nothing is half done.
    expect(await record(id)).toMatchObject({ street: null });
    expect((await record(id)).fields.map((f) => f.value)).toEqual([null, null, null]);
    await put({ [aid]: '2027-05-01', [boots]: '43,5', [key]: 'tool shed' });
    expect((await record(id)).fields.map((f) => [f.name, f.value])).toEqual([
      ['First aid until', '2027-05-01'],
      ['Boot size', '43.5'],
      ['Key', 'Tool shed'],
    ]);
    const count = async (segment: object) =>
      (await odalys.call('POST /api/segments/count', { body: { segment: { ...segment } } })).count;
    expect(await count({ ask: 'custom field', fieldId: boots, is: 'at least', value: '43' })).toBe(1);
    expect(await count({ ask: 'custom field', fieldId: boots, is: 'at least', value: '44' })).toBe(0);
    expect(await count({ ask: 'custom field', fieldId: aid, is: 'at most', value: '2027-05-01' })).toBe(1);

    const same = await odalys.try('POST /api/fields', { body: { name: 'boot SIZE', kind: 'text' } });
    expect(same.problem.fields![0]!.message).toBe('There is a field of this name.');
    const lone = await odalys.try('POST /api/fields', {
      body: { name: 'Shed', kind: 'one of', choices: ['A'] },
    });
    expect(lone.problem.fields![0]!.path).toBe('choices');
    await odalys.call('PATCH /api/fields/:id', {
      params: { id: key },
      body: { name: 'Holds a key to', choices: ['Reedhouse', 'Boathouse'] },
    });
    // What was chosen before stays.
    expect((await record(id)).fields[2]).toMatchObject({ name: 'Holds a key to', value: 'Tool shed' });
    const kept = await odalys.try('DELETE /api/fields/:id', { params: { id: key }, body: { name: 'key' } });
    expect(kept.problem.fields![0]!.message).toContain('Holds a key to');
    await odalys.call('DELETE /api/fields/:id', { params: { id: key }, body: { name: 'Holds a key to' } });
    expect((await record(id)).fields).toHaveLength(2);
  });

  test('a photo is kept small, upright and without what the camera wrote; what is no picture is refused', async () => {
    const id = await add('Una', 'Sorrel');
    const put = (content: Buffer) =>
      odalys.try('PUT /api/contacts/:id/photo', {
        params: { id },
        body: { content: content.toString('base64') },
      });
    const wrong = async (content: Buffer) => (await put(content)).problem.fields![0]!.code;
    const camera = await sharp({ create: { width: 1200, height: 900, channels: 3, background: '#336655' } })
      .withExif({ IFD0: { Artist: 'Una at home' }, IFD3: { GPSLatitude: '44/1 51/1 0/1' } })
      .withMetadata({ orientation: 6 })
      .jpeg()
      .toBuffer();
    expect(await wrong(Buffer.from('<script>alert(1)</script>'))).toBe('no-picture-kind');
    expect(await wrong(camera.subarray(0, 900))).toBe('picture-broken');
    expect((await record(id)).photoAt).toBeNull();
    expect((await put(Buffer.concat([camera, Buffer.from('<script>alert(1)</script>')]))).status).toBe(200);
    expect((await record(id)).photoAt).not.toBeNull();
    const photo = await odalys.try('GET /api/contacts/:id/photo', { params: { id } });
    expect(photo.headers.get('content-type')).toBe('image/jpeg');
    const kept = photo.body as unknown as Buffer;
    const { width, height, exif, orientation } = await sharp(kept).metadata();
    expect({ width, height, exif, orientation }).toEqual({ width: 600, height: 800 });
    expect(kept.includes('Una at home') || kept.includes('script')).toBe(false);
    await odalys.call('DELETE /api/contacts/:id/photo', { params: { id } });
    expect((await odalys.try('GET /api/contacts/:id/photo', { params: { id } })).status).toBe(404);
  });

  test('merged, everything somebody belongs to comes over, and goes back when it is taken apart', async () => {
    const kept = await add('Marit', 'Lowry', { email: 'marit.lowry@fenmail.example' });
    const other = await add('Marit', 'Lowry', { phone: '902 555 0191' });
    const { fields } = await record(kept);
    const [aid, boots] = fields.map((f) => f.id);
    const herons = await unit('Night Herons');
    const tie = (id: string, body: object) =>
      odalys.call('POST /api/contacts/:id/ties', { params: { id }, body: body as never });
    await tie(kept, { kind: 'unit', unitId: herons, role: 'lead' });
    await tie(other, { kind: 'unit', unitId: herons, role: 'Lead' });
    await tie(other, { kind: 'organization', name: 'Causeway Veterinary' });
    await tie(other, { kind: 'membership', level: 'Student' });
    const patch = (id: string, body: object) =>
      odalys.call('PATCH /api/contacts/:id', { params: { id }, body: body as never });
    await patch(kept, { fields: { [boots!]: '40' }, languages: ['de'] });
    await patch(other, { fields: { [boots!]: '41', [aid!]: '2027-01-01' }, languages: ['mi'] });
    await odalys.call('PUT /api/contacts/:id/photo', { params: { id: other }, body: { content: pixel } });
    const { id: list } = await odalys.call('POST /api/segments', { body: { name: 'Herons', ids: [other] } });
    const before = [await record(kept), await record(other)];
    const { mergeId } = await odalys.call('POST /api/contacts/:id/merge', {
      params: { id: kept },
      body: { other },
    });
    const merged = await record(kept);
    expect(merged.ties.map((t) => t.kind)).toEqual(['membership', 'unit', 'organization']);
    expect(merged.fields.map((f) => f.value)).toEqual(['2027-01-01', '40']);
    expect(merged.languages).toEqual(['de', 'mi']);
    expect(merged.photoAt).not.toBeNull();
    const inList = () => odalys.call('GET /api/segments/:id/contacts', { params: { id: list } });
    expect((await inList()).contacts.map((c) => c.id)).toEqual([kept]);
    await odalys.call('POST /api/merges/:id/undo', { params: { id: mergeId } });
    const strip = ({ notes: _, ...r }: (typeof before)[number]) => r;
    expect(strip(await record(kept))).toEqual(strip(before[0]!));
    expect(strip(await record(other))).toEqual(strip(before[1]!));
    expect((await inList()).contacts.map((c) => c.id)).toEqual([other]);
  });

  test('a list brings memberships with their end, organizations and who died; undone, all of it goes', async () => {
    const csv =
      'Name,Email,Level,Member until,Company,Date of death\n' +
      'Zora Teal,zora.teal@fenmail.example,Household,2026-12-31,Tidewater Credit Union,\n' +
      'Hao Teal,hao.teal@fenmail.example,Life,,Tidewater credit union,2026-02-03\n';
    const list = await bringIn(world, csv, 'teal.csv');
    expect(list.mapping.columns).toEqual([
      'whole name',
      'email',
      'member level',
      'member until',
      'organization',
      'died on',
    ]);
    await odalys.call('POST /api/imports/:id/apply', { params: { id: list.id } });
    const find = async (q: string) => (await odalys.call('GET /api/search', { query: { q } })).contacts;
    const zora = await record((await find('zora teal'))[0]!.id);
    expect(zora.ties).toMatchObject([
      { kind: 'membership', level: 'Household', until: '2026-12-31' },
      { kind: 'organization', name: 'Tidewater Credit Union' },
    ]);
    expect((await find('hao teal'))[0]).toMatchObject({ quiet: 'died' });
    const tidewater = (await odalys.call('GET /api/contacts', { query: { q: 'tidewater' } })).contacts;
    expect(tidewater).toHaveLength(1);
    expect((await record(tidewater[0]!.id)).people).toHaveLength(2);

    // Renewed: the end is set where it was blank, and moved where the coordinator says so.
    const renewed = await bringIn(world, csv.replace('2026-12-31', '2027-12-31'), 'teal-2027.csv');
    expect(renewed.counts).toMatchObject({ new: 0, changes: 0 });
    const rows = await odalys.call('GET /api/imports/:id/rows', { params: { id: renewed.id }, query: {} });
    expect(rows.rows[0]!.changes).toMatchObject([
      { field: 'member until', before: '2026-12-31', after: '2027-12-31', applied: false },
    ]);
    await odalys.call('DELETE /api/imports/:id', { params: { id: renewed.id } });

    await odalys.call('POST /api/imports/:id/undo', { params: { id: list.id } });
    expect(await find('teal zora')).toEqual([]);
    expect((await odalys.call('GET /api/contacts', { query: { q: 'tidewater' } })).total).toBe(0);
  });

  test('columns of fields of our own are known by their names, read by their kinds, and taken back', async () => {
    const [aid, boots] = await odalys.call('GET /api/fields');
    const id = await add('Nils', 'Oakes', { email: 'nils.oakes@fenmail.example' });
    await odalys.call('PATCH /api/contacts/:id', { params: { id }, body: { fields: { [boots!.id]: '41' } } });
    const list = await bringIn(
      world,
      'Name,Email,BOOT SIZE,First aid until\n' +
        'Nils Oakes,nils.oakes@fenmail.example,42,31 Dec 2027\n' +
        'Petra Oakes,petra.oakes@fenmail.example,thirty,2027-03-01\n',
      'boots.csv',
    );
    expect(list.mapping.columns.slice(2)).toEqual([`field ${boots!.id}`, `field ${aid!.id}`]);
    const { rows } = await odalys.call('GET /api/imports/:id/rows', { params: { id: list.id }, query: {} });
    expect(rows[0]!.changes).toMatchObject([
      { field: 'own field', before: 'Boot size: 41', after: 'Boot size: 42', applied: false },
      { field: 'own field', before: null, after: 'First aid until: 2027-12-31', applied: true },
    ]);
    expect(rows[1]!.reasons).toContain('“thirty” in Boot size: This is not a number.');
    await odalys.call('PUT /api/imports/:id/mapping', {
      params: { id: list.id },
      body: { ...list.mapping, choices: { ...list.choices, policies: { 'own field': 'take theirs' } } },
    });
    await checked(world, list.id);
    await odalys.call('POST /api/imports/:id/apply', { params: { id: list.id } });
    const values = async (of: string) => (await record(of)).fields.map((f) => f.value);
    expect(await values(id)).toEqual(['2027-12-31', '42']);
    const petra = (await odalys.call('GET /api/search', { query: { q: 'petra oakes' } })).contacts[0]!.id;
    expect(await values(petra)).toEqual(['2027-03-01', null]);
    await odalys.call('PATCH /api/contacts/:id', { params: { id }, body: { fields: { [aid!.id]: '' } } });
    const undone = await odalys.call('POST /api/imports/:id/undo', { params: { id: list.id } });
    expect(undone.kept).toEqual([]);
    expect(await values(id)).toEqual([null, '41']);
  });

  test('everything exported and brought into another organization says the same', async () => {
    const file = await odalys.try('GET /api/contacts.csv');
    const elsewhere = await makeWorld();
    try {
      const there = await elsewhere.as('odalys');
      for (const { name, kind, choices } of await odalys.call('GET /api/fields'))
        await there.call('POST /api/fields', { body: { name, kind, choices } });
      const list = await bringIn(elsewhere, String(file.body), 'contacts.csv');
      await there.call('POST /api/imports/:id/apply', { params: { id: list.id } });
      const strip = (csv: string) =>
        csv
          .split('\r\n')
          .slice(1)
          .filter(Boolean)
          .map((line) => line.slice(line.indexOf(',') + 1))
          .sort();
      const back = await there.try('GET /api/contacts.csv');
      expect(strip(String(back.body))).toEqual(strip(String(file.body)));
    } finally {
      await elsewhere.close();
    }
  });

  test('erased, nothing somebody belonged to is left', async () => {
    const id = await add('Wyn', 'Fenwick');
    const { fields } = await record(id);
    await odalys.call('POST /api/contacts/:id/ties', {
      params: { id },
      body: { kind: 'organization', name: 'Port Ansley Hardware', role: 'owner' },
    });
    await odalys.call('PATCH /api/contacts/:id', {
      params: { id },
      body: { fields: { [fields[1]!.id]: '44' } },
    });
    await odalys.call('PUT /api/contacts/:id/photo', { params: { id }, body: { content: pixel } });
    const friend = await bringIn(world, 'Name,Emergency contact\nYara Fenwick,Wyn Fenwick\n');
    await odalys.call('POST /api/imports/:id/apply', { params: { id: friend.id } });
    const what = await odalys.call('GET /api/contacts/:id/erasure', { params: { id } });
    expect(what.goes).toEqual(
      expect.arrayContaining(['1 tie to an organization', '1 field of our own', '1 photo']),
    );
    expect(what.kept[0]).toContain('1 mention as an emergency contact');
    const all = await odalys.try('GET /api/contacts/:id/everything.json', { params: { id } });
    const photo = await odalys.try('GET /api/contacts/:id/photo', { params: { id } });
    expect(JSON.stringify(all.body)).toContain(
      (photo.body as unknown as Buffer).toString('base64').slice(0, 60),
    );
    await odalys.call('POST /api/contacts/:id/erase', { params: { id }, body: { name: 'Wyn Fenwick' } });
    for (const table of ['affiliations', 'custom_values', 'contact_photos'])
      expect(await world.app.db.query(`select 1 from ${table} where contact_id = $1`, [id])).toHaveLength(0);
  });
});
