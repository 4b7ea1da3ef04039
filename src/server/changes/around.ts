import type { WhatIf } from '#contract/changes.ts';
import type { EventPlan } from '#contract/plan.ts';
import { stagesOf } from '#core/access/stages.ts';
import { problemsWithAgenda } from '#core/agenda/checking.ts';
import { atTwoThings, type Engagement } from '#core/changes/meanwhile.ts';
import { whoLoses } from '#core/changes/seats.ts';
import { endOf } from '#core/events/end.ts';
import { limitsOf } from '#core/registration/capacity.ts';
import { clashesOf } from '#core/season/clashes.ts';
import { plusMinutes } from '#core/time/clock.ts';
import { sayShortDate, sayTime } from '#core/time/say.ts';
import { dateOf } from '#core/time/wallTime.ts';
import { ageStanding, covers } from '#core/waivers/needs.ts';
import { sayProblem } from '#core/words/problems.ts';
import type { Asker, Work } from '../app/app.ts';
import { deadlineOf, neededSteps } from '../clearance/steps.ts';
import { readTeam } from '../duties/store.ts';
import { readPlan } from '../events/plan.ts';
import { seasonFor } from '../events/season.ts';
import { type EventRow, readOffers, roomsOf } from '../events/store.ts';
import { standingOf } from '../places/booking.ts';
import { readTaken } from '../registration/store.ts';
import { theOrganization } from '../staff/store.ts';
import { engagementsElsewhere, engagementsHere, type SeatedAt, seatedParties, seatsByAge } from './store.ts';

type Around = Pick<WhatIf, 'atTwoThings' | 'ages' | 'over' | 'passed' | 'odds'>;

/** An event at one moment of a change: before it, or after. */
interface Standing {
  event: EventRow;
  plan: EventPlan;
  /** Who has to be where for it; of those with a seat only afterwards, because theirs is the event's own time. */
  engaged: Engagement[];
  shortage: Shortage;
  odds: WhatIf['odds'];
}

/** How an event stands, as far as a change can be compared with it. */
export async function standingNow(
  w: Work,
  asker: Asker,
  event: EventRow,
  when: 'before' | 'after',
): Promise<Standing> {
  const plan = await readPlan(w.tx, event);
  return {
    event,
    plan,
    engaged: await engagementsHere(w.tx, event.id, when === 'after'),
    shortage: await shortageOf(w, event, plan),
    odds: await oddsOf(w, asker, event, plan),
  };
}

/** What is different around an event after a change: who and what it gets in the way of, and what of it is too late or too small. */
export async function aroundChange(
  w: Work,
  asker: Asker,
  was: Standing,
  is: Standing,
  reopened: boolean,
): Promise<Around> {
  return {
    atTwoThings: await twoThings(w, asker, was, is),
    ages: await agesOf(w, was, is),
    over: await overOf(w, was, is),
    passed: await passedOf(w, was.event, is.event, reopened),
    odds: is.odds.filter((o) => !was.odds.some((b) => b.of === o.of && b.what === o.what)),
  };
}

async function twoThings(w: Work, asker: Asker, was: Standing, is: Standing): Promise<WhatIf['atTwoThings']> {
  const ids = [...new Set(is.engaged.map((e) => e.contactId))];
  const starts = is.engaged.map((e) => e.startsAt).sort();
  const ends = is.engaged.map((e) => e.endsAt).sort();
  if (!ids.length) return [];
  const elsewhere = await engagementsElsewhere(w.tx, is.event.id, ids, starts[0]!, ends.at(-1)!);
  // Only who has anything else then; of those, a seat was for the time that the event had before.
  const others = new Set(elsewhere.map((e) => e.contactId));
  const engaged = is.engaged.filter((e) => others.has(e.contactId));
  const { startsAt } = was.event;
  const endsAt = endOf(was.event);
  const seats =
    startsAt && endsAt ? engaged.flatMap((e) => (e.of === 'seat' ? [{ ...e, startsAt, endsAt }] : [])) : [];
  const both = atTwoThings([...was.engaged, ...seats], engaged, elsewhere);
  const events = both.length
    ? await seasonFor({ ...asker, tx: w.tx }, 'e.id = any($1)', [
        [...new Set(both.map((b) => b.there.eventId))],
      ])
    : [];
  // Who goes where at another unit's event is not theirs to see; that there is something is.
  const seen = new Set(events.filter((e) => e.see.includes('registration')).map((e) => e.id));
  return both.map(({ here, there }) => ({
    contactId: here.contactId,
    name: here.name,
    here: here.of,
    there: { of: there.of, title: seen.has(there.eventId) ? there.title : '', at: there.startsAt },
    assignmentId: here.assignmentId,
  }));
}

