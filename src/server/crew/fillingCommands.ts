import { MessageChannel } from 'node:worker_threads';
import type { RosterRun } from '#contract/filling.ts';
import { type Filler, type OpenShift, type RepairStep, repairOf, rosterOf } from '#core/crew/filling.ts';
import { datesOf, type Load, noLimits } from '#core/crew/limits.ts';
import { sayShift } from '#core/crew/said.ts';
import { hoursOf } from '#core/crew/shift.ts';
import type { RosterInstance } from '#core/roster/instance.ts';
import type { RosterProgress } from '#core/roster/solving.ts';
import { because, sayReason } from '#core/words/reasons.ts';
import { type App, inTransaction, systemActor, type Work } from '../app/app.ts';
import { record } from '../app/record.ts';
import type { Queries } from '../db/database.ts';
import type { EventRow } from '../events/store.ts';
import { refused } from '../http/problem.ts';
import { theOrganization } from '../staff/store.ts';
import { inThread } from '../threads/threads.ts';
import { wishOf } from './applyingStore.ts';
import { markShift, putOnShift } from './commands.ts';
import {
  askedFor,
  askToStop,
  dropRun,
  endRun,
  type FillerRow,
  type FillingShift,
  namesOf,
  noteProgress,
  type Proposed,
  putRun,
  readFillers,
  readPairsAmong,
  readRun,
  readToFill,
  roleNames,
} from './fillingStore.ts';
import { assignmentOn, isFull, readAssignment, readShift, takeOffShift } from './store.ts';

/** How often somebody who works a roster out is heard of, and after how long they are not there any more, in milliseconds. */
const heard = { every: 700, gone: 20_000 };
/** What loading and explaining take beyond the time it is given, in milliseconds. */
const beyond = 60_000;

interface Roster {
  instance: RosterInstance;
  people: readonly FillerRow[];
  shifts: readonly FillingShift[];
}

/** The shifts of an event that are still to come as a roster, with who could be put on them. */
async function rosterFor(tx: Queries, event: EventRow, now: string): Promise<Roster> {
  const { restHours, placeMinutes, ageOfMajority } = await theOrganization(tx);
  const shifts = await readToFill(tx, event.id, now);
  const day = (event.startsLocal ?? shifts[0]?.startsLocal ?? now).slice(0, 10);
  const people = await readFillers(tx, event.id, day, now);
  const roles = await roleNames(tx);
  const open: OpenShift[] = shifts.map(({ fromAge, needs, name: _, on: __, ...s }) => ({
    ...s,
    asks: { fromAge, needs },
  }));
  const loadHere = new Map<string, Load>();
  for (const s of shifts)
    for (const id of s.on) {
      const so = loadHere.get(id) ?? { shifts: 0, hours: 0, days: [] };
      loadHere.set(id, {
        shifts: so.shifts + 1,
        hours: so.hours + hoursOf(s.startsAt, s.endsAt),
        days: [...so.days, ...datesOf(s)],
      });
    }
  const fillers = people.map((p): Filler => {
    const own = canBeAsked(p) ? p.applied : null;
    const here = loadHere.get(p.contactId) ?? { shifts: 0, hours: 0, days: [] };
    return {
      contactId: p.contactId,
      birthDate: p.birthDate,
      skills: p.skills,
      accepted: own !== null,
      available: own?.said.available ?? null,
      limits: own?.said.limits ?? noLimits,
      outside: {
        shifts: Math.max(0, (own?.load.shifts ?? 0) - here.shifts),
        hours: Math.max(0, (own?.load.hours ?? 0) - here.hours),
        days: own?.load.days.filter((day) => !here.days.includes(day)) ?? [],
      },
      wishes: Object.fromEntries(
        (own?.said.wishes ?? []).flatMap(({ roleId, weight }) => {
          const name = roles.get(roleId);
          return name ? [[name, weight]] : [];
        }),
      ),
      elsewhere: p.elsewhere,
    };
  });
  const known = new Set(people.map((p) => p.contactId));
  const agreed = shifts.flatMap((s) => s.on.filter((id) => known.has(id)).map((id) => [id, s.id] as const));
  const pairs = await readPairsAmong(tx, [...known]);
  return {
    people,
    shifts,
    instance: rosterOf(fillers, open, agreed, pairs, {
      restHours,
      placeMinutes,
      ageOfMajority,
      zone: event.zone,
    }),
  };
}

/** Begins to work out who could fill the shifts of an event. One at a time of each event. */
export async function beginFilling(w: Work, event: EventRow, seconds: number): Promise<{ id: string }> {
  const before = await readRun(w.tx, event.id, true);
  const seenAt = w.app.sessionClock.now();
  if (before?.state === 'working' && isThere(before.seenAt, seenAt)) throw refused('roster-working');
  const roster = await rosterFor(w.tx, event, w.now);
  if (!roster.shifts.length) throw refused('nothing-to-fill');
  const id = w.app.ids.id();
  await putRun(w.tx, { id, eventId: event.id, by: w.actor.name, at: w.now, seconds, seenAt });
  await record(w, 'roster asked for', { eventId: event.id, seconds });
  w.afterwards(() => {
    void workOut(w.app, { id, eventId: event.id, seconds }, roster.instance);
  });
  return { id };
}

