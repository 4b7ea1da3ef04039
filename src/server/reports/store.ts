import type { Section } from '#core/reports/report.ts';
import { first, type Queries } from '../db/database.ts';

export interface ReportRow {
  id: string;
  title: string;
  eventId: string | null;
  from: string | null;
  until: string | null;
  unitId: string | null;
  words: Partial<Record<Section, string>>;
  madeBy: string;
  changedAt: string;
  version: number;
  /** What the event and the unit are called. */
  event: string | null;
  unit: string | null;
}

const columns = `r.id, r.title, r.event_id, r.from_on as "from", r.until_on as until, r.unit_id, r.words, r.made_by, r.changed_at, r.version,
  (select public_title from events where id = r.event_id) as event, (select name from units where id = r.unit_id) as unit`;

export const readReports = (tx: Queries): Promise<ReportRow[]> =>
  tx.query<ReportRow>(`select ${columns} from board_reports r order by r.changed_at desc, r.id limit 200`);

export const readReport = (tx: Queries, id: string, lock = false): Promise<ReportRow | null> =>
  first<ReportRow>(
    tx,
    `select ${columns} from board_reports r where r.id = $1 ${lock ? 'for update of r' : ''}`,
    [id],
  );

export const deleteReport = (tx: Queries, id: string) =>
  tx.query<{ id: string }>('delete from board_reports where id = $1 returning id', [id]);

/** How many events between two days were called off. */
export const countCalledOff = async (
  tx: Queries,
  { from, until, unitId }: { from: string; until: string; unitId: string | null },
): Promise<number> =>
  (await first<{ n: number }>(
    tx,
    `select count(*)::int as n from events where state = 'called off' and not is_template and starts_local::date between $1 and $2
       and ($3::uuid is null or unit_id = $3)`,
    [from, until, unitId],
  ))!.n;

/** What some events were planned to bring and to cost, in minor units, and the seats they had. */
export const readPlanned = async (tx: Queries, ids: readonly string[]) =>
  (await first<{ seats: number | null; income: number; costs: number }>(
    tx,
    `select (select sum(capacity)::int from events where id = any($1)) as seats,
       coalesce(sum(amount * case when per_head then heads else 1 end) filter (where kind = 'income'), 0)::bigint as income,
       coalesce(sum(amount * case when per_head then heads else 1 end) filter (where kind = 'cost'), 0)::bigint as costs
     from (select b.kind, b.amount, b.per_head, coalesce(e.capacity, 0) as heads from event_budget b join events e on e.id = b.event_id
       where b.event_id = any($1)) x`,
    [ids],
  ))!;

/** What was planned of each measure at some events. */
export const readPlannedOutcomes = (tx: Queries, ids: readonly string[]) =>
  tx.query<{ measureId: string; planned: number }>(
    `select m ->> 'measureId' as measure_id, sum((m ->> 'planned')::float8) as planned from events e, jsonb_array_elements(e.outcomes -> 'measures') m
     where e.id = any($1) and m ->> 'planned' is not null group by 1`,
    [ids],
  );

/** The initiatives that some events count towards. */
export const readInitiativesOf = (tx: Queries, ids: readonly string[]) =>
  tx.query<{ id: string; name: string }>(
    `select distinct i.id, i.name from events e, jsonb_array_elements_text(e.outcomes -> 'initiativeIds') x join initiatives i on i.id::text = x
     where e.id = any($1) order by i.name`,
    [ids],
  );

export const eventThere = (tx: Queries, id: string) =>
  first<{ id: string }>(
    tx,
    'select id from events where id = $1 and not is_template and starts_at is not null',
    [id],
  );
