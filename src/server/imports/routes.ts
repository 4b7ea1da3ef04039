import type { ImportRow, ImportSummary, importsContract } from '#contract/imports.ts';
import { fullName } from '#core/contacts/names.ts';
import { writeCsv } from '#core/exchange/csv.ts';
import { sayIfAny, sayReason } from '#core/words/reasons.ts';
import { contactVersion } from '../contacts/store.ts';
import type { Queries } from '../db/database.ts';
import { File, type Handlers } from '../http/handle.ts';
import { Stream } from '../http/stream.ts';
import * as commands from './commands.ts';
import * as store from './store.ts';
import { undoneOf } from './undoing.ts';

async function summaryOf(tx: Queries, file: store.ImportRecord): Promise<ImportSummary> {
  const { fileHash: _, checkedVersion, mappingFrom, overrides: __, ...row } = file;
  const from = mappingFrom ? await store.findImport(tx, mappingFrom) : null;
  return {
    ...row,
    stale: row.state === 'checked' && checkedVersion !== (await contactVersion(tx)),
    appliedBefore: await store.appliedBefore(tx, file),
    mappingFrom: from && { fileName: from.fileName, at: from.appliedAt! },
    sample: (await store.readSample(tx, file.id)).map((s) => s.cells),
  };
}
const summary = async (tx: Queries, id: string) => summaryOf(tx, await store.readImport(tx, id));

const asRow = ({ person, knownGiven, knownFamily, ...row }: store.ShownRow): ImportRow => ({
  ...row,
  reasons: row.reasons.map(sayReason),
  decided: row.reasons.some(({ code }) => code === 'by hand' || code === 'new by hand'),
  changes: row.changes.map((change) => ({ ...change, why: sayIfAny(change.why) })),
  name: person ? fullName(person) : row.cells.filter(Boolean).slice(0, 3).join(' · '),
  email: person?.emails[0] ?? null,
  phone: person?.phones[0] ?? null,
  contactName: knownGiven === null ? null : fullName({ given: knownGiven, family: knownFamily ?? '' }),
});

const listed = 50;

export const importsHandlers: Handlers<typeof importsContract> = {
  'GET /api/imports': async ({ tx }) =>
    Promise.all((await store.readImports(tx, listed)).map((file) => summaryOf(tx, file))),

  'POST /api/imports': async ({ app, actor, body }) =>
    summary(app.db, await commands.beginImport(app, actor, body)),

  'GET /api/imports/:id': ({ tx, params }) => summary(tx, params.id),

  'GET /api/imports/:id/stream': async ({ app, tx, params }) => {
    const { id } = await store.readImport(tx, params.id);
    return new Stream(app.announcer, `import ${id}`);
  },

  'GET /api/imports/:id/rows': async ({ tx, params, query }) => {
    await store.readImport(tx, params.id);
    const { rows, total } = await store.readShownRows(tx, params.id, query);
    return { rows: rows.map(asRow), total };
  },

  'GET /api/imports/:id/rejected.csv': async ({ tx, params }) => {
    const { fileName, headings } = await store.readImport(tx, params.id);
    const rows = await store.readRejected(tx, params.id);
    return new File(
      `rejected rows of ${fileName.replace(/\.\w+$/u, '')}.csv`,
      writeCsv(
        [...headings, 'Line', 'Why rejected'],
        rows.map((r) => [
          ...headings.map((_, at) => r.cells[at] ?? ''),
          r.line,
          r.reasons.map(sayReason).join('; '),
        ]),
      ),
    );
  },

  'PUT /api/imports/:id/mapping': async ({ app, actor, params, body }) => {
    await commands.changeMapping(app, actor, params.id, body);
    return summary(app.db, params.id);
  },

  'PATCH /api/imports/:id/rows/:line': async ({ app, actor, params: { id, line }, body }) => {
    const ofLine = await commands.changeRow(app, actor, id, line, body);
    // A person whom the line named may be gone with what was put right.
    return asRow(await store.readShownRow(app.db, id, line, ofLine));
  },

  'POST /api/imports/:id/cancel': async (c) => {
    await commands.cancelCheck(c, c.params.id);
    return { done: true };
  },

  'POST /api/imports/:id/apply': async ({ app, actor, params }) => {
    await commands.beginApplying(app, actor, params.id);
    return summary(app.db, params.id);
  },

  'POST /api/imports/:id/undo': async ({ app, actor, params }) => {
    await commands.beginUndoing(app, actor, params.id);
    return undoneOf(app.db, params.id);
  },

  'DELETE /api/imports/:id': async (c) => {
    await commands.removeImport(c, c.params.id);
    return { done: true };
  },
};
