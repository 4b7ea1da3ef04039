import type { z } from 'zod';
import type { outcomesContract } from '#contract/outcomes.ts';
import { canBeLookedFor, findHere } from '#core/doors/selfCheckIn.ts';
import { readAmount } from '#core/outcomes/amount.ts';
import { countingState, countingWindow, problemWithTime } from '#core/outcomes/counting.ts';
import { readEntries } from '#core/outcomes/entering.ts';
import type { Measure } from '#core/outcomes/measure.ts';
import { doubtsAbout, type Entrant, perEach, type SignedTally, totalOf } from '#core/outcomes/tally.ts';
import type { Instant } from '#core/time/clock.ts';
import { instantOf } from '#core/time/wallTime.ts';
import { wrongAt } from '#core/words/problems.ts';
import { type Actor, type App, inTransaction, liveLink, type Work } from '../app/app.ts';
import { record } from '../app/record.ts';
import { byOwner, insert, type Queries, update } from '../db/database.ts';
import type { EventRow } from '../events/store.ts';
import { invalid, notFound, refused } from '../http/problem.ts';
import { makePhoto } from '../pictures/making.ts';
import { measuresById } from './measures.ts';
import {
  claimPicture,
  keepPicture,
  looseBytes,
  peopleAt,
  readCorrections,
  readCounted,
  readLastCounted,
  readTallies,
  readTally,
  readTook,
  type TallyRow,
} from './tallyStore.ts';

type Entered = z.output<(typeof outcomesContract)['POST /api/events/:id/tallies']['body']>;
type Shown = z.output<(typeof outcomesContract)['GET /api/events/:id/outcomes']['response']>;

/** The measures of an event as its plan has them, in its order, with what was planned of each. */
export async function measuresOf(
  tx: Queries,
  event: Pick<EventRow, 'outcomes'>,
): Promise<(Measure & { planned: number | null })[]> {
  const byId = new Map(
    (
      await measuresById(
        tx,
        event.outcomes.measures.map((m) => m.measureId),
      )
    ).map((m) => [m.id, m]),
  );
  return event.outcomes.measures.flatMap(({ measureId, planned }) => {
    const measure = byId.get(measureId);
    return measure ? [{ ...measure, planned }] : [];
  });
}

const windowOf = (event: EventRow) => countingWindow(event, event.outcomes);

/** When an event can be counted at, and whether that is now. */
export const countingOf = (event: EventRow, now: Instant) => {
  const window = windowOf(event);
  return {
    state: countingState(window, now),
    from: window?.from ?? null,
    until: window?.until ?? null,
  };
};

/** Whoever enters tallies: as what they are known, and under which name. */
interface By {
  entrant: Entrant;
  name: string;
  contactId: string | null;
}

/** Where people count at an event; null where they do not. */
export async function countingPage(w: Pick<Work, 'app' | 'tx'>, eventId: string): Promise<string | null> {
  const link = await liveLink(w, 'count', eventId);
  return link && `${w.app.origin}/count/${link}`;
}

/** When something was counted: refused in the future and outside the window. Nothing said is now. */
function countedAt(event: EventRow, local: string | null, now: Instant): Instant {
  const at = local ? instantOf(local, event.zone) : now;
  const wrong = problemWithTime(at, windowOf(event), now);
  if (wrong) throw invalid([wrongAt('countedLocal', wrong)]);
  return at;
}

