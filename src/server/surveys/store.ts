import { came } from '#core/doors/attendance.ts';
import { fewest } from '#core/surveys/anonymous.ts';
import type { SurveyAnswer, SurveyAnswers } from '#core/surveys/answering.ts';
import type { Session } from '#core/surveys/survey.ts';
import { among } from '../db/among.ts';
import { first, type Queries } from '../db/database.ts';
import { type SurveyRow, surveyColumns } from '../events/store.ts';

/** Somebody who was asked to answer a survey. */
export interface Ask {
  id: string;
  contactId: string;
  surveyId: string;
  eventId: string;
}

export const readAsk = (tx: Queries, id: string): Promise<Ask | null> =>
  first<Ask>(
    tx,
    'select k.id, k.contact_id, k.survey_id, v.event_id from survey_asks k join surveys v on v.id = k.survey_id where k.id = $1 and v.removed_at is null',
    [id],
  );

export const readSurvey = (tx: Queries, id: string): Promise<(SurveyRow & { eventId: string }) | null> =>
  first(tx, `select ${surveyColumns}, event_id from surveys where id = $1 and removed_at is null`, [id]);

/** Whether somebody answered, and whether only the first question so far; asked of the row as it is now: the same answer may come twice at once. */
export const hasAnswered = async (
  tx: Queries,
  askId: string,
): Promise<{ answered: boolean; begun: boolean }> =>
  (await first<{ answered: boolean; begun: boolean }>(
    tx,
    `select k.answered, exists (select 1 from survey_responses x where x.survey_id = k.survey_id and x.contact_id = k.contact_id and x.begun) as begun
     from survey_asks k where k.id = $1 for update of k`,
    [askId],
  )) ?? { answered: false, begun: false };

/** What is kept of an anonymous answer to one question. */
interface Slip {
  /** The question, with the session it was about. */
  question: string;
  value: SurveyAnswer;
  /** What was said to the question by which answers are told apart. */
  grouped: string | null;
}

/** As many rows as are written anew with each answer, so that which were written together tells nothing. */
const stirred = 200;

/**
 * Keeps an anonymous answer so that nothing leads to the person: torn into slips, one a question, without a contact or a time; and with
 * them as many others are written anew in an order of their own, as are the marks of others who answered, so that neither their place in
 * the tables nor the transaction they were written in tells anything. Slips of a question are shown once enough wait.
 */
export async function keepSlips(
  tx: Queries,
  ask: Pick<Ask, 'id' | 'surveyId'>,
  slips: readonly Slip[],
): Promise<void> {
  await tx.query(
    `update survey_asks set answered = true where survey_id = $1 and (id = $2 or id in (
       select id from survey_asks where survey_id = $1 and answered order by random() limit ${stirred}))`,
    [ask.surveyId, ask.id],
  );
  await tx.query(
    `with before as (delete from survey_slips where id in (select id from survey_slips where survey_id = $1 order by random() limit ${stirred})
       returning question, value, grouped, shown)
     insert into survey_slips (survey_id, question, value, grouped, shown)
     select $1, question, value, grouped, shown from (select question, value, grouped, shown from before
       union all select question, value, grouped, false from jsonb_to_recordset($2::jsonb) as s (question text, value jsonb, grouped text)) all_of_them
     order by random()`,
    [ask.surveyId, JSON.stringify(slips)],
  );
  await tx.query(
    `update survey_slips set shown = true where survey_id = $1 and not shown and question in (
       select question from survey_slips where survey_id = $1 and not shown group by question having count(*) >= ${fewest})`,
    [ask.surveyId],
  );
}

/** The slips of a survey that are shown, in no order that tells anything. */
export const readShownSlips = (tx: Queries, surveyId: string): Promise<Slip[]> =>
  tx.query<Slip>(
    'select question, value, grouped from survey_slips where survey_id = $1 and shown order by question, value::text',
    [surveyId],
  );

/** Somebody who answered under their name, with what they can be grouped by. */
export interface ResponseRow {
  contactId: string | null;
  name: string;
  answeredOn: string;
  begun: boolean;
  answers: SurveyAnswers;
}

export const readResponses = (tx: Queries, surveyId: string): Promise<ResponseRow[]> =>
  tx.query<ResponseRow>(
    `select x.contact_id, coalesce(trim(c.given_name || ' ' || c.family_name), '') as name, x.answered_on, x.begun, x.answers
     from survey_responses x left join contacts c on c.id = x.contact_id where x.survey_id = $1 order by x.answered_on, x.id`,
    [surveyId],
  );