async function agesOf(w: Work, was: Standing, is: Standing): Promise<WhatIf['ages']> {
  const [before, after] = [was.event.startsLocal?.slice(0, 10), is.event.startsLocal?.slice(0, 10)];
  if (!before || !after || before === after) return [];
  const { ageOfMajority } = await theOrganization(w.tx);
  return (await seatsByAge(w.tx, is.event.id)).flatMap(({ contactId, name, signedBy, ...person }) => {
    const becomes = ageStanding(person, after, ageOfMajority);
    return becomes === 'unknown' || becomes === ageStanding(person, before, ageOfMajority)
      ? []
      : [{ contactId, name, becomes, signed: signedBy !== null && !covers(signedBy, becomes) }];
  });
}

/** How many seats are given away beyond what there are, at the place, online and of each offer; and whose they are, of each. */
interface Shortage {
  seats: number;
  of: { over: number; takes: (party: SeatedAt) => boolean }[];
}

async function shortageOf(w: Work, event: EventRow, plan: EventPlan): Promise<Shortage> {
  const taken = await readTaken(w.tx, event.id);
  const of: Shortage['of'] = [];
  const limits = limitsOf({ ...plan, venueCapacity: event.venueCapacity });
  for (const [there, many, room] of [
    [false, taken.seats, limits.capacity],
    [true, taken.online ?? 0, limits.onlineCapacity ?? null],
  ] as const)
    if (room !== null && many > room)
      of.push({ over: many - room, takes: (party) => party.online === there });
  for (const { id, quantity, seatsPerUnit } of await readOffers(w.tx, event.id)) {
    const units = quantity === null ? 0 : (taken.unitsByOffer.get(id) ?? 0) - quantity;
    if (units > 0) of.push({ over: units * seatsPerUnit, takes: (party) => party.offerId === id });
  }
  return { seats: of.reduce((sum, o) => sum + o.over, 0), of };
}

/** The seats that are too many after a change and were not before; those confirmed last would lose theirs, as whole parties. */
async function overOf(w: Work, was: Standing, is: Standing): Promise<WhatIf['over']> {
  if (is.shortage.seats <= was.shortage.seats) return null;
  const parties = await seatedParties(w.tx, is.event.id);
  const seats = new Map<string, number>();
  for (const p of parties) seats.set(p.orderId, (seats.get(p.orderId) ?? 0) + p.seats);
  const losing = new Map<string, { orderId: string; name: string; seats: number }>();
  for (const { over, takes } of is.shortage.of)
    for (const { orderId, name } of whoLoses(parties.filter(takes), over))
      losing.set(orderId, { orderId, name, seats: seats.get(orderId)! });
  return { seats: is.shortage.seats, losing: [...losing.values()] };
}

async function passedOf(w: Work, was: EventRow, is: EventRow, reopened: boolean): Promise<WhatIf['passed']> {
  const closes =
    is.state === 'open' &&
    is.registrationClosesAt !== null &&
    is.registrationClosesAt <= w.now &&
    was.registrationClosesAt !== is.registrationClosesAt;
  const { zone } = await theOrganization(w.tx);
  const deadline = reopened
    ? await deadlineOf(w.tx, is, (await neededSteps(w.tx, is, await readOffers(w.tx, is.id))).needed, w.now)
    : null;
  return [
    ...(closes && is.registrationClosesLocal
      ? [
          {
            what: 'closes' as const,
            at: `${sayShortDate(is.registrationClosesLocal, true)}, ${sayTime(is.registrationClosesLocal)}`,
          },
        ]
      : []),
    ...(deadline && deadline.date < dateOf(w.now, zone)
      ? [{ what: 'last day to send' as const, at: sayShortDate(deadline.date, true) }]
      : []),
  ];
}