const isThere = (seenAt: string, now: string): boolean => Date.parse(now) - Date.parse(seenAt) < heard.gone;

/** Works a roster out beside everything else, and writes down what came of it; nothing is thrown. */
async function workOut(
  app: App,
  { id, eventId, seconds }: { id: string; eventId: string; seconds: number },
  instance: RosterInstance,
): Promise<void> {
  const { port1, port2 } = new MessageChannel();
  const stop = new SharedArrayBuffer(4);
  let last: RosterProgress | null = null;
  port1.on('message', (so: RosterProgress) => {
    last = so;
  });
  port1.unref();
  const hear = async () => {
    const progress = last && { so: last.score, bound: last.bound, seconds: last.seconds };
    if (await noteProgress(app.db, id, progress, app.sessionClock.now()))
      Atomics.store(new Int32Array(stop), 0, 1);
  };
  // However soon it is done, whoever set it aside before it began is heard.
  await hear().catch(() => undefined);
  const hearing = setInterval(() => void hear().catch(() => undefined), heard.every);
  hearing.unref();
  let answer: Proposed | null = null;
  try {
    const worked = await inThread(
      'work out a roster',
      { instance, seconds, port: port2, stop },
      { ms: seconds * 1000 + beyond, over: [port2] },
    );
    const agreed = new Set(instance.fixed.map(([person, shift]) => `${person} ${shift}`));
    answer = {
      pairs: worked.assignments.filter(([person, shift]) => !agreed.has(`${person} ${shift}`)),
      unfilled: worked.unfilled.map(({ shift, missing, wish, why, cheapest, change }) => ({
        shiftId: shift,
        missing,
        wish,
        why,
        cheapest,
        frees: change?.people.slice(0, 6) ?? [],
      })),
      gap: worked.gap,
      people: instance.people.filter((p) => p.available?.length).length,
      took: worked.seconds,
    };
  } catch (error) {
    // Said as failed below.
    app.log.error({ error: String(error), eventId }, 'working a roster out failed');
  } finally {
    clearInterval(hearing);
    port1.close();
  }
  await inTransaction(app, systemActor, async (w) => {
    const run = await readRun(w.tx, eventId, true);
    if (run?.id !== id) return;
    await endRun(w.tx, id, answer ? 'done' : 'failed', answer);
    await record(w, 'roster worked out', { eventId });
  }).catch(() => undefined);
}

/** Whether somebody can be asked: they were accepted, left the deposit where one is asked for, and do not want to be left alone. */
const canBeAsked = (p: FillerRow): boolean =>
  p.applied?.state === 'accepted' && !p.applied.owesDeposit && !p.quiet;

/** How many can be asked, how many places are open, and what was proposed last, as far as it still holds, or how far it is. */
export async function shownFilling(
  w: Work,
  event: EventRow,
): Promise<{ accepted: number; open: number; run: RosterRun | null }> {
  const shifts = await readToFill(w.tx, event.id, w.now);
  const people = await readFillers(w.tx, event.id, (event.startsLocal ?? w.now).slice(0, 10), w.now);
  const run = await readRun(w.tx, event.id);
  return {
    accepted: people.filter(canBeAsked).length,
    open: shifts.reduce((sum, s) => sum + Math.max(0, s.wished - s.on.length), 0),
    run: run && {
      id: run.id,
      state: run.state === 'working' && !isThere(run.seenAt, w.app.sessionClock.now()) ? 'failed' : run.state,
      askedBy: run.askedBy,
      askedAt: run.askedAt,
      seconds: run.seconds,
      took: run.answer?.took ?? run.progress?.seconds ?? 0,
      so: run.progress?.so ?? null,
      bound: run.progress?.bound ?? null,
      stopping: run.stop,
      answer: run.answer && (await whatHolds(w.tx, run.answer, people, shifts)),
    },
  };
}

/** What still holds of a proposal: not what was put meanwhile, is full or over, or is of somebody who cannot be asked any more. */
async function whatHolds(
  tx: Queries,
  { gap, people: among, pairs, unfilled }: Proposed,
  people: readonly FillerRow[],
  shifts: readonly FillingShift[],
): Promise<RosterRun['answer']> {
  const roleIds = new Map([...(await roleNames(tx))].map(([roleId, name]) => [name, roleId]));
  const open = new Map(shifts.filter((s) => s.on.length < s.wished).map((s) => [s.id, s]));
  const fillers = new Map(people.filter(canBeAsked).map((p) => [p.contactId, p]));
  return {
    gap,
    people: among,
    proposals: pairs.flatMap(([contactId, shiftId]) => {
      const shift = open.get(shiftId);
      const filler = fillers.get(contactId);
      if (!shift || !filler || shift.on.includes(contactId)) return [];
      const roleId = roleIds.get(shift.role);
      return [{ contactId, name: filler.name, shiftId, wish: roleId ? wishOf(filler.applied, roleId) : 0 }];
    }),
    unfilled: unfilled
      .filter((u) => open.has(u.shiftId))
      .map((u) => ({ ...u, frees: u.frees.flatMap((c) => fillers.get(c)?.name ?? []) })),
  };
}

