import type { Money } from '#contract/endpoint.ts';
import type { DeskEntry } from '#contract/events.ts';
import { partsOfAll } from '#core/access/contacts.ts';
import { messagesSeen } from '#core/access/messages.ts';
import { type Depth, seesStageEverywhere, stagesOf } from '#core/access/stages.ts';
import { isCoordinator } from '#core/access/viewer.ts';
import { sayFact } from '#core/clearance/rules.ts';
import { isOpenForDecision, isTheirs } from '#core/clearance/steps.ts';
import { fullName } from '#core/contacts/names.ts';
import { aboutMoney, type Note } from '#core/events/margin.ts';
import type { Stage } from '#core/events/states.ts';
import { undelivered } from '#core/messages/states.ts';
import { daysBetween, shiftDate } from '#core/time/dates.ts';
import { sayShortDate } from '#core/time/say.ts';
import { dateOf } from '#core/time/wallTime.ts';
import type { deskEn } from '#core/words/desk.en.ts';
import type { Params } from '#core/words/filling.ts';
import { sayDue, sayNote } from '#core/words/notes.ts';
import { say, words } from '#core/words/spoken.ts';
import type { SignedIn } from '../app/app.ts';
import { readStepsOf } from '../clearance/steps.ts';
import { readTasks } from '../contacts/store.ts';
import { among } from '../db/among.ts';
import { first, type Queries } from '../db/database.ts';
import { seasonFor } from '../events/season.ts';
import { type EventRow, readLive } from '../events/store.ts';
import { countMissed } from '../giving/store.ts';
import { readStop } from '../messages/stopping.ts';
import { readUnanswered } from '../messages/unanswered.ts';
import { countOpen } from '../money/cardReads.ts';
import { theOrganization } from '../staff/store.ts';
import { marginsOf } from './margin.ts';

const line = (key: keyof typeof deskEn, params?: Params): string => say(words().desk[key], params);

/** How long an event that is over stays on the desk, in days. */
const lingerDays = 30;

/** What needs somebody now: the pressing remarks of every live event, and the clearance steps this person may decide. */
export async function deskOf(tx: Queries, staff: SignedIn, now: string) {
  const { zone } = await theOrganization(tx);
  const today = dateOf(now, zone);
  const live = await readLive(tx, now, lingerDays);
  const mine = live
    .map((event) => ({ event, may: stagesOf(staff, event, now) }))
    .filter(({ may }) => may.size > 0);
  const shown = mine.map(({ event }) => event);
  const margins = await marginsOf(tx, shown, now);
  const entries: DeskEntry[] = await stepsToDecide(tx, shown, today, staff);
  // Of two that press alike, the one whose event is sooner.
  const sooner = new Map<DeskEntry, string>();
  for (const { event, may } of mine) {
    const { id } = event;
    const { notes } = margins.get(id)!;
    for (const n of notes) {
      if (n.tone === 'know' || !n.acts || !acts(n, may, staff)) continue;
      const { headline, text, action } = sayNote(n.code, n.params);
      const entry: DeskEntry = {
        urgency: n.urgency,
        when: sayDue(n.due),
        tone: n.tone,
        subject: event.publicTitle || event.teamTitle,
        about: event.startsLocal
          ? line('about', { day: sayShortDate(event.startsLocal), stage: line(n.stage) })
          : line(n.stage),
        text: `${headline} ${text}`.trim(),
        action: { label: action, href: `/events/${id}/${n.stage}` },
      };
      entries.push(entry);
      sooner.set(entry, event.startsAt ?? '');
    }
  }
  entries.push(...(await tasksDue(tx, today, staff)));
  entries.push(
    ...(await sendingStopped(tx, now, staff)),
    ...(await cardsToSettle(tx, now, staff)),
    ...(await unanswered(tx, now, staff)),
    ...(await giftsMissed(tx, staff)),
  );
  if (staff.roles.includes('coordinator')) entries.push(...(await contactsWaiting(tx)));
  const when = (e: DeskEntry) => `${sooner.get(e) ?? ''} ${e.subject}`;
  entries.sort((a, b) => b.urgency - a.urgency || (when(a) < when(b) ? -1 : 1));
  const season =
    (await seasonFor(
      { tx, staff, now },
      "not e.is_template and e.state <> 'shelved' and e.starts_at between $1::timestamptz - interval '45 days' and $1::timestamptz + interval '120 days'",
      [now],
    )) ?? [];
  return {
    today,
    entries,
    since: await sinceYesterday(tx, today, zone, staff),
    openNow: season.filter((e) => e.state === 'open' && e.see.length > 0),
    ribbon: season,
  };
}

