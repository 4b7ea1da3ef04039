import type { Clearance, ClearanceStep, Condition } from '#contract/clearance.ts';
import { leads, mayChange } from '#core/access/stages.ts';
import { isCoordinator } from '#core/access/viewer.ts';
import { factCodes } from '#core/clearance/facts.ts';
import { sayFact } from '#core/clearance/rules.ts';
import { runningTime, timeOf } from '#core/clearance/schedule.ts';
import { isOpenForDecision, isTheirs, isThrough, mayDecideStep, standingOf } from '#core/clearance/steps.ts';
import { dateOf } from '#core/time/wallTime.ts';
import { sayReason } from '#core/words/reasons.ts';
import type { SignedIn } from '../app/app.ts';
import { first, type Queries } from '../db/database.ts';
import { readEvent, readOffers } from '../events/store.ts';
import { answeredField } from '../http/problem.ts';
import { theOrganization } from '../staff/store.ts';
import { factPlanOf, type Needed, neededBy, theBook } from './book.ts';
import { readConditions } from './conditions.ts';
import { coverageOf } from './covering.ts';
import { readPapers } from './papers.ts';
import { readSaid, type WordRow } from './said.ts';
import { whoSees } from './seeing.ts';
import { lacksForSending } from './sending.ts';
import { asksLate, deadlineBy, readClearance, readSteps, type StepRow, sentBySame } from './steps.ts';

/** The clearance of an event as somebody sees it: what is needed before it is sent, what was decided afterwards. */
export async function clearanceOf(
  tx: Queries,
  eventId: string,
  staff: SignedIn,
  now: string,
): Promise<Clearance> {
  const event = await readEvent(tx, eventId);
  const offers = await readOffers(tx, eventId);
  const organization = await theOrganization(tx);
  const today = dateOf(now, organization.zone);
  const book = await theBook(tx);
  const { facts, needed } = neededBy(book, factPlanOf(event, offers));
  const sent = await readClearance(tx, eventId);
  const steps = sent ? await readSteps(tx, eventId) : [];
  const sentIt = await sentBySame(tx, eventId, staff.id);
  const said = await readSaid(tx, eventId);
  const mayPlan = mayChange(staff, event, 'clearance', now);
  const time = timeOf(needed.timed, today, organization.holidays);
  const deadline = deadlineBy(organization, event, time.working, now);
  const open = steps.filter((s) => !isThrough(s.state));
  const running = runningTime(
    open.map((s) => ({ ...s, dueOn: isOpenForDecision(s.state) ? s.dueOn : null })),
    today,
    organization.holidays,
  );
  const late = sent !== null && event.state === 'in clearance' && asksLate(sent);
  const draft = event.state === 'draft';
  return {
    submittedAt: sent?.submittedAt ?? null,
    sentByMe: sentIt,
    lateByDays: sent?.lateByDays ?? 0,
    lateReason: sent?.lateReason ?? '',
    granted: sent?.grantedAt ? { at: sent.grantedAt, by: sent.grantedBy } : null,
    mayGrant: late && isCoordinator(staff),
    standing: late
      ? 'asked late'
      : sent
        ? standingOf(steps)
        : needed.steps.length
          ? 'not sent'
          : 'not needed',
    deadline: deadline && {
      date: deadline.date,
      daysLeft: deadline.daysLeft,
      stepDays: deadline.stepDays,
      why: sayReason(deadline.why),
    },
    expectedOn: draft ? time.clearedOn : open.length ? running.clearedOn : null,
    clearedBy: deadline?.clearedBy ?? null,
    facts: [
      ...(event.capacity
        ? [{ text: sayFact({ code: 'headcount', params: { people: event.capacity } }), fromPlan: true }]
        : []),
      ...factCodes
        .filter((code) => facts.values[code] === true)
        .map((code) => ({ text: sayFact({ code }), fromPlan: facts.fromPlan.includes(code) })),
      ...book.names.facts.flatMap((own) => {
        const value = facts.values[own.id];
        if (value === undefined || value === false) return [];
        const text = typeof value === 'number' ? `${own.name}: ${value}` : own.name;
        return [{ text, fromPlan: false }];
      }),
    ],
    steps: sent
      ? steps.map((s) => sentStep(s, steps, staff, sentIt || draft, running))
      : await neededSteps(tx, needed, time),
    conditions: (await readConditions(tx, eventId)).map(
      ({ eventId: _, stepId: __, approves, approverId, ...c }): Condition => ({
        ...c,
        mayMeet: c.metAt === null && (mayPlan || c.ownerId === staff.id),
        mayReopen:
          c.metAt !== null && (isTheirs({ approves, approverId }, staff) || leads(staff, event, now)),
      }),
    ),
    said: said
      .filter((x) => x.kind !== 'answer')
      .map(({ stepId: _, answers: __, ...x }) => ({ ...x, answer: answerTo(x.id, said) })),
    papers: (await readPapers(tx, eventId)).map(({ fileId: _, ...paper }) => paper),
    mayWrite: mayPlan || steps.some((s) => isTheirs(s, staff)),
    people: await whoSees(tx, event, now),
    coverage: draft && !sent ? await coverageOf({ tx, now }, event) : null,
    coversSeries: sent?.coversSeries ?? false,
    coveredBy: sent?.coveredBy ?? null,
    lacks: draft
      ? (await lacksForSending({ tx, now }, event, offers)).map((field) => {
          const { code, message } = answeredField(field);
          return { code: code ?? null, text: message };
        })
      : [],
  };
}

