import type { WhatIf } from '#contract/changes.ts';
import type { EventPlan } from '#contract/events.ts';
import { stagesOf } from '#core/access/stages.ts';
import { problemsWithAgenda } from '#core/agenda/checking.ts';
import { atTwoThings, type Engagement } from '#core/changes/meanwhile.ts';
import { whoLoses } from '#core/changes/seats.ts';
import { endOf } from '#core/events/end.ts';
import { clashesOf } from '#core/season/clashes.ts';
import { plusMinutes } from '#core/time/clock.ts';
import { sayShortDate, sayTime } from '#core/time/say.ts';
import { dateOf } from '#core/time/wallTime.ts';
import { ageStanding, covers } from '#core/waivers/needs.ts';
import { sayProblem } from '#core/words/problems.ts';
import type { Asker, Work } from '../app/app.ts';
import { deadlineOf, neededSteps } from '../clearance/steps.ts';
import { readPlan } from '../events/plan.ts';
import { seasonFor } from '../events/season.ts';
import { type EventRow, readOffers, roomsOf } from '../events/store.ts';
import { standingOf } from '../places/booking.ts';
import { readTaken } from '../registration/store.ts';
import { theOrganization } from '../staff/store.ts';
import { engagementsElsewhere, engagementsHere, seatedParties, seatsByAge } from './store.ts';

type Around = Pick<WhatIf, 'atTwoThings' | 'ages' | 'over' | 'passed' | 'odds'>;

/** An event at one moment of a change: before it, or after. */
interface Standing {
  event: EventRow;
  plan: EventPlan;
  engaged: Engagement[];
  over: Awaited<ReturnType<typeof overOf>>;
  odds: WhatIf['odds'];
}

/** How an event stands, as far as a change can be compared with it. */
export async function standingNow(w: Work, asker: Asker, event: EventRow): Promise<Standing> {
  const plan = await readPlan(w.tx, event);
  return {
    event,
    plan,
    engaged: await engagementsHere(w.tx, event.id),
    over: await overOf(w, event, plan),
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
    over: is.over.seats > was.over.seats ? is.over : null,
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
  const both = atTwoThings(was.engaged, is.engaged, elsewhere);
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

/** Seats given away beyond what there are: at the place, online, and of each offer. Those confirmed last would lose theirs. */
async function overOf(w: Work, event: EventRow, plan: EventPlan): Promise<NonNullable<WhatIf['over']>> {
  const taken = await readTaken(w.tx, event.id);
  const offers = await readOffers(w.tx, event.id);
  const parties = await seatedParties(w.tx, event.id);
  const losing = new Map<string, { orderId: string; name: string; seats: number }>();
  const short = (of: typeof parties, over: number) => {
    if (over <= 0) return;
    for (const party of whoLoses(of, over)) {
      // A party goes as a whole.
      const seats = parties.filter((p) => p.orderId === party.orderId).reduce((sum, p) => sum + p.seats, 0);
      losing.set(party.orderId, { orderId: party.orderId, name: party.name, seats });
    }
  };
  const at = (online: boolean) => parties.filter((p) => p.online === online);
  let over = 0;
  for (const [there, many, room] of [
    [false, taken.seats, plan.capacity],
    [true, taken.online ?? 0, plan.onlineCapacity],
  ] as const)
    if (room !== null) {
      over += Math.max(0, many - room);
      short(at(there), many - room);
    }
  for (const offer of offers)
    if (offer.quantity !== null) {
      const units = (taken.unitsByOffer.get(offer.id) ?? 0) - offer.quantity;
      over += Math.max(0, units) * offer.seatsPerUnit;
      short(
        parties.filter((p) => p.offerId === offer.id),
        units * offer.seatsPerUnit,
      );
    }
  return { seats: Math.max(0, over), losing: [...losing.values()] };
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
  const rooms = (await roomsOf(w.tx, event.venueId)).map((r) => r.id);
  return [
    ...(clashesOf(near).get(event.id) ?? []).map(({ kind, other }) => ({
      of: kind,
      what: title.get(other)!,
      eventId: other,
    })),
    ...(place?.outside ?? []).map((o) => ({
      of: 'diary' as const,
      what: `${o.diary}: ${o.summary}, ${o.when}`,
      eventId: null,
    })),
    ...(place?.closed ? [{ of: 'holiday' as const, what: event.venueName ?? '', eventId: null }] : []),
    ...problemsWithAgenda(plan.sessions, { ...plan, rooms }).map((p) => {
      const session = plan.sessions[Number(p.path.split('.')[1])];
      return {
        of: 'session' as const,
        what: `${session?.title.en ?? ''}: ${sayProblem(p.code, p.params)}`,
        eventId: null,
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
