import type { measuresContract } from '#contract/measures.ts';
import { type Measure, settledOf } from '#core/outcomes/measure.ts';
import { sameValue } from '#core/words/canonical.ts';
import { record } from '../app/record.ts';
import { first, insert, type Queries, update } from '../db/database.ts';
import type { Handlers } from '../http/handle.ts';
import { invalid, notFound, refused } from '../http/problem.ts';

const columns =
  'm.id, m.name, m.unit, m.kind, m.direction, m.decimals, m.most::float8 as most, m.entered_by, m.looked_at';

type MeasureRow = Measure & { tallies: number; events: number; closed: boolean };

/** Every measure with how often it was counted, by name; those not offered any more at the end. */
const readMeasures = (tx: Queries): Promise<MeasureRow[]> =>
  tx.query<MeasureRow>(
    `select ${columns}, m.closed_at is not null as closed,
       count(t.id)::int as tallies, count(distinct t.event_id)::int as events
     from measures m left join tallies t on t.measure_id = m.id and t.state = 'counted'
     group by m.id order by m.closed_at is not null, lower(m.name ->> 'en')`,
  );

/** Measures by their ids. */
export const measuresById = (
  tx: Queries,
  ids: readonly string[],
): Promise<(Measure & { closed: boolean })[]> =>
  tx.query<Measure & { closed: boolean }>(
    `select ${columns}, m.closed_at is not null as closed from measures m where m.id = any($1)`,
    [ids],
  );

async function measureOf(tx: Queries, id: string): Promise<Measure & { closed: boolean }> {
  const [measure] = await measuresById(tx, [id]);
  if (!measure) throw notFound('This measure');
  return measure;
}

/** Refuses a name that another measure has. */
async function demandFreeName(tx: Queries, name: string, but: string | null): Promise<void> {
  if (
    await first(
      tx,
      "select 1 as x from measures where lower(name ->> 'en') = lower($1) and id is distinct from $2",
      [name, but],
    )
  )
    throw invalid([{ path: 'name.en', code: 'register-exists', params: { kind: 'measure' } }]);
}

export const measuresHandlers: Handlers<typeof measuresContract> = {
  'GET /api/measures': async ({ tx }) => readMeasures(tx),

  'POST /api/measures': async (c) => {
    await demandFreeName(c.tx, c.body.name.en, null);
    const id = c.app.ids.id();
    await insert(c.tx, 'measures', { id, ...c.body, madeAt: c.now });
    await record(c, 'measure changed', { measureId: id, how: 'added a measure', name: c.body.name.en });
    return { id };
  },

  'PUT /api/measures/:id': async (c) => {
    const before = await measureOf(c.tx, c.params.id);
    await demandFreeName(c.tx, c.body.name.en, before.id);
    const tallied = await first(c.tx, 'select 1 as x from tallies where measure_id = $1 limit 1', [
      before.id,
    ]);
    if (tallied && !sameValue(settledOf(before), settledOf(c.body))) throw refused('measure-counted');
    await update(c.tx, 'measures', before.id, { ...c.body });
    await record(c, 'measure changed', {
      measureId: before.id,
      how: 'changed a measure',
      name: c.body.name.en,
    });
    return { done: true };
  },

  'PUT /api/measures/:id/closed': async (c) => {
    const measure = await measureOf(c.tx, c.params.id);
    if (measure.closed === c.body.closed) return { done: true };
    await update(c.tx, 'measures', measure.id, { closedAt: c.body.closed ? c.now : null });
    await record(c, 'measure changed', {
      measureId: measure.id,
      how: c.body.closed ? 'closed a measure' : 'opened a measure again',
      name: measure.name.en,
    });
    return { done: true };
  },
};
