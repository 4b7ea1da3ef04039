import type { ImportRow, ImportSummary, importsContract } from '#contract/imports.ts';
import { fullName } from '#core/contacts/names.ts';
import { writeCsv } from '#core/exchange/csv.ts';
import { TableProblem } from '#core/exchange/table.ts';
import { likenessOf, problemsWithMapping } from '#core/imports/columns.ts';
import { type RowOverride, usualChoices } from '#core/imports/importing.ts';
import { type ColumnMeaning, fieldIdOf, type Mapping } from '#core/imports/mapping.ts';
import { type Actor, type App, audit, inTransaction, systemActor } from '../app/app.ts';
import { readFields } from '../contacts/fields.ts';
import { estimateModel } from '../contacts/model.ts';
import { contactVersion, resolveContact } from '../contacts/store.ts';
import { first, insert, type Queries, update } from '../db/database.ts';
import { sha256 } from '../db/ids.ts';
import { vacuumTables } from '../db/upkeep.ts';
import { File, type Handlers } from '../http/handle.ts';
import { conflict, invalid, notFound } from '../http/problem.ts';
import { Stream } from '../http/stream.ts';
import { theOrganization } from '../staff/store.ts';
import type { FirstLook } from '../threads/tasks.ts';
import { inThread } from '../threads/threads.ts';
import { applyImport } from './applying.ts';
import { checkRow, checkSoon } from './checking.ts';
import { allowLots } from './lots.ts';
import {
  countRows,
  type ImportRecord,
  insertRows,
  readContent,
  readImport,
  type StoredCheck,
} from './store.ts';
import { undoImport, undoneOf } from './undoing.ts';

async function summary(tx: Queries, id: string): Promise<ImportSummary> {
  const { fileHash, checkedVersion, mappingFrom, overrides: _, ...row } = await readImport(tx, id);
  const before = await first<{ id: string; at: string }>(
    tx,
    "select id, applied_at as at from imports where file_hash = $1 and state = 'applied' and id <> $2 order by applied_at desc limit 1",
    [fileHash, id],
  );
  const from = mappingFrom
    ? await first<{ fileName: string; at: string }>(
        tx,
        'select file_name, applied_at as at from imports where id = $1',
        [mappingFrom],
      )
    : null;
  const sample = await tx.query<{ cells: string[] }>(
    'select cells from import_rows where import_id = $1 order by line limit 5',
    [id],
  );
  return {
    ...row,
    stale: row.state === 'checked' && checkedVersion !== (await contactVersion(tx)),
    appliedBefore: before,
    mappingFrom: from,
    sample: sample.map((s) => s.cells),
  };
}

/** Refuses an import that is not in one of the states the action needs. */
function needState(record: ImportRecord, ...wanted: ImportRecord['state'][]): void {
  if (wanted.includes(record.state)) return;
  throw conflict(
    'import-state',
    record.state === 'checking' || record.state === 'applying' || record.state === 'undoing'
      ? `This import is still ${record.state === 'checking' ? 'being checked' : record.state === 'applying' ? 'being applied' : 'being undone'}.`
      : wanted.includes('applied')
        ? `Only an applied import can be undone; this one is ${record.state}.`
        : `This import was ${record.state} already.`,
  );
}

/** The mapping of the last applied file with the same headings. */
const rememberedMapping = (tx: Queries, likeness: string) =>
  first<{ id: string; mapping: Mapping; choices: ImportRecord['choices'] }>(
    tx,
    "select id, mapping, choices from imports where likeness = $1 and state = 'applied' order by applied_at desc, id desc limit 1",
    [likeness],
  );

/** After many contacts came in: the tables are measured, and the weights of comparing them estimated anew. */
async function settle(app: App): Promise<void> {
  await vacuumTables(app.db);
  await estimateModel(app);
}

/** Applies an import that is on its way, and sees to the tables afterwards. */
async function finishApplying(app: App, actor: Actor, id: string): Promise<void> {
  await applyImport(app, actor, id);
  settle(app).catch((error) =>
    app.log.error({ error: String(error) }, 'estimating the matching model failed'),
  );
}

