import {
  type DecisionWord,
  decideStep,
  handOver,
  isOpenForDecision,
  isTheirs,
  standingOf,
} from '#core/clearance/steps.ts';
import type { EventState } from '#core/events/states.ts';
import type { SignedIn, Work } from '../app/app.ts';
import { record } from '../app/record.ts';
import { insert, update } from '../db/database.ts';
import { moveOn } from '../events/moving.ts';
import { readEvent } from '../events/store.ts';
import { invalid, notFound, refused } from '../http/problem.ts';
import { look } from './around.ts';
import { theCondition } from './conditions.ts';
import { openAgain } from './reopening.ts';
import { say, theQuestion } from './said.ts';
import { whoSees } from './seeing.ts';
import { keepStates } from './sending.ts';
import { asksLate, eventOfStep, readClearance, readSteps, sentBySame } from './steps.ts';

export interface Decision {
  decision: DecisionWord;
  words: string;
  conditions: readonly { what: string; ownerId: string | null; dueOn: string | null; blocks: boolean }[];
  questions: readonly string[];
}

/** States of an event in which its steps are decided. */
const decidedIn: readonly EventState[] = ['in clearance', 'cleared', 'open', 'closed'];

/** What a decision lacks: a condition, a question, a reason. */
function demandWords({ decision, words, conditions, questions }: Decision): void {
  const code =
    decision === 'clear with conditions' && !conditions.length
      ? 'condition-needed'
      : (decision === 'refuse' || (decision === 'send back' && !questions.length)) && words.trim().length < 3
        ? 'why-sent-back'
        : null;
  if (code) throw invalid([{ path: code === 'condition-needed' ? 'conditions' : 'words', code }]);
}

/** Decides a step that waits for somebody. What follows for the others and for the event is done with it. Answers the event. */
export async function decide(
  w: Work,
  staff: Pick<SignedIn, 'id' | 'approves' | 'standsFor'>,
  stepId: string,
  body: Decision,
): Promise<string> {
  const { tx, now } = w;
  const eventId = await eventOfStep(tx, stepId);
  if (!eventId) throw notFound('This step');
  const event = await readEvent(tx, eventId, true);
  const steps = await readSteps(tx, eventId);
  const step = steps.find((s) => s.id === stepId)!;
  if (!isTheirs(step, staff))
    throw refused('not-your-step', { step: step.step, word: step.approver ?? step.approves ?? '' }, 403);
  if (await sentBySame(tx, eventId, staff.id)) throw refused('own-plan', {}, 403);
  if (!isOpenForDecision(step.state)) throw refused('step-state', { state: step.state });
  if (event.state === 'draft') throw refused('plan-with-its-unit');
  if (!decidedIn.includes(event.state)) throw refused('step-state', { state: event.state });
  demandWords(body);
  const people = await whoSees(tx, event, now);
  const wrong = body.conditions.findIndex((c) => c.ownerId && !people.some((p) => p.id === c.ownerId));
  if (wrong >= 0) throw invalid([{ path: `conditions.${wrong}.ownerId`, code: 'condition-owner' }]);
  await update(tx, 'clearance_steps', step.id, {
    decidedAt: now,
    decidedBy: staff.id,
    words: body.words || (body.decision === 'send back' ? (body.questions[0] ?? '') : ''),
  });
  await say(w, { eventId, stepId, kind: 'decision', decision: body.decision, body: body.words });
  for (const question of body.decision === 'send back' ? body.questions : [])
    await say(w, { eventId, stepId, kind: 'question', body: question });
  if (body.decision === 'clear with conditions')
    await insert(
      tx,
      'clearance_conditions',
      body.conditions.map((c) => ({
        id: w.app.ids.id(),
        eventId,
        stepId,
        ...c,
        createdAt: now,
        metAt: null,
        metBy: null,
        metWords: '',
      })),
    );
  await look(w, eventId, staff.id);
  const after = decideStep(steps, step.id, body.decision);
  await keepStates(w, eventId, steps, after);
  await record(w, 'step decided', {
    eventId,
    step: step.step,
    decision: body.decision,
    words: body.words || body.questions.join(' '),
  });
  const standing = standingOf(after);
  if (event.state === 'in clearance') {
    if (standing === 'cleared') await moveOn(w, eventId, 'cleared', body.words);
    else if (standing !== 'under way')
      await moveOn(w, eventId, 'draft', `${step.step}: ${body.words || (body.questions[0] ?? '')}`);
  }
  if (standing === 'cleared') await openAgain(w, eventId);
  return eventId;
}

/** Answers a question, once. Answers the event. */
export async function answer(w: Work, questionId: string, words: string): Promise<string> {
  const { eventId, stepId, answered } = await theQuestion(w.tx, questionId);
  if (answered) throw refused('answered-already');
  await say(w, { eventId, stepId, kind: 'answer', body: words, answers: questionId });
  await record(w, 'clearance spoken of', { eventId, how: 'answered a question of clearance' });
  return eventId;
}

/** Says whether a plan that was sent late goes to its approvers; where it does not, it is a draft again, with the reason. */
export async function grant(w: Work, eventId: string, granted: boolean, words: string): Promise<void> {
  const event = await readEvent(w.tx, eventId, true);
  const sent = await readClearance(w.tx, eventId);
  if (!sent || event.state !== 'in clearance' || !asksLate(sent)) throw refused('not-asked-late');
  if (!granted && words.trim().length < 3) throw invalid([{ path: 'words', code: 'why-sent-back' }]);
  await say(w, { eventId, kind: granted ? 'granted' : 'not granted', body: words });
  if (granted) {
    await update(w.tx, 'clearances', sent.id, { grantedAt: w.now, grantedBy: w.actor.staffId });
    const steps = await readSteps(w.tx, eventId);
    await keepStates(w, eventId, steps, handOver(steps));
  }
  await record(w, 'clearance spoken of', {
    eventId,
    how: granted ? 'let a late plan go to its approvers' : 'did not let a late plan go to its approvers',
  });
  if (!granted) await moveOn(w, eventId, 'draft', words);
}

/** Says that a condition is met, or that it is not after all. Answers the event. */
export async function meet(w: Work, conditionId: string, met: boolean, words: string): Promise<string> {
  const condition = await theCondition(w.tx, conditionId);
  if (met === (condition.metAt !== null)) throw refused('condition-so-already');
  await update(w.tx, 'clearance_conditions', conditionId, {
    metAt: met ? w.now : null,
    metBy: met ? w.actor.staffId : null,
    metWords: met ? words : '',
  });
  if (words && !met)
    await say(w, { eventId: condition.eventId, stepId: condition.stepId, kind: 'word', body: words });
  await record(w, 'clearance spoken of', {
    eventId: condition.eventId,
    how: met ? 'met a condition' : 'opened a condition again',
    detail: { what: condition.what },
  });
  return condition.eventId;
}
