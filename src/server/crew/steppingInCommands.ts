import type { BodyOf } from '#contract/endpoint.ts';
import type { steppingInContract } from '#contract/steppingIn.ts';
import { readReach } from '#core/contacts/reach.ts';
import {
  type Askable,
  type AskState,
  answerUntil,
  askedAt,
  type SearchEnd,
  whomToAsk,
} from '#core/crew/steppingIn.ts';
import { lives } from '#core/events/states.ts';
import type { Work } from '../app/app.ts';
import { record } from '../app/record.ts';
import { linkPerson } from '../contacts/linking.ts';
import { insert, update } from '../db/database.ts';
import { type EventRow, readEvent } from '../events/store.ts';
import { invalid, notFound, refused } from '../http/problem.ts';
import { theOrganization } from '../staff/store.ts';
import { candidatesFor } from './candidates.ts';
import { findAgainst, takeByAsking } from './commands.ts';
import { readRoleAsks } from './roleStore.ts';
import {
  type AskRow,
  dropWait,
  filledOf,
  keepWait,
  lastSearch,
  reachedOf,
  readAsk,
  readAsks,
  readDropped,
  readWaits,
  type SearchRow,
} from './steppingInStore.ts';
import { assignmentOn, isFull, readShift, type ShiftRow, shiftThere } from './store.ts';

/** How many of those who would be asked next are named. */
const nextNamed = 3;

/** Who of the team began it; nothing where it began by itself. */
const byHand = (w: Work): string => (w.actor.staffId ? w.actor.name : '');

/** Begins to ask who steps in on a shift, where there is room and nobody is asked already: those who wait, or others as well. */
async function beginSearch(w: Work, shift: ShiftRow, wide: boolean): Promise<void> {
  const last = await lastSearch(w.tx, shift.id);
  if (last && !last.endedAt) {
    // Whoever waits is asked already; from now on others are as well.
    if (wide && !last.wide) {
      await update(w.tx, 'step_in_searches', last.id, { wide: true, begunBy: byHand(w) });
      await goOn(w, shift.id);
    }
    return;
  }
  const id = w.app.ids.id();
  await insert(w.tx, 'step_in_searches', {
    id,
    shiftId: shift.id,
    wide,
    begunAt: w.now,
    begunBy: byHand(w),
    endedAt: null,
    endedHow: null,
  });
  await record(w, 'step-in begun', { eventId: shift.eventId, shiftId: shift.id, wide });
  await goOn(w, shift.id);
}

/** Somebody of the crew's leads asks people to step in. */
export async function askToStepIn(w: Work, event: EventRow, shift: ShiftRow): Promise<void> {
  if (!lives(event.state) || shift.startsAt <= w.now) throw refused('shift-begun-step-in');
  if (await isFull(w.tx, shift)) throw refused('shift-has-all');
  await beginSearch(w, shift, true);
}

/** Asks nobody else. */
export async function stopSearch(w: Work, shift: ShiftRow): Promise<void> {
  const search = await lastSearch(w.tx, shift.id);
  if (search && !search.endedAt) await end(w, shift, search, 'stopped');
}

/**
 * A place on a shift may have come free: others than those who wait are asked only where `wide`. Nothing happens where nobody is to be
 * asked.
 */
export async function placeFree(w: Work, shiftId: string, wide: boolean): Promise<void> {
  const shift = await shiftThere(w.tx, shiftId, true);
  if (!shift || shift.startsAt <= w.now || (await isFull(w.tx, shift))) return;
  if (!lives((await readEvent(w.tx, shift.eventId)).state)) return;
  if (!wide && !(await readWaits(w.tx, shiftId)).length) return;
  await beginSearch(w, shift, wide);
}

/**
 * Takes the search of a shift as far as it goes now: it asks whoever is next, tells those who are not needed any more, and ends where
 * there is nothing left to ask.
 */