/** What is settled in a stage reaches those who may change it; what concerns money, the treasurer too. */
const acts = (n: Note, may: ReadonlyMap<Stage, Depth>, staff: SignedIn): boolean =>
  may.get(n.stage) === 'change' ||
  (may.has(n.stage) && aboutMoney.includes(n.code) && staff.roles.includes('treasurer'));

/** Steps of these events that wait for somebody's decision. */
async function stepsToDecide(
  tx: Queries,
  events: readonly EventRow[],
  today: string,
  staff: SignedIn,
): Promise<DeskEntry[]> {
  const steps = await readStepsOf(
    tx,
    events.map((e) => e.id),
  );
  return events.flatMap((event) =>
    steps
      .get(event.id)!
      .filter((s) => isOpenForDecision(s.state) && isTheirs(s, staff))
      .map((s) => ({
        urgency: s.dueOn < today ? 85 : 80,
        when: line(s.dueOn < today ? 'since day' : 'by day', { date: sayShortDate(s.dueOn) }),
        tone: s.dueOn < today ? ('stop' as const) : ('need' as const),
        subject: event.publicTitle,
        about: line('clearance'),
        text: s.because.length
          ? line('step asked', { step: s.step, because: s.because.map(sayFact).join(', ') })
          : line('step asked for no reason', { step: s.step }),
        action: { label: line('decide'), href: `/events/${event.id}/clearance` },
      })),
  );
}

/** Tasks about people that are due today or were. */
async function tasksDue(tx: Queries, today: string, staff: SignedIn): Promise<DeskEntry[]> {
  // A task reaches those who may read the note.
  const mine = isCoordinator(staff) ? null : staff.id;
  return (await readTasks(tx, today, mine)).map((t) => ({
    urgency: t.dueOn < today ? 75 : 65,
    when: t.dueOn < today ? line('since day', { date: sayShortDate(t.dueOn) }) : line('today'),
    tone: t.dueOn < today ? ('stop' as const) : ('need' as const),
    subject: fullName(t),
    about: line('task'),
    text: t.text,
    action: { label: line('open contact'), href: `/contacts/${t.contactId}` },
  }));
}

/** What of the contacts waits for a decision: changes people asked for, and who is who. */
async function contactsWaiting(tx: Queries): Promise<DeskEntry[]> {
  const row = (await first<{ changes: number; pairs: number }>(
    tx,
    `select (select count(*)::int from proposals p join contacts c on c.id = p.contact_id where state = 'open' and c.erased_at is null) as changes,
       (select count(*)::int from pairs where state = 'open' and probability >= (select look_from from matching_model)) as pairs`,
  ))!;
  const entries: DeskEntry[] = [];
  if (row.changes)
    entries.push({
      urgency: 45,
      when: line('soon'),
      tone: 'need',
      subject: line('changes'),
      about: line('contacts'),
      text: line('changes wait', { count: row.changes }),
      action: { label: line('look'), href: '/contacts/changes' },
    });
  if (row.pairs)
    entries.push({
      urgency: 20,
      when: line('no rush'),
      tone: 'need',
      subject: line('pairs'),
      about: line('contacts'),
      text: line('pairs wait', { count: row.pairs }),
      action: { label: line('look'), href: '/contacts/review' },
    });
  return entries;
}

/** That nothing is sent: nobody should find it out by what did not come. */
async function sendingStopped(tx: Queries, now: string, staff: SignedIn): Promise<DeskEntry[]> {
  if (!isCoordinator(staff)) return [];
  const { stopped, waiting } = await readStop(tx, null, now);
  if (!stopped) return [];
  return [
    {
      urgency: 95,
      when: line('now'),
      tone: 'stop',
      subject: line('sending'),
      about: line('messages'),
      text: line(waiting ? 'sending stopped' : 'sending stopped, none', { count: waiting, by: stopped.by }),
      action: { label: line('see sending'), href: '/tray' },
    },
  ];
}

