import type { invitedContract } from '#contract/invited.ts';
import { repliesOf } from '#core/admission/invitation.ts';
import { titleFor } from '#core/events/french.ts';
import { hideLinks, linkMark } from '#core/messages/links.ts';
import { planMailing } from '#core/messages/mailing.ts';
import { fillSaid, type Said, type SaidTexts, saidIn } from '#core/messages/said.ts';
import { because, type Reason } from '#core/words/reasons.ts';
import { type SignedIn, type Work, whatIf } from '../app/app.ts';
import { record } from '../app/record.ts';
import type { Queries } from '../db/database.ts';
import { eventFor } from '../events/access.ts';
import { inShort, sayPlace, sayWhen } from '../events/saying.ts';
import { type EventRow, readEvent } from '../events/store.ts';
import type { Handlers } from '../http/handle.ts';
import { refused } from '../http/problem.ts';
import { textOfLetter } from '../messages/letterTexts.ts';
import { type Mailed, mailedColumns, saidLeftOut } from '../messages/mailed.ts';
import { type Outgoing, putOut } from '../messages/outbox.ts';
import { conditionOfSegment } from '../records/asking.ts';
import { idsWhere } from '../records/store.ts';
import {
  answerInvitation,
  changeCompanions,
  invitationByLink,
  invite,
  readInvited,
  uninvite,
  uninviteAll,
} from '../registration/invited.ts';
import { takesRegistrations } from '../registration/ordering.ts';
import { theOrganization } from '../staff/store.ts';

/** How often one person is written to about one invitation. */
const mostLetters = 3;

interface InvitedRecipient extends Mailed {
  id: string;
  written: number;
}

/** Everybody invited who has said neither yes nor no. */
const readSilent = (tx: Queries, eventId: string): Promise<InvitedRecipient[]> =>
  tx.query<InvitedRecipient>(
    `select i.id, i.written, ${mailedColumns("'invitations'")} from event_invited i join contacts c on c.id = i.contact_id
     where i.event_id = $1 and (i.answer is null or i.answer = 'perhaps') order by c.family_name, c.given_name, c.id`,
    [eventId],
  );

async function planOf(tx: Queries, event: EventRow) {
  const recipients = await readSilent(tx, event.id);
  const often = recipients.filter((r) => r.written >= mostLetters);
  const plan = planMailing(
    'invitations',
    recipients.filter((r) => r.written < mostLetters),
  );
  return {
    planned: plan.planned,
    leftOut: [
      ...plan.leftOut,
      ...often.map((recipient) => ({ recipient, why: because('written often', { count: mostLetters }) })),
    ],
  };
}

const textFor = (
  letter: SaidTexts,
  event: EventRow,
  to: InvitedRecipient,
  words: string,
  organization: string,
): Said => {
  const { language } = to;
  const values = {
    name: to.given,
    event: titleFor(event, language),
    when: sayWhen(event, language),
    place: sayPlace(event, language),
    organization,
  };
  const own = { words: words && `${words}\n\n`, invitation_link: linkMark('invited', to.id) };
  return fillSaid(saidIn(letter, language), values, { own });
};

async function sendInvitations(
  w: Work & { staff: SignedIn },
  event: EventRow,
  { words, expect }: { words: string; expect: number },
): Promise<{ planned: number; leftOut: number }> {
  if (event.state !== 'open') throw refused('not-open');
  const { planned, leftOut } = await planOf(w.tx, event);
  if (planned.length !== expect)
    throw refused('mailing-changed', { count: planned.length, expected: expect });
  if (!planned.length) throw refused('mailing-nobody');
  const { name: organization } = await theOrganization(w.tx);
  const letter = await textOfLetter(w.tx, 'you are invited');
  const put = (to: InvitedRecipient, whyNot: Reason | null): Outgoing => {
    const text = textFor(letter, event, to, words, organization);
    return {
      eventId: event.id,
      recipientKey: `you are invited:${to.id}:${to.written}`,
      kind: 'you are invited',
      contactId: to.contactId,
      name: to.name,
      address: to.email,
      language: to.language,
      reason: `invited by ${w.staff.name}`,
      at: w.now,
      whyNot,
      ...(whyNot ? { subject: text.subject } : text),
    };
  };
  await putOut(w, [
    ...planned.map((to) => put(to, null)),
    ...leftOut.map(({ recipient, why }) => put(recipient, why)),
  ]);
  await w.tx.query('update event_invited set written = written + 1 where id = any($1)', [
    planned.map((p) => p.id),
  ]);
  await record(w, 'letter written', {
    eventId: event.id,
    subject: letter.subject.en.replace('{{event}}', event.publicTitle),
    planned: planned.length,
  });
  return { planned: planned.length, leftOut: leftOut.length };
}

