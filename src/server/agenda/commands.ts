import type { z } from 'zod';
import type { agendaContract } from '#contract/agenda.ts';
import { maySee } from '#core/access/visitor.ts';
import { refusalsOf } from '#core/agenda/choosing.ts';
import { unplaced } from '#core/agenda/session.ts';
import { splitName } from '#core/contacts/names.ts';
import { isEmail } from '#core/contacts/reach.ts';
import { lives, silentStates } from '#core/events/states.ts';
import { dateOf } from '#core/time/wallTime.ts';
import { wrongAt } from '#core/words/problems.ts';
import type { Work } from '../app/app.ts';
import { record } from '../app/record.ts';
import { linkPerson } from '../contacts/linking.ts';
import { insert, type Queries, update } from '../db/database.ts';
import { callOf, shownSessions } from '../events/agenda.ts';
import { readPlan, savePlan } from '../events/plan.ts';
import { type EventRow, readEvent, readEventBySlug, readProgramme } from '../events/store.ts';
import { invalid, notFound, refused } from '../http/problem.ts';
import type { SeatRow } from '../registration/store.ts';
import { theOrganization } from '../staff/store.ts';
import { countProposals, holdSessions, readChosen, readProposal, saveChosen } from './store.ts';

type ProposalBody = z.output<(typeof agendaContract)['POST /api/public/events/:slug/proposals']['body']>;

/** Undecided proposals an event takes in. */
const mostProposals = 500;

/** Says which sessions somebody comes to: all of them, or nothing is changed. Those they had keep their seat. */
export async function chooseSessions(w: Work, seat: SeatRow, wanted: readonly string[]): Promise<void> {
  const { tx, now } = w;
  const event = await readEvent(tx, seat.eventId);
  if (!lives(event.state)) throw refused('sessions-closed');
  if (event.startsAt && event.startsAt <= now) throw refused('begun');
  if (seat.state !== 'confirmed') throw refused('seat-not-confirmed');
  const sessions = [...new Set(wanted)];
  await holdSessions(tx, event.id);
  const has = new Set((await readChosen(tx, [seat.id])).map((c) => c.sessionId));
  const { sessions: plans } = await readProgramme(tx, event.id);
  const left = new Map((await shownSessions(tx, event)).map((s) => [s.id, s.left]));
  const refusals = refusalsOf(
    // Who had a seat already keeps it when two meet.
    sessions.sort((a, b) => Number(has.has(b)) - Number(has.has(a))),
    has,
    plans.map((s) => ({ ...s, left: left.get(s.id) ?? null })),
  );
  if (refusals.size)
    throw invalid(
      [...refusals].map(([id, { code, ...rest }]) =>
        wrongAt(`sessions.${wanted.indexOf(id)}`, code, {
          title: plans.find((s) => s.id === id)?.title.en ?? '',
          ...rest,
        }),
      ),
    );
  await saveChosen(tx, seat.id, sessions, now);
  await record(w, 'sessions chosen', { eventId: event.id, registrationId: seat.id });
}

/** An event that sessions can be proposed for now; throws 404 for every other. */
export async function eventOfCall(tx: Queries, slug: string, now: string): Promise<EventRow> {
  const event = await readEventBySlug(tx, slug);
  const { zone } = await theOrganization(tx);
  const asks =
    event !== null &&
    !event.isTemplate &&
    // Everybody is asked, or nobody.
    maySee(event, null, '') &&
    !silentStates.includes(event.state) &&
    (event.state === 'cleared' || lives(event.state)) &&
    callOf(event, dateOf(now, zone)) !== null;
  if (!asks) throw notFound('This page');
  return event;
}

/** Somebody proposes a session, and is linked to their contact or becomes one. Nothing is said about whether they are known. */
export async function proposeSession(w: Work, slug: string, body: ProposalBody): Promise<void> {
  const event = await eventOfCall(w.tx, slug, w.now);
  if (!isEmail(body.email)) throw invalid([wrongAt('email', 'not-an-email')]);
  if ((await countProposals(w.tx, event.id)) >= mostProposals) throw refused('proposals-full');
  const { contactId } = await linkPerson(
    w,
    { ...splitName(body.speakerName), email: body.email },
    'proposed a session',
    'outside',
  );
  await insert(w.tx, 'session_proposals', {
    id: w.app.ids.id(),
    contactId,
    eventId: event.id,
    ...body,
    proposedAt: w.now,
  });
  await record(w, 'session proposed', { eventId: event.id });
}

/**
 * Takes a proposed session into the agenda, without a time yet, with its speaker; or declines it. Decided once. Answers the plan's version where it changed.
 */
export async function decideProposal(
  w: Work,
  proposalId: string,
  accept: boolean,
  words: string,
): Promise<number | null> {
  const { tx, app, now, actor } = w;
  const proposal = await readProposal(tx, proposalId);
  if (proposal.state !== 'new') throw refused('decided');
  let version: number | null = null;
  let made: object = {};
  if (accept) {
    const event = await readEvent(tx, proposal.eventId, true);
    const plan = await readPlan(tx, event);
    const { contactId } = proposal;
    const known = plan.speakers.find((s) => contactId !== null && s.contactId === contactId);
    const speaker = known ?? {
      id: app.ids.id(),
      contactId,
      name: proposal.speakerName,
      line: { en: proposal.speakerLine },
      pictureId: null,
    };
    const session = {
      ...unplaced(app.ids.id(), { en: proposal.title }),
      about: { en: proposal.about },
      speakerIds: [speaker.id],
    };
    const saved = await savePlan(w, event.id, event.version, {
      ...(known ? {} : { speakers: [...plan.speakers, speaker] }),
      sessions: [...plan.sessions, session],
    });
    version = saved.version;
    made = { sessionId: session.id };
  }
  await update(tx, 'session_proposals', proposalId, {
    state: accept ? 'accepted' : 'declined',
    words,
    decidedAt: now,
    decidedBy: actor.name,
    ...made,
  });
  await record(w, 'session proposal decided', {
    eventId: proposal.eventId,
    proposalId,
    accepted: accept,
    title: proposal.title,
  });
  return version;
}
