import { firstTextFor } from '#core/messages/firstTexts.ts';
import { replyAddress } from '#core/messages/incoming.ts';
import { plainLine } from '#core/messages/lines.ts';
import type { YearMoment } from '#core/messages/moments.ts';
import { audienceOn } from '#core/messages/yearRound.ts';
import type { Noticed } from '#core/notices/notices.ts';
import { type App, inTransaction, systemActor, type Work } from '#server/app/app.ts';
import { record } from '#server/app/record.ts';
import { first, insert, update } from '#server/db/database.ts';
import { replyToken } from '#server/db/ids.ts';
import { readEvent, readMessageLines } from '#server/events/store.ts';
import { askedByLink, followAs, readFollower } from '#server/messages/followers.ts';
import { takeReply } from '#server/messages/incoming.ts';
import { planOf } from '#server/messages/mailed.ts';
import { writeMailing } from '#server/messages/mailings.ts';
import { saveYearLine } from '#server/messages/yearLines.ts';
import { keepWishes, type Told } from '#server/notices/store.ts';
import { asStaff } from './asStaff.ts';

/** What the team wants to be told of by email. */
const wishes: Readonly<
  Record<string, { of: Partial<Record<Noticed, Told>>; leastGift?: number; onlyMine?: boolean }>
> = {
  'Odalys Ferrant': {
    of: {
      registration: 'each morning',
      'seats given up': 'each morning',
      'shift given back': 'soon',
      gift: 'soon',
    },
    leastGift: 25_000,
  },
  'Marit Solvang': { of: { gift: 'each morning' } },
  'Piers Lachance': { of: { registration: 'each morning', 'seats given up': 'soon' } },
  'Imani Okarro': { of: { 'shift taken': 'each morning', 'shift given back': 'soon' } },
};

/** Says what the team wants to be told of. */
export const wish = (app: App, staff: Readonly<Record<string, string>>): Promise<void> =>
  inTransaction(app, systemActor, async (w) => {
    for (const [name, { of, leastGift = 0, onlyMine = false }] of Object.entries(wishes))
      if (staff[name])
        await keepWishes(
          w.tx,
          staff[name],
          Object.entries(of).map(([what, when]) => ({ what: what as Noticed, when })),
          { leastGift, onlyMine },
        );
  });

/** What is asked on the board of Open Water Day: hours before the demonstration begins, by whom, what, and the answer. */
const asked = [
  [
    47,
    'Petra Lindgren',
    'Is there somewhere to leave bicycles at the landing?',
    'Yes: a rack beside the boat shed. Please do not lock them to the boardwalk rail.',
  ],
  [
    38,
    'Jonas Ferry',
    'My daughter turns nine on the Sunday after. Can she come in my canoe?',
    'With you in it, yes.',
  ],
  [20, 'Wilma Arsenault', 'What happens if the wind gets up? Do we hear in the morning?', null],
] as const;

/** What people write back to what was sent to them: to which line, how long after, and what. */
const replies = [
  ['Open Water Day', 44, 'We are bringing our own life jackets. Do they have to be inspected?', false],
  ['Open Water Day', 21, 'I am out of the office until 20 July, with no access to mail.', true],
  ['Plant Swap', 18, 'I have about thirty strawberry plants to give away. Shall I bring them all?', false],
] as const;