export const invitedHandlers: Handlers<typeof invitedContract> = {
  'GET /api/events/:id/invited': async (c) => {
    const event = await eventFor(c, c.params.id, 'plan', 'see');
    return readInvited(c.tx, event.id);
  },

  'POST /api/events/:id/invited': async (c) => {
    const event = await eventFor(c, c.params.id, 'plan', 'change', true);
    const { contactIds, segmentId, companions, remove } = c.body;
    if (remove) return { contactIds: await uninviteAll(c, event.id, contactIds) };
    const added = contactIds.length ? await invite(c, event.id, contactIds, companions) : [];
    if (!segmentId) return { contactIds: added };
    const all = await idsWhere(c.tx, await conditionOfSegment(c.tx, segmentId, c.now, c.staff, 'writing'));
    return { contactIds: [...added, ...(await invite(c, event.id, all, companions, 'without a seat'))] };
  },

  'PATCH /api/events/:id/invited/:contact': async (c) => {
    const event = await eventFor(c, c.params.id, 'plan', 'change', true);
    await changeCompanions(c, event.id, c.params.contact, c.body.companions);
    return { done: true };
  },

  'DELETE /api/events/:id/invited/:contact': async (c) => {
    const event = await eventFor(c, c.params.id, 'plan', 'change', true);
    await uninvite(c, event.id, c.params.contact);
    return { done: true };
  },

  'POST /api/events/:id/invited/letters/preview': (c) =>
    whatIf(c.app, c.actor, async (w) => {
      const event = await eventFor({ ...w, staff: c.staff }, c.params.id, 'plan', 'change');
      const { planned, leftOut } = await planOf(w.tx, event);
      const { name: organization } = await theOrganization(w.tx);
      const [to] = planned;
      const letter = await textOfLetter(w.tx, 'you are invited');
      const text = to && textFor(letter, event, to, c.body.words, organization);
      return {
        planned: planned.length,
        leftOut: saidLeftOut(leftOut),
        sample:
          to && text ? { name: to.name, subject: hideLinks(text.subject), body: hideLinks(text.body) } : null,
      };
    }),

  'POST /api/events/:id/invited/letters': async (c) => {
    const event = await eventFor(c, c.params.id, 'plan', 'change', true);
    return sendInvitations(c, event, c.body);
  },

  'GET /api/public/invitations/:token': async ({ tx, params, now }) => {
    const invitation = await invitationByLink(tx, params.token);
    const event = await readEvent(tx, invitation.eventId);
    const { given, family, companions, answer, words, seats } = invitation;
    return {
      event: inShort(event, invitation.language),
      given: given || family,
      companions,
      replies: [...repliesOf(event.admission.reply)],
      answer,
      words,
      open: takesRegistrations(event, now),
      seats,
    };
  },

  'POST /api/public/invitations/:token/answer': async (c) => {
    const invitation = await invitationByLink(c.tx, c.params.token);
    const event = await readEvent(c.tx, invitation.eventId);
    if (!takesRegistrations(event, c.now)) throw refused('registration-closed');
    if (!repliesOf(event.admission.reply).includes(c.body.answer)) throw refused('reply-not-asked');
    await answerInvitation(c, invitation, c.body.answer, c.body.words);
    return { done: true };
  },
};
