import type { EventPlan } from '#contract/events.ts';
import { moveCopy } from '#core/events/copy.ts';
import { eventTimes } from '#core/events/dated.ts';
import { problemsWithSchedule, type Schedule } from '#core/events/schedule.ts';
import { problemWithSlug, proposeSlug } from '#core/events/slug.ts';
import { unknownFields } from '#core/messages/merge.ts';
import { defaultSteps } from '#core/messages/texts.ts';
import { instantOf } from '#core/time/wallTime.ts';
import { first, insert, type Queries, update } from '../db/database.ts';
import { record } from '../facts/record.ts';
import type { Work } from '../http/app.ts';
import { conflict, type FieldProblem, invalid } from '../http/problem.ts';
import { theOrganization } from '../staff/store.ts';
import {
  type EventRow,
  readEvent,
  readMessageSteps,
  readOffers,
  readQuestions,
  readSurvey,
} from './store.ts';

/** A public address nobody has: the one proposed, or with the next number behind it. */
async function freeSlug(tx: Queries, title: string): Promise<string | null> {
  const wanted = proposeSlug(title);
  if (wanted.length < 2) return null;
  for (let n = 1; n < 500; n += 1) {
    const slug = n === 1 ? wanted : `${wanted.slice(0, 55)}-${n}`;
    if (!problemWithSlug(slug) && !(await first(tx, 'select 1 as x from events where slug = $1', [slug])))
      return slug;
  }
  return null;
}

/** The whole plan of an event as it can be edited. */
export async function readPlan(tx: Queries, event: EventRow): Promise<EventPlan> {
  const survey = await readSurvey(tx, event.id);
  const { slug, publicTitle, teamTitle, summary, description, category, draws, unitId, visibility, listed } =
    event;
  const {
    startsLocal,
    endsLocal,
    doorsLocal,
    zone,
    venueId,
    capacity,
    flags,
    waiverId,
    registrationClosesLocal,
  } = event;
  return {
    ...{ slug, publicTitle, teamTitle, summary, description, category, draws, unitId, visibility, listed },
    ...{ startsLocal, endsLocal, doorsLocal, registrationClosesLocal, zone },
    ...{ venueId, capacity, flags, waiverId },
    offers: await readOffers(tx, event.id),
    questions: await readQuestions(tx, event.id),
    messages: await readMessageSteps(tx, event.id),
    survey: survey && { title: survey.title, anonymous: survey.anonymous, questions: survey.questions },
  };
}

/** Begins an event from nothing, or as a copy that moves to a date when one is given. No date is ever filled in. */
export async function beginEvent(
  w: Work,
  title: string,
  fromId: string | null,
  date: string | null,
  /** The unit it belongs to; undefined for that of what it is begun from. */
  unitId: string | null | undefined = undefined,
): Promise<string> {
  const { tx, app, now } = w;
  const organization = await theOrganization(tx);
  const id = app.ids.id();
  const source = fromId ? await readEvent(tx, fromId) : null;
  const shifts = source
    ? await tx.query<{
        role: string;
        place: string;
        startsLocal: string;
        endsLocal: string;
        needed: number;
        publicSignUp: boolean;
      }>(
        'select role, place, starts_local, ends_local, needed, public_sign_up from shifts where event_id = $1 order by starts_at',
        [source.id],
      )
    : [];
  const copy = source ? moveCopy({ ...source, shifts }, date) : null;
  const zone = source?.zone ?? organization.zone;
  await insert(tx, 'events', {
    id,
    slug: await freeSlug(tx, copy?.startsLocal ? `${title} ${copy.startsLocal.slice(0, 10)}` : title),
    publicTitle: title,
    teamTitle: '',
    summary: source?.summary ?? '',
    description: source?.description ?? '',
    category: source?.category ?? '',
    draws: source?.draws ?? [],
    unitId: unitId === undefined ? (source?.unitId ?? null) : unitId,
    visibility: source?.visibility ?? 'everyone',
    listed: source?.listed ?? true,
    state: 'draft',
    isTemplate: false,
    zone,
    ...instantsOf({
      startsLocal: copy?.startsLocal ?? null,
      endsLocal: copy?.endsLocal ?? null,
      doorsLocal: copy?.doorsLocal ?? null,
      registrationClosesLocal: copy?.registrationClosesLocal ?? null,
      zone,
    }),
    venueId: source?.venueId ?? null,
    capacity: source?.capacity ?? null,
    flags: source?.flags ?? [],
    waiverId: source?.waiverId ?? null,
    copiedFrom: source?.id ?? null,
    firstOf: source && !source.isTemplate ? (source.firstOf ?? source.id) : id,
    copiedFromTitle: source
      ? `${source.publicTitle}${source.startsLocal ? ` ${source.startsLocal.slice(0, 4)}` : ''}`
      : null,
    leftBehind: source ? copy!.leftBehind : [],
    version: 1,
    createdBy: w.actor.staffId,
    createdAt: now,
    updatedAt: now,
  });
  await insert(tx, 'event_states', {
    id: app.ids.id(),
    eventId: id,
    state: 'draft',
    at: now,
    actor: w.actor.name,
    words: '',
  });
  if (source) await copyParts(w, source.id, id);
  else
    await insert(
      tx,
      'message_steps',
      defaultSteps.map((s, position) => ({ id: app.ids.id(), eventId: id, position, ...s })),
    );
  if (copy?.shifts.length)
    await insert(
      tx,
      'shifts',
      copy.shifts.map((s, at) => ({
        id: app.ids.id(),
        eventId: id,
        role: shifts[at]!.role,
        place: shifts[at]!.place,
        needed: shifts[at]!.needed,
        publicSignUp: shifts[at]!.publicSignUp,
        ...s,
        startsAt: instantOf(s.startsLocal, zone),
        endsAt: instantOf(s.endsLocal, zone),
      })),
    );
  await record(w, 'event begun', { eventId: id, from: fromId });
  return id;
}