type Work = (app: App, actor: Actor, id: string) => Promise<unknown>;

/** Does long work on an import, unless another process is at it already. */
const goOn = (app: App, actor: Actor, id: string, work: Work) =>
  app.leases.hold(`import ${id}`, () => work(app, actor, id));

/** Goes on with applying and undoing that were cut short by a restart, or left by another process. */
export async function resumeImports(app: App): Promise<void> {
  allowLots(app);
  const cut = await app.db.query<{ id: string; state: string }>(
    "select id, state from imports where state in ('applying', 'undoing') order by created_at, id",
  );
  for (const { id, state } of cut)
    goOn(app, systemActor, id, state === 'applying' ? finishApplying : undoImport).catch((error) =>
      app.log.error({ error: String(error), importId: id }, 'an import could not go on'),
    );
}

type StoredRow = Omit<ImportRow, 'name' | 'email' | 'phone' | 'contactName'> & {
  person: { given: string; family: string; emails: string[]; phones: string[] } | null;
  knownGiven: string | null;
  knownFamily: string | null;
};
const rowColumns = `r.line, r.of_line, r.part, r.verdict, r.reasons, r.person, r.cells, r.contact_id, r.same_as_line, r.excluded, r.probability, r.changes,
  c.given_name as known_given, c.family_name as known_family`;

const asRow = ({ person, knownGiven, knownFamily, ...row }: StoredRow): ImportRow => ({
  ...row,
  name: person ? fullName(person) : row.cells.filter(Boolean).slice(0, 3).join(' · '),
  email: person?.emails[0] ?? null,
  phone: person?.phones[0] ?? null,
  contactName: knownGiven === null ? null : fullName({ given: knownGiven, family: knownFamily ?? '' }),
});

/** The line of the file that a row stands for. */
async function lineInFile(tx: Queries, importId: string, line: number): Promise<number> {
  const row = await first<{ line: number }>(
    tx,
    'select coalesce(of_line, line) as line from import_rows where import_id = $1 and line = $2',
    [importId, line],
  );
  if (!row) throw notFound('This row');
  return row.line;
}

