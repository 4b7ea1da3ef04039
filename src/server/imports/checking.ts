import { fold } from '#core/contacts/names.ts';
import { emailKey } from '#core/contacts/reach.ts';
import {
  type Checker,
  contactOf,
  type FileRow,
  isNameless,
  makeChecker,
  putRight,
} from '#core/imports/checking.ts';
import { reachOf } from '#core/imports/columns.ts';
import { everyPerson } from '#core/imports/parts.ts';
import type { PersonRow } from '#core/imports/rows.ts';
import { dateOf } from '#core/time/wallTime.ts';
import type { App } from '../app/app.ts';
import { readFields } from '../contacts/fields.ts';
import { KnownContacts } from '../contacts/known.ts';
import { readMatching } from '../contacts/model.ts';
import { contactVersion } from '../contacts/store.ts';
import { first, type Queries, update } from '../db/database.ts';
import { sha256 } from '../db/ids.ts';
import { theOrganization } from '../staff/store.ts';
import type { OneLine } from '../threads/tasks.ts';
import { inThread } from '../threads/threads.ts';
import {
  broughtBefore,
  countRows,
  findImport,
  type ImportRecord,
  insertRows,
  readByEmail,
  readContent,
  readCurrent,
  readImport,
  readOrganizations,
  readStated,
  type StoredCheck,
} from './store.ts';

/**
 * Rows checked at once; between two lots other requests have their turn. A lot is as large as can be checked in about
 * `ms` milliseconds, by how long the one before took.
 */
const lots = { least: 5, first: 10, most: 250, ms: 120 };

interface Checks {
  /** The files that wait, first come first. */
  waiting: string[];
  running: Promise<void> | null;
  stopped: boolean;
}
const checks = new WeakMap<App, Checks>();
const checksOf = (app: App): Checks => {
  const before = checks.get(app);
  if (before) return before;
  const made: Checks = { waiting: [], running: null, stopped: false };
  checks.set(app, made);
  return made;
};

/** Checks an import in the background. Two at once are checked one after the other. */
export function checkSoon(app: App, importId: string): void {
  const own = checksOf(app);
  if (!own.waiting.includes(importId)) own.waiting.push(importId);
  own.running ??= work(app, own).finally(() => {
    own.running = null;
  });
}

async function work(app: App, own: Checks): Promise<void> {
  for (;;) {
    const id = own.waiting.shift();
    if (!id || own.stopped) return;
    try {
      await app.leases.hold(`import ${id}`, () => check(app, id, own));
    } catch (error) {
      app.log.error({ error: String(error), importId: id }, 'checking an import failed');
      // What went wrong stays to be seen, and can be tried again.
      await app.db
        .query("update imports set state = 'cancelled' where id = $1 and state = 'checking'", [id])
        .catch(() => undefined);
    }
  }
}

/** Goes on with checks that were cut short by a restart. */
export async function resumeChecks(app: App): Promise<void> {
  checksOf(app).stopped = false;
  const cut = await app.db.query<{ id: string }>(
    "select id from imports where state = 'checking' order by created_at, id",
  );
  for (const { id } of cut) checkSoon(app, id);
}

/** Stops after the lot under way; the rest is done at the next start. */
export async function stopChecks(app: App): Promise<void> {
  const own = checksOf(app);
  own.stopped = true;
  await own.running;
}

async function check(app: App, id: string, own: Checks): Promise<void> {
  const whole = await findImport(app.db, id);
  if (whole?.state !== 'checking') return;
  const people = await inThread('read everybody', {
    bytes: await readContent(app.db, id),
    mapping: whole.mapping,
    overrides: whole.overrides,
  });
  const checker = await checkerFor(app, whole);
  const version = await contactVersion(app.db);
  const known = new KnownContacts();
  await app.db.query('delete from import_rows where import_id = $1', [id]);
  await update(app.db, 'imports', id, { allRows: people.length, doneRows: 0 });
  let size = lots.first;
  for (let from = 0, next = 0; from < people.length; from = next) {
    const began = performance.now();
    next = from + size;
    const rows = await checkLot(
      app.db,
      checker,
      known,
      people.slice(from, next),
      await overridesOf(app.db, id),
    );
    const going = await app.db.transaction(async (tx) => {
      const still = await tx.query("select 1 from imports where id = $1 and state = 'checking' for update", [
        id,
      ]);
      if (!still.length) return false;
      await insertRows(tx, id, rows);
      await tx.query('update imports set done_rows = done_rows + $2 where id = $1', [id, rows.length]);
      return true;
    });
    if (!going || own.stopped) return;
    const fitting = Math.round((size * lots.ms) / Math.max(1, performance.now() - began));
    size = Math.max(lots.least, Math.min(lots.most, size * 2, fitting));
    await new Promise((resolve) => setImmediate(resolve));
  }
  await app.db.transaction(async (tx) => {
    const counts = await countRows(tx, id);
    await tx.query(
      "update imports set state = 'checked', counts = $2, checked_version = $3 where id = $1 and state = 'checking'",
      [id, JSON.stringify(counts), version],
    );
  });
}

