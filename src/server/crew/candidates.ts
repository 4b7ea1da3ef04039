import type { ContactPart } from '#core/access/parts.ts';
import type { QuietReason } from '#core/contacts/quiet.ts';
import {
  type Against,
  againstOf,
  type CrewRules,
  type HeldSkill,
  type RoleAsks,
  type Stint,
  wantedOf,
} from '#core/crew/against.ts';
import type { SaidText } from '#core/crew/finding.ts';
import { compareAble } from '#core/crew/ranking.ts';
import { onShift } from '#core/crew/states.ts';
import { whyQuiet } from '../contacts/quiet.ts';
import { inUnitSql } from '../contacts/units.ts';
import { among } from '../db/among.ts';
import type { Queries } from '../db/database.ts';
import { isoSql } from '../db/iso.ts';
import { endSql } from '../events/end.ts';
import { type AppliedRow, appliedOf, appliedSql, wishOf } from './applyingStore.ts';
import { readSpot, spotSql } from './spots.ts';
import type { ShiftRow } from './store.ts';

/** Somebody who helps, or has helped, applied to, or can do something. */
interface HelperRow {
  contactId: string;
  name: string;
  birthDate: string | null;
  quiet: QuietReason | null;
  skills: HeldSkill[];
  stints: Stint[];
  seatAt: string | null;
  servedInRole: number;
  hoursHere: number;
  applied: AppliedRow | null;
}

/** How far back somebody has helped who is still thought of, in years, and how many are looked at. */
const yearsBack = 3;
const most = 2000;

/**
 * Everybody who helped within three years, was accepted, or of whom a skill is known, and is not on the shift; of one unit where `unitId` says so. With
 * all that decides whether they can be on it, read at once.
 */
const readHelpers = (
  tx: Queries,
  shift: ShiftRow,
  unitId: string | null,
  now: string,
): Promise<HelperRow[]> =>
  tx.query<HelperRow>(
    `with helper as (
       select a.contact_id as id from assignments a join shifts s on s.id = a.shift_id
         where a.state in ${among(onShift)} and s.starts_at > $5::timestamptz - interval '${yearsBack} years'
       union select contact_id from held_skills union select contact_id from applications where state = 'accepted')
     select c.id as contact_id, trim(c.given_name || ' ' || c.family_name) as name, c.birth_date, ${whyQuiet('c')} as quiet,
       coalesce((select jsonb_agg(jsonb_build_object('skillId', h.skill_id, 'until', h.until, 'seen', h.seen_at is not null))
         from held_skills h where h.contact_id = c.id), '[]') as skills,
       coalesce((select jsonb_agg(jsonb_build_object('shiftId', s.id, 'label', s.role || ' (' || e.public_title || ')', 'startsAt', ${isoSql('s.starts_at')},
           'endsAt', ${isoSql('s.ends_at')}, 'spot', ${spotSql('s', 'e')}))
         from assignments a join shifts s on s.id = a.shift_id join events e on e.id = s.event_id
         where a.contact_id = c.id and a.state in ('proposed', 'agreed') and s.ends_at > $3::timestamptz - interval '1 day'
           and s.starts_at < $4::timestamptz + interval '1 day'), '[]') as stints,
       (select e.public_title from registrations r join events e on e.id = r.event_id where r.contact_id = c.id and r.state = 'confirmed'
          and e.starts_at < $4 and ${endSql('e')} > $3 limit 1) as seat_at,
       (select count(*)::int from assignments a join shifts s on s.id = a.shift_id
          where a.contact_id = c.id and a.state = 'served' and s.role = $6) as served_in_role,
       coalesce((select sum(extract(epoch from s.ends_at - s.starts_at) / 3600)::float8 from assignments a join shifts s on s.id = a.shift_id
          where a.contact_id = c.id and a.state in ${among(onShift)} and s.event_id = $1), 0)::float8 as hours_here,
       ${appliedSql('c.id', '$1', '$8', '$2')} as applied
     from helper join contacts c on c.id = helper.id
     where c.merged_into is null and c.erased_at is null and c.deceased_on is null
       and not exists (select 1 from assignments a where a.shift_id = $2 and a.contact_id = c.id and a.state in ('proposed', 'agreed', 'served', 'missed'))
       and ($7::uuid is null or ${inUnitSql('c.id', '$7::uuid')})
     limit ${most}`,
    [
      shift.eventId,
      shift.id,
      shift.startsAt,
      shift.endsAt,
      now,
      shift.role,
      unitId,
      shift.startsLocal.slice(0, 10),
    ],
  );

