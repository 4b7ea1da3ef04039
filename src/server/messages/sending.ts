import type { MessageStepPlan } from '#contract/plan.ts';
import { sayCode } from '#core/contacts/codes.ts';
import type { QuietReason } from '#core/contacts/quiet.ts';
import { hoursOf } from '#core/crew/clashes.ts';
import { titleFor } from '#core/events/french.ts';
import { silentStates } from '#core/events/states.ts';
import { type Audience, aboutOf, audiences } from '#core/messages/audiences.ts';
import { fillMarks, linkMark, linkPaths, marksIn, withoutMarks } from '#core/messages/links.ts';
import { type MergeValues, merge } from '#core/messages/merge.ts';
import { nextTry } from '#core/messages/retry.ts';
import { sayAmount } from '#core/money/amount.ts';
import { balanceDue } from '#core/money/balanceDue.ts';
import { sayLongDate, sayShortDate, sayTime } from '#core/time/say.ts';
import { wallOf } from '#core/time/wallTime.ts';
import { because, type Reason } from '#core/words/reasons.ts';
import { oneLine } from '#core/words/text.ts';
import { readTexts } from '#core/words/texts.ts';
import { type App, inTransaction, openLink, systemActor, type Work } from '../app/app.ts';
import { record } from '../app/record.ts';
import { whyQuiet } from '../contacts/quiet.ts';
import { first, insert, type Queries, update } from '../db/database.ts';
import { codeFor, linkToken } from '../db/ids.ts';
import { sayPlace, sayWhen } from '../events/saying.ts';
import { type EventRow, readEvent, readMessageSteps, readSurvey } from '../events/store.ts';
import type { Due } from '../jobs/runner.ts';
import { theOrganization } from '../staff/store.ts';
import { saidNoSince } from './mailings.ts';
import { planFor } from './planning.ts';
import { orderRecipients } from './store.ts';

interface StoredMessage {
  id: string;
  eventId: string | null;
  stepId: string | null;
  mailingId: string | null;
  recipientKey: string;
  contactId: string | null;
  name: string;
  address: string | null;
  language: 'en' | 'fr';
  state: string;
  attempts: number;
  subject: string | null;
  body: string | null;
  calendar: string | null;
}

const columns =
  'id, event_id, step_id, mailing_id, recipient_key, contact_id, name, address, language, state, attempts, subject, body, coalesce(calendar, case when brings then (select f.calendar from change_files f where f.change_id = messages.change_id and f.language = messages.language) end) as calendar';

/** Asks for the next message that is due: planned, tried again, or left claimed by a crash. */
export const nextMessageSql =
  "select next_try_at as at, id from messages where state in ('planned', 'due', 'failed') and next_try_at is not null order by next_try_at, id limit 1";

/**
 * Sends one message. It is claimed with its final text in one transaction, handed to the gateway under its id as key,
 * and marked sent in another. Killed in between, the claimed row is handed over again under the same key, which the
 * gateway accepts once.
 */
export async function sendMessage(app: App, due: Due): Promise<void> {
  const claimed = await inTransaction(app, systemActor, async (w) => {
    const message = await first<StoredMessage>(
      w.tx,
      `select ${columns} from messages where id = $1 for update`,
      [due.id],
    );
    if (!message || !['planned', 'due', 'failed'].includes(message.state)) return null;
    if (message.state === 'due' && message.subject)
      return { ...message, opened: await opened(w, message.body ?? '') };
    const text = await finalText(w, message);
    if ('whyNot' in text) {
      await update(w.tx, 'messages', message.id, {
        state: 'held back',
        whyNot: text.whyNot,
        nextTryAt: null,
      });
      return null;
    }
    await update(w.tx, 'messages', message.id, { state: 'due', attempts: message.attempts + 1, ...text });
    return { ...message, ...text, attempts: message.attempts + 1, opened: await opened(w, text.body) };
  });
  if (!claimed) return;
  let failure: string | null = null;
  try {
    await app.mail({
      key: claimed.id,
      address: claimed.address!,
      // A name with a line end in it must not begin another header.
      subject: oneLine(claimed.subject!),
      body: claimed.opened,
      calendar: claimed.calendar,
    });
  } catch (error) {
    failure = error instanceof Error ? error.message : String(error);
  }
  await inTransaction(app, systemActor, async (w) => {
    if (failure === null) {
      await update(w.tx, 'messages', claimed.id, {
        state: 'sent',
        sentAt: w.now,
        nextTryAt: null,
        whyNot: null,
      });
    } else {
      const again = nextTry(claimed.attempts, w.now);
      await update(w.tx, 'messages', claimed.id, {
        state: 'failed',
        nextTryAt: again,
        whyNot: again
          ? because('failed, goes on', { failure })
          : because('failed for good', { failure, count: claimed.attempts }),
      });
    }
    await record(w, 'message settled', { eventId: claimed.eventId, messageId: claimed.id });
  });
}

