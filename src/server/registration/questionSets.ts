import type { QuestionSet, questionSetsContract } from '#contract/questionSets.ts';
import { bindingUnit } from '#core/access/stages.ts';
import type { Asker } from '../app/app.ts';
import { record } from '../app/record.ts';
import { first, insert, update } from '../db/database.ts';
import type { Handlers } from '../http/handle.ts';
import { invalid, notFound, refused } from '../http/problem.ts';

/** Sets are everybody’s who plans: a unit lead without a unit plans nothing yet. */
function demandUnit({ staff }: Asker): void {
  if (bindingUnit(staff) === null) throw refused('no-unit', {}, 403);
}

export const questionSetHandlers: Handlers<typeof questionSetsContract> = {
  'GET /api/question-sets': ({ tx }) =>
    tx.query<QuestionSet>('select id, name, questions from question_sets order by lower(name)'),

  'POST /api/question-sets': async (c) => {
    const { tx, app, body, now } = c;
    demandUnit(c);
    const known = await first<{ id: string }>(
      tx,
      'select id from question_sets where lower(name) = lower($1)',
      [body.name],
    );
    if (known && !body.replace) throw invalid([{ path: 'name', code: 'set-taken' }]);
    const id = known?.id ?? app.ids.id();
    // A set belongs to no event: what hangs on a ticket there would hang on nothing here.
    const row = { name: body.name, questions: body.questions.map((q) => ({ ...q, offerId: null })) };
    if (known) await update(tx, 'question_sets', id, row);
    else await insert(tx, 'question_sets', { id, ...row, madeAt: now });
    await record(c, 'question set kept', { setId: id, name: body.name, gone: false });
    return { id };
  },

  'DELETE /api/question-sets/:id': async (c) => {
    demandUnit(c);
    const [gone] = await c.tx.query<{ name: string }>(
      'delete from question_sets where id = $1 returning name',
      [c.params.id],
    );
    if (!gone) throw notFound('This set');
    await record(c, 'question set kept', { setId: c.params.id, name: gone.name, gone: true });
    return { done: true };
  },
};