const overridesOf = async (tx: Queries, id: string): Promise<ImportRecord['overrides']> =>
  (
    await first<{ overrides: ImportRecord['overrides'] }>(tx, 'select overrides from imports where id = $1', [
      id,
    ])
  )?.overrides ?? {};

async function checkerFor(app: App, record: ImportRecord): Promise<Checker> {
  const { country, zone } = await theOrganization(app.db);
  const { model, thresholds } = await readMatching({ app, tx: app.db });
  return makeChecker({
    mapping: { ...record.mapping, reach: reachOf(record.headings) },
    country,
    today: dateOf(app.clock.now(), zone),
    model,
    thresholds,
    choices: record.choices,
    overrides: record.overrides,
    fields: await readFields(app.db),
  });
}

/** Checks some rows against the contacts as they are, and against the rows the checker has seen. */
async function checkLot(
  tx: Queries,
  checker: Checker,
  known: KnownContacts,
  rows: readonly FileRow[],
  overrides: ImportRecord['overrides'],
): Promise<StoredCheck[]> {
  const ready = rows.map((row) => checker.read(row));
  // A row that was applied before is the contact it became then, and nobody else has to be looked for.
  const marks = ready.map((row) =>
    overrides[row.row.line]?.decision || !('person' in row.read) ? null : fingerprintOf(row.read.person),
  );
  const before = await broughtBefore(
    tx,
    marks.filter((m) => m !== null),
  );
  const beforeAt = (at: number) => before.get(marks[at] ?? '') ?? null;
  await known.fetch(
    tx,
    ready.flatMap((r, at) => (beforeAt(at) ? [] : r.keys)),
  );
  const identified = ready.map((row, at) =>
    checker.identify(row, beforeAt(at) ? [] : known.sharing(row.keys)),
  );
  const nameAt = (at: number) => {
    const { read } = ready[at]!;
    return 'person' in read && read.person.kind === 'organization' ? fold(read.person.family) : null;
  };
  const organizations = await readOrganizations(
    tx,
    ready.map((_, at) => nameAt(at)).filter((name) => name !== null),
  );
  // Somebody without a name is whoever alone has the email.
  const emailAt = (at: number) => {
    const { read } = ready[at]!;
    return 'person' in read && isNameless(read) ? emailKey(read.person.emails[0]!) : null;
  };
  const byEmail = await readByEmail(
    tx,
    ready.map((_, at) => emailAt(at)).filter((email) => email !== null),
  );
  const sharingAt = (at: number) => byEmail.get(emailAt(at) ?? '') ?? [];
  const statedAt = (at: number) => {
    const { read } = ready[at]!;
    return 'person' in read ? read.person.statedId : null;
  };
  const stated = await readStated(
    tx,
    ready.map((_, at) => statedAt(at)).filter((id) => id !== null),
  );
  const contactAt = identified.map(
    (who, at) =>
      beforeAt(at) ??
      (overrides[ready[at]!.row.line]?.decision ? null : stated.get(statedAt(at) ?? '')) ??
      organizations.get(nameAt(at) ?? '') ??
      (sharingAt(at).length === 1 ? sharingAt(at)[0]! : null) ??
      contactOf(ready[at]!.row.line, who, overrides),
  );
  const ids = [...new Set(contactAt.filter((c) => c !== null))];
  const current = new Map((await readCurrent(tx, ids)).map((c) => [c.id, c]));
  return ready.map((row, at) => ({
    ...checker.verdict(
      row,
      { ...identified[at]!, sharing: sharingAt(at).length },
      current.get(contactAt[at] ?? '') ?? null,
      Boolean(beforeAt(at)),
    ),
    fingerprint: marks[at] ?? ('person' in row.read ? fingerprintOf(row.read.person) : null),
  }));
}

const fingerprintOf = (person: PersonRow): string => sha256(JSON.stringify(person));

/**
 * Checks one row of a file again, after cells were put right or something was said about it, with whoever else it names.
 * Empty when the file has no such row. A person that a row does not name any more is not among them.
 */
export async function checkRow(
  w: { app: App; tx: Queries },
  importId: string,
  { row, lastLine }: OneLine,
): Promise<StoredCheck[]> {
  if (!row) return [];
  const record = await readImport(w.tx, importId);
  const rows = everyPerson([{ ...row, cells: putRight(row, record.overrides) }], record.mapping, lastLine);
  const checker = await checkerFor({ ...w.app, db: w.tx } as App, record);
  return checkLot(w.tx, checker, new KnownContacts(), rows, record.overrides);
}
