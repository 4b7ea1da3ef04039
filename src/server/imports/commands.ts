import type { BodyOf } from '#contract/endpoint.ts';
import type { importsContract } from '#contract/imports.ts';
import { TableProblem } from '#core/exchange/table.ts';
import { likenessOf, problemsWithMapping } from '#core/imports/columns.ts';
import { type RowOverride, usualChoices } from '#core/imports/importing.ts';
import { type ColumnMeaning, fieldIdOf, type Mapping } from '#core/imports/mapping.ts';
import { type Actor, type App, inTransaction, systemActor, type Work } from '../app/app.ts';
import { record } from '../app/record.ts';
import { readFields } from '../contacts/fields.ts';
import { estimateModel } from '../contacts/model.ts';
import { contactVersion, resolveContact } from '../contacts/store.ts';
import { insert, update } from '../db/database.ts';
import { sha256 } from '../db/ids.ts';
import { vacuumTables } from '../db/upkeep.ts';
import { invalid, refused } from '../http/problem.ts';
import { theOrganization } from '../staff/store.ts';
import type { FirstLook } from '../threads/tasks.ts';
import { inThread } from '../threads/threads.ts';
import { applyImport } from './applying.ts';
import { checkRow, checkSoon } from './checking.ts';
import { allowLots } from './lots.ts';
import {
  countRows,
  deleteImport,
  type ImportRecord,
  insertRows,
  keepContent,
  lastLike,
  lineInFile,
  readContent,
  readCutShort,
  readImport,
  takeRowsOf,
} from './store.ts';
import { undoImport } from './undoing.ts';

type Body<K extends keyof typeof importsContract> = BodyOf<(typeof importsContract)[K]>;

/** Refuses an import that is not in one of the states the action needs. */
function needState(record: ImportRecord, ...wanted: ImportRecord['state'][]): void {
  if (wanted.includes(record.state)) return;
  const { state } = record;
  throw state === 'checking'
    ? refused('import-being-checked')
    : state === 'applying'
      ? refused('import-being-applied')
      : state === 'undoing'
        ? refused('import-being-undone')
        : refused(wanted.includes('applied') ? 'import-not-applied' : 'import-state', { state });
}

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

type Doing = (app: App, actor: Actor, id: string) => Promise<unknown>;

/** Does long work on an import, unless another process is at it already. */
const goOn = (app: App, actor: Actor, id: string, work: Doing) =>
  app.leases.hold(`import ${id}`, () => work(app, actor, id));

/** Goes on with applying and undoing that were cut short by a restart, or left by another process. */
export async function resumeImports(app: App): Promise<void> {
  allowLots(app);
  for (const { id, state } of await readCutShort(app.db))
    goOn(app, systemActor, id, state === 'applying' ? finishApplying : undoImport).catch((error) =>
      app.log.error({ error: String(error), importId: id }, 'an import could not go on'),
    );
}

/**
 * Takes a file in: it is read, its columns are proposed or taken over from the last file like it, and it is checked in the
 * background. Answers the import.
 */
export async function beginImport(app: App, actor: Actor, body: Body<'POST /api/imports'>): Promise<string> {
  const bytes = Buffer.from(body.content, 'base64');
  const { country } = await theOrganization(app.db);
  const fields = await readFields(app.db);
  let file: FirstLook;
  try {
    file = await inThread('look at a table', { bytes, country, fields });
  } catch (error) {
    if (error instanceof TableProblem) throw invalid([{ path: 'content', ...error.said }]);
    throw error;
  }
  const likeness = likenessOf(file.headings);
  const remembered = likeness === null ? null : await lastLike(app.db, likeness);
  // A field that was taken away since means nothing any more.
  const there = (m: ColumnMeaning) => {
    const own = fieldIdOf(m);
    return own && !fields.some((f) => f.id === own) ? 'leave' : m;
  };
  const columns = remembered?.mapping.columns.map(there) ?? file.proposal.columns;
  const orders = remembered
    ? await inThread('tell the order of dates', { bytes, columns, fields })
    : file.proposal.dateOrders;
  return inTransaction(app, actor, async (w) => {
    const { tx, now } = w;
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
      createdBy: actor.staffId,
      createdAt: now,
    });
    await keepContent(tx, id, body.content);
    w.afterwards(() => checkSoon(app, id));
    return id;
  });
}

