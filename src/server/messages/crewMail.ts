import type { crewMailContract } from '#contract/crewMail.ts';
import { fullName } from '#core/contacts/names.ts';
import type { QuietReason } from '#core/contacts/quiet.ts';
import { type SaidShift, sayShift } from '#core/crew/said.ts';
import { hideLinks, linkMark } from '#core/messages/links.ts';
import { fillSaid, saidIn } from '#core/messages/said.ts';
import { because, sayReason } from '#core/words/reasons.ts';
import type { Work } from '../app/app.ts';
import { record } from '../app/record.ts';
import { emailOf, whyQuiet } from '../contacts/quiet.ts';
import type { Queries } from '../db/database.ts';
import { eventFor } from '../events/access.ts';
import type { EventRow } from '../events/store.ts';
import type { Handlers } from '../http/handle.ts';
import { refused } from '../http/problem.ts';
import { theOrganization } from '../staff/store.ts';
import { planDirect } from './direct.ts';
import { textOfLetter } from './letterTexts.ts';

interface CrewRow {
  contactId: string;
  given: string;
  family: string;
  language: string | null;
  /** Where they live, as far as they said. */
  zone: string | null;
  email: string | null;
  quiet: QuietReason | null;
  shifts: SaidShift[];
}

/** Everybody with a shift of an event that is not over, with all of these; of some roles where they are named. */
const readCrew = (tx: Queries, eventId: string, roles: readonly string[], now: string): Promise<CrewRow[]> =>
  tx.query<CrewRow>(
    `select c.id as contact_id, c.given_name as given, c.family_name as family, c.language, c.zone, ${emailOf('c.id')} as email, ${whyQuiet('c')} as quiet,
       jsonb_agg(jsonb_build_object('role', s.role, 'place', s.place, 'startsLocal', to_char(s.starts_local, 'YYYY-MM-DD"T"HH24:MI'),
         'endsLocal', to_char(s.ends_local, 'YYYY-MM-DD"T"HH24:MI'), 'startsAt', s.starts_at, 'endsAt', s.ends_at) order by s.starts_at, s.id) as shifts
     from assignments a join shifts s on s.id = a.shift_id join contacts c on c.id = a.contact_id
     where s.event_id = $1 and s.removed_at is null and a.state = 'agreed' and s.ends_at > $3
     group by c.id having $2::text[] = '{}' or bool_or(s.role = any($2)) order by c.family_name, c.given_name, c.id`,
    [eventId, roles, now],
  );

const languageOf = (one: CrewRow) => (one.language === 'fr' ? 'fr' : 'en');

/** What of the letter is this reader's own. */
async function valuesFor(w: Work, event: EventRow, one: CrewRow, body: { subject: string; words: string }) {
  const language = languageOf(one);
  const { name: organization } = await theOrganization(w.tx);
  return {
    values: {
      name: one.given,
      event: event.publicTitle,
      organization,
      shifts_link: linkMark('crew', one.contactId),
    },
    own: {
      subject: body.subject,
      words: body.words,
      schedule: one.shifts
        .map((s) => `– ${sayShift(s, language, { of: event.zone, reader: one.zone })}`)
        .join('\n'),
    },
  };
}

export const crewMailHandlers: Handlers<typeof crewMailContract> = {
  'POST /api/events/:id/crew/mail': async (c) => {
    const { tx, body } = c;
    const event = await eventFor(c, c.params.id, 'crew', 'change');
    const crew = await readCrew(tx, event.id, body.roles, c.now);
    const reached = crew.filter((one) => !one.quiet && one.email);
    const without = crew
      .filter((one) => one.quiet || !one.email)
      .map((one) => ({ name: fullName(one), why: sayReason(because(one.quiet ?? 'no address')) }));
    const [first] = reached;
    if (body.trying) {
      if (!first) return { to: 0, without, example: null };
      const { values, own } = await valuesFor(c, event, first, body);
      const said = fillSaid(saidIn(await textOfLetter(tx, 'crew mail'), languageOf(first)), values, { own });
      return {
        to: reached.length,
        without,
        example: { name: fullName(first), subject: said.subject, body: hideLinks(said.body) },
      };
    }
    if (!first) throw refused('nobody-to-write-to');
    const mailId = c.app.ids.id();
    for (const one of reached)
      await planDirect(c, {
        kind: 'crew mail',
        key: `crew mail:${mailId}:${one.contactId}`,
        to: {
          name: fullName(one),
          email: one.email,
          contactId: one.contactId,
          language: languageOf(one),
        },
        eventId: event.id,
        reason: 'has a shift',
        ...(await valuesFor(c, event, one, body)),
      });
    await record(c, 'crew written to', {
      eventId: event.id,
      subject: body.subject,
      people: reached.length,
      roles: body.roles,
    });
    return { to: reached.length, without, example: null };
  },
};
