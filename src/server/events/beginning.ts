import { moveCopy } from '#core/events/copy.ts';
import { problemWithSlug, proposeSlug } from '#core/events/slug.ts';
import { firstLines } from '#core/messages/firstTexts.ts';
import { shopAt } from '#core/offers/dated.ts';
import type { CalendarDate, WallTime } from '#core/time/clock.ts';
import { instantOf } from '#core/time/wallTime.ts';
import { because } from '#core/words/reasons.ts';
import type { Work } from '../app/app.ts';
import { record } from '../app/record.ts';
import { insert, type Queries, update } from '../db/database.ts';
import { theOrganization } from '../staff/store.ts';
import { isTaken } from './addresses.ts';
import { instantsOf } from './parts.ts';
import { readPlan } from './plan.ts';
import { rolesNamed } from './shiftRoles.ts';
import { type CopiedShift, countHelpers, plainPlan, readEvent } from './store.ts';

/** A public address nobody has: the one proposed, or with the next number behind it. */
async function freeSlug(tx: Queries, title: string, eventId: string, now: string): Promise<string | null> {
  const wanted = proposeSlug(title);
  if (wanted.length < 2) return null;
  for (let n = 1; n < 500; n += 1) {
    const slug = n === 1 ? wanted : `${wanted.slice(0, 55)}-${n}`;
    if (!problemWithSlug(slug) && !(await isTaken(tx, slug, eventId, now))) return slug;
  }
  return null;
}

/** What an event is begun with. */
interface Beginning {
  title: string;
  /** What it is a copy of; from nothing without it. */
  from?: string | null;
  /** The date it takes place on, or the very start; none is ever filled in. */
  to?: CalendarDate | WallTime | null;
  /** The unit it belongs to; that of what it is begun from without it. */
  unitId?: string | null | undefined;
  /** Kept to begin others from: it has no date and no public page. */
  template?: boolean;
  /** The series it is a date of, by which slot, and the first of its dates. */
  ofSeries?: { seriesId: string; slot: WallTime; endsLocal: WallTime | null; firstOf: string | null };
}

