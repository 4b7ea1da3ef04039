import type { z } from 'zod';
import type { dutiesContract } from '#contract/duties.ts';
import { emailKey, isEmail } from '#core/contacts/reach.ts';
import { wrongAt } from '#core/words/problems.ts';
import type { Work } from '../app/app.ts';
import { record } from '../app/record.ts';
import { insert, update } from '../db/database.ts';
import type { EventRow } from '../events/store.ts';
import type { Call } from '../http/handle.ts';
import { invalid, notFound, refused } from '../http/problem.ts';
import { lookAgain } from '../staff/sessions.ts';
import { staffByEmail } from '../staff/store.ts';
import { invite, takeBack } from '../staff/team.ts';
import { isForMore, openInvitation, readPartOf, readTeam, stepBack, takeOff } from './store.ts';

type NewMember = z.output<(typeof dutiesContract)['POST /api/events/:id/team']['body']>;

/**
 * Puts somebody on the team of an event. Who has an account can begin at once; others are invited to one that is good for
 * this event alone. An event has one lead: who led it before becomes a co-organizer.
 */
export async function addMember(
  w: Work & Pick<Call, 'staff'>,
  event: EventRow,
  { name, email, part, stage }: NewMember,
): Promise<{ id: string; link: string | null }> {
  const { tx, now } = w;
  if (!isEmail(email)) throw invalid([{ path: 'email', code: 'not-an-email' }]);
  const known = await staffByEmail(tx, emailKey(email));
  if (known?.resting) throw invalid([{ path: 'email', code: 'account-at-rest' }]);
  const open = known ? null : await openInvitation(tx, emailKey(email), now);
  const invited =
    known || open ? null : await invite(w, { name, email, roles: [], approves: [], unitId: null });
  const who = { staffId: known?.id ?? null, invitationId: known ? null : (open?.id ?? invited!.id) };
  const has = await readPartOf(tx, event.id, who);
  if (has.some((h) => h.part === part && h.stage === stage)) throw refused('on-the-team');
  if (part === 'lead') await stepBack(tx, event.id);
  const id = await writePart(w, event, who, has, part, stage);
  await record(w, 'team changed', {
    eventId: event.id,
    how: 'put somebody on the team',
    detail: { name: known?.name ?? name, part, stage },
  });
  return { id, link: invited?.link ?? null };
}

/** Gives somebody a part on a team; whoever has one there that is more than helping has the new one in its place. */
async function writePart(
  { tx, app, now, actor }: Work,
  event: EventRow,
  who: { staffId: string | null; invitationId: string | null },
  has: readonly { id: string; part: string }[],
  part: NewMember['part'],
  stage: NewMember['stage'],
): Promise<string> {
  const leading = part === 'helper' ? undefined : has.find((h) => h.part !== 'helper');
  if (leading) {
    await update(tx, 'event_team', leading.id, { part, stage: null });
    return leading.id;
  }
  const id = app.ids.id();
  await insert(tx, 'event_team', {
    id,
    eventId: event.id,
    ...who,
    part,
    stage,
    addedAt: now,
    addedBy: actor.name,
  });
  return id;
}

/**
 * Makes somebody who has an account the lead of an event; refused at `path` for an address that no account in use has. Who led it
 * before becomes a co-organizer.
 */
export async function putInLead(w: Work, event: EventRow, email: string, path: string): Promise<void> {
  const known = await staffByEmail(w.tx, emailKey(email));
  if (!known || known.resting)
    throw invalid([wrongAt(path, known ? 'account-at-rest' : 'no-account-with-address')]);
  await stepBack(w.tx, event.id);
  const who = { staffId: known.id, invitationId: null };
  await writePart(w, event, who, await readPartOf(w.tx, event.id, who), 'lead', null);
  await record(w, 'team changed', {
    eventId: event.id,
    how: 'put somebody on the team',
    detail: { name: known.name, part: 'lead', stage: null },
  });
}

/** Takes somebody off the team of an event. What they could do there ends with the next thing they do, and open pages look again. */
export async function removeMember(w: Work, event: EventRow, memberId: string): Promise<void> {
  const { tx, now } = w;
  const member = (await readTeam(tx, event.id, now)).find((m) => m.id === memberId);
  if (!member) throw notFound('This member of the team');
  await takeOff(tx, memberId);
  if (member.staffId) lookAgain(w);
  // An invitation that was for this event alone leads nowhere any more.
  else if (member.invitationId && !(await isForMore(tx, member.invitationId)))
    await takeBack(w, member.invitationId);
  await record(w, 'team changed', {
    eventId: event.id,
    how: 'took somebody off the team',
    detail: { name: member.name, part: member.part, stage: member.stage },
  });
}
