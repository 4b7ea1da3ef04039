import { refreshed } from '#core/clearance/again.ts';
import { isFactCode } from '#core/clearance/facts.ts';
import { type StepQuestion, sayUnanswered, unanswered } from '#core/clearance/rules.ts';
import { runningTime, timeOf } from '#core/clearance/schedule.ts';
import {
  handOver,
  isOpenForDecision,
  isThrough,
  type StepState,
  sendAgain,
  standingOf,
  undecidable,
} from '#core/clearance/steps.ts';
import { shiftDate } from '#core/time/dates.ts';
import { dateOf, instantOf } from '#core/time/wallTime.ts';
import type { Work } from '../app/app.ts';
import { record } from '../app/record.ts';
import { insert, update } from '../db/database.ts';
import { moveOn } from '../events/moving.ts';
import { lacksOfEvent } from '../events/readiness.ts';
import { type EventRow, readEvent, readOffers } from '../events/store.ts';
import { type FieldProblem, invalid, refused } from '../http/problem.ts';
import { theOrganization } from '../staff/store.ts';
import { factPlanOf, type Needed, neededBy, theBook } from './book.ts';
import { deciders } from './deciders.ts';
import { readPapers } from './papers.ts';
import { openQuestions, readSaid, say } from './said.ts';
import { asksLate, deadlineBy, readClearance, readSteps, type StepRow } from './steps.ts';

export interface Sending {
  lateReason?: string;
  answers?: readonly { id: string; words: string }[];
  /** What is decided holds for every date of the series that is alike. */
  coversSeries?: boolean;
}

/** What keeps a plan from being sent, beside what the plan itself lacks. */
export async function lacksForSending(
  w: Pick<Work, 'tx' | 'now'>,
  event: EventRow,
  offers: readonly { price: number; quantity: number | null; seatsPerUnit: number }[],
): Promise<FieldProblem[]> {
  const { zone } = await theOrganization(w.tx);
  const book = await theBook(w.tx);
  const { facts, needed } = neededBy(book, factPlanOf(event, offers));
  const open = unanswered(book.rules, facts).filter(
    (key) => isFactCode(key) || book.names.facts.some((f) => f.id === key),
  );
  const papers = await readPapers(w.tx, event.id);
  const missing = needed.steps
    .flatMap((s) => s.rule.documents)
    .filter((d) => !papers.some((p) => p.documentId === d.id));
  const questions = await openQuestions(w.tx, event.id);
  const lacks = lacksOfEvent(event, offers, dateOf(w.now, zone))
    .filter((l) => l.stops)
    .map(({ code, params }): FieldProblem => ({ path: 'plan', code, ...(params && { params }) }));
  if (open.length)
    lacks.push({
      path: 'plan',
      code: 'facts-unanswered',
      params: { facts: open.map((key) => sayUnanswered(key, book.names)).join('; ') },
    });
  for (const { rule } of undecidable(
    needed.steps.map((s) => ({ ...s, ...s.rule })),
    await deciders(w.tx),
  ))
    lacks.push({ path: 'plan', code: 'rule-nobody', params: { step: rule.step } });
  if (missing.length)
    lacks.push({
      path: 'plan',
      code: 'papers-missing',
      params: { papers: missing.map((d) => d.name).join(', ') },
    });
  if (questions.length)
    lacks.push({ path: 'plan', code: 'questions-open', params: { count: questions.length } });
  return lacks;
}

/** Questions of the needed steps that were not answered before, with what is answered now. */
async function answersTo(w: Work, eventId: string, needed: Needed, sending: Sending) {
  const said = await readSaid(w.tx, eventId);
  const known = new Set(said.filter((x) => x.kind === 'question').map((x) => x.body));
  const open = needed.steps.flatMap(({ rule }) =>
    rule.questions.filter((q) => !known.has(q.prompt)).map((q) => ({ rule, question: q })),
  );
  const given = (q: StepQuestion) => sending.answers?.find((a) => a.id === q.id)?.words.trim() ?? '';
  const wrong = open
    .filter(({ question }) => question.required && !given(question))
    .map(
      ({ question }): FieldProblem => ({
        path: `answers.${question.id}`,
        code: 'answer-to',
        params: { question: question.prompt },
      }),
    );
  if (wrong.length) throw invalid(wrong);
  return open
    .map(({ rule, question }) => ({ rule, question, words: given(question) }))
    .filter((a) => a.words);
}