export async function stopFilling(w: Work, event: EventRow): Promise<void> {
  await askToStop(w.tx, event.id);
}

/** Sets aside what was proposed; what is still worked out ends. */
export async function setAside(w: Work, event: EventRow): Promise<void> {
  await dropRun(w.tx, event.id);
}

/**
 * Puts people on shifts that were proposed for them. Whoever something speaks against by now is left out, with why: nothing of it is
 * overridden. Whoever had asked for a shift is told that it is theirs.
 */
export async function acceptProposed(
  w: Work,
  event: EventRow,
  pairs: readonly { contactId: string; shiftId: string }[],
): Promise<{ put: number; left: { contactId: string; name: string; shiftId: string; why: string }[] }> {
  const run = await readRun(w.tx, event.id, true);
  const proposed = new Set(run?.answer?.pairs.map(([c, s]) => `${c} ${s}`) ?? []);
  const names = await namesOf(
    w.tx,
    pairs.map((p) => p.contactId),
  );
  const left: { contactId: string; name: string; shiftId: string; why: string }[] = [];
  let put = 0;
  for (const { contactId, shiftId } of pairs) {
    if (!proposed.has(`${contactId} ${shiftId}`)) throw refused('roster-other');
    const shift = await readShift(w.tx, shiftId, true);
    const why = await putProposed(w, shift, contactId, { oneOfSeveral: true });
    if (why) left.push({ contactId, name: names.get(contactId) ?? '', shiftId, why });
    else put += 1;
  }
  if (put) await record(w, 'roster accepted', { eventId: event.id, put });
  return { put, left };
}

/** Puts somebody on a shift; answers why not, where they cannot be. */
async function putProposed(
  w: Work,
  shift: Awaited<ReturnType<typeof readShift>>,
  contactId: string,
  how: Parameters<typeof putOnShift>[4],
): Promise<string | null> {
  if (shift.startsAt <= w.now) return sayReason(because('shift begun'));
  const asked = await askedFor(w.tx, shift.id, contactId);
  if (!asked && (await assignmentOn(w.tx, shift.id, contactId))) return null;
  if (await isFull(w.tx, shift)) return sayReason(because('shift full'));
  if (asked) {
    const row = (await readAssignment(w.tx, asked.id))!;
    await markShift(w, shift, { ...row, id: asked.id }, { state: 'agreed' });
    return null;
  }
  const { assigned, clashes } = await putOnShift(w, shift, contactId, '', how);
  return assigned ? null : clashes.map((x) => x.text).join('; ');
}

/** Who could step in on a shift with the fewest changes to other people; null where nothing fills it. */
export async function stepsFor(
  w: Work,
  event: EventRow,
  shiftId: string,
): Promise<(RepairStep & { name: string; toWords: string; fromWords: string })[] | null> {
  const { instance, people, shifts } = await rosterFor(w.tx, event, w.now);
  const steps = repairOf(instance, shiftId);
  const words = (id: string | null) => {
    const shift = shifts.find((s) => s.id === id);
    return shift ? sayShift(shift, 'en') : '';
  };
  return (
    steps?.map((s) => ({
      ...s,
      name: people.find((p) => p.contactId === s.contactId)?.name ?? '',
      toWords: words(s.to),
      fromWords: words(s.from),
    })) ?? null
  );
}

/** Puts people where they step in. Refused as a whole where things are not as they were when it was worked out. */
export async function stepIn(
  w: Work,
  event: EventRow,
  shiftId: string,
  steps: readonly RepairStep[],
): Promise<void> {
  const now = await stepsFor(w, event, shiftId);
  const same = (a: RepairStep, b: RepairStep) =>
    a.contactId === b.contactId && a.to === b.to && a.from === b.from;
  if (now?.length !== steps.length || !now.every((s, at) => same(s, steps[at]!)))
    throw refused('changed-by-somebody');
  // Whoever leaves a place does so before another takes it.
  for (const { contactId, from } of steps) {
    if (!from) continue;
    const on = await assignmentOn(w.tx, from, contactId);
    if (!on) throw refused('changed-by-somebody');
    await takeOffShift(w.tx, on.id, w.now);
  }
  for (const { contactId, to, from } of steps) {
    const shift = await readShift(w.tx, to, true);
    const why = await putProposed(w, shift, contactId, { insteadOf: from, oneOfSeveral: true });
    if (why) throw refused('step-refused', { why });
  }
  await record(w, 'roster accepted', { eventId: event.id, put: steps.length });
}