/** The board of Open Water Day, who follows it and the reed cuts, and what people wrote back. */
export async function playWriting(app: App, odalys: string | null): Promise<void> {
  const before = (hours: number) => new Date(Date.parse(app.clock.now()) - hours * 3_600_000).toISOString();
  const coming = (title: string) =>
    first<{ id: string }>(
      app.db,
      "select id from events where public_title = $1 and state = 'open' and starts_at > $2 order by starts_at limit 1",
      [title, app.clock.now()],
    );
  const day = await coming('Open Water Day');
  const { subject, body } = firstTextFor('start', 'following');
  const cut = await coming('First Wednesday Reed Cut');
  if (!day) return;
  await inTransaction(app, { ...systemActor, name: 'Odalys Ferrant', staffId: odalys }, async (w) => {
    await insert(w.tx, 'event_boards', { eventId: day.id, shown: 'at once', answersBy: odalys });
    for (const [hours, name, words, answer] of asked) {
      const id = w.app.ids.id();
      await insert(w.tx, 'board_questions', {
        id,
        eventId: day.id,
        name,
        email: `${name.toLowerCase().replace(' ', '.')}@fenmail.example`,
        words,
        askedAt: before(hours),
        state: 'shown',
      });
      if (!answer) continue;
      await update(w.tx, 'board_questions', id, {
        answer,
        answeredAt: before(hours - 3),
        answeredBy: 'Odalys Ferrant',
      });
      await record(w, 'board answered', {
        eventId: day.id,
        questionId: id,
        answered: true,
        how: 'answered a question',
      });
    }
    // People who came before and have no seat now hear of it all the same.
    for (const { eventId, n } of [{ eventId: day.id, n: 6 }, ...(cut ? [{ eventId: cut.id, n: 9 }] : [])]) {
      const event = await readEvent(w.tx, eventId);
      await insert(w.tx, 'message_lines', {
        ...plainLine,
        id: w.app.ids.id(),
        eventId,
        position: (await readMessageLines(w.tx, eventId)).length,
        name: 'A week before, to those who follow',
        moment: 'start',
        offsetDays: -7,
        offsetMinutes: 0,
        audience: 'following',
        subject,
        body,
      });
      const those = await w.tx.query<{ id: string; name: string }>(
        `select c.id, trim(c.given_name || ' ' || c.family_name) as name from contacts c
         where c.merged_into is null and exists (select 1 from contact_emails where contact_id = c.id)
           and exists (select 1 from registrations r join events e on e.id = r.event_id and e.public_title = $2 where r.contact_id = c.id and r.state = 'confirmed')
           and not exists (select 1 from registrations where contact_id = c.id and event_id = $1)
         order by c.id desc limit $3`,
        [eventId, event.publicTitle, n],
      );
      for (const { id: contactId, name } of those) {
        const row = await readFollower(
          w.tx,
          await askedByLink(w, event, { contactId, name, language: 'en' }),
        );
        if (row) await followAs(w, row, contactId);
      }
    }
    for (const [title, hours, text, automatic] of replies) {
      const message = await first<{ id: string; address: string; subject: string }>(
        w.tx,
        `select m.id, m.address, m.subject from messages m join events e on e.id = m.event_id
         where e.public_title = $1 and m.kind = 'registration made' and m.state = 'sent' and not exists (select 1 from incoming where message_id = m.id)
         order by m.sent_at desc, m.id limit 1`,
        [title],
      );
      if (!message) continue;
      await takeReply(
        { ...w, now: before(hours) },
        {
          to: replyAddress(replyToken(w.app.secret, message.id), 'brackenmere.example'),
          from: message.address,
          subject: `Re: ${message.subject}`,
          text,
          headers: {
            'message-id': `<${message.id}@post.example>`,
            ...(automatic && { 'auto-submitted': 'auto-replied' }),
          },
        },
      );
    }
    const toGuardians = firstTextFor('start', 'guardians');
    await writeAllYear({ ...w, now: before(14 * 24) });
    await insert(w.tx, 'message_lines', {
      ...plainLine,
      subject: toGuardians.subject,
      body: toGuardians.body,
      id: w.app.ids.id(),
      eventId: day.id,
      position: (await readMessageLines(w.tx, day.id)).length,
      name: 'Two days before, to guardians',
      moment: 'start',
      offsetDays: -2,
      offsetMinutes: 0,
      audience: 'guardians',
    });
    if (odalys) await callBack(w, day.id, odalys);
  });
}

/** Lines that go out all year: to members whose membership ends, to those who gave, and to those whose certificate runs out. */
async function writeAllYear(w: Work): Promise<void> {
  const { narrowed: _, ...plain } = plainLine;
  const line = (name: string, moment: YearMoment, offsetDays: number) => {
    const { subject, body } = firstTextFor(moment, audienceOn(moment));
    return { ...plain, name, moment, offsetDays, offsetMinutes: 0, topic: 'notice' as const, subject, body };
  };
  for (const said of [
    line('A month before a membership ends', 'membership ends', -30),
    line('A week after a membership ended', 'membership ends', 7),
    line('What a gift did', 'gift made', 90),
    line('A month before a certificate runs out', 'certificate ends', -30),
  ])
    await saveYearLine(w, w.app.ids.id(), said, 0);
}

/** Calls those to the event who came before and have no seat this time. */
async function callBack(w: Work, eventId: string, odalys: string): Promise<void> {
  const those = await w.tx.query<{ id: string }>(
    `select distinct a.contact_id as id from attendance a join events e on e.id = a.event_id
     where e.public_title = (select public_title from events where id = $1) and e.id <> $1 and a.contact_id is not null order by 1 limit 60`,
    [eventId],
  );
  const wanted = {
    ids: those.map((t) => t.id),
    withoutSeatOf: eventId,
    without: [],
    topic: 'invitations' as const,
    said: {
      subject: { en: 'There is a canoe for you: {{event}}', fr: 'Un canot vous attend : {{event}}' },
      preview: { en: 'You have paddled with us before.', fr: 'Vous avez déjà pagayé avec nous.' },
      body: {
        en: 'Hello {{name}},\n\nYou came to the Open Water Day before. This year it is on {{when}}, and there is still room.\n\n{{event_link}}\n\n{{organization}}',
        fr: 'Bonjour {{name}},\n\nvous êtes déjà venu à cette journée. Cette année, elle a lieu le {{when}}, et il reste de la place.\n\n{{event_link}}\n\n{{organization}}',
      },
      formatted: { en: null, fr: null },
    },
  };
  const staff = asStaff(odalys, w.actor.name, { roles: ['coordinator'] });
  const { planned } = await planOf(w.tx, w.now, wanted, staff, 'writing');
  await writeMailing(w, { ...wanted, name: 'Back to the water', expect: planned.length }, staff);
}
