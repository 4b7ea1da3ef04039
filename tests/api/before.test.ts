import { readdirSync, readFileSync } from 'node:fs';
import { gunzipSync } from 'node:zlib';
import { afterAll, beforeAll, describe, expect, test } from 'vitest';
import { plainLine } from '#core/messages/lines.ts';
import type { Database } from '#server/db/database.ts';
import { type Migration, migrate, shippedMigrations } from '#server/db/migrate.ts';
import { booksAstray } from './booksAstray.ts';
import { bareDatabase, type Caller, linkTo, makeWorld, onServer, type World } from './harness.ts';

/** What the database of an earlier version held: made by that version itself, see scripts/before.mjs. */
interface Before {
  migrations: { name: string; checksum: string }[];
  sequences: { name: string; last: number }[];
  columns: Record<string, string[]>;
  rows: Record<string, Record<string, unknown>[]>;
}
const folder = 'tests/data/before';
const read = (name: string): Before => JSON.parse(gunzipSync(readFileSync(`${folder}/${name}`)).toString());
/** What transactions on a server pass through came with this one: a version before it never ran on one. */
const firstOnServer = '0008';
const versions = readdirSync(folder)
  .sort()
  .filter((name) => !onServer() || name >= firstOnServer);

/** What a migration says in another form: column by column, whether it says the same. */
const otherwise: Record<string, (was: unknown, is: unknown) => boolean> = {
  'clearance_steps.because': (was, is) =>
    (was as string[]).length === (is as { code: string }[]).length &&
    (is as { code: string }[]).every((b) => b.code),
  'events.description': (was, is) => was === '' && JSON.stringify(is) === '{"type":"doc","content":[]}',
  'events.admission': (was, is) => holds(is, was),
  // Of one waiver for all it became the rules of who signs.
  'plan_changes.field': (was, is) => was === 'waiverId' && is === 'waivers',
  'plan_changes.before': (was, is) => isRule(was, is),
  'plan_changes.after': (was, is) => isRule(was, is),
  // What was told apart by a kind is told by its moment.
  'message_steps.moment': (was, is) => was === 'end' && is === 'survey',
  'messages.kind': (was, is) => momentOf[String(was)]?.includes(String(is)) ?? false,
  'messages.why_not': (was, is) => holds(is, asWritten(was)),
  'registrations.link_reasons': (was, is) => holds(is, (was as string[]).map(asWritten)),
  // A seat without one has that of the record it was linked to.
  'registrations.birth_date': (was) => was === null,
};
/** A waiver that was asked of everybody, said as a rule. */
const isRule = (was: unknown, is: unknown): boolean =>
  Array.isArray(is) &&
  (was === null
    ? is.length === 0
    : is.length === 1 && is[0].waiverId === was && is[0].seats === true && is[0].offerIds.length === 0);
const momentOf: Record<string, readonly string[]> = {
  confirmation: ['registration made'],
  balance: ['balance due'],
  reminder: ['start'],
  waiver: ['waiver missing'],
  shift: ['shift start'],
  survey: ['survey'],
};
/** What a migration calls something else. */
const renamed: Record<string, string> = { message_steps: 'message_lines', 'messages.step_id': 'line_id' };
const asWritten = (words: unknown) => ({ code: 'as written', params: { words } });
const holds = (is: unknown, was: unknown): boolean =>
  was && typeof was === 'object' && is && typeof is === 'object'
    ? Object.entries(was).every(([key, value]) => holds((is as Record<string, unknown>)[key], value))
    : is === was;

/** Those that some version had in another form. */
const otherForms: Record<string, string> = {
  '0048_books.sql': 'books-before.sql',
  '0069_year_round.sql': 'year-round-before.sql',
};

/** The migrations as that version had them. */
function asTheyWere(before: Before): Migration[] {
  const shipped = shippedMigrations();
  const given = new Map(
    readFileSync('tests/data/migrations.sha256', 'utf8')
      .trim()
      .split('\n')
      .map((line) => line.split('  ').reverse() as [string, string]),
  );
  return before.migrations.map(({ name, checksum }, at) => {
    expect(shipped[at]!.name).toBe(name);
    return given.get(name) === checksum
      ? shipped[at]!
      : { name, sql: readFileSync(`tests/data/${otherForms[name]}`, 'utf8') };
  });
}

