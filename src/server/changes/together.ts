import type { SettledTogether, Settling, Together, WhatIf } from '#contract/changes.ts';
import type { EventPlan } from '#contract/plan.ts';
import { graceMinutes, quietHours } from '#core/changes/aspects.ts';
import { lettersTogether } from '#core/changes/together.ts';
import { type Consequences, follows } from '#core/events/consequences.ts';
import type { PlanField } from '#core/events/parts.ts';
import { plusMinutes } from '#core/time/clock.ts';
import type { Asker, Work } from '../app/app.ts';
import { record } from '../app/record.ts';
import { insert, update } from '../db/database.ts';
import { readEvent } from '../events/store.ts';
import { makeMove } from '../stages/commands.ts';
import { asSeen } from './around.ts';
import { changePlan, changeState, type Made, type Making, nothingSettled, tryChange } from './changing.ts';
import { keepRows } from './store.ts';
import { stand } from './takingBack.ts';

/** How several events are changed as one. */
export interface OneOfSeveral {
  change(eventId: string, seen: number, change: Partial<EventPlan>): Promise<Consequences>;
  callOff(eventId: string, words: string): Promise<Consequences>;
  /** Hides an event that nobody was told of; a draft is deleted once this can no longer be taken back. */
  hide(eventId: string): Promise<Consequences>;
  /** An event that was made with it. */
  made(eventIds: readonly string[]): void;
}

/**
 * Changes several events, and what they have in common, as one: every row is kept with it, each event has its letters, and all of it
 * is taken back together. `eventId` is the event that stands for all of them.
 */
export async function changeTogether<R extends { followed: Consequences }>(
  w: Work,
  asker: Asker,
  eventId: string,
  of: { kind: 'changed' | 'called off'; fields: readonly PlanField[]; settle?: SettledTogether | undefined },
  trying: boolean,
  work: (together: OneOfSeveral) => Promise<R>,
): Promise<R & Together> {
  const { tx, now } = w;
  const changeId = w.app.ids.id();
  const settle: Settling = { ...nothingSettled, ...of.settle };
  const lettersAt = plusMinutes(now, graceMinutes);
  const letters: WhatIf['letters'][] = [];
  const around: Together['around'] = [];
  const events = { touched: [eventId], made: [] as string[], hidden: [] as string[] };
  let settlesAt: string | null = null;
  await insert(tx, 'changes', {
    id: changeId,
    eventId,
    kind: of.kind,
    fields: of.fields,
    before: {},
    after: events,
    words: settle.words.trim(),
    untold: settle.letters.flatMap(({ to, told, why }) => (told ? [] : [{ to, why: why.trim() }])),
    madeAt: now,
    staffId: w.actor.staffId,
    actor: w.actor.name,
    settlesAt: lettersAt,
  });
  if (!trying) await keepRows(tx, changeId);
  const making: Making = { settle, carried: true, partOf: changeId, trying };
  const one = async (id: string, make: (w: Work) => Promise<Made>): Promise<Consequences> => {
    events.touched.push(id);
    if (!trying) {
      const made = await make(w);
      letters.push(made.letters);
      settlesAt ??= made.settlesAt;
      return made.followed;
    }
    const event = await readEvent(tx, id);
    const told = asSeen(await tryChange(w, asker, event, make), asker, event);
    letters.push(told.letters);
    settlesAt ??= told.settlesAt;
    const { odds, over, passed, atTwoThings, ages } = told;
    if (odds.length || over || passed.length || atTwoThings.length || ages.length)
      around.push({
        eventId: id,
        startsLocal: event.startsLocal,
        odds: odds.map(({ of, what }) => ({ of, what })),
        over: over?.seats ?? 0,
        passed: passed.length > 0,
        atTwoThings: new Set(atTwoThings.map((p) => p.contactId)).size,
        ages: ages.length,
      });
    return told.followed;
  };
  const result = await work({
    change: (id, seen, change) => one(id, (held) => changePlan(held, id, seen, change, making)),
    callOff: (id, words) => one(id, (held) => changeState(held, id, 'call off', words, making)),
    hide: async (id) => {
      events.touched.push(id);
      const event = await readEvent(tx, id);
      if (event.state === 'draft') events.hidden.push(id);
      return (await makeMove(w, id, 'shelve', '')).followed;
    },
    made: (ids) => events.made.push(...ids),
  });
  await keepRows(tx, null);
  const goes = settlesAt !== null;
  const touches = follows(result.followed) || events.touched.length > 1 || events.made.length > 0;
  const until = settlesAt ?? (touches ? plusMinutes(now, quietHours * 60) : null);
  await update(tx, 'changes', changeId, { after: events, settlesAt: until });
  await record(w, 'changed together', { eventId, events: events.touched.length, told: goes });
  if (until === null) await stand(w, changeId);
  return { ...result, changeId, settlesAt: until, letters: lettersTogether(letters), around };
}
