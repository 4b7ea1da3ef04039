import type { EventPage } from '#contract/events.ts';
import type { EventPlan } from '#contract/plan.ts';
import { factsOf, stagesOf } from '#core/access/stages.ts';
import { isThrough } from '#core/clearance/steps.ts';
import { onShift } from '#core/crew/states.ts';
import { endOf } from '#core/events/end.ts';
import { frenchStanding } from '#core/events/french.ts';
import { movesOf } from '#core/events/moves.ts';
import { type Spine, type SpineFacts, spineOf } from '#core/events/spine.ts';
import { type Stage, shownToPublic, stages } from '#core/events/states.ts';
import { undelivered } from '#core/messages/states.ts';
import { momentFrom } from '#core/time/moment.ts';
import { dateOf, instantOf } from '#core/time/wallTime.ts';
import { sayNote } from '#core/words/notes.ts';
import { sayPin } from '#core/words/pins.ts';
import { sayProblem } from '#core/words/problems.ts';
import { type Reason, sayReason } from '#core/words/reasons.ts';
import type { Asker, Work } from '../app/app.ts';
import { deadlineOf, neededSteps, readClearance, readSteps } from '../clearance/steps.ts';
import { among } from '../db/among.ts';
import { first, type Queries } from '../db/database.ts';
import { readUndoable } from '../events/history.ts';
import { picturesOf } from '../events/picturing.ts';
import { readPlan } from '../events/plan.ts';
import { lacksOfEvent } from '../events/readiness.ts';
import { type EventRow, readEvent, readStates } from '../events/store.ts';
import { refused } from '../http/problem.ts';
import { withRights } from '../pictures/access.ts';
import { shownProposal } from '../proposals/store.ts';
import { theOrganization } from '../staff/store.ts';
import { positionOf } from './commands.ts';
import { marginOfEvent } from './margin.ts';

/** What a copy left behind, and the stage where it is settled. */
const sayLeft = (reason: Reason): { text: string; stage: 'clearance' | 'crew' | null } => ({
  text: sayReason(reason),
  stage: reason.code === 'left: clearance' ? 'clearance' : reason.code === 'left: crew' ? 'crew' : null,
});

/** The plan as far as somebody may read it: its texts, and, for those who write it, the notes of the team. */
const planFor = (plan: EventPlan, texts: boolean, notes: boolean): EventPlan => ({
  ...plan,
  ...(texts ? {} : { questions: [], messages: [], surveys: [] }),
  ...(notes ? {} : { notes: '' }),
});

/** Everything an event's page shows around its stages: the plan, the spine and the margin, as far as the asker sees them. */
export async function eventPageOf(c: Asker & Pick<Work, 'tx' | 'app'>, eventId: string): Promise<EventPage> {
  const { tx, now, staff } = c;
  const event = await readEvent(tx, eventId);
  const may = stagesOf(staff, event, now);
  if (!may.size) throw refused('not-your-event', {}, 403);
  const facts = factsOf(staff, event, now);
  const plan = await readPlan(tx, event);
  const { zone } = await theOrganization(tx);
  const { notes } = await marginOfEvent(tx, event, now, plan.offers);
  const spine = spineOf(await spineFacts(tx, event, plan, now));
  return {
    id: event.id,
    may: {
      see: [...may.keys()],
      change: stages.filter((s) => may.get(s) === 'change'),
      facts: [...facts],
    },
    version: event.version,
    state: event.state,
    moves: may.get('plan') === 'change' ? movesOf(await positionOf(tx, event, now, plan.offers)) : [],
    isTemplate: event.isTemplate,
    seriesId: event.seriesId,
    plan: planFor(plan, facts.has('texts'), may.get('plan') === 'change'),
    unitName: event.unitName,
    venue: event.venueId
      ? {
          id: event.venueId,
          name: event.venueName!,
          address: event.venueAddress!,
          capacity: event.venueCapacity,
        }
      : null,
    startsAt: event.startsAt,
    endsAt: event.endsAt,
    doorsAt: event.doorsAt,
    pictures: await withRights(tx, staff, await picturesOf(tx, plan)),
    french: frenchStanding(event, event.french, event.frenchOf),
    team: event.team,
    undoable: may.get('plan') === 'change' ? await readUndoable(tx, event.id, staff.id) : null,
    proposal: event.proposal && may.get('plan') === 'change' ? await shownProposal(tx, event.id) : null,
    settling: may.get('plan') === 'change' && event.settling,
    copiedFrom: event.copiedFromTitle
      ? { title: event.copiedFromTitle, leftBehind: event.leftBehind.map(sayLeft) }
      : null,
    waits: event.waits && { startsLocal: event.waits.startsLocal, shifts: event.waits.shifts.length },
    lacks: lacksOfEvent(event, plan.offers, dateOf(now, zone))
      .filter((l) => may.has(l.stage))
      .map(({ stage, stops, code, params }) => ({ stage, stops, text: sayProblem(code, params) })),
    spine: saidSpine(spine, may),
    margin: notes
      .filter((n) => may.has(n.stage))
      .map(({ tone, code, params, stage, acts }) => {
        const { headline, text, action } = sayNote(code, params);
        return { tone, headline, text, action: acts ? { label: action, stage, href: null } : null };
      }),
    publicUrl: event.slug && shownToPublic.includes(event.state) ? `${c.app.origin}/e/${event.slug}` : null,
  };
}