/** Questions on boards and what people wrote back that nobody has answered: how many, since when, and who answers. */
async function unanswered(tx: Queries, now: string, staff: SignedIn): Promise<DeskEntry[]> {
  const reach = messagesSeen(staff);
  if (!reach.everything && !reach.ofUnit && !reach.ofCrew) return [];
  const { zone } = await theOrganization(tx);
  return (await readUnanswered(tx, reach)).map(({ eventId, title, n, since, by }) => {
    const days = daysBetween(dateOf(since!, zone), dateOf(now, zone));
    return {
      // Who asked yesterday is waited with; after three days somebody looks elsewhere.
      urgency: Math.min(70, 35 + 10 * days),
      when: line('since day', { date: sayShortDate(dateOf(since!, zone)) }),
      tone: days >= 3 ? 'stop' : 'need',
      subject: eventId ? title : line('came in'),
      about: line('messages'),
      text: line(eventId ? (by ? 'questions open, by' : 'questions open') : 'came in open', {
        count: n,
        by: by ?? '',
      }),
      action: {
        label: line('answer'),
        href: eventId ? `/events/${eventId}/messages?show=questions` : '/tray?state=in',
      },
    };
  });
}

/** What is open with the card processor, for those who see the money of every event. */
async function cardsToSettle(tx: Queries, now: string, staff: SignedIn): Promise<DeskEntry[]> {
  if (!partsOfAll(staff).has('money') || !seesStageEverywhere(staff, 'registration')) return [];
  const count = await countOpen(tx, now);
  if (!count) return [];
  return [
    {
      urgency: 60,
      when: line('now'),
      tone: 'need',
      subject: line('cards'),
      about: line('money'),
      text: line('cards wait', { count }),
      action: { label: line('settle'), href: '/ledger?show=cards' },
    },
  ];
}

/** Monthly gifts that no card works for: whoever gives was written to, and may want a call. */
async function giftsMissed(tx: Queries, staff: SignedIn): Promise<DeskEntry[]> {
  if (!partsOfAll(staff).has('money') || !seesStageEverywhere(staff, 'registration')) return [];
  const count = await countMissed(tx);
  if (!count) return [];
  return [
    {
      urgency: 40,
      when: line('soon'),
      tone: 'need',
      subject: line('gifts'),
      about: line('money'),
      text: line('gifts missed', { count }),
      action: { label: line('look at gifts'), href: '/ledger?show=gifts' },
    },
  ];
}

async function sinceYesterday(tx: Queries, today: string, zone: string, staff: SignedIn) {
  const from = `${shiftDate(today, -1)} 00:00 ${zone}`;
  const row = (await first<Record<'seats' | 'withdrawn' | 'waivers' | 'sent' | 'failed', number>>(
    tx,
    `select
       (select count(*)::int from registrations where confirmed_at >= $1::timestamptz) as seats,
       (select count(*)::int from registrations where state = 'withdrawn' and ended_at >= $1::timestamptz) as withdrawn,
       (select count(*)::int from signatures where at >= $1::timestamptz) as waivers,
       (select count(*)::int from messages where sent_at >= $1::timestamptz) as sent,
       (select count(*)::int from messages where state in ${among(undelivered)}) as failed`,
    [from],
  ))!;
  const given = await tx.query<Money>(
    `select currency, sum(amount)::bigint as amount from donations where at >= $1::timestamptz group by currency
     order by currency <> (select currency from organization), currency`,
    [from],
  );
  // That nothing was given is a figure too.
  const gifts = given.length ? given : [{ amount: 0, currency: (await theOrganization(tx)).currency }];
  const figure = (
    label: keyof typeof deskEn,
    count: number | null,
    amount: Money | null = null,
    tone: 'know' | 'stop' = 'know',
  ) => ({ label: line(label), count, amount, tone });
  // Sums over all events are for those who see what they sum up everywhere.
  const sees = (stage: Stage) => seesStageEverywhere(staff, stage);
  return [
    ...(sees('registration') ? [figure('seats', row.seats), figure('withdrawn', row.withdrawn)] : []),
    ...(partsOfAll(staff).has('money') ? gifts.map((sum) => figure('donations', null, sum)) : []),
    ...(isCoordinator(staff) ? [figure('waivers', row.waivers)] : []),
    ...(sees('messages') ? [figure('sent', row.sent)] : []),
    ...(row.failed && sees('messages') ? [figure('failed', row.failed, null, 'stop')] : []),
  ];
}