export const importsHandlers: Handlers<typeof importsContract> = {
  'GET /api/imports': async ({ tx }) => {
    const ids = await tx.query<{ id: string }>(
      'select id from imports order by created_at desc, id desc limit 50',
    );
    return Promise.all(ids.map(({ id }) => summary(tx, id)));
  },

  'POST /api/imports': async (call) => {
    const { body, staff } = call;
    const bytes = Buffer.from(body.content, 'base64');
    const { country } = await theOrganization(call.tx);
    const fields = await readFields(call.tx);
    let file: FirstLook;
    try {
      file = await inThread('look at a table', { bytes, country, fields });
    } catch (error) {
      if (error instanceof TableProblem) throw invalid([{ path: 'content', message: error.message }]);
      throw error;
    }
    const likeness = likenessOf(file.headings);
    const remembered = likeness === null ? null : await rememberedMapping(call.tx, likeness);
    // A field that was taken away since means nothing any more.
    const there = (m: ColumnMeaning) => {
      const own = fieldIdOf(m);
      return own && !fields.some((f) => f.id === own) ? 'leave' : m;
    };
    const columns = remembered?.mapping.columns.map(there) ?? file.proposal.columns;
    const orders = remembered
      ? await inThread('tell the order of dates', { bytes, columns, fields })
      : file.proposal.dateOrders;
    return inTransaction(call.app, call.actor, async (c) => {
      const { tx, app, now } = c;
      const id = app.ids.id();
      await insert(tx, 'imports', {
        id,
        fileName: body.fileName,
        fileHash: sha256(bytes),
        state: 'checking',
        encoding: file.encoding,
        delimiter: file.delimiter,
        headingLine: file.headingLine,
        headings: file.headings,
        // Where this file does not tell the order of its dates, the one before did or somebody said it.
        mapping: {
          columns,
          dateOrders: orders.map((o, at) => (o === 'ask' ? (remembered?.mapping.dateOrders[at] ?? o) : o)),
        },
        confidence: remembered ? columns.map((m) => (m === 'leave' ? 0 : 1)) : file.proposal.confidence,
        choices: remembered?.choices ?? usualChoices,
        mappingFrom: remembered?.id ?? null,
        overrides: {},
        kept: [],
        likeness: likeness ?? '',
        counts: { new: 0, changes: 0, same: 0, look: 0, rejected: 0 },
        doneRows: 0,
        allRows: file.rows,
        createdBy: staff.id,
        createdAt: now,
      });
      await tx.query("update imports set content = decode($2, 'base64') where id = $1", [id, body.content]);
      c.afterwards(() => checkSoon(app, id));
      return summary(tx, id);
    });
  },

  'GET /api/imports/:id': ({ tx, params }) => summary(tx, params.id),

  'GET /api/imports/:id/stream': async ({ app, tx, params }) => {
    const { id } = await readImport(tx, params.id);
    return new Stream(app.announcer, `import ${id}`);
  },

  'GET /api/imports/:id/rows': async ({ tx, params, query }) => {
    await readImport(tx, params.id);
    const where = `r.import_id = $1 and ($2::text is null or r.verdict = $2)
      and ($3 = '' or position(lower($3) in lower(r.cells::text)) > 0)`;
    const values = [params.id, query.verdict ?? null, query.q];
    const rows = await tx.query<StoredRow>(
      `select ${rowColumns} from import_rows r left join contacts c on c.id = r.contact_id
       where ${where} order by coalesce(r.of_line, r.line), r.line limit ${query.limit} offset ${query.offset}`,
      values,
    );
    const total = await first<{ n: number }>(
      tx,
      `select count(*)::int as n from import_rows r where ${where}`,
      values,
    );
    return { rows: rows.map(asRow), total: total?.n ?? 0 };
  },

  'GET /api/imports/:id/rejected.csv': async ({ tx, params }) => {
    const record = await readImport(tx, params.id);
    const rows = await tx.query<{ line: number; cells: string[]; reasons: string[] }>(
      "select coalesce(of_line, line) as line, cells, reasons from import_rows where import_id = $1 and verdict = 'rejected' order by coalesce(of_line, line), import_rows.line",
      [params.id],
    );
    return new File(
      `rejected rows of ${record.fileName.replace(/\.\w+$/u, '')}.csv`,
      writeCsv(
        [...record.headings, 'Line', 'Why rejected'],
        rows.map((r) => [...record.headings.map((_, at) => r.cells[at] ?? ''), r.line, r.reasons.join('; ')]),
      ),
    );
  },

  'PUT /api/imports/:id/mapping': async (call) => {
    const { choices, columns } = call.body;
    // The file is read before anything is held. A column newly said to be dated is read by its own evidence.
    const bytes = await readContent(call.tx, call.params.id);
    const fields = await readFields(call.tx);
    const orders = await inThread('tell the order of dates', { bytes, columns, fields });
    return inTransaction(call.app, call.actor, async (w) => {
      const c = { ...call, ...w };
      const record = await readImport(c.tx, c.params.id, true);
      needState(record, 'checked', 'checking', 'cancelled');
      const said = c.body.dateOrders;
      const mapping: Mapping = { columns, dateOrders: orders.map((o, at) => (o ? (said[at] ?? o) : null)) };
      const problems = problemsWithMapping(mapping, record.headings.length);
      if (problems.length) throw invalid(problems);
      await update(c.tx, 'imports', record.id, {
        mapping,
        ...(choices ? { choices } : {}),
        state: 'checking',
        doneRows: 0,
      });
      c.afterwards(() => checkSoon(c.app, record.id));
      return summary(c.tx, record.id);
    });
  },

  'PATCH /api/imports/:id/rows/:line': async (call) => {
    const { id, line } = call.params;
    const bytes = await readContent(call.tx, id);
    const ofLine = await lineInFile(call.tx, id, line);
    const file = await inThread('read one line', { bytes, line: ofLine });
    return inTransaction(call.app, call.actor, async (w) => {
      const c = { ...call, ...w };
      const record = await readImport(c.tx, id, true);
      needState(record, 'checked');
      const { cells, excluded, decision } = c.body;
      const contactId = decision && decision !== 'new' ? await resolveContact(c.tx, decision) : null;
      if (decision && decision !== 'new' && !contactId)
        throw invalid([{ path: 'decision', message: 'There is no such contact.' }]);
      const overrides = { ...record.overrides };
      const put = (at: number, override: RowOverride) => {
        overrides[at] = { ...overrides[at], ...override };
      };
      // Everybody whom a line names shares its cells.
      if (cells) put(ofLine, { cells: { ...overrides[ofLine]?.cells, ...cells } });
      if (excluded !== undefined) put(line, { excluded });
      if (decision !== undefined)
        put(line, { decision: decision === null ? undefined : (contactId ?? 'new') });
      await update(c.tx, 'imports', id, { overrides });
      const checked = await checkRow(c, id, file);
      const before = await c.tx.query<Pick<StoredCheck, 'line' | 'sameAsLine' | 'householdOfLine'>>(
        `delete from import_rows where import_id = $1 and (line = $2 or of_line = $2)
       returning line, same_as_line, household_of_line`,
        [id, ofLine],
      );
      // Only this line was looked at: what it has to do with the lines above stays as it was found.
      await insertRows(
        c.tx,
        id,
        checked.map((row) => {
          const was = before.find((b) => b.line === row.line);
          const said = row.line === line && decision !== undefined;
          const householdOfLine = row.householdOfLine ?? was?.householdOfLine ?? null;
          return !said && was?.sameAsLine && row.verdict === 'new' && !row.excluded
            ? { ...row, verdict: 'same', sameAsLine: was.sameAsLine }
            : { ...row, householdOfLine };
        }),
      );
      await update(c.tx, 'imports', id, { counts: await countRows(c.tx, id) });
      const row = await first<StoredRow>(
        c.tx,
        `select ${rowColumns} from import_rows r left join contacts c on c.id = r.contact_id
       where r.import_id = $1 and r.line = any($2) order by r.line = $3 desc limit 1`,
        [id, [line, ofLine], line],
      );
      return asRow(row!);
    });
  },

  'POST /api/imports/:id/cancel': async (c) => {
    const record = await readImport(c.tx, c.params.id);
    if (record.state === 'checking') await update(c.tx, 'imports', record.id, { state: 'cancelled' });
    return { done: true };
  },

  'POST /api/imports/:id/apply': async (c) => {
    const { app, actor } = c;
    const { id } = c.params;
    const begun = await inTransaction(app, actor, async (w) => {
      const record = await readImport(w.tx, id, true);
      needState(record, 'checked');
      const problems = problemsWithMapping(record.mapping, record.headings.length);
      record.mapping.dateOrders.forEach((order, at) => {
        if (order === 'ask')
          problems.push({
            path: `columns.${at}`,
            message: `Say whether the day or the month comes first in “${record.headings[at]}”; the file does not tell.`,
          });
      });
      if (problems.length) throw invalid(problems);
      // Contacts were changed since: what was shown may no longer be true, so it is worked out and shown again.
      const stale = record.checkedVersion !== (await contactVersion(w.tx));
      await update(w.tx, 'imports', id, { state: stale ? 'checking' : 'applying', doneRows: 0 });
      if (stale) w.afterwards(() => checkSoon(app, id));
      return !stale;
    });
    if (begun) await goOn(app, actor, id, finishApplying);
    return summary(app.db, id);
  },

  'POST /api/imports/:id/undo': async (c) => {
    const { id } = c.params;
    await inTransaction(c.app, c.actor, async (w) => {
      needState(await readImport(w.tx, id, true), 'applied');
      await update(w.tx, 'imports', id, { state: 'undoing', doneRows: 0, kept: [], tally: null });
    });
    await goOn(c.app, c.actor, id, undoImport);
    return undoneOf(c.app.db, id);
  },

  'DELETE /api/imports/:id': async (c) => {
    const record = await readImport(c.tx, c.params.id);
    needState(record, 'checked', 'checking', 'cancelled');
    await c.tx.query('delete from imports where id = $1', [record.id]);
    await audit(c, 'threw an import away', { kind: 'import', id: record.id }, { file: record.fileName });
    return { done: true };
  },
};