/** The spine in words, with the pins of the stages that somebody sees. */
const saidSpine = ({ stages: of, today }: Spine, may: ReadonlyMap<Stage, unknown>): EventPage['spine'] => ({
  stages: of.map(({ stage, standing, pins }) => ({
    stage,
    standing,
    pins: may.has(stage) ? pins.map((pin) => ({ stage, at: pin.at, text: sayPin(pin), late: pin.late })) : [],
  })),
  today: { text: sayPin(today), stage: today.stage, afterPins: today.afterPins },
});

async function spineFacts(
  tx: Queries,
  event: EventRow,
  plan: EventPage['plan'],
  now: string,
): Promise<SpineFacts> {
  const states = await readStates(tx, event.id);
  const sent = await readClearance(tx, event.id);
  const { needed } = await neededSteps(tx, event, plan.offers);
  const deadline = needed.steps.length ? await deadlineOf(tx, event, needed, now) : null;
  const messages = await tx.query<{ at: string; name: string; count: number; failed: boolean }>(
    `select min(coalesce(m.sent_at, m.planned_for)) as at, s.name, count(*)::int as count, bool_or(m.state in ${among(undelivered)}) as failed
     from messages m join message_lines s on s.id = m.line_id
     where m.event_id = $1 and m.state <> 'held back' and s.moment <> 'registration made' group by s.id order by 1`,
    [event.id],
  );
  const crew = await first<{ unfilled: number; firstAt: string | null }>(
    tx,
    `select coalesce(sum(greatest(0, s.wished - (select count(*) from assignments a where a.shift_id = s.id and a.state in ${among(onShift)}))), 0)::int as unfilled,
       min(s.starts_at) as first_at from shifts s where s.event_id = $1 and s.removed_at is null`,
    [event.id],
  );
  const answers = await first<{ n: number }>(
    tx,
    `select coalesce(sum(case when v.anonymous then (select count(*) from survey_asks k where k.survey_id = v.id and k.answered)
       else (select count(*) from survey_responses x where x.survey_id = v.id) end), 0)::int as n from surveys v where v.event_id = $1`,
    [event.id],
  );
  const surveyLine = plan.messages.find((m) => m.moment === 'survey');
  const end = endOf(event);
  const steps = await readSteps(tx, event.id);
  return {
    zone: event.zone,
    now,
    createdAt: event.createdAt,
    createdFrom: event.copiedFromTitle,
    startsAt: event.startsAt,
    endsAt: event.endsAt,
    doorsAt: event.doorsAt,
    lastDayToSubmit: deadline ? instantOf(`${deadline.date}T17:00`, event.zone) : null,
    submittedAt: sent?.submittedAt ?? null,
    submittedLate: Boolean(sent?.lateByDays),
    clearance: steps
      .filter((s) => s.decidedAt)
      .map((s) => ({ at: s.decidedAt!, step: s.step, state: s.state })),
    toDecide: steps
      .filter((s) => !isThrough(s.state))
      .map((s) => ({ at: instantOf(`${s.dueOn}T17:00`, event.zone), step: s.step })),
    conditions: steps.flatMap((s) =>
      s.conditions
        .filter((c) => c.dueOn !== null && s.state !== 'not needed')
        .map((c) => ({ at: instantOf(`${c.dueOn}T17:00`, event.zone), what: c.what, met: c.met })),
    ),
    openedAt: states.find((s) => s.state === 'open')?.at ?? null,
    registrationClosesAt: event.registrationClosesAt,
    shiftsUnfilled: end && end <= now ? 0 : (crew?.unfilled ?? 0),
    firstShiftAt: crew?.firstAt ?? null,
    messages: messages.map((m) => ({
      at: m.at,
      name: m.name.toLowerCase(),
      count: m.count,
      failed: m.failed,
    })),
    surveyAt:
      plan.surveys.length && surveyLine && end
        ? momentFrom(end, { days: surveyLine.offsetDays, minutes: surveyLine.offsetMinutes }, event.zone)
        : null,
    surveyAnswers: answers?.n ?? 0,
  };
}