/** Keeps what somebody entered. What there is doubt about waits to be looked at. */
export async function enterTallies(w: Work, event: EventRow, entered: Entered, by: By): Promise<string[]> {
  const { read, wrong } = readEntries(await measuresOf(w.tx, event), entered.entries);
  if (wrong.length) throw invalid(wrong);
  const at = countedAt(event, entered.countedLocal, w.now);
  const there: SignedTally[] = (await readTallies(w.tx, event.id)).filter((t) => t.state !== 'set aside');
  const ids: string[] = [];
  for (const { measure, ...what } of read) {
    const tally = {
      ...what,
      measureId: measure.id,
      countedAt: at,
      enteredAt: w.now,
      contactId: by.contactId,
      byName: by.name,
    };
    const doubts = doubtsAbout(
      tally,
      measure,
      by.entrant,
      there.filter((t) => t.measureId === measure.id),
    );
    const id = w.app.ids.id();
    await insert(w.tx, 'tallies', {
      id,
      eventId: event.id,
      ...tally,
      place: entered.place,
      note: entered.note,
      staffId: by.entrant.known === 'team' ? w.actor.staffId : null,
      state: doubts.length ? 'waiting' : 'counted',
      doubts,
    });
    there.push(tally);
    ids.push(id);
  }
  // One picture shows what was counted together; it stands with the first.
  if (entered.pictureId && !(await claimPicture(w.tx, entered.pictureId, event.id, ids[0]!)))
    throw invalid([wrongAt('pictureId', 'file-gone')]);
  await record(w, 'tallies entered', { eventId: event.id, tallies: ids.length, how: by.entrant.known });
  return ids;
}

/** Tallies that wait to be looked at, at one event: from then on nothing more is taken from people. */
const mostWaiting = 500;
/** Bytes of pictures that wait at one event for a tally which may never come. */
const mostLoose = 200_000_000;

/** Who somebody is at an event by what they say: never told to them. */
async function entrantOf(
  tx: Queries,
  eventId: string,
  said: { given: string; family: string; known: string },
  contactId: string | null,
): Promise<By> {
  const people = await peopleAt(tx, eventId);
  const name = `${said.given} ${said.family}`.trim();
  const found = contactId
    ? people.find((p) => p.contactId === contactId)
    : canBeLookedFor(said)
      ? findHere(people, said)
      : null;
  return found
    ? {
        entrant: found.entrant,
        name: `${found.given} ${found.family}`.trim(),
        contactId: found.contactId,
      }
    : { entrant: { known: 'nobody' }, name, contactId };
}

/** People count for themselves, while the window is open. */
export async function countByPeople(
  w: Work,
  event: EventRow,
  { given, family, known, ...entered }: Entered & { given: string; family: string; known: string },
  contactId: string | null,
): Promise<void> {
  const { state } = countingOf(event, w.now);
  if (state !== 'open') throw refused(state === 'over' ? 'counting-over' : 'counting-not-yet');
  const measures = (await measuresOf(w.tx, event)).filter((m) => m.enteredBy !== 'team');
  const asked = measures.filter((m) => entered.entries.some((e) => e.measureId === m.id));
  if (asked.length < new Set(entered.entries.map((e) => e.measureId)).size)
    throw invalid([wrongAt('entries', 'measure-not-counted')]);
  if (!contactId && asked.some((m) => m.enteredBy !== 'anyone') && !canBeLookedFor({ given, family, known }))
    throw invalid([
      ...(given.trim() ? [] : [wrongAt('given', 'first-name-needed')]),
      wrongAt('known', 'known-by-needed'),
    ]);
  const waiting = (await readTallies(w.tx, event.id)).filter((t) => t.state === 'waiting');
  if (waiting.length + entered.entries.length > mostWaiting) throw refused('too-many', {}, 429);
  await enterTallies(w, event, entered, await entrantOf(w.tx, event.id, { given, family, known }, contactId));
}

/** Keeps a picture until a tally names it, smaller and without what the camera wrote into it. It is made before anything is locked. */
export async function keepTallyPicture(
  app: App,
  actor: Actor,
  eventId: string,
  content: string,
): Promise<{ id: string }> {
  const photo = await makePhoto(Buffer.from(content, 'base64'));
  return inTransaction(app, actor, async (w) => {
    if ((await looseBytes(w.tx, eventId)) > mostLoose) throw refused('too-many', {}, 429);
    const id = w.app.ids.id();
    await keepPicture(w.tx, id, eventId, photo, w.now);
    return { id };
  });
}

/** A tally of an event, kept for whoever changes it; throws 404. */
async function tallyOf(tx: Queries, eventId: string, id: string): Promise<TallyRow> {
  const tally = await readTally(tx, eventId, id);
  if (!tally) throw notFound('This tally');
  return tally;
}