/**
 * What people said in their applications, and what is on record of them, as far as whoever asks sees it. Answers that are sensitive, and
 * those that are kept on the record, are not among it; of a unit, only what was said and done at its own events.
 */
export async function textsAbout(
  tx: Queries,
  contactIds: readonly string[],
  parts: ReadonlySet<ContactPart>,
  unitId: string | null,
): Promise<ReadonlyMap<string, SaidText[]>> {
  const ofUnit = '($6::uuid is null or e.unit_id = $6)';
  const rows = await tx.query<SaidText & { contactId: string }>(
    `with said as (
       select distinct on (p.contact_id) p.contact_id, p.said, p.question, p.answer from applications p join calls k on k.id = p.call_id
         left join events e on e.id = k.event_id
       where p.contact_id = any($1) and p.said is not null and ${ofUnit} order by p.contact_id, p.changed_at desc, p.id)
     select contact_id, "in", label, text from (
       select contact_id, 'experience' as "in", '' as label, said ->> 'experience' as text, $2::bool as seen from said
       union all select contact_id, 'company', '', said ->> 'company', $2 from said
       union all select contact_id, 'shirt', '', said ->> 'shirt', $2 from said
       union all select contact_id, 'answer', question, answer, $2 from said
       union all select h.contact_id, 'skill', '', k.name, $2 from held_skills h join skills k on k.id = h.skill_id where h.contact_id = any($1)
       union all select distinct a.contact_id, 'served', '', s.role, $2 from assignments a join shifts s on s.id = a.shift_id
         join events e on e.id = s.event_id where a.contact_id = any($1) and a.state = 'served' and ${ofUnit}
       union all select contact_id, 'tag', '', tag, $3 from contact_tags where contact_id = any($1)
       union all select v.contact_id, 'field', f.name, v.value, $4 from custom_values v join custom_fields f on f.id = v.field_id where v.contact_id = any($1)
       union all select r.contact_id, 'registration', q.prompt ->> 'en', case jsonb_typeof(a.value)
           when 'array' then (select string_agg(x, ', ') from jsonb_array_elements_text(a.value) x)
           when 'boolean' then case when a.value = 'true' then 'yes' else 'no' end else a.value #>> '{}' end, $5 from answers a join registrations r on r.id = a.registration_id
         join questions q on q.id = a.question_id join events e on e.id = r.event_id where r.contact_id = any($1) and ${ofUnit} and not q.sensitive and q.keeps is null and q.kind <> 'file') texts
     where seen and coalesce(text, '') <> '' order by contact_id, "in", label, text`,
    [contactIds, parts.has('shifts'), parts.has('tags'), parts.has('fields'), parts.has('presence'), unitId],
  );
  const texts = new Map<string, SaidText[]>();
  for (const { contactId, ...text } of rows) texts.set(contactId, [...(texts.get(contactId) ?? []), text]);
  return texts;
}

export interface Candidate
  extends Omit<HelperRow, 'birthDate' | 'quiet' | 'skills' | 'stints' | 'seatAt' | 'applied'> {
  against: Against[];
  /** How much they want this role, from 1 to 3; 0 where they did not say so. */
  wish: number;
  /** Whether they applied and were accepted. */
  accepted: boolean;
}

/** Who could be put on a shift, the best first, each with what speaks against them. */
export async function candidatesFor(
  tx: Queries,
  shift: ShiftRow,
  role: RoleAsks & { id: string },
  rules: CrewRules,
  unitId: string | null,
  now: string,
): Promise<Candidate[]> {
  const wanted = wantedOf({ ...shift, spot: await readSpot(tx, shift.id) });
  return (await readHelpers(tx, shift, unitId, now))
    .map(({ birthDate, quiet, skills, stints, seatAt, applied, ...rest }) => ({
      ...rest,
      wish: wishOf(applied, role.id),
      accepted: applied?.state === 'accepted',
      against: againstOf(
        wanted,
        role,
        { birthDate, quiet, skills, stints, seatAt, applied: appliedOf(applied) },
        rules,
      ),
    }))
    .sort(compareAble);
}
