import { onShift } from '#core/crew/states.ts';
import { isOver } from '#core/events/end.ts';
import { type MarginFacts, marginOf, type Note } from '#core/events/margin.ts';
import { undelivered } from '#core/messages/states.ts';
import { openAttempts } from '#core/money/attempts.ts';
import { freeSeats } from '#core/registration/capacity.ts';
import { freedSeatsFor } from '#core/registration/waitlist.ts';
import { dateOf, daysBetween } from '#core/time/wallTime.ts';
import { deadlineOf, lacksOfEvent, neededSteps, readSteps } from '../clearance/steps.ts';
import { among } from '../db/among.ts';
import { first, type Queries } from '../db/database.ts';
import { figuresOfEvent } from '../outcomes/store.ts';
import { readTaken, readWaiting } from '../registration/store.ts';
import { type OrganizationRow, theOrganization } from '../staff/store.ts';
import { type SeatNeed, stillToSign, waiverNeeds } from '../waivers/store.ts';
import { type EventRow, readOffers } from './store.ts';

interface CountsRow {
  shifts: number;
  places: number;
  firstRole: string | null;
  failed: number;
  unknown: number;
  offersOut: number;
  hoursOpen: number;
}

/** The remarks about one event, worked out from what is stored now. */
export async function marginOfEvent(
  tx: Queries,
  event: EventRow,
  now: string,
): Promise<{ notes: Note[]; facts: MarginFacts }> {
  const organization = await theOrganization(tx);
  const today = dateOf(now, organization.zone);
  const offers = await readOffers(tx, event.id);
  const { steps: needed } = await neededSteps(tx, event, offers);
  const steps = ['draft', 'in clearance', 'cleared', 'open'].includes(event.state)
    ? await readSteps(tx, event.id)
    : [];
  const deadline = event.state === 'draft' && needed.length ? await deadlineOf(tx, event, needed, now) : null;
  const taken = await readTaken(tx, event.id);
  const waiting = await readWaiting(tx, event.id, offers);
  const fitting =
    event.startsAt && waiting.length
      ? freedSeatsFor(waiting, event, taken, now, event.startsAt)[0]
      : undefined;
  const counts = (await first<CountsRow>(tx, countsSql, [event.id, now]))!;
  const over = isOver(event, now);
  const [owedBack, owing] = await balances(tx, event.id);
  const back = steps.find((s) => s.state === 'sent back' || s.state === 'refused');
  const figures = over ? await figuresOfEvent(tx, event.id) : null;
  const facts: MarginFacts = {
    state: event.state,
    currency: organization.currency,
    daysToStart: event.startsLocal ? daysBetween(today, event.startsLocal.slice(0, 10)) : null,
    over,
    lacks: lacksOfEvent(event, offers, today),
    daysToSubmit: deadline?.daysLeft ?? null,
    stuck: steps
      .filter((s) => s.state === 'with approver' || s.state === 'reopened')
      .map((s) => ({ step: s.step, overdueDays: Math.max(0, daysBetween(s.dueOn, today)) })),
    sentBack: back && event.state === 'draft' ? `${back.step}: ${back.words}` : null,
    conditions: over
      ? []
      : steps
          .filter((s) => s.state === 'cleared with conditions')
          .map((s) => ({ step: s.step, words: s.words })),
    waiversMissing: over
      ? { minors: 0, adults: 0, unknown: 0 }
      : await waiversMissing(tx, event, organization, today),
    freeSeats: freeSeats(event, taken),
    waiting: {
      parties: waiting.length,
      people: waiting.reduce((sum, p) => sum + p.seats, 0),
      firstFit: fitting
        ? { name: fitting.party.name, seats: fitting.party.seats, orderId: fitting.party.orderId }
        : null,
    },
    offersOut: counts.offersOut,
    unfilled: { places: counts.places, shifts: counts.shifts, firstRole: counts.firstRole },
    messagesFailed: counts.failed,
    paymentsUnknown: counts.unknown,
    owedBack,
    owing,
    hoursOpen: counts.hoursOpen,
    survey: figures?.survey ?? null,
    checksFailing: figures?.checks.filter((c) => !c.holds).map((c) => c.text) ?? [],
  };
  return { notes: marginOf(facts), facts };
}

const countsSql = `
  with open_shifts as (
    select s.role, s.starts_at, s.needed - (select count(*) from assignments a where a.shift_id = s.id and a.state in ${among(onShift)}) as open
    from shifts s where s.event_id = $1 and s.starts_at > $2)
  select
    (select count(*)::int from open_shifts where open > 0) as shifts,
    (select coalesce(sum(open), 0)::int from open_shifts where open > 0) as places,
    (select role from open_shifts where open > 0 order by starts_at limit 1) as first_role,
    (select count(*)::int from messages where event_id = $1 and state in ${among(undelivered)}) as failed,
    (select count(*)::int from payment_attempts p join orders o on o.id = p.order_id where o.event_id = $1 and p.state in ${among(openAttempts)}) as unknown,
    (select count(*)::int from orders where event_id = $1 and offered_until is not null) as offers_out,
    (select count(*)::int from assignments a join shifts s on s.id = a.shift_id where s.event_id = $1 and s.ends_at <= $2 and a.state in ('proposed', 'agreed')) as hours_open`;

/** Orders that paid more than is due, and orders that still owe, each with the sum. */
async function balances(
  tx: Queries,
  eventId: string,
): Promise<[{ orders: number; amount: number }, { orders: number; amount: number }]> {
  const rows = await tx.query<{ balance: number }>(
    `select o.balance from orders o where o.event_id = $1 and o.balance <> 0
       and (o.balance < 0 or exists (select 1 from registrations r where r.order_id = o.id and r.state = 'confirmed'))`,
    [eventId],
  );
  const sum = (of: number[]) => ({ orders: of.length, amount: of.reduce((a, b) => a + b, 0) });
  return [
    sum(rows.map((r) => -r.balance).filter((b) => b > 0)),
    sum(rows.map((r) => r.balance).filter((b) => b > 0)),
  ];
}

async function waiversMissing(
  tx: Queries,
  event: EventRow,
  { ageOfMajority }: OrganizationRow,
  today: string,
): Promise<MarginFacts['waiversMissing']> {
  if (!event.startsLocal) return { minors: 0, adults: 0, unknown: 0 };
  const asked = (await waiverNeeds(tx, event, ageOfMajority, today)).filter(stillToSign);
  const count = (age: SeatNeed['age']) => asked.filter((r) => r.age === age);
  return {
    minors: count('minor').length,
    // Guests to be named are asked for their age when they are.
    adults: count('adult').length + count('unknown').filter((r) => !r.named).length,
    unknown: count('unknown').filter((r) => r.named).length,
  };
}