/** Says what the columns mean; the file is checked anew. Throws what does not go together, by column. */
export async function changeMapping(
  app: App,
  actor: Actor,
  id: string,
  body: Body<'PUT /api/imports/:id/mapping'>,
): Promise<void> {
  const { choices, columns } = body;
  // The file is read before anything is held. A column newly said to be dated is read by its own evidence.
  const bytes = await readContent(app.db, id);
  const fields = await readFields(app.db);
  const orders = await inThread('tell the order of dates', { bytes, columns, fields });
  await inTransaction(app, actor, async (w) => {
    const file = await readImport(w.tx, id, true);
    needState(file, 'checked', 'checking', 'cancelled');
    const said = body.dateOrders;
    const mapping: Mapping = { columns, dateOrders: orders.map((o, at) => (o ? (said[at] ?? o) : null)) };
    const problems = problemsWithMapping(mapping, file.headings.length);
    if (problems.length) throw invalid(problems);
    await update(w.tx, 'imports', file.id, {
      mapping,
      ...(choices ? { choices } : {}),
      state: 'checking',
      doneRows: 0,
    });
    w.afterwards(() => checkSoon(app, id));
  });
}

/**
 * Puts a row right, leaves it out, or says whom it means; it is checked at once, and nothing else is. Answers the line of the
 * file that it belongs to.
 */
export async function changeRow(
  app: App,
  actor: Actor,
  id: string,
  line: number,
  body: Body<'PATCH /api/imports/:id/rows/:line'>,
): Promise<number> {
  const bytes = await readContent(app.db, id);
  const ofLine = await lineInFile(app.db, id, line);
  const lineRead = await inThread('read one line', { bytes, line: ofLine });
  await inTransaction(app, actor, async (w) => {
    const file = await readImport(w.tx, id, true);
    needState(file, 'checked');
    const { cells, excluded, decision } = body;
    const contactId = decision && decision !== 'new' ? await resolveContact(w.tx, decision) : null;
    if (decision && decision !== 'new' && !contactId)
      throw invalid([{ path: 'decision', code: 'no-such-contact' }]);
    const overrides = { ...file.overrides };
    const put = (at: number, override: RowOverride) => {
      overrides[at] = { ...overrides[at], ...override };
    };
    // Everybody whom a line names shares its cells.
    if (cells) put(ofLine, { cells: { ...overrides[ofLine]?.cells, ...cells } });
    if (excluded !== undefined) put(line, { excluded });
    if (decision !== undefined) put(line, { decision: decision === null ? undefined : (contactId ?? 'new') });
    await update(w.tx, 'imports', id, { overrides });
    const checked = await checkRow(w, id, lineRead);
    const before = await takeRowsOf(w.tx, id, ofLine);
    // Only this line was looked at: what it has to do with the lines above stays as it was found.
    await insertRows(
      w.tx,
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
    await update(w.tx, 'imports', id, { counts: await countRows(w.tx, id) });
  });
  return ofLine;
}

/** Applies an import as it was shown; where contacts changed since, it is checked anew instead. */
export async function beginApplying(app: App, actor: Actor, id: string): Promise<void> {
  const begun = await inTransaction(app, actor, async (w) => {
    const file = await readImport(w.tx, id, true);
    needState(file, 'checked');
    const problems = problemsWithMapping(file.mapping, file.headings.length);
    file.mapping.dateOrders.forEach((order, at) => {
      if (order === 'ask')
        problems.push({
          path: `columns.${at}`,
          code: 'day-or-month',
          params: { heading: file.headings[at] ?? '' },
        });
    });
    if (problems.length) throw invalid(problems);
    // Contacts were changed since: what was shown may no longer be true, so it is worked out and shown again.
    const stale = file.checkedVersion !== (await contactVersion(w.tx));
    await update(w.tx, 'imports', id, { state: stale ? 'checking' : 'applying', doneRows: 0 });
    if (stale) w.afterwards(() => checkSoon(app, id));
    return !stale;
  });
  if (begun) await goOn(app, actor, id, finishApplying);
}

/** Takes an import back, as far as nothing was changed since. */
export async function beginUndoing(app: App, actor: Actor, id: string): Promise<void> {
  await inTransaction(app, actor, async (w) => {
    needState(await readImport(w.tx, id, true), 'applied');
    await update(w.tx, 'imports', id, { state: 'undoing', doneRows: 0, kept: [], tally: null });
  });
  await goOn(app, actor, id, undoImport);
}

/** Stops checking; what was found so far stays to be looked at. */
export async function cancelCheck(w: Work, id: string): Promise<void> {
  const file = await readImport(w.tx, id);
  if (file.state === 'checking') await update(w.tx, 'imports', id, { state: 'cancelled' });
}

/** Deletes an import of which nothing was applied. */
export async function removeImport(w: Work, id: string): Promise<void> {
  const file = await readImport(w.tx, id);
  needState(file, 'checked', 'checking', 'cancelled');
  await deleteImport(w.tx, id);
  await record(w, 'import changed', {
    importId: id,
    how: 'threw an import away',
    detail: { file: file.fileName },
  });
}