const settledElsewhere = { eventId: null, sessionId: null, leads: [] };

/** What an event is at odds with: other events, diaries of others, days on which its place is closed, its own sessions. */
async function oddsOf(w: Work, asker: Asker, event: EventRow, plan: EventPlan): Promise<WhatIf['odds']> {
  const end = endOf(event);
  if (!event.startsAt || !event.startsLocal || !end) return [];
  const near = await seasonFor(
    { ...asker, tx: w.tx },
    "(e.id = $1 or (not e.is_template and e.state not in ('called off', 'shelved') and e.starts_at < $3 and coalesce(e.ends_at, e.starts_at) > $2))",
    [event.id, plusMinutes(event.startsAt, -1), plusMinutes(end, 1)],
  );
  const title = new Map(near.map((e) => [e.id, e.title]));
  const place = event.venueId
    ? await standingOf(
        w.tx,
        event,
        {
          venueId: event.venueId,
          roomId: event.roomId ?? undefined,
          startsLocal: event.startsLocal,
          endsLocal: event.endsLocal ?? undefined,
          doorsLocal: event.doorsLocal ?? undefined,
        },
        w.now,
      )
    : null;
  const leadsOf = (id: string) => near.find((e) => e.id === id)?.leads ?? [];
  const team = (await readTeam(w.tx, event.id, w.now))
    .filter((m) => m.part !== 'helper')
    .map((m) => ({ memberId: m.id, name: m.name }));
  const rooms = (await roomsOf(w.tx, event.venueId)).map((r) => r.id);
  return [
    ...(clashesOf(near).get(event.id) ?? []).map(({ kind, other }) => ({
      ...settledElsewhere,
      of: kind,
      what: title.get(other)!,
      eventId: other,
      leads: kind === 'lead' ? team.filter((m) => leadsOf(other).includes(m.name)) : [],
    })),
    ...(place?.outside ?? []).map((o) => ({
      ...settledElsewhere,
      of: 'diary' as const,
      what: `${o.diary}: ${o.summary}, ${o.when}`,
    })),
    ...(place?.closed ? [{ ...settledElsewhere, of: 'holiday' as const, what: event.venueName ?? '' }] : []),
    ...problemsWithAgenda(plan.sessions, { ...plan, rooms }).map((p) => {
      const session = plan.sessions[Number(p.path.split('.')[1])];
      return {
        ...settledElsewhere,
        of: 'session' as const,
        what: `${session?.title.en ?? ''}: ${sayProblem(p.code, p.params)}`,
        sessionId: session?.id ?? null,
      };
    }),
  ];
}

/** What somebody may see of the answer: names of those who registered, and of the crew, are for who sees those stages. */
export function asSeen(told: WhatIf, asker: Asker, event: EventRow): WhatIf {
  const has = stagesOf(asker.staff, event, asker.now);
  const seats = has.has('registration');
  const mayRead = (to: WhatIf['letters'][number]['to']): boolean =>
    to === 'approvers' || to === 'speakers' || (to === 'crew' ? has.has('crew') : seats);
  return {
    ...told,
    followed: seats
      ? told.followed
      : {
          ...told.followed,
          offered: told.followed.offered.map(() => ''),
          letGo: told.followed.letGo.map((party) => ({ ...party, name: '' })),
        },
    letters: told.letters.map((l) => (mayRead(l.to) ? l : { ...l, leftOut: [], sample: null })),
    atTwoThings: told.atTwoThings.filter((p) =>
      p.here === 'seat' ? seats : p.here === 'shift' ? has.has('crew') : true,
    ),
    ages: seats ? told.ages : [],
    over: told.over && (seats ? told.over : { ...told.over, losing: [] }),
    money: seats ? told.money : null,
  };
}
