import { afterAll, beforeAll, describe, expect, test } from 'vitest';
import { attributeKeys, attributes, type TextKey, textKeys, textsOf } from '#core/contacts/attributes.ts';
import { inTransaction, systemActor } from '#server/app/app.ts';
import { mergeContacts } from '#server/contacts/merging.ts';
import { first } from '#server/db/database.ts';
import { type Caller, linkTo, makeWorld, type World } from './harness.ts';
import { bringIn } from './scenes.ts';

/** What a table of contacts holds that is not said of the person: how the record came about, and what is reckoned. */
const technical = [
  'id',
  'kind',
  'source',
  'import_id',
  'created_at',
  'updated_at',
  'merged_into',
  'erased_at',
  'name_key',
  'search_text',
];

describe('what a contact has of itself', () => {
  let world: World;
  let odalys: Caller;
  beforeAll(async () => {
    world = await makeWorld();
    odalys = await world.as('odalys');
  });
  afterAll(() => world.close());
  const read = (id: string) => odalys.call('GET /api/contacts/:id', { params: { id } });
  const add = async (given: string, texts: Partial<Record<TextKey, string>> = {}) =>
    (await odalys.call('POST /api/contacts', { body: { given, family: 'Attributed', ...texts } })).id;
  const columnsOf = (id: string) =>
    first<Record<string, unknown>>(world.app.db, 'select to_jsonb(c) as row from contacts c where id = $1', [
      id,
    ]).then((r) => r!.row as Record<string, unknown>);

  test('every column of contacts is described, or is technical', async () => {
    const columns = await world.app.db.query<{ name: string }>(
      "select attname as name from pg_attribute where attrelid = 'contacts'::regclass and attnum > 0 and not attisdropped",
    );
    const described: string[] = attributeKeys.map((key) => attributes[key].column);
    expect(
      columns.map((c) => c.name).filter((c) => !described.includes(c) && !technical.includes(c)),
    ).toEqual([]);
    expect(described.filter((d) => !columns.some((c) => c.name === d))).toEqual([]);
  });

  test('erasing leaves of each what is described, and nothing else', async () => {
    const id = await add(
      'Gone',
      textsOf((key) => `a ${key}`),
    );
    await world.app.db.query(
      `update contacts set birth_date = '1990-01-01', street = '1 Reed Way', postal_code = 'B0J 1A0', moved_on = '2020-01-01',
         languages = '{de}', language = 'fr', deceased_on = '2025-01-01' where id = $1`,
      [id],
    );
    const { given, family } = await read(id);
    await odalys.call('POST /api/contacts/:id/erase', {
      params: { id },
      body: { name: `${given} ${family}` },
    });
    const row = await columnsOf(id);
    for (const key of attributeKeys)
      expect([key, row[attributes[key].column]]).toEqual([key, attributes[key].erased]);
  });

  describe.each(textKeys)('%s', (key) => {
    const column = attributes[key].column;

    test('is written by hand, shown, and cut for whoever does not see its part', async () => {
      const id = await add(`Hand${key}`, { [key]: 'as typed' });
      expect((await read(id))[key]).toBe('as typed');
      await odalys.call('PATCH /api/contacts/:id', { params: { id }, body: { [key]: ' changed ' } });
      expect((await read(id))[key]).toBe('changed');
      const marit = await world.as('marit');
      const seen = await marit.call('GET /api/contacts/:id', { params: { id } });
      expect(seen[key]).toBe(seen.hidden.includes(attributes[key].part) ? null : 'changed');
      const most = attributes[key].text.most;
      const long = await odalys.try('PATCH /api/contacts/:id', {
        params: { id },
        body: { [key]: 'x'.repeat(most + 1) },
      });
      expect([long.status, long.problem.fields?.[0]?.path]).toEqual([422, key]);
    });

    test('comes in with a file under its heading, fills a blank, is taken back, and goes out again', async () => {
      const id = await add(`File${key}`);
      await odalys.call('PATCH /api/contacts/:id', {
        params: { id },
        body: { emails: [{ email: `file.${key}@fenmail.example` }] },
      });
      const { heading } = attributes[key].text;
      const { id: importId } = await bringIn(
        world,
        `First name,Last name,Email,${heading}\nFile${key},Attributed,file.${key}@fenmail.example,from a file\nNew${key},Attributed,new.${key}@fenmail.example,new from a file\n`,
        `${key}.csv`,
      );
      await odalys.call('POST /api/imports/:id/apply', { params: { id: importId } });
      expect((await read(id))[key]).toBe('from a file');
      const csv = String(await odalys.call('GET /api/contacts.csv'));
      expect(csv.split('\n')[0]).toContain(heading);
      expect(csv).toContain('new from a file');
      await odalys.call('POST /api/imports/:id/undo', { params: { id: importId } });
      expect((await read(id))[key]).toBeNull();
    });

    test('is kept by a merge where only the other had it, taken as chosen, and parted again', async () => {
      const [kept, merged] = [await add(`Kept${key}`), await add(`Other${key}`, { [key]: 'theirs' })];
      const merge = (chosen: object) =>
        inTransaction(world.app, systemActor, (w) => mergeContacts(w, kept, merged, chosen));
      const mergeId = await merge({});
      expect((await columnsOf(kept))[column]).toBe('theirs');
      await odalys.call('POST /api/merges/:id/undo', { params: { id: mergeId } });
      expect((await columnsOf(kept))[column]).toBeNull();
      await odalys.call('PATCH /api/contacts/:id', { params: { id: kept }, body: { [key]: 'ours' } });
      await merge({ [key]: 'merged' });
      expect((await columnsOf(kept))[column]).toBe('theirs');
    });

    test('is the person’s own to say on their page', async () => {
      const id = await add(`Own${key}`);
      const token = (await linkTo(world.app, 'own', id)).split('/').at(-1)!;
      const saved = await world.anyone.call('POST /api/public/own/:token/details', {
        params: { token },
        body: { contactId: id, [key]: 'said by me' },
      });
      expect(saved).toEqual({ changed: 1, waiting: 0 });
      const page = await world.anyone.call('GET /api/public/own/:token', { params: { token } });
      expect(page.person[key]).toBe('said by me');
    });

    test('is asked for by a segment', async () => {
      const id = await add(`Asked${key}`, { [key]: `Un${key}mistakable` });
      for (const [is, value] of [
        ['filled', undefined],
        ['is', `un${key}MISTAKABLE`],
        ['contains', `${key}mis`],
      ] as const) {
        const segment = { all: [{ ask: 'detail', detail: key, is, ...(value ? { value } : {}) }] };
        const found = await odalys.call('POST /api/segments/count', { body: { segment } as never });
        expect(found.sample.map((s) => s.id)).toContain(id);
      }
      // Whoever does not see it may not find people by it either.
      const marit = await world.as('marit');
      const { hidden } = await marit.call('GET /api/contacts/:id', { params: { id } });
      const segment = { all: [{ ask: 'detail', detail: key, is: 'filled' }] };
      const asked = await marit.try('POST /api/segments/count', { body: { segment } as never });
      expect(asked.status === 403).toBe(hidden.includes(attributes[key].part));
    });
  });
});