/** Begins an event from nothing, or as a copy that moves to a date when one is given. */
export async function beginEvent(
  w: Work,
  { title, from: fromId = null, to = null, unitId, template = false, ofSeries }: Beginning,
): Promise<string> {
  const { tx, app, now } = w;
  const organization = await theOrganization(tx);
  const id = app.ids.id();
  const source = fromId ? await readEvent(tx, fromId) : null;
  // What a team noted for itself is for that team: a template, and what a coordinator copies, may go to another.
  const ofAnother = source !== null && unitId !== undefined && unitId !== source.unitId;
  const shifts = source
    ? await tx.query<CopiedShift>(
        'select name, role, place, starts_local, ends_local, least, wished, importance, briefing, public_sign_up from shifts where event_id = $1 and removed_at is null order by starts_at',
        [source.id],
      )
    : [];
  const helpers = source ? await countHelpers(tx, source.id) : 0;
  const copy = source ? moveCopy({ ...source, shifts }, to, source.waits) : null;
  const zone = source?.zone ?? organization.zone;
  await insert(tx, 'events', {
    id,
    ...(source && plainPlan(source)),
    slug: template
      ? null
      : await freeSlug(tx, copy?.startsLocal ? `${title} ${copy.startsLocal.slice(0, 10)}` : title, id, now),
    publicTitle: title,
    teamTitle: ofSeries ? (source?.teamTitle ?? '') : '',
    // Whom the event before shared its place with says nothing about this one.
    beside: [],
    // Nor does until when sessions could be proposed.
    ...(source?.call ? { call: { ...source.call, closes: null } } : {}),
    ...(unitId === undefined ? {} : { unitId }),
    ...(ofAnother ? { notes: '' } : {}),
    state: 'draft',
    isTemplate: template,
    frenchOf: source?.frenchOf ?? {},
    ...instantsOf({
      startsLocal: copy?.startsLocal ?? null,
      endsLocal: ofSeries?.endsLocal ?? copy?.endsLocal ?? null,
      doorsLocal: copy?.doorsLocal ?? null,
      registrationClosesLocal: copy?.registrationClosesLocal ?? null,
      zone,
    }),
    zone,
    secondTime: [],
    copiedFrom: source?.id ?? null,
    firstOf: ofSeries?.firstOf ?? (source && !source.isTemplate ? (source.firstOf ?? source.id) : id),
    seriesId: ofSeries?.seriesId ?? null,
    slot: ofSeries?.slot ?? null,
    copiedFromTitle:
      source && !ofSeries
        ? `${source.publicTitle}${source.startsLocal ? ` ${source.startsLocal.slice(0, 4)}` : ''}`
        : null,
    leftBehind: ofSeries
      ? []
      : [
          ...(copy?.leftBehind ?? []),
          ...(ofAnother && source?.notes ? [because('left: notes')] : []),
          ...(helpers ? [because('left: helpers', { count: helpers })] : []),
        ],
    waits: copy?.waits ?? null,
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
  if (source) await copyParts(w, source.id, id, copy?.startsLocal ?? null);
  else
    await insert(
      tx,
      'message_lines',
      firstLines.map((line, position) => ({ id: app.ids.id(), eventId: id, position, ...line })),
    );
  if (copy) await addShifts(w, id, copy.shifts, zone);
  await record(w, 'event begun', { eventId: id, from: fromId });
  return id;
}

/** Adds shifts that came with a copy, at their own times. */
export async function addShifts(
  { tx, app }: Work,
  eventId: string,
  shifts: readonly CopiedShift[],
  zone: string,
): Promise<void> {
  if (!shifts.length) return;
  // Shifts that waited for a date may be of a role that has another name by now.
  const roles = await rolesNamed(
    tx,
    shifts.map((s) => s.role),
  );
  await insert(
    tx,
    'shifts',
    shifts.map((s, at) => ({
      id: app.ids.id(),
      eventId,
      ...s,
      role: roles[at],
      startsAt: instantOf(s.startsLocal, zone),
      endsAt: instantOf(s.endsLocal, zone),
    })),
  );
}

async function copyParts(w: Work, from: string, to: string, startsLocal: string | null): Promise<void> {
  const { tx, app } = w;
  const source = await readEvent(tx, from);
  // What is dated of it moves to where the copy begins, or waits around the start it had.
  const plan = shopAt(
    await readPlan(tx, source),
    source.startsLocal ?? source.waits?.startsLocal ?? null,
    startsLocal,
  );
  const offerIds = new Map(plan.offers.map((o) => [o.id, app.ids.id()]));
  await insert(
    tx,
    'offers',
    plan.offers.map((o, position) => ({ ...o, id: offerIds.get(o.id), eventId: to, position })),
  );
  await insert(
    tx,
    'extras',
    plan.extras.map((e, position) => ({ ...e, id: app.ids.id(), eventId: to, position })),
  );
  await insert(
    tx,
    'codes',
    plan.codes.map((c, position) => ({
      ...c,
      id: app.ids.id(),
      offerIds: c.offerIds.flatMap((id) => offerIds.get(id) ?? []),
      eventId: to,
      position,
    })),
  );
  const questionIds = new Map(plan.questions.map((q) => [q.id, app.ids.id()]));
  await insert(
    tx,
    'questions',
    plan.questions.map((q, position) => ({
      ...q,
      id: questionIds.get(q.id),
      offerId: q.offerId ? offerIds.get(q.offerId) : null,
      shownIf: q.shownIf && {
        ...q.shownIf,
        questionId: questionIds.get(q.shownIf.questionId) ?? q.shownIf.questionId,
      },
      eventId: to,
      position,
    })),
  );
  await insert(
    tx,
    'message_lines',
    plan.messages.map((m, position) => ({
      ...m,
      id: app.ids.id(),
      // What narrows by an answer goes by the questions of the copy.
      narrowed: m.narrowed.map((c) => ({ ...c, column: questionIds.get(c.column) ?? c.column })),
      eventId: to,
      position,
    })),
  );
  const speakerIds = new Map(plan.speakers.map((s) => [s.id, app.ids.id()]));
  await insert(
    tx,
    'speakers',
    plan.speakers.map((s, position) => ({ ...s, id: speakerIds.get(s.id), eventId: to, position })),
  );
  await insert(
    tx,
    'sponsors',
    plan.sponsors.map((s, position) => ({ ...s, id: app.ids.id(), eventId: to, position })),
  );
  const sessionIds = new Map(plan.sessions.map((s) => [s.id, app.ids.id()]));
  await insert(
    tx,
    'agenda_sessions',
    plan.sessions.map((s, position) => ({
      ...s,
      id: sessionIds.get(s.id),
      speakerIds: s.speakerIds.map((id) => speakerIds.get(id)),
      eventId: to,
      position,
    })),
  );
  // Who is asked to sign goes by the tickets, sessions and questions of the copy.
  if (plan.waivers.length)
    await update(tx, 'events', to, {
      waivers: plan.waivers.map((rule) => ({
        ...rule,
        id: app.ids.id(),
        offerIds: rule.offerIds.flatMap((id) => offerIds.get(id) ?? []),
        sessionIds: rule.sessionIds.flatMap((id) => sessionIds.get(id) ?? []),
        answered: rule.answered && {
          ...rule.answered,
          questionId: questionIds.get(rule.answered.questionId) ?? rule.answered.questionId,
        },
      })),
    });
  await insert(
    tx,
    'surveys',
    plan.surveys.map((survey, position) => ({ ...survey, id: app.ids.id(), eventId: to, position })),
  );
}
