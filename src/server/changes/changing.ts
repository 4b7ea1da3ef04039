import type { Settling, WhatIf } from '#contract/changes.ts';
import type { EventPlan } from '#contract/plan.ts';
import {
  type Aspect,
  aspectsOf,
  graceMinutes,
  movesIntoThePast,
  quietHours,
  toldBySelf,
  weightyFields,
} from '#core/changes/aspects.ts';
import type { Concerned, LetterKind } from '#core/changes/letters.ts';
import { alsoFollows, type Consequences, follows, noConsequences } from '#core/events/consequences.ts';
import type { Move } from '#core/events/moves.ts';
import type { PlanField } from '#core/events/parts.ts';
import type { EventState } from '#core/events/states.ts';
import { plusMinutes } from '#core/time/clock.ts';
import { wrongAt } from '#core/words/problems.ts';
import type { Asker, ChangeInHand, Work } from '../app/app.ts';
import { record } from '../app/record.ts';
import { markShift } from '../crew/commands.ts';
import { readAssignment, readShift } from '../crew/store.ts';
import { insert, update } from '../db/database.ts';
import { putInLead, removeMember } from '../duties/commands.ts';
import { readTeam } from '../duties/store.ts';
import { readPlan, savePlan } from '../events/plan.ts';
import { type EventRow, readEvent } from '../events/store.ts';
import { invalid } from '../http/problem.ts';
import { readOrder } from '../registration/store.ts';
import { backToWaitlist } from '../registration/waiting.ts';
import { makeMove } from '../stages/commands.ts';
import { aroundChange, standingNow } from './around.ts';
import { checkLetters, type Letters, writeLetters } from './letters.ts';
import { concernedBy } from './people.ts';
import { moneyBack, moneyWords, oweBack } from './returns.ts';
import { assignmentHere, forgetRows, keepRows } from './store.ts';

/** Nothing was settled: people are told as they would be by themselves, and money is settled by hand. */
export const nothingSettled: Settling = {
  words: '',
  letters: [],
  takeOff: [],
  offTeam: [],
  leadEmail: '',
  toWaitlist: [],
  money: 'by hand',
  fundId: null,
  toEventId: null,
};

export interface Made {
  followed: Consequences;
  /** The change by which it can be taken back; null where nothing of it weighs. */
  changeId: string | null;
  settlesAt: string | null;
  aspects: Aspect[];
  letters: Letters;
}

const weightless = { changeId: null, settlesAt: null, aspects: [], letters: [] };

/** How a change is made. */
export interface Making {
  settle?: Settling | undefined;
  /** The change of the plan's history that this takes back. */
  undoes?: string | null;
  /** What it says comes from its series. */
  carried?: boolean;
  /** The change of several events that this belongs to: what it writes is kept with that one. */
  partOf?: string | null;
  /** It is only asked what would follow: what has to be said when it is done may still be missing. */
  trying?: boolean;
}

/**
 * Saves parts of a plan. Of an event that was said yes to, what weighs is told to everybody it concerns unless somebody said no,
 * what was settled about its consequences is done with it, and all of it can be taken back until the letters go out.
 */
export async function changePlan(
  w: Work,
  eventId: string,
  seen: number,
  change: Partial<EventPlan>,
  { settle = nothingSettled, undoes = null, carried = false, partOf = null, trying = false }: Making = {},
): Promise<Made & { version: number }> {
  const event = await readEvent(w.tx, eventId, true);
  const before = await readPlan(w.tx, event);
  const fields = weightyFields(event.state, before, change);
  if (!fields.length)
    return { ...(await savePlan(w, eventId, seen, change, undoes, carried)), ...weightless };
  return makeInHand(
    w,
    event,
    'changed',
    fields,
    change,
    before,
    settle,
    async (held) => {
      const saved = await savePlan(held, eventId, seen, change, undoes, carried);
      const after = await readEvent(w.tx, eventId);
      if (movesIntoThePast(event.startsAt, after.startsAt, w.now))
        throw invalid([wrongAt('startsLocal', 'moved-into-past')]);
      return saved;
    },
    { partOf, trying },
  );
}

