import type { z } from 'zod';
import type { proposalsContract } from '#contract/proposals.ts';
import { splitName } from '#core/contacts/names.ts';
import { readReach } from '#core/contacts/reach.ts';
import { meaningOf } from '#core/time/wallTime.ts';
import { wrongAt } from '#core/words/problems.ts';
import type { Work } from '../app/app.ts';
import { record } from '../app/record.ts';
import { linkPerson } from '../contacts/linking.ts';
import { insert, type Queries, update } from '../db/database.ts';
import { beginEvent } from '../events/beginning.ts';
import { moveOn } from '../events/moving.ts';
import { savePlan } from '../events/plan.ts';
import { readChoices } from '../events/store.ts';
import { invalid, notFound, refused } from '../http/problem.ts';
import { theOrganization } from '../staff/store.ts';
import { countWaiting, readOpening, theProposalOf } from './store.ts';

type Body = z.output<(typeof proposalsContract)['POST /api/public/propose']['body']>;

/** Proposals nobody has decided that are taken in at most. */
const most = 200;

/** What somebody is told who wants to propose an event; throws 404 where nobody may. */
export async function theOpening(tx: Queries) {
  const { open, words } = await readOpening(tx);
  if (!open) throw notFound('This page');
  return { words, units: (await readChoices(tx)).units };
}

/**
 * Somebody proposes an event: a draft of the unit they chose, with them as a contact behind it. What they had in mind of its day and
 * place is kept as they wrote it; the day is the draft's where it can be one. Nothing is said about whether they are known.
 */
export async function proposeEvent(w: Work, body: Body): Promise<void> {
  const { units } = await theOpening(w.tx);
  const { country, zone, name: organization } = await theOrganization(w.tx);
  const { email, phone, problems } = readReach(body, country);
  if (!body.email) problems.push(wrongAt('email', 'not-an-email'));
  if (body.unitId && !units.some((u) => u.id === body.unitId))
    problems.push(wrongAt('unitId', 'thing-gone', { what: 'unit' }));
  if (problems.length) throw invalid(problems);
  if ((await countWaiting(w.tx)) >= most) throw refused('proposals-full');
  const eventId = await beginEvent(w, { title: body.title, unitId: body.unitId });
  const startsLocal = body.date && body.begins ? `${body.date}T${body.begins}` : null;
  // A time that a clock change takes away stays a wish.
  const dated = startsLocal !== null && meaningOf(startsLocal, zone).kind !== 'gap';
  const endsLocal = dated && body.ends && body.ends > body.begins! ? `${body.date}T${body.ends}` : null;
  await savePlan(w, eventId, 1, {
    ...(dated ? { startsLocal, endsLocal } : {}),
    ...(body.people ? { capacity: body.people } : {}),
  });
  const { contactId } = await linkPerson(
    w,
    { ...splitName(body.name), email, phone },
    `proposed an event to ${organization}`,
    'outside',
  );
  await insert(w.tx, 'event_proposals', {
    id: w.app.ids.id(),
    eventId,
    contactId,
    name: body.name,
    email: body.email,
    phone: body.phone,
    language: body.language,
    about: body.about,
    wishes: wishesOf(body),
    proposedAt: w.now,
  });
  await record(w, 'event proposed', { eventId, contactId });
}

/** When and where somebody had in mind, in a line. */
const wishesOf = ({ date, begins, ends, where }: Body): string =>
  [[date, [begins, ends].filter(Boolean).join('–')].filter(Boolean).join(' '), where]
    .filter(Boolean)
    .join(', ');

/** Takes a proposed event up, or declines it: then its draft is shelved. Decided once; whoever proposed it is told. */
export async function decideEventProposal(
  w: Work,
  eventId: string,
  take: boolean,
  words: string,
): Promise<void> {
  const proposal = await theProposalOf(w.tx, eventId);
  if (proposal.state !== 'new') throw refused('decided');
  await update(w.tx, 'event_proposals', proposal.id, {
    state: take ? 'taken' : 'declined',
    words: words.trim(),
    decidedAt: w.now,
    decidedBy: w.actor.name,
  });
  if (!take) await moveOn(w, eventId, 'shelved', words.trim());
  await record(w, 'event proposal decided', { eventId, taken: take });
}
