import { livingStates } from '#core/events/states.ts';
import type { WaiverText } from '#core/waivers/form.ts';
import type { Holds } from '#core/waivers/holding.ts';
import type { WaiverAudience } from '#core/waivers/needs.ts';
import { among } from '../db/among.ts';
import { first, type Queries } from '../db/database.ts';
import { endSql } from '../events/end.ts';
import { notFound } from '../http/problem.ts';

/** A waiver with its settings and its newest version. */
export interface WaiverRow {
  id: string;
  title: string;
  audience: WaiverAudience;
  holds: Holds;
  guardians: 1 | 2;
  forgetDays: number;
  standing: boolean;
  slug: string | null;
  closedAt: string | null;
  versionId: string;
  version: number;
  text: WaiverText;
}

const waiverColumns = `w.id, w.title, w.audience, w.holds, w.guardians, w.forget_days, w.standing, w.slug, w.closed_at, v.id as version_id, v.version, v.text`;
const newestOf = `waivers w join lateral (select * from waiver_versions n where n.waiver_id = w.id order by n.version desc limit 1) v on true`;

/** A waiver; throws 404. With `lock`, whoever asks as well waits. */
export async function theWaiver(tx: Queries, id: string, lock = false): Promise<WaiverRow> {
  const row = await first<WaiverRow>(
    tx,
    `select ${waiverColumns} from ${newestOf} where w.id = $1${lock ? ' for update of w' : ''}`,
    [id],
  );
  if (!row) throw notFound('This waiver');
  return row;
}

/** The waiver that has a page of its own at an address; throws 404. */
export async function standingWaiver(tx: Queries, slug: string): Promise<WaiverRow> {
  const row = await first<WaiverRow>(
    tx,
    `select ${waiverColumns} from ${newestOf} where w.slug = $1 and w.standing`,
    [slug],
  );
  if (!row) throw notFound('This page');
  return row;
}

/** Every waiver, with how many signatures hold today and how many events to come ask for it. */
export const readWaivers = (tx: Queries, today: string, now: string) =>
  tx.query<WaiverRow & { signed: number; events: number }>(
    `select ${waiverColumns},
       (select count(*)::int from signatures g left join events e on e.id = g.event_id where g.waiver_id = w.id and g.state = 'valid'
          and (coalesce(g.holds_until, '-infinity') >= $1::date or ${endSql('e')} > $2)) as signed,
       (select count(*)::int from events e where not e.is_template and e.state in ${among(livingStates)} and ${endSql('e')} > $2
          and e.waivers @> jsonb_build_array(jsonb_build_object('waiverId', w.id))) as events
     from ${newestOf} order by w.closed_at is not null, w.title`,
    [today, now],
  );

/** The versions of a waiver, newest first, with how many signed each. */
export const readVersions = (tx: Queries, waiverId: string) =>
  tx.query<{ version: number; material: boolean; madeAt: string; madeBy: string; signed: number }>(
    `select v.version, v.material, v.made_at, v.made_by, (select count(*)::int from signatures g where g.version_id = v.id and g.state <> 'revoked') as signed
     from waiver_versions v where v.waiver_id = $1 order by v.version desc`,
    [waiverId],
  );

/** The events to come that ask for a waiver. */
export const eventsAsking = (tx: Queries, waiverId: string, now: string) =>
  tx.query<{ id: string; title: string; startsLocal: string | null }>(
    `select e.id, e.public_title as title, e.starts_local from events e where not e.is_template and e.state not in ('shelved', 'called off', 'wrapped')
       and (e.starts_at is null or ${endSql('e')} > $2) and e.waivers @> jsonb_build_array(jsonb_build_object('waiverId', $1::uuid))
     order by e.starts_at nulls last, e.id limit 60`,
    [waiverId, now],
  );

/** Whether another waiver has a title. */
export const isTitled = async (tx: Queries, title: string, but: string | null): Promise<boolean> =>
  (await first(
    tx,
    'select 1 as x from waivers where lower(title) = lower($1) and id is distinct from $2::uuid',
    [title, but],
  )) !== null;

/** The addresses that pages of waivers have. */
export const pagesOfWaivers = async (tx: Queries): Promise<string[]> =>
  (await tx.query<{ slug: string }>('select slug from waivers where slug is not null')).map((w) => w.slug);