/**
 * Sends a plan for clearance: its steps go to their approvers. A plan that needs none is cleared at once. Sent again, only steps
 * that were sent back, and those whose facts changed, are decided again. One that is late needs a reason, and waits for a
 * coordinator unless one sends it.
 */
export async function submit(
  w: Work,
  eventId: string,
  sending: Sending = {},
  /** Whether a coordinator sends it, or it is sent by itself. */
  byCoordinator = true,
): Promise<void> {
  const { tx, app, now } = w;
  const event = await readEvent(tx, eventId, true);
  if (event.state !== 'draft') throw refused('not-a-draft', { state: event.state });
  const organization = await theOrganization(tx);
  const today = dateOf(now, organization.zone);
  const offers = await readOffers(tx, eventId);
  const stops = await lacksForSending(w, event, offers);
  if (stops.length) throw invalid(stops);
  const { needed } = neededBy(await theBook(tx), factPlanOf(event, offers));
  const answers = await answersTo(w, eventId, needed, sending);
  const sent = await readClearance(tx, eventId);
  const { working } = timeOf(needed.timed, today, organization.holidays);
  const lateBy = needed.steps.length
    ? Math.max(0, -(deadlineBy(organization, event, working, now)?.daysLeft ?? 0))
    : 0;
  const reason = sending.lateReason?.trim() ?? '';
  const grantedBefore = sent?.grantedAt ?? null;
  if (lateBy && !grantedBefore && reason.length < 3)
    throw invalid([{ path: 'lateReason', code: 'why-so-late', params: { days: lateBy } }]);
  const granted = grantedBefore ?? (lateBy && byCoordinator ? now : null);
  const clearanceId = sent?.id ?? app.ids.id();
  const standing = {
    submittedAt: now,
    submittedBy: w.actor.staffId,
    lateByDays: lateBy,
    lateReason: reason || (sent?.lateReason ?? ''),
    grantedAt: granted,
    coversSeries: event.seriesId !== null && (sending.coversSeries ?? false),
    ...(granted && !grantedBefore ? { grantedBy: w.actor.staffId } : {}),
  };
  if (sent) await update(tx, 'clearances', clearanceId, standing);
  else await insert(tx, 'clearances', { id: clearanceId, eventId, current: true, ...standing });
  const before = await readSteps(tx, eventId);
  const steps = await bringUpToDate(w, { clearanceId, eventId }, before, needed);
  const after = asksLate({ lateByDays: lateBy, grantedAt: granted })
    ? steps
    : sent
      ? sendAgain(steps)
      : handOver(steps);
  await keepStates(w, eventId, before, after);
  await say(w, { eventId, kind: 'sent', body: lateBy ? standing.lateReason : '' });
  for (const { rule, question, words } of answers) {
    const stepId = after.find((s) => s.ruleId === rule.id)?.id ?? null;
    const asked = await say(w, { eventId, stepId, kind: 'question', body: question.prompt });
    await say(w, { eventId, stepId, kind: 'answer', body: words, answers: asked });
  }
  if (asksLate({ lateByDays: lateBy, grantedAt: granted }))
    await record(w, 'plan sent late', { eventId, days: lateBy, reason: standing.lateReason });
  await record(w, 'plan sent', { eventId, steps: needed.steps.map((s) => s.rule.step) });
  await moveOn(w, eventId, standingOf(after) === 'cleared' ? 'cleared' : 'in clearance', '');
}