/** Does with an event what somebody decided. Calling it off is told to everybody it concerns, as a change is. */
export async function changeState(
  w: Work,
  eventId: string,
  move: Move,
  words: string,
  { settle = nothingSettled, partOf = null, trying = false }: Omit<Making, 'undoes' | 'carried'> = {},
): Promise<Made & { state: EventState }> {
  const event = await readEvent(w.tx, eventId, true);
  if (move !== 'call off') return { ...(await makeMove(w, eventId, move, words)), ...weightless };
  const before = await readPlan(w.tx, event);
  // The reason is what people read, where nothing else was written for them.
  const said = { ...settle, words: settle.words.trim() || (trying ? '' : words) };
  return makeInHand(
    w,
    event,
    'called off',
    [],
    {},
    before,
    said,
    (held) => makeMove(held, eventId, move, words),
    { partOf, trying },
  );
}

/** Makes a change that weighs: keeps every row it writes, settles what was decided, and writes the letters. */
async function makeInHand<R extends { followed: Consequences }>(
  w: Work,
  event: EventRow,
  kind: LetterKind,
  fields: readonly PlanField[],
  change: Partial<EventPlan>,
  plan: EventPlan,
  settle: Settling,
  make: (held: Work) => Promise<R>,
  { partOf, trying }: { partOf: string | null; trying: boolean },
): Promise<R & Made> {
  const aspects = aspectsOf(fields);
  const alone = kind === 'called off' || toldBySelf(aspects);
  const bySelf = (to: Concerned): boolean => alone || to === 'losing';
  checkLetters(settle.letters, bySelf, trying);
  const people = await concernedBy(w, event);
  const changeId = w.app.ids.id();
  const lettersAt = plusMinutes(w.now, graceMinutes);
  await insert(w.tx, 'changes', {
    id: changeId,
    eventId: event.id,
    kind,
    fields,
    before: pick(plan, fields),
    after: pick({ ...plan, ...change }, fields),
    words: settle.words.trim(),
    untold: settle.letters.flatMap(({ to, told, why }) =>
      told || !bySelf(to) ? [] : [{ to, why: why.trim() }],
    ),
    madeAt: w.now,
    staffId: w.actor.staffId,
    actor: w.actor.name,
    partOf,
    settlesAt: lettersAt,
  });
  if (!partOf && !trying) await keepRows(w.tx, changeId);
  const inHand: ChangeInHand = { id: changeId, lettersAt, trying, replan: false };
  const held: Work = { ...w, change: inHand };
  // Who gives something up for it does so first: what follows of the change is then reckoned from how things stand.
  const losing = new Set(settle.toWaitlist);
  const given = alsoFollows(
    await putOnWaitlist(held, event.id, settle.toWaitlist),
    await takeOff(held, event.id, settle.takeOff),
  );
  await handOver(held, event, settle);
  const result = await make(held);
  const money = kind === 'called off' ? await oweBack(held, changeId, event.id, settle, lettersAt) : [];
  const after = await readEvent(w.tx, event.id);
  const letters = await writeLetters(
    held,
    {
      changeId,
      kind,
      aspects,
      before: event,
      after,
      bySelf,
      people,
      losing,
      money: await moneyWords(w, money),
    },
    settle,
  );
  await keepRows(w.tx, null);
  // Messages are planned anew now, once, by how everything stands; so they are when it is taken back, and need not be kept.
  const messages = await record(held, 'change made', {
    eventId: event.id,
    told: letters.filter((l) => l.told).map((l) => ({ to: l.to, count: l.count })),
    untold: letters.filter((l) => !l.told).map((l) => l.to),
  });
  if (partOf && !trying) await keepRows(w.tx, partOf);
  const followed = alsoFollows(alsoFollows(given, result.followed), messages);
  const goes =
    letters.some((l) => l.told && l.count > 0) || money.length > 0 || (await hasLetters(w, changeId));
  // Of what nothing follows, the plan's own way back is enough.
  const settled = settle.offTeam.length > 0 || settle.leadEmail.trim() !== '';
  const settlesAt = goes
    ? lettersAt
    : follows(followed) || settled
      ? plusMinutes(w.now, quietHours * 60)
      : null;
  if (!goes) await update(w.tx, 'changes', changeId, { settlesAt });
  if (settlesAt === null && !partOf) await forgetRows(w.tx, changeId);
  return { ...result, followed, changeId, settlesAt, aspects, letters };
}

