import type { surveysContract } from '#contract/surveys.ts';
import { bindingUnit } from '#core/access/stages.ts';
import { starters } from '#core/surveys/starters.ts';
import type { Asker } from '../app/app.ts';
import { record } from '../app/record.ts';
import { first, insert, update } from '../db/database.ts';
import type { Handlers } from '../http/handle.ts';
import { invalid, notFound, refused } from '../http/problem.ts';

/** Kept surveys are everybody’s who plans: a unit lead without a unit plans nothing yet. */
function demandUnit({ staff }: Asker): void {
  if (bindingUnit(staff) === null) throw refused('no-unit', {}, 403);
}

/** Surveys that are asked again and again: those kept by name, and some to begin with. */
export const templateHandlers: Pick<
  Handlers<typeof surveysContract>,
  'GET /api/survey-templates' | 'POST /api/survey-templates' | 'DELETE /api/survey-templates/:id'
> = {
  'GET /api/survey-templates': async ({ tx }) => {
    const kept = await tx.query<{ id: string; name: string; survey: (typeof starters)[number]['survey'] }>(
      'select id, name, survey from survey_templates order by lower(name)',
    );
    return [...kept, ...starters.map((s) => ({ id: null, ...s }))];
  },

  'POST /api/survey-templates': async (c) => {
    const { tx, app, body, now } = c;
    demandUnit(c);
    const known = await first<{ id: string }>(
      tx,
      'select id from survey_templates where lower(name) = lower($1)',
      [body.name],
    );
    if (known && !body.replace) throw invalid([{ path: 'name', code: 'template-taken' }]);
    const id = known?.id ?? app.ids.id();
    const row = { name: body.name, survey: body.survey };
    if (known) await update(tx, 'survey_templates', id, row);
    else await insert(tx, 'survey_templates', { id, ...row, madeAt: now });
    await record(c, 'survey template kept', { templateId: id, name: body.name, gone: false });
    return { id };
  },

  'DELETE /api/survey-templates/:id': async (c) => {
    demandUnit(c);
    const [gone] = await c.tx.query<{ name: string }>(
      'delete from survey_templates where id = $1 returning name',
      [c.params.id],
    );
    if (!gone) throw notFound('This template');
    await record(c, 'survey template kept', { templateId: c.params.id, name: gone.name, gone: true });
    return { done: true };
  },
};