async function copyParts(w: Work, from: string, to: string): Promise<void> {
  const { tx, app } = w;
  const plan = await readPlan(tx, await readEvent(tx, from));
  const offerIds = new Map(plan.offers.map((o) => [o.id, app.ids.id()]));
  await insert(
    tx,
    'offers',
    plan.offers.map((o, position) => ({ ...o, id: offerIds.get(o.id), eventId: to, position })),
  );
  await insert(
    tx,
    'questions',
    plan.questions.map((q, position) => ({
      ...q,
      id: app.ids.id(),
      offerId: q.offerId ? offerIds.get(q.offerId) : null,
      eventId: to,
      position,
    })),
  );
  await insert(
    tx,
    'message_steps',
    plan.messages.map((m, position) => ({ ...m, id: app.ids.id(), eventId: to, position })),
  );
  if (plan.survey) await insert(tx, 'surveys', { id: app.ids.id(), eventId: to, ...plan.survey });
}

/** The stored times of a schedule: wall times with their instants. */
export function instantsOf(s: Schedule) {
  const at = (wall: string | null) => (wall ? instantOf(wall, s.zone) : null);
  return {
    startsLocal: s.startsLocal,
    endsLocal: s.endsLocal,
    doorsLocal: s.doorsLocal,
    registrationClosesLocal: s.registrationClosesLocal,
    startsAt: at(s.startsLocal),
    endsAt: at(s.endsLocal),
    doorsAt: at(s.doorsLocal),
    registrationClosesAt: at(s.registrationClosesLocal),
  };
}

const scheduled = [...eventTimes, 'zone'] as const;

export interface Saved {
  version: number;
  messagesMoved: number;
  reopened: string[];
}

/**
 * Saves parts of a plan. What follows (shifts and messages that move, steps that are decided again, seats that came
 * free) is done by the words it concerns, in the same transaction.
 */
export async function savePlan(
  w: Work,
  eventId: string,
  version: number,
  change: Partial<EventPlan>,
): Promise<Saved> {
  const { tx, now } = w;
  const event = await readEvent(tx, eventId, true);
  if (event.version !== version)
    throw conflict(
      'changed-meanwhile',
      'Somebody else saved this plan meanwhile. Reload the page to see it; what you typed is still here.',
    );
  if (['wrapped', 'called off'].includes(event.state))
    throw conflict('event-over', `This event is ${event.state}; its plan is kept as it was.`);
  const before = await readPlan(tx, event);
  const after = { ...before, ...change };
  const problems = await problemsWith(tx, event, after, change);
  if (problems.length) throw invalid(problems);

  const { offers, questions, messages, survey, ...fields } = change;
  const scheduleChanged = scheduled.some((field) => field in change);
  await update(tx, 'events', eventId, {
    ...fields,
    ...(scheduleChanged ? instantsOf(after) : {}),
    version: version + 1,
    updatedAt: now,
  });
  if (offers) await saveList(tx, 'offers', eventId, before.offers, offers);
  if (questions) await saveList(tx, 'questions', eventId, before.questions, questions);
  if (messages) await saveList(tx, 'message_steps', eventId, before.messages, messages);
  if (survey !== undefined) await saveSurvey(w, eventId, survey);
  const { messagesMoved, reopened } = await record(w, 'plan saved', {
    eventId,
    fields: Object.keys(change) as (keyof EventPlan)[],
    before,
    after,
  });
  return { version: version + 1, messagesMoved, reopened };
}