export async function goOn(w: Work, shiftId: string): Promise<void> {
  const search = await lastSearch(w.tx, shiftId);
  if (!search || search.endedAt) return;
  const shift = await shiftThere(w.tx, shiftId, true);
  if (!shift) return;
  const event = await readEvent(w.tx, shift.eventId);
  if (!lives(event.state) || shift.startsAt <= w.now) return end(w, shift, search, 'too late');
  const places = shift.wished - (await filledOf(w.tx, shiftId));
  const asked = (await readAsks(w.tx, shiftId)).filter((a) => a.state === 'asked');
  if (places <= 0) return end(w, shift, search, 'filled');
  // The last who were asked are the first who are not needed.
  for (const ask of asked.slice(places)) await settle(w, shift, ask, 'not needed');
  const open = places - asked.length;
  if (open <= 0) return;
  const { quietHours } = await theOrganization(w.tx);
  const until = answerUntil(w.now, shift.startsAt, quietHours, event.zone);
  const picked = until ? whomToAsk(open, ...(await inLine(w, shift, search))) : [];
  for (const { contactId, waited } of picked) {
    const id = w.app.ids.id();
    await insert(w.tx, 'step_in_asks', {
      id,
      searchId: search.id,
      shiftId,
      contactId,
      waited,
      state: 'asked',
      askedAt: w.now,
      until: until!,
      answeredAt: null,
    });
    await record(w, 'step-in asked', {
      eventId: event.id,
      shiftId,
      askId: id,
      contactId,
      at: askedAt(w.now, shift.startsAt, quietHours, event.zone),
      until: until!,
    });
  }
  if (!picked.length && !asked.length) await end(w, shift, search, until ? 'nobody left' : 'too late');
}

/** Who waits for a shift, and who else could be asked: they were accepted, or help at this event already. */
async function inLine(
  w: Work,
  shift: ShiftRow,
  search: Pick<SearchRow, 'id' | 'wide'> | null,
): Promise<[(Askable & { name: string })[], (Askable & { name: string })[]]> {
  const rows = await readWaits(w.tx, shift.id);
  const others =
    search?.wide === false
      ? []
      : (
          await candidatesFor(
            w.tx,
            shift,
            await readRoleAsks(w.tx, shift.role),
            await theOrganization(w.tx),
            null,
            w.now,
          )
        ).filter((c) => c.accepted || c.hoursHere > 0);
  const reached = await reachedOf(
    w.tx,
    [...rows, ...others].map((p) => p.contactId),
  );
  const asks = await readAsks(w.tx, shift.id);
  const no = new Set([
    ...asks.filter((a) => a.searchId === search?.id || a.state === 'said no').map((a) => a.contactId),
    ...(await readDropped(w.tx, shift.id)).map((d) => d.contactId),
  ]);
  const askable = (contactId: string, name: string, free: boolean) => ({
    contactId,
    name,
    free,
    reached: reached.has(contactId),
    asked: no.has(contactId),
  });
  const waiting = [];
  for (const { contactId, name } of rows)
    waiting.push(askable(contactId, name, (await findAgainst(w.tx, shift, contactId)).length === 0));
  return [waiting, others.map((o) => askable(o.contactId, o.name, o.against.length === 0))];
}

async function settle(
  w: Work,
  shift: ShiftRow,
  ask: Pick<AskRow, 'id' | 'contactId'>,
  to: Exclude<AskState, 'asked'>,
): Promise<void> {
  await update(w.tx, 'step_in_asks', ask.id, { state: to, answeredAt: w.now });
  await record(w, 'step-in answered', {
    eventId: shift.eventId,
    shiftId: shift.id,
    askId: ask.id,
    contactId: ask.contactId,
    to,
  });
}

