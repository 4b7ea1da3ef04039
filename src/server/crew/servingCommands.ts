import type { BodyOf } from '#contract/endpoint.ts';
import type { servingContract } from '#contract/serving.ts';
import { type HourKey, totalsOf, worthOf } from '#core/crew/hourTotals.ts';
import { presenceRefusal, servedHours } from '#core/crew/serving.ts';
import { lives } from '#core/events/states.ts';
import { earlier } from '#core/time/clock.ts';
import type { Work } from '../app/app.ts';
import { record } from '../app/record.ts';
import { toldFor } from '../app/told.ts';
import { insert, type Queries, update } from '../db/database.ts';
import type { EventRow } from '../events/store.ts';
import { refused } from '../http/problem.ts';
import { theOrganization } from '../staff/store.ts';
import { type PresenceRow, readHours, readServers } from './servingStore.ts';
import type { ShiftRow } from './store.ts';

type Body<K extends keyof typeof servingContract> = BodyOf<(typeof servingContract)[K]>;
type Present = Pick<PresenceRow, 'state' | 'inAt' | 'outAt' | 'hours'>;

/**
 * Ticks off that somebody of the crew came or left, or takes it back. Who leaves has served; their hours follow from when they came and
 * left. Of two devices that tick off the same, the earliest coming counts, and the first leaving stays.
 */
export async function markPresence(
  w: Work,
  event: EventRow,
  shift: ShiftRow,
  row: PresenceRow,
  { to, at }: Body<'POST /api/assignments/:id/presence'>,
): Promise<Present> {
  if (!lives(event.state)) throw refused('event-is', { state: event.state });
  const when = toldFor(w.app, w.now, at);
  const refusal = presenceRefusal(row, shift, to, when);
  if (refusal) throw refused(refusal);
  const now = await presenceAfter(w, shift, row, to, when);
  const same = now.state === row.state && now.inAt === row.inAt && now.outAt === row.outAt;
  if (same) return now;
  await update(w.tx, 'assignments', row.id, { ...now });
  await record(w, 'crew ticked off', {
    eventId: event.id,
    shiftId: shift.id,
    assignmentId: row.id,
    contactId: row.contactId,
    to,
    at: when,
    hours: now.hours,
  });
  return now;
}

async function presenceAfter(
  w: Work,
  shift: ShiftRow,
  { state, inAt, outAt, hours }: PresenceRow,
  to: 'in' | 'out' | 'expected',
  when: string,
): Promise<Present> {
  if (to === 'expected') return { state: 'agreed', inAt: null, outAt: null, hours: null };
  if (to === 'in') {
    // Back again after having left: they are here as from when they first came.
    if (outAt && when > outAt) return { state: 'agreed', inAt, outAt: null, hours: null };
    if (outAt) return { state, inAt, outAt, hours };
    return { state: 'agreed', inAt: inAt ? earlier(inAt, when) : when, outAt: null, hours: null };
  }
  if (outAt) return { state, inAt, outAt, hours };
  const left = when > inAt! ? when : inAt!;
  const rule = await theOrganization(w.tx);
  return { state: 'served', inAt, outAt: left, hours: servedHours({ inAt, outAt: left }, shift, rule) };
}

/** Puts served hours right. What they were stays written, with who and why. */
export async function correctHours(
  w: Work,
  shift: ShiftRow,
  row: PresenceRow,
  { hours, why }: Body<'POST /api/assignments/:id/hours'>,
): Promise<void> {
  if (row.state !== 'served' || row.hours === null) throw refused('not-served');
  if (row.hours === hours) return;
  await insert(w.tx, 'hour_corrections', {
    id: w.app.ids.id(),
    assignmentId: row.id,
    at: w.now,
    by: w.actor.name,
    before: row.hours,
    after: hours,
    why,
  });
  await update(w.tx, 'assignments', row.id, { hours });
  await record(w, 'hours corrected', {
    eventId: shift.eventId,
    shiftId: shift.id,
    contactId: row.contactId,
    before: row.hours,
    after: hours,
    why,
  });
}

/** Hours served between two days, added up, with what they are worth. */
export async function hoursBetween(tx: Queries, from: string, until: string, by: HourKey) {
  const { rows, years } = totalsOf(await readHours(tx, from, until, by));
  const servers = new Map((await readServers(tx, from, until, by)).map((r) => [r.key, r.people]));
  const { hourValue, currency } = await theOrganization(tx);
  const hours = Math.round(rows.reduce((sum, r) => sum + r.hours, 0) * 100) / 100;
  return {
    rows: rows.map((r) => ({ ...r, people: servers.get(r.key) ?? 0 })),
    years,
    people: rows.length ? (servers.get(null) ?? 0) : 0,
    shifts: rows.reduce((sum, r) => sum + r.shifts, 0),
    hours,
    value: worthOf(hours, hourValue),
    hourValue,
    currency,
  };
}