async function problemsWith(
  tx: Queries,
  event: EventRow,
  after: EventPlan,
  change: Partial<EventPlan>,
): Promise<FieldProblem[]> {
  const problems: FieldProblem[] = [];
  if (change.slug !== undefined && after.slug !== null) {
    const message = problemWithSlug(after.slug);
    if (message) problems.push({ path: 'slug', message });
    else if (
      await first(tx, 'select 1 as x from events where slug = $1 and id <> $2', [after.slug, event.id])
    )
      problems.push({ path: 'slug', message: `“${after.slug}” is taken by another event.` });
  }
  if (scheduled.some((field) => field in change)) problems.push(...problemsWithSchedule(after));
  if (event.state === 'open' && change.startsLocal === null)
    problems.push({ path: 'startsLocal', message: 'An open event needs its date.' });
  const exists = async (table: string, id: string | null | undefined, path: string, what: string) => {
    if (id && !(await first(tx, `select 1 as x from ${table} where id = $1`, [id])))
      problems.push({ path, message: `This ${what} does not exist.` });
  };
  await exists('units', change.unitId, 'unitId', 'unit');
  await exists('venues', change.venueId, 'venueId', 'venue');
  await exists('waivers', change.waiverId, 'waiverId', 'waiver');
  change.questions?.forEach((q, at) => {
    if (!q.prompt.en.trim()) problems.push({ path: `questions.${at}.prompt.en`, message: 'Ask something.' });
    if ((q.kind === 'one of' || q.kind === 'several of') && q.choices.filter((c) => c.trim()).length < 2)
      problems.push({ path: `questions.${at}.choices`, message: 'Give at least two choices.' });
  });
  change.messages?.forEach((m, at) => {
    for (const part of ['subject', 'body'] as const) {
      if (!m[part].en.trim())
        problems.push({ path: `messages.${at}.${part}.en`, message: 'Write something.' });
      for (const name of unknownFields(`${m[part].en} ${m[part].fr ?? ''}`))
        problems.push({ path: `messages.${at}.${part}.en`, message: `{{${name}}} is not a merge field.` });
    }
  });
  const sold = await tx.query<{ offerId: string; units: number }>(
    `select offer_id, count(distinct (order_id, unit_number))::int as units from registrations
     where event_id = $1 and state in ('asked', 'held', 'waitlisted', 'offered', 'confirmed') group by offer_id`,
    [event.id],
  );
  if (change.offers)
    for (const { offerId, units } of sold) {
      const at = change.offers.findIndex((o) => o.id === offerId);
      if (at < 0)
        problems.push({
          path: 'offers',
          message: `An offer that ${units} registrations hang on cannot be removed. Set its quantity instead.`,
        });
      else if (change.offers[at]!.quantity !== null && change.offers[at]!.quantity! < units)
        problems.push({ path: `offers.${at}.quantity`, message: `${units} are taken already.` });
    }
  return problems;
}

/** Brings the rows of a list to what is wanted: changed, added, removed, in this order. Rows others hang on are kept by the database. */
async function saveList(
  tx: Queries,
  table: 'offers' | 'questions' | 'message_steps',
  eventId: string,
  before: readonly { id: string }[],
  wanted: readonly { id: string }[],
): Promise<void> {
  const keep = new Set(wanted.map((x) => x.id));
  const gone = before.filter((x) => !keep.has(x.id)).map((x) => x.id);
  if (gone.length) {
    if (table === 'questions') await tx.query('delete from answers where question_id = any($1)', [gone]);
    if (table === 'offers')
      await tx.query(
        'delete from questions where offer_id = any($1) and not exists (select 1 from answers a where a.question_id = questions.id)',
        [gone],
      );
    await tx.query(`delete from ${table} where id = any($1) and event_id = $2`, [gone, eventId]);
  }
  const known = new Set(before.map((x) => x.id));
  for (const [position, row] of wanted.entries()) {
    const { id, ...fields } = row;
    if (known.has(id)) await update(tx, table, id, { ...fields, position });
    else await insert(tx, table, { id, eventId, position, ...fields });
  }
}

async function saveSurvey(w: Work, eventId: string, survey: EventPlan['survey']): Promise<void> {
  const stored = await readSurvey(w.tx, eventId);
  if (!stored) {
    if (survey) await insert(w.tx, 'surveys', { id: w.app.ids.id(), eventId, ...survey });
    return;
  }
  const answered = await first(w.tx, 'select 1 as x from survey_responses where survey_id = $1 limit 1', [
    stored.id,
  ]);
  if (answered && (!survey || survey.anonymous !== stored.anonymous))
    throw conflict(
      'survey-answered',
      'People have answered this survey; it cannot be removed, nor made anonymous or named any more.',
    );
  if (survey) await update(w.tx, 'surveys', stored.id, survey);
  else await w.tx.query('delete from surveys where id = $1', [stored.id]);
}