/** A text with its personal links, made as it leaves: nothing that is kept holds them. */
async function opened(w: Pick<Work, 'tx' | 'app' | 'now'>, text: string): Promise<string> {
  const tokens = new Map<string, string>();
  for (const { kind, subjectId } of marksIn(text))
    tokens.set(
      `${kind} ${subjectId}`,
      kind === 'code'
        ? sayCode(codeFor(w.app.secret, subjectId))
        : kind === 'invitation' || kind === 'reset' || kind === 'sign in'
          ? linkToken(w.app.secret, kind, subjectId)
          : await openLink(w, kind, subjectId),
    );
  return fillMarks(text, (kind, subjectId) => {
    const token = tokens.get(`${kind} ${subjectId}`);
    // A code is typed: it is no address.
    return kind === 'code' ? token! : `${w.app.origin}${linkPaths[kind].path}${token}`;
  });
}

/** The text as it goes out, or why it does not: things may have changed since it was planned. */
async function finalText(
  w: Work,
  message: StoredMessage,
): Promise<{ subject: string; body: string } | { whyNot: Reason }> {
  const quiet = message.contactId
    ? await first<{ why: QuietReason | null }>(
        w.tx,
        `select ${whyQuiet('c')} as why from contacts c where id = $1`,
        [message.contactId],
      )
    : null;
  if (quiet?.why) return { whyNot: because(quiet.why) };
  if (
    message.mailingId &&
    message.contactId &&
    (await saidNoSince(w.tx, message.mailingId, message.contactId))
  )
    return { whyNot: because('said no since') };
  if (!message.stepId || !message.eventId)
    return { subject: message.subject ?? '', body: message.body ?? '' };
  const event = await readEvent(w.tx, message.eventId);
  if (silentStates.includes(event.state)) return { whyNot: because('event ended', { state: event.state }) };
  const step = (await readMessageSteps(w.tx, event.id)).find((s) => s.id === message.stepId);
  if (!step) return { whyNot: because('step removed') };
  const orderId = await orderOf(w.tx, step.audience, message);
  const now = await planFor(w.tx, event, step, orderId);
  const out = now.leftOut.find((l) => l.recipient.key === message.recipientKey);
  if (out) return { whyNot: out.why };
  if (!now.planned.some((p) => p.recipient.key === message.recipientKey))
    return { whyNot: because('not taking part') };
  // Somebody in two orders of the same event still gets one copy.
  const copy =
    audiences[step.audience].copies === 'address' &&
    (await first<{ name: string }>(
      w.tx,
      "select name from messages where step_id = $1 and id <> $2 and state in ('sent', 'due') and lower(address) = lower($3)",
      [step.id, message.id, message.address],
    ));
  if (copy) return { whyNot: because('same address before', { name: copy.name }) };
  return render(w, event, step, message, orderId);
}

/** The order a message of an audience is about; null for the crew. */
export async function orderOf(
  tx: Queries,
  audience: Audience,
  message: { recipientKey: string },
): Promise<string | null> {
  const about = aboutOf(audience, message.recipientKey);
  if (about.of === 'shift') return null;
  if (about.of !== 'seat') return about.id;
  const seat = await first<{ orderId: string }>(tx, 'select order_id from registrations where id = $1', [
    about.id,
  ]);
  return seat?.orderId ?? null;
}