async function end(w: Work, shift: ShiftRow, search: SearchRow, how: SearchEnd): Promise<void> {
  await update(w.tx, 'step_in_searches', search.id, { endedAt: w.now, endedHow: how });
  for (const ask of await readAsks(w.tx, shift.id))
    if (ask.state === 'asked') await settle(w, shift, ask, 'not needed');
  await record(w, 'step-in over', { eventId: shift.eventId, shiftId: shift.id, wide: search.wide, how });
}

/** Nobody said a word in time: the next is asked. */
export async function answerDue(w: Work, askId: string): Promise<void> {
  const ask = await readAsk(w.tx, askId);
  if (ask?.state !== 'asked' || ask.until > w.now) return;
  await settle(w, await readShift(w.tx, ask.shiftId), ask, 'lapsed');
  await goOn(w, ask.shiftId);
}

/** Somebody who was asked says whether they step in. */
export async function answerAsk(w: Work, contactId: string, askId: string, take: boolean): Promise<void> {
  const ask = await readAsk(w.tx, askId);
  if (!ask || ask.contactId !== contactId) throw notFound('This question');
  const shift = await shiftThere(w.tx, ask.shiftId, true);
  if (!shift || ask.state !== 'asked' || ask.until <= w.now || shift.startsAt <= w.now)
    throw refused('step-in-gone');
  await dropWait(w.tx, shift.id, contactId);
  await settle(w, shift, ask, take ? 'took it' : 'said no');
  if (take) await takeByAsking(w, shift, contactId);
  else await goOn(w, shift.id);
}

/** Somebody from outside waits for a place. Whoever asks learns nothing of the person they name. */
export async function waitFor(
  w: Work,
  shift: ShiftRow,
  body: BodyOf<(typeof steppingInContract)['POST /api/public/shifts/:id/wait']>,
): Promise<void> {
  const event = await readEvent(w.tx, shift.eventId);
  if (!lives(event.state) || !shift.publicSignUp || shift.startsAt <= w.now) throw refused('shift-closed');
  const { email, phone, problems } = readReach(body, (await theOrganization(w.tx)).country);
  if (!body.email) problems.push({ path: 'email', code: 'email-for-shifts' });
  if (problems.length) throw invalid(problems);
  if (!(await isFull(w.tx, shift, 'asked too'))) throw refused('shift-has-room');
  const source = `waits for a shift at ${event.publicTitle}`;
  const { contactId } = await linkPerson(w, { ...body, email, phone }, source, 'outside');
  const on = await assignmentOn(w.tx, shift.id, contactId);
  if (on) {
    await record(w, 'shift asked for in vain', {
      eventId: event.id,
      shiftId: shift.id,
      contactId,
      assignmentId: on.id,
    });
    return;
  }
  const [kept] = await keepWait(w.tx, { id: w.app.ids.id(), shiftId: shift.id, contactId, at: w.now });
  if (kept) await record(w, 'waits for shift', { eventId: event.id, shiftId: shift.id, contactId });
}

/** Somebody waits no more. */
export async function waitNoMore(w: Work, contactId: string, shiftId: string): Promise<void> {
  if (!(await dropWait(w.tx, shiftId, contactId)).length) throw notFound('This shift');
}

/** How it stands with who steps in on a shift. */
export async function searchOf(w: Work, shift: ShiftRow) {
  const { tx } = w;
  const search = await lastSearch(tx, shift.id);
  const [waits, others] =
    shift.startsAt > w.now ? await inLine(w, shift, search?.endedAt ? null : search) : [[], []];
  const waiting = [];
  for (const row of await readWaits(tx, shift.id))
    waiting.push({ ...row, against: await findAgainst(tx, shift, row.contactId) });
  const names = new Map([...waits, ...others].map((o) => [o.contactId, o.name]));
  return {
    search,
    asks: await readAsks(tx, shift.id),
    waiting,
    next: whomToAsk(nextNamed, waits, others).map(({ contactId }) => ({
      contactId,
      name: names.get(contactId)!,
    })),
    dropped: await readDropped(tx, shift.id),
  };
}