function answerTo(questionId: string, said: readonly WordRow[]) {
  const found = said.find((x) => x.answers === questionId);
  return found ? { body: found.body, author: found.author, at: found.at } : null;
}

function sentStep(
  s: StepRow,
  all: readonly StepRow[],
  staff: SignedIn,
  /** They sent it, or it is with its unit again: it is not theirs to decide now. */
  not: boolean,
  running: ReturnType<typeof runningTime>,
): ClearanceStep {
  const open = !isThrough(s.state);
  return {
    id: s.id,
    step: s.step,
    approves: s.approves,
    approver: s.approver,
    after: all.filter((other) => s.after.includes(other.id)).map((other) => other.step),
    asks: s.asks,
    because: s.because.map(sayFact),
    documents: s.documents,
    questions: [],
    dueOn: open ? s.dueOn : null,
    slack: open ? (running.steps.get(s.id)?.slack ?? null) : null,
    holdsUp: running.path.includes(s.id),
    state: s.state,
    decidedAt: s.decidedAt,
    decidedBy: s.decidedBy,
    words: s.words,
    orphaned: s.orphaned && !isThrough(s.state),
    mayDecide: mayDecideStep(s, { ...staff, sent: not }),
  };
}

async function neededSteps(
  tx: Queries,
  { steps, waits }: Needed,
  time: ReturnType<typeof timeOf>,
): Promise<ClearanceStep[]> {
  const people = new Map<string, string>();
  for (const { rule } of steps)
    if (rule.approverId) {
      const row = await first<{ name: string }>(tx, 'select name from staff where id = $1', [
        rule.approverId,
      ]);
      people.set(rule.approverId, row?.name ?? '');
    }
  return steps.map(({ rule, because }) => ({
    id: rule.id,
    step: rule.step,
    approves: rule.approves,
    approver: rule.approverId && people.get(rule.approverId)!,
    after: steps.filter((other) => waits.get(rule.id)!.includes(other.rule.id)).map((o) => o.rule.step),
    asks: rule.asks,
    because: because.map(sayFact),
    documents: [...rule.documents],
    questions: [...rule.questions],
    dueOn: null,
    slack: time.steps.get(rule.id)!.slack,
    holdsUp: time.path.includes(rule.id),
    state: 'waiting',
    decidedAt: null,
    decidedBy: null,
    words: '',
    mayDecide: false,
    orphaned: false,
  }));
}