/** Puts every row where it was; nothing that the database does by itself happens to them. */
async function putRows(db: Database, { columns, rows, sequences }: Before): Promise<void> {
  await db.transaction(async (tx) => {
    await tx.query('set local session_replication_role = replica');
    for (const [table, all] of Object.entries(rows)) {
      // The migrations put some in themselves.
      await tx.query(`delete from ${table}`);
      const names = columns[table]!.map((c) => `"${c}"`).join(', ');
      await tx.query(
        `insert into ${table} (${names}) overriding system value select ${names} from jsonb_populate_recordset(null::${table}, $1::jsonb)`,
        [JSON.stringify(all)],
      );
    }
    for (const { name, last } of sequences)
      if (last) await tx.query('select setval($1::regclass, $2)', [name, last]);
  });
}

/** Writes down that the messages of a plan were changed, as those versions did that kept it; null of those that did not yet. */
async function changeMessages(db: Database): Promise<{ eventId: string; id: string } | null> {
  const [kept] = await db.query<{ is: boolean }>("select to_regclass('plan_changes') is not null as is");
  if (!kept!.is) return null;
  const [event] = await db.query<{ id: string }>(
    "select id from events where state in ('draft', 'open', 'cleared') and not is_template order by id limit 1",
  );
  const id = crypto.randomUUID();
  const [asLines] = await db.query<{ is: boolean }>("select to_regclass('message_lines') is not null as is");
  const said = {
    id: crypto.randomUUID(),
    name: 'How it was',
    offsetDays: 0,
    offsetMinutes: 120,
    audience: 'attendees',
    subject: { en: 'How was it?' },
    body: { en: 'Tell us.' },
    ...(asLines!.is ? { ...plainLine, moment: 'survey' } : { kind: 'survey', moment: 'end' }),
  };
  await db.query(
    `insert into plan_changes (id, event_id, field, at, actor, before, after) values ($1, $2, 'messages', '2026-07-09T12:00:00Z', 'Odalys Ferrant', $3, '[]')`,
    [id, event!.id, JSON.stringify([said])],
  );
  return { eventId: event!.id, id };
}