/** Steps of a clearance, made those that are needed now: what is new is added, what nobody asks for any more is marked. */
export async function bringUpToDate(
  w: Work,
  { clearanceId, eventId }: { clearanceId: string; eventId: string },
  before: readonly StepRow[],
  needed: Needed,
): Promise<StepRow[]> {
  const { add, reopen, update: changed, drop } = refreshed(before, needed.steps);
  const idOf = new Map(before.flatMap((s) => (s.ruleId ? [[s.ruleId, s.id] as const] : [])));
  for (const { rule } of add) idOf.set(rule.id, w.app.ids.id());
  const afterOf = (ruleId: string) => needed.waits.get(ruleId)!.flatMap((id) => idOf.get(id) ?? []);
  const placeOf = (ruleId: string) => needed.steps.findIndex((s) => s.rule.id === ruleId);
  const today = dateOf(w.now, (await theOrganization(w.tx)).zone);
  if (add.length)
    await insert(
      w.tx,
      'clearance_steps',
      add.map(({ rule, because, looked }) => ({
        id: idOf.get(rule.id)!,
        clearanceId,
        ruleId: rule.id,
        step: rule.step,
        approves: rule.approves,
        approverId: rule.approverId,
        stepOrder: placeOf(rule.id),
        after: afterOf(rule.id),
        asks: rule.asks,
        because,
        looked,
        documents: rule.documents,
        meanwhile: rule.meanwhile,
        workingDays: rule.workingDays,
        dueOn: today,
        state: 'waiting' as StepState,
      })),
    );
  for (const { id, because, looked } of reopen)
    await update(w.tx, 'clearance_steps', id, {
      state: 'reopened',
      because,
      looked,
      decidedAt: null,
      decidedBy: null,
    });
  for (const { id, because, looked } of changed)
    await update(w.tx, 'clearance_steps', id, { because, looked });
  for (const id of drop) await update(w.tx, 'clearance_steps', id, { state: 'not needed' });
  // What came between two steps is waited for by the later one.
  for (const { id, ruleId, after } of before) {
    if (!ruleId || !needed.waits.has(ruleId)) continue;
    const now = afterOf(ruleId);
    if (now.join() !== after.join()) await update(w.tx, 'clearance_steps', id, { after: now });
  }
  return readSteps(w.tx, eventId);
}

/** The hour at which who has a step is reminded of it, by the clock of the organization. */
const nudgeHour = '09:00';
/** When somebody is reminded on a day: in the morning, or the next morning where that is over. */
export const nudgeAt = (day: string, zone: string, now: string): string => {
  const at = instantOf(`${day}T${nudgeHour}`, zone);
  return at > now ? at : instantOf(`${shiftDate(dateOf(now, zone), 1)}T${nudgeHour}`, zone);
};

/**
 * Writes down the states steps are in now, and by when those that are still to be decided are due: counted from the day a step
 * reaches its approver, and as it looks today for those whose turn has not come.
 */
export async function keepStates(
  w: Work,
  eventId: string,
  before: readonly StepRow[],
  after: readonly StepRow[],
): Promise<void> {
  const { zone, holidays } = await theOrganization(w.tx);
  const today = dateOf(w.now, zone);
  const stateBefore = new Map(before.map((s) => [s.id, s.state]));
  const running = after
    .filter((s) => !isThrough(s.state))
    .map((s) => ({
      ...s,
      dueOn: isOpenForDecision(s.state) && stateBefore.get(s.id) === s.state ? s.dueOn : null,
    }));
  const { steps: times } = runningTime(running, today, holidays);
  const handed: string[] = [];
  for (const s of after) {
    const kept = running.find((r) => r.id === s.id)?.dueOn !== null;
    const dueOn = kept ? s.dueOn : times.get(s.id)!.dueOn;
    const moved = s.state !== stateBefore.get(s.id);
    if (!moved && dueOn === s.dueOn) continue;
    const waits = isOpenForDecision(s.state);
    await update(w.tx, 'clearance_steps', s.id, {
      state: s.state,
      dueOn,
      ...(moved ? { nudges: 0, nudgeAt: waits ? nudgeAt(dueOn, zone, w.now) : null } : {}),
    });
    if (moved && waits) handed.push(s.id);
  }
  if (handed.length) await record(w, 'steps handed over', { eventId, stepIds: handed });
}