/** Counts tallies, or sets them aside; answers how many changed. */
export async function decideTallies(
  w: Work,
  eventId: string,
  { ids, state, why }: { ids: readonly string[]; state: 'counted' | 'set aside'; why: string },
): Promise<number> {
  let changed = 0;
  for (const id of [...new Set(ids)].sort()) {
    const tally = await tallyOf(w.tx, eventId, id);
    if (tally.state === state) continue;
    await update(w.tx, 'tallies', id, { state, why, decidedBy: w.actor.name, decidedAt: w.now });
    changed += 1;
  }
  if (changed) await record(w, 'tallies decided', { eventId, tallies: changed, state, why });
  return changed;
}

/** Corrects a tally, and keeps what it said. */
export async function correctTally(
  w: Work,
  event: EventRow,
  id: string,
  body: z.output<(typeof outcomesContract)['PATCH /api/events/:id/tallies/:tally']['body']>,
): Promise<void> {
  const before = await tallyOf(w.tx, event.id, id);
  if (before.version !== body.version) throw refused('tally-changed');
  const [measure] = await measuresById(w.tx, [before.measureId]);
  const named = measure!.kind === 'distinct';
  const amount = named ? null : readAmount(body.said, measure!);
  if (amount?.wrong) throw invalid([wrongAt('said', amount.wrong.code, amount.wrong.params)]);
  if (named && !body.thing) throw invalid([wrongAt('thing', 'about-needed')]);
  const at = countedAt(event, body.countedLocal, w.now);
  const { said, thing, countedAt: was, place, note, value } = before;
  await insert(w.tx, 'tally_corrections', {
    tallyId: id,
    before: { said, thing, countedAt: was, place, note, value },
    why: body.why,
    actor: w.actor.name,
    at: w.now,
  });
  await update(w.tx, 'tallies', id, {
    said: named ? '' : body.said,
    thing: named ? body.thing : '',
    value: amount?.value ?? null,
    countedAt: at,
    place: body.place,
    note: body.note,
    version: before.version + 1,
  });
  await record(w, 'tally corrected', { eventId: event.id, tallyId: id, why: body.why });
}

/** What an event changed: totals of its measures, beside what they took and what came of it the last time, and every tally. */
export async function outcomesOf(w: Pick<Work, 'app' | 'tx' | 'now'>, event: EventRow): Promise<Shown> {
  const { tx } = w;
  const measures = await measuresOf(tx, event);
  const tallies = await readTallies(tx, event.id);
  const corrections = byOwner(
    tallies.map((t) => t.id),
    await readCorrections(tx, event.id),
    (c) => c.tallyId,
  );
  const took = await readTook(tx, event.id);
  const last = await readLastCounted(tx, event.id);
  const lastCounted = last ? await readCounted(tx, [last.id]) : [];
  return {
    counting: countingOf(event, w.now),
    zone: event.zone,
    page: await countingPage(w, event.id),
    took,
    measures: measures.map((m) => {
      const own = tallies.filter((t) => t.measureId === m.id);
      const counted = own.filter((t) => t.state === 'counted');
      const total = totalOf(m.kind, counted);
      return {
        ...m,
        total,
        tallies: counted.length,
        waiting: own.filter((t) => t.state === 'waiting').length,
        people: new Set(counted.map((t) => t.contactId ?? t.byName)).size,
        per: perEach(m.kind, total, took),
        before: last && {
          eventId: last.id,
          title: last.title,
          total: totalOf(
            m.kind,
            lastCounted.filter((t) => t.measureId === m.id),
          ),
        },
      };
    }),
    initiatives: await tx.query<{ id: string; name: string }>(
      'select id, name from initiatives where id = any($1) order by name',
      [event.outcomes.initiativeIds],
    ),
    tallies: tallies.map(({ byName, eventId: _, staffId: __, ...t }) => ({
      ...t,
      by: byName,
      corrections: corrections.get(t.id)!.map(({ before, why, actor, at }) => ({
        said: before.said || before.thing,
        countedAt: before.countedAt,
        why,
        actor,
        at,
      })),
    })),
  };
}