/** Fills a step's text for one recipient, making the links it needs. A preview makes none that count as asking. */
export async function render(
  w: Pick<Work, 'tx' | 'app' | 'now'>,
  event: EventRow,
  step: MessageStepPlan,
  message: { recipientKey: string; contactId: string | null; name: string; language: 'en' | 'fr' },
  orderId: string | null,
  preview = false,
): Promise<{ subject: string; body: string }> {
  const { tx } = w;
  const text = (of: { en: string; fr?: string | undefined }) =>
    message.language === 'fr' && of.fr ? of.fr : of.en;
  const values: MergeValues = {
    name: message.name.split(' ')[0] ?? '',
    event: titleFor(event, message.language),
    when: sayWhen(event, message.language),
    place: sayPlace(event, message.language),
    organization: (await theOrganization(tx)).name,
  };
  const uses = (field: string) => `${text(step.subject)} ${text(step.body)}`.includes(field);
  if (orderId) {
    values.manage_link = linkMark('manage', orderId);
    values.waiver_link = linkMark('manage', orderId, '#waivers');
    if (uses('seats')) {
      const seats = await tx.query<{ name: string; offer: string }>(
        `select trim(r.given_name || ' ' || r.family_name) as name, o.name as offer from registrations r join offers o on o.id = r.offer_id
         where r.order_id = $1 and r.state = 'confirmed' order by r.seat_number`,
        [orderId],
      );
      values.seats = seats
        .map((s) => `  ${s.name || (message.language === 'fr' ? 'à nommer' : 'to be named')}, ${s.offer}`)
        .join('\n');
    }
  }
  const [owing] = orderId && uses('owed') ? await orderRecipients(tx, event.id, orderId) : [];
  if (owing) {
    const due = balanceDue(event, owing.confirmedAt);
    values.owed = sayAmount(Math.max(0, owing.owed), event.paidIn, message.language);
    values.owed_until = due ? sayLongDate(wallOf(due, event.zone), message.language) : '';
  }
  if (preview) values.survey_link = '[link to their survey]';
  else if (uses('survey_link') && message.contactId)
    values.survey_link = await surveyLink(w, event.id, message.contactId);
  if (step.audience === 'crew' && message.contactId) {
    values.shifts_link = linkMark('crew', message.contactId);
    const shift = await first<SaidShift>(
      tx,
      'select s.role, s.place, s.starts_local, s.ends_local, s.starts_at, s.ends_at from assignments a join shifts s on s.id = a.shift_id where a.id = $1',
      [message.recipientKey],
    );
    if (shift) values.shift = sayShift(shift, message.language);
  }
  // What registrants are told goes with what tells them that they have a seat.
  const afterwards = step.kind === 'confirmation' ? readTexts(event.afterwards, message.language) : '';
  return {
    subject: merge(text(step.subject), values),
    body: [merge(text(step.body), values), withoutMarks(afterwards)].filter(Boolean).join('\n\n'),
  };
}

/** A shift as it is said to whoever has it. */
export interface SaidShift {
  role: string;
  place: string;
  startsLocal: string;
  endsLocal: string;
  startsAt: string;
  endsAt: string;
}

/** "Canoe leader, Landing B, Sat 8 Aug 09:00–13:00 (4 h)". */
export function sayShift(s: SaidShift, language = 'en'): string {
  return `${[s.role, s.place].filter(Boolean).join(', ')}, ${sayShortDate(s.startsLocal, true, language)} ${sayTime(s.startsLocal, language)}–${sayTime(s.endsLocal, language)} (${hoursOf(s.startsAt, s.endsAt)} h)`;
}

/** Where the personal link to a survey stands; asking is kept, so that answers can be counted against it. */
async function surveyLink(
  w: Pick<Work, 'tx' | 'app' | 'now'>,
  eventId: string,
  contactId: string,
): Promise<string> {
  const survey = await readSurvey(w.tx, eventId);
  if (!survey) return '';
  await insert(
    w.tx,
    'survey_asks',
    { id: w.app.ids.id(), surveyId: survey.id, contactId, answered: false },
    'on conflict do nothing',
  );
  const ask = await first<{ id: string }>(
    w.tx,
    'select id from survey_asks where survey_id = $1 and contact_id = $2',
    [survey.id, contactId],
  );
  return linkMark('survey', ask!.id);
}