describe.each(versions)('a database of the version with %s', (name) => {
  const before = read(name);
  let world: World;
  let odalys: Caller;
  let changed: { eventId: string; id: string } | null = null;
  beforeAll(async () => {
    const bare = await bareDatabase();
    await migrate(bare.db, asTheyWere(before));
    await putRows(bare.db, before);
    changed = await changeMessages(bare.db);
    expect(await migrate(bare.db)).toBe(shippedMigrations().length - before.migrations.length);
    world = await makeWorld({ on: bare });
    odalys = await world.as('odalys');
  }, 120_000);
  afterAll(() => world.close());
  const rowsOf = (table: string) => before.rows[table] ?? [];

  test('every row is there under its id, saying what it said', async () => {
    const lost: string[] = [];
    for (const [table, rows] of Object.entries(before.rows)) {
      if (!before.columns[table]!.includes('id') || !rows.length) continue;
      const called = renamed[table] ?? table;
      const [there] = await world.app.db.query<{ is: boolean }>('select to_regclass($1) is not null as is', [
        called,
      ]);
      if (!there!.is) {
        lost.push(`${table}: the table`);
        continue;
      }
      const now = new Map(
        (
          await world.app.db.query<{ row: Record<string, unknown> }>(
            `select to_jsonb(t) as row from ${called} t`,
          )
        ).map(({ row }) => [String(row.id), row]),
      );
      for (const row of rows) {
        const same = now.get(String(row.id));
        if (!same) lost.push(`${table} ${row.id}`);
        else
          for (const [was, value] of Object.entries(row)) {
            const column = renamed[`${table}.${was}`] ?? was;
            if (
              column in same &&
              JSON.stringify(same[column]) !== JSON.stringify(value) &&
              !otherwise[`${table}.${column}`]?.(value, same[column])
            )
              lost.push(
                `${table}.${column}: ${JSON.stringify(value)} is ${JSON.stringify(same[column])}`.slice(
                  0,
                  200,
                ),
              );
          }
      }
    }
    expect([...new Set(lost)]).toEqual([]);
  });

  test('what was signed counts on, in a chain that holds; who was asked is asked', async () => {
    expect(await odalys.call('GET /api/signature-chain')).toEqual({
      links: rowsOf('signatures').length,
      breaks: [],
    });
    for (const { id, waiver_id: waiver } of rowsOf('events')) {
      const { plan } = await odalys.call('GET /api/events/:id', { params: { id: id as string } });
      if (waiver)
        expect(plan.waivers.map((rule) => [rule.waiverId, rule.seats, rule.offerIds])).toEqual([
          [waiver, true, []],
        ]);
    }
    const valid = rowsOf('signatures').filter((g) => g.state === 'valid');
    for (const { registration_id: seat, event_id: event } of valid) {
      const { rows } = await odalys.call('GET /api/events/:id/registrations', {
        params: { id: event as string },
      });
      const row = rows.find((r) => r.id === seat)!;
      if (row.state === 'confirmed') expect(row.waiver).toBe('signed');
    }
  });

  test('what its plans of messages said before can be put back', async () => {
    if (!changed) return expect(name < '0013').toBe(true);
    const params = { id: changed.eventId, change: changed.id };
    const { version } = await odalys.call('GET /api/events/:id', { params: { id: changed.eventId } });
    await odalys.call('POST /api/events/:id/history/:change/back', { params, body: { version } });
    const { plan } = await odalys.call('GET /api/events/:id', { params: { id: changed.eventId } });
    expect(plan.messages.find((m) => m.name === 'How it was')).toMatchObject({
      moment: 'survey',
      channel: 'email',
      late: 'skip',
      off: false,
      narrowed: [],
    });
    return undefined;
  });

  test('what is due is done, and the books add up to what was paid', async () => {
    await world.runner.run();
    expect(await booksAstray(world.app.db)).toEqual([]);
    const paid = rowsOf('payments').filter((p) => p.method !== 'waived');
    expect(paid.length).toBeGreaterThan(2);
    const { totals } = await odalys.call('GET /api/ledger', { query: {} });
    expect(totals.map((t) => t.net)).toEqual([paid.reduce((sum, p) => sum + Number(p.amount), 0)]);
  });

  test('every event, person and booking opens, on the staff’s pages and by the links that were sent', async () => {
    for (const { id } of rowsOf('events')) {
      const params = { id: id as string };
      const { see } = (await odalys.call('GET /api/events/:id', { params })).may;
      expect(see.length).toBeGreaterThan(0);
      await odalys.call('GET /api/events/:id/clearance', { params });
      await odalys.call('GET /api/events/:id/registrations', { params });
      await odalys.call('GET /api/events/:id/crew', { params });
      await odalys.call('GET /api/events/:id/messages', { params });
      await odalys.call('GET /api/events/:id/doors', { params });
      const figures = await odalys.call('GET /api/events/:id/figures', { params });
      expect(figures.checks.filter((c) => !c.holds)).toEqual([]);
    }
    for (const contact of rowsOf('contacts')) {
      const params = { id: contact.id as string };
      await odalys.call('GET /api/contacts/:id', { params });
      await odalys.call('GET /api/contacts/:id/lifeline', { params, query: {} });
    }
    for (const message of rowsOf('messages'))
      await odalys.call('GET /api/messages/:id', { params: { id: message.id as string } });
    const links = 'select count(*)::int as n from links';
    const known = await world.app.db.query(links);
    for (const { id } of rowsOf('orders')) {
      const token = (await linkTo(world.app, 'manage', id as string)).split('/').at(-1)!;
      await world.anyone.call('GET /api/public/orders/:token', { params: { token } });
    }
    // They are those of before, and not made anew.
    expect(await world.app.db.query(links)).toEqual(known);
  });
});