/** How many were asked, and how many answered. */
export const countAsked = async (
  tx: Queries,
  surveyId: string,
): Promise<{ asked: number; answered: number }> =>
  (await first<{ asked: number; answered: number }>(
    tx,
    `select count(*)::int as asked, count(*) filter (where k.answered or exists (
       select 1 from survey_responses x where x.survey_id = k.survey_id and x.contact_id = k.contact_id))::int as answered
     from survey_asks k where k.survey_id = $1`,
    [surveyId],
  ))!;

/** What is known of those who came to an event, or were on its crew, by who they are. */
export interface KnownRow {
  contactId: string;
  firstTime: boolean;
  member: boolean;
  birthDate: string | null;
  ticket: string | null;
}

/** Those who took part in an event, with what answers are told apart by. */
export const readKnown = (tx: Queries, eventId: string, day: string): Promise<KnownRow[]> =>
  tx.query<KnownRow>(
    `select c.id as contact_id, c.birth_date,
       not exists (select 1 from participation p join events b on b.id = p.event_id
         where p.contact_id = c.id and p.attended and b.starts_at < e.starts_at) as first_time,
       exists (select 1 from memberships m where m.contact_id = c.id and m.starts_on <= $2::date and (m.ends_on is null or m.ends_on >= $2::date)) as member,
       (select o.name from registrations r join offers o on o.id = r.offer_id
         where r.event_id = e.id and r.contact_id = c.id and r.state = 'confirmed' order by r.seat_number limit 1) as ticket
     from events e join lateral (
         select a.contact_id from attendance a where a.event_id = e.id and a.state in ${among(came)} and a.contact_id is not null
         union select k.contact_id from survey_asks k join surveys v on v.id = k.survey_id where v.event_id = e.id) those on true
       join contacts c on c.id = those.contact_id and c.merged_into is null
     where e.id = $1`,
    [eventId, day],
  );

/** Who of an event came; the make-up that answers are weighted to. */
export const readCame = async (tx: Queries, eventId: string): Promise<string[]> =>
  (
    await tx.query<{ contactId: string }>(
      `select distinct contact_id from attendance where event_id = $1 and state in ${among(came)} and contact_id is not null`,
      [eventId],
    )
  ).map((r) => r.contactId);

/**
 * The sessions that somebody can say something about: those they are known to have been at; or those they had a seat at; or all of them,
 * where nobody chose any.
 */
export const sessionsOf = async (tx: Queries, eventId: string, contactId: string): Promise<Session[]> => {
  const all = await tx.query<Session & { there: boolean; seat: boolean; chosen: boolean }>(
    `select s.id, s.title,
       exists (select 1 from attendance_marks m join registrations r on r.id = m.registration_id
         where m.session_id = s.id and r.contact_id = $2) as there,
       exists (select 1 from session_seats t join registrations r on r.id = t.registration_id
         where t.session_id = s.id and r.contact_id = $2) as seat,
       exists (select 1 from session_seats t join agenda_sessions x on x.id = t.session_id where x.event_id = $1) as chosen
     from agenda_sessions s where s.event_id = $1 and s.removed_at is null and s.day is not null order by s.day, s.begins, s.position limit 40`,
    [eventId, contactId],
  );
  const there = all.filter((s) => s.there);
  const sessions = there.length ? there : all.filter((s) => s.seat || !s.chosen);
  return sessions.map(({ id, title }) => ({ id, title }));
};

/** The sessions of an event, by their ids. */
export const readSessions = (tx: Queries, eventId: string): Promise<Session[]> =>
  tx.query<Session>(
    'select id, title from agenda_sessions where event_id = $1 order by day, begins, position, id',
    [eventId],
  );

/** The surveys of earlier events that go back to the same first one, for the same people, the last first. */
export const readEarlier = (
  tx: Queries,
  eventId: string,
  survey: Pick<SurveyRow, 'audience' | 'wave'>,
): Promise<{ eventId: string; title: string; startsAt: string | null; surveyId: string }[]> =>
  tx.query(
    `select b.id as event_id, b.public_title as title, b.starts_at, v.id as survey_id from events e
       join events b on b.first_of = e.first_of and b.id <> e.id and not b.is_template and b.state <> 'shelved' and b.starts_at < e.starts_at
       join surveys v on v.event_id = b.id and v.audience = $2 and v.wave = $3 and v.removed_at is null
     where e.id = $1 and e.first_of is not null and (exists (select 1 from survey_responses x where x.survey_id = v.id)
       or exists (select 1 from survey_slips s where s.survey_id = v.id))
     order by b.starts_at desc limit 40`,
    [eventId, survey.audience, survey.wave],
  );

/** Tasks that came of a survey. */
export const countTasks = async (tx: Queries, surveyId: string): Promise<{ open: number; done: number }> =>
  (await first<{ open: number; done: number }>(
    tx,
    'select count(*) filter (where done_at is null)::int as open, count(*) filter (where done_at is not null)::int as done from contact_notes where survey_id = $1',
    [surveyId],
  ))!;