/** True where something waits with a change that is no letter of its own: an offer of seats, a step to decide. */
async function hasLetters(w: Work, changeId: string): Promise<boolean> {
  const rows = await w.tx.query(
    "select 1 as x from messages where change_id = $1 and state = 'planned' limit 1",
    [changeId],
  );
  return rows.length > 0;
}

const pick = (plan: EventPlan, fields: readonly PlanField[]): object =>
  Object.fromEntries(fields.map((field) => [field, plan[field] ?? null]));

async function putOnWaitlist(w: Work, eventId: string, orderIds: readonly string[]): Promise<Consequences> {
  let followed = noConsequences;
  for (const [at, orderId] of orderIds.entries()) {
    const order = await readOrder(w.tx, orderId);
    if (order.eventId !== eventId) throw invalid([wrongAt(`settle.toWaitlist.${at}`, 'seats-of-another')]);
    followed = alsoFollows(followed, await backToWaitlist(w, order));
  }
  return followed;
}

async function takeOff(w: Work, eventId: string, assignmentIds: readonly string[]): Promise<Consequences> {
  let followed = noConsequences;
  for (const [at, id] of assignmentIds.entries()) {
    const here = await assignmentHere(w.tx, eventId, id);
    const assignment = here && (await readAssignment(w.tx, id));
    if (!assignment) throw invalid([wrongAt(`settle.takeOff.${at}`, 'not-on-shift')]);
    followed = alsoFollows(
      followed,
      await markShift(
        w,
        await readShift(w.tx, assignment.shiftId),
        { ...assignment, id },
        { state: 'dropped' },
      ),
    );
  }
  return followed;
}

/** Puts the event into other hands, where whoever leads it leads something else by then. */
async function handOver(w: Work, event: EventRow, { offTeam, leadEmail }: Settling): Promise<void> {
  const team = await readTeam(w.tx, event.id, w.now);
  for (const [at, memberId] of offTeam.entries()) {
    if (!team.some((m) => m.id === memberId)) throw invalid([wrongAt(`settle.offTeam.${at}`, 'not-on-team')]);
    await removeMember(w, event, memberId);
  }
  if (leadEmail.trim()) await putInLead(w, event, leadEmail.trim(), 'settle.leadEmail');
}

/** What a change would bring about, found by making it; whoever calls takes it back. */
export async function tryChange(
  w: Work,
  asker: Asker,
  event: EventRow,
  make: (w: Work) => Promise<Made>,
): Promise<WhatIf> {
  const was = await standingNow(w, asker, event, 'before');
  const { followed, aspects, letters, settlesAt } = await make(w);
  const after = await readEvent(w.tx, event.id);
  const calledOff = after.state === 'called off';
  const around = calledOff
    ? { atTwoThings: [], ages: [], over: null, passed: [], odds: [] }
    : await aroundChange(
        w,
        asker,
        was,
        await standingNow(w, asker, after, 'after'),
        followed.reopened.length > 0,
      );
  return {
    aspects,
    followed,
    settlesAt,
    letters,
    ...around,
    money: calledOff ? await moneyBack(w.tx, [event.id]) : null,
  };
}
