import type { QuietReason } from '#core/contacts/quiet.ts';
import { titleFor } from '#core/events/french.ts';
import { silentStates } from '#core/events/states.ts';
import { aboutOf, audiences, type EventAudience } from '#core/messages/audiences.ts';
import type { Channel } from '#core/messages/channels.ts';
import type { Why } from '#core/messages/closing.ts';
import type { MailingTopic } from '#core/messages/mailing.ts';
import type { Plan, PlannedMessage } from '#core/messages/planning.ts';
import { nextTry, spreadOf } from '#core/messages/retry.ts';
import type { Said } from '#core/messages/said.ts';
import { asTexted } from '#core/messages/segments.ts';
import { BrokenText, EmptyField } from '#core/messages/template.ts';
import { type DirectKind, directAudiences, notRepliedTo } from '#core/messages/texts.ts';
import { asOne, type Joinable, joinedUnder, joinedUntil } from '#core/messages/together.ts';
import type { Doc } from '#core/text/types.ts';
import { because, type Reason } from '#core/words/reasons.ts';
import { type App, inTransaction, RefusedForGood, systemActor, type Work } from '../app/app.ts';
import { record } from '../app/record.ts';
import { whyQuiet } from '../contacts/quiet.ts';
import { first, type Queries, update } from '../db/database.ts';
import { type LineRow, readEvent, readMessageLines } from '../events/store.ts';
import { breathe } from '../jobs/runner.ts';
import { theOrganization } from '../staff/store.ts';
import { peopleOf } from './audiences.ts';
import { cameBack } from './delivery.ts';
import { endingOf, endingOfLine, letterOf, textOf } from './letter.ts';
import { saidNoSince } from './mailed.ts';
import { beside, planFor } from './planning.ts';
import { calendarWith, render } from './rendering.ts';
import { isStopped, isStoppedSql } from './stopping.ts';
import { orderOfSeat, type RecipientRow } from './store.ts';
import { sayYear, yearOf, yearWhy } from './yearRound.ts';

interface StoredMessage {
  id: string;
  eventId: string | null;
  lineId: string | null;
  channel: Channel;
  mailingId: string | null;
  recipientKey: string;
  contactId: string | null;
  name: string;
  address: string | null;
  language: 'en' | 'fr';
  state: string;
  plannedFor: string | null;
  nextTryAt: string | null;
  attempts: number;
  subject: string | null;
  preview: string;
  body: string | null;
  formatted: Doc | null;
  closing: string;
  headers: Record<string, string> | null;
  calendar: string | null;
  readdressed: number;
  topic: MailingTopic | null;
  kind: string;
  /** Sending was stopped. */
  stopped: boolean;
  /** Others go with it. */
  carries: boolean;
}

const columns = `id, event_id, line_id, channel, mailing_id, recipient_key, contact_id, name, address, language, state, planned_for, next_try_at, attempts, subject, preview, body, formatted, closing, headers, readdressed,
  kind, (select topic from mailings g where g.id = messages.mailing_id) as topic, ${isStoppedSql('messages')} as stopped,
  exists (select 1 from messages other where other.went_with = messages.id) as carries, coalesce(calendar, case when brings then (select f.calendar from change_files f where f.change_id = messages.change_id and f.language = messages.language) end) as calendar`;

/** Asks for the next message that is due: planned, tried again, or left claimed by a crash. */
export const nextMessageSql = `select next_try_at as at, id from messages where state in ('planned', 'due', 'failed') and next_try_at is not null and not ${isStoppedSql('messages')} order by next_try_at, id limit 1`;

/** How many are claimed at once, and the milliseconds after which the rest of them is left for the next time: others wait meanwhile. */
const claimedAtOnce = 50;
const claimingMs = 50;

/** Asks for those that are due at $1 or before $2. */
export const nextMessagesSql = `select id from messages where state in ('planned', 'due', 'failed') and (next_try_at = $1 or next_try_at < $2) and not ${isStoppedSql('messages')} order by next_try_at, id limit ${claimedAtOnce}`;

/** Milliseconds after which it is looked once more whether sending was stopped: a gateway can be slow. */
const lookAgainMs = 1000;

/**
 * Sends messages. They are claimed with their final texts in one transaction; each is handed to the gateway under its id as key, and
 * marked sent in a transaction of its own. Killed in between, what was claimed is handed over again under the same key, which the
 * gateway accepts once. One that cannot be written does not hold up the others. Answers how many were looked at.
 */
export async function sendMessages(
  app: App,
  ids: readonly string[],
  goesOn: () => boolean = () => true,
): Promise<number> {
  let claimed: Claimed[];
  let looked = 0;
  try {
    claimed = await inTransaction(app, systemActor, async (w) => {
      const messages = await w.tx.query<StoredMessage>(
        // Whoever works on one of several is not waited for, holding the others.
        `select ${columns} from messages where id = any($1) order by next_try_at, id for update ${ids.length > 1 ? 'skip locked' : ''}`,
        [ids],
      );
      const ready: Claimed[] = [];
      // Those that go with one that was claimed before them.
      const taken = new Set<string>();
      looked = 0;
      const began = Date.now();
      for (const message of messages) {
        if (Date.now() - began > claimingMs) break;
        looked += 1;
        const one = taken.has(message.id) ? null : await claim(w, message, taken);
        if (one) ready.push(one);
      }
      return ready;
    });
  } catch (error) {
    if (ids.length === 1) {
      await putAside(app, ids[0]!, error);
      return 1;
    }
    for (const id of ids) if (goesOn()) await sendMessages(app, [id], goesOn);
    return ids.length;
  }
  if (!looked && ids.length > 1) return sendMessages(app, ids.slice(0, 1), goesOn);
  let sure = Date.now();
  for (const one of claimed) {
    await breathe();
    if (!goesOn()) break;
    if (Date.now() - sure > lookAgainMs) {
      sure = Date.now();
      if (await isStopped(app.db, one.message.id)) break;
    }
    await handOver(app, one);
  }
  return looked;
}

/** A message that is claimed, and how it is handed over. */
interface Claimed {
  message: StoredMessage;
  send: () => Promise<void>;
}

/** Claims a message with the text it goes out with; null where it does not go now. */
async function claim(w: Work, message: StoredMessage, taken: Set<string>): Promise<Claimed | null> {
  if (!['planned', 'due', 'failed'].includes(message.state)) return null;
  // Stopped, or moved, since it was found to be due.
  if (message.stopped || message.nextTryAt === null || message.nextTryAt > w.now) return null;
  if (message.state === 'due' && message.body !== null) return ready(w, message);
  const text = await finalText(w, message);
  if ('later' in text) {
    await update(w.tx, 'messages', message.id, { plannedFor: text.later, nextTryAt: text.later });
    return null;
  }
  if ('whyNot' in text) {
    await update(w.tx, 'messages', message.id, {
      state: 'held back',
      whyNot: text.whyNot,
      nextTryAt: null,
    });
    return null;
  }
  const { others, text: going } = await withOthers(w, message, text);
  const { why, hasWayOut, line: _, ...final } = going;
  const channel = final.channel ?? message.channel;
  const ending =
    channel === 'email'
      ? await endingOf(
          w.tx,
          {
            ...message,
            why,
            hasWayOut,
            replies: w.app.takesReplies && !notRepliedTo.includes(message.kind),
          },
          keyOf(message),
        )
      : { closing: '', headers: null };
  const claimed = {
    ...message,
    ...final,
    ...ending,
    attempts: message.attempts + 1,
    carries: others.length > 0,
  };
  await keepClaimed(w.tx, message.id, claimed, final.calendar ?? null, null);
  // What goes with it is kept as it goes out: the same.
  for (const other of others) {
    taken.add(other.id);
    const attempts = other.attempts + 1;
    await keepClaimed(w.tx, other.id, { ...claimed, attempts }, null, message.id);
  }
  return ready(w, claimed);
}

const keepClaimed = (
  tx: Queries,
  id: string,
  as: Omit<StoredMessage, 'id'>,
  calendar: string | null,
  wentWith: string | null,
): Promise<unknown> =>
  tx.query(
    `update messages set state = 'due', attempts = $2, channel = $3, address = $4, subject = $5, preview = $6, body = $7, formatted = $8,
       closing = $9, headers = $10, calendar = coalesce($11, calendar), went_with = $12::uuid,
       next_try_at = case when $12::uuid is null then next_try_at end where id = $1`,
    [
      id,
      as.attempts,
      as.channel,
      as.address,
      as.subject,
      as.preview,
      as.body,
      as.formatted,
      as.closing,
      as.headers,
      calendar,
      wentWith,
    ],
  );

/** What else goes to the same person within minutes, and all of it as one; by the rule of core. */
async function withOthers(
  w: Work,
  message: StoredMessage,
  text: Final,
): Promise<{ others: StoredMessage[]; text: Final }> {
  const { line, address } = text;
  const at = message.plannedFor;
  const asJoined = (of: StoredMessage, to: string | null | undefined, by: LineRow): Joinable => ({
    contactId: of.contactId,
    address: to ?? null,
    language: of.language,
    at: of.plannedFor ?? '',
    line: by,
  });
  const under = line && at ? joinedUnder(asJoined(message, address, line)) : null;
  if (!line || !at || under === null) return { others: [], text };
  const soon = await w.tx.query<StoredMessage>(
    `select ${columns} from messages where event_id = $1 and contact_id = $2 and id <> $3 and state = 'planned' and line_id is not null
       and planned_for >= $4 and planned_for <= $5 order by planned_for, id for update skip locked`,
    [message.eventId, message.contactId, message.id, at, joinedUntil(at)],
  );
  const others: StoredMessage[] = [];
  const texts: Final[] = [];
  for (const other of soon) {
    // As far as it is due by then: earlier than its time only by these minutes.
    const its = await finalText(w, other, joinedUntil(w.now));
    if (!('body' in its) || !its.line) continue;
    if (joinedUnder(asJoined(other, its.address, its.line)) !== under) continue;
    others.push(other);
    texts.push(its);
  }
  if (!others.length) return { others, text };
  // Who can have no more of one of them finds the way out in what they get.
  const ends = text.hasWayOut ? text : (texts.find((t) => t.hasWayOut) ?? text);
  return {
    others,
    text: {
      ...text,
      ...asOne(saidOf(text), texts.map(saidOf)),
      why: ends.why,
      hasWayOut: ends.hasWayOut,
    },
  };
}

const saidOf = ({ subject = '', preview = '', body = '', formatted = null }: Final): Said => ({
  subject,
  preview,
  body,
  formatted,
});

/** Hands a message over, and keeps what became of it. */
async function handOver(app: App, { message, send }: Claimed): Promise<void> {
  let failure: { says: string; forGood: boolean } | null = null;
  try {
    await send();
  } catch (error) {
    failure = {
      says: error instanceof Error ? error.message : String(error),
      forGood: error instanceof RefusedForGood,
    };
  }
  await inTransaction(app, systemActor, async (w) => {
    const again = failure && !failure.forGood ? nextTryOf(message, w.now) : null;
    if (message.carries)
      await w.tx.query(
        failure === null
          ? "update messages set state = 'sent', sent_at = $2, why_not = null where went_with = $1 and state = 'due'"
          : // Each goes as it would without the other: with its next try, where that is soon, or by itself.
            `update messages set state = 'planned', next_try_at = $2, went_with = null, subject = null, body = null, formatted = null,
               closing = '', headers = null where went_with = $1 and state = 'due'`,
        [message.id, again ?? w.now],
      );
    if (failure === null)
      await w.tx.query(
        "update messages set state = 'sent', sent_at = $2, next_try_at = null, why_not = null where id = $1",
        [message.id, w.now],
      );
    else if (failure.forGood) await cameBack(w, message.id, 'bounced', failure.says);
    else await tryAgain(w, message, failure.says);
    await record(w, 'message settled', { eventId: message.eventId, messageId: message.id });
  });
}

const nextTryOf = ({ id, attempts }: Pick<StoredMessage, 'id' | 'attempts'>, now: string): string | null =>
  nextTry(attempts, now, spreadOf(id));

/** Keeps when a message is tried again, or that it is not. */
async function tryAgain(
  w: Work,
  message: Pick<StoredMessage, 'id' | 'attempts'>,
  failure: string,
): Promise<void> {
  const again = nextTryOf(message, w.now);
  await update(w.tx, 'messages', message.id, {
    state: 'failed',
    nextTryAt: again,
    whyNot: again
      ? because('failed, goes on', { failure })
      : because('failed for good', { failure, count: message.attempts }),
  });
}

/** Puts a message aside that could not be written, for later: the others go on. */
async function putAside(app: App, id: string, error: unknown): Promise<void> {
  app.log.error({ message: id, error: String(error) }, 'a message could not be written');
  await inTransaction(app, systemActor, async (w) => {
    const message = await first<Pick<StoredMessage, 'id' | 'eventId' | 'attempts'>>(
      w.tx,
      `update messages set attempts = attempts + 1 where id = $1 and state in ('planned', 'due', 'failed') returning id, event_id, attempts`,
      [id],
    );
    if (!message) return;
    await tryAgain(w, message, 'it could not be written');
    await record(w, 'message settled', { eventId: message.eventId, messageId: id });
  });
}

/** Under what a gateway knows a message: the same is taken once, and to another address it is another. */
const keyOf = ({ id, readdressed }: Pick<StoredMessage, 'id' | 'readdressed'>): string =>
  readdressed ? `${id}.${readdressed}` : id;

/** What is handed to the gateway, made while its links can be; and how. */
async function ready(w: Work, message: StoredMessage): Promise<Claimed> {
  const { app } = w;
  const { address, name, language, subject, preview, formatted, closing, calendar } = message;
  const body = message.body ?? '';
  const key = keyOf(message);
  if (message.channel === 'text message') {
    const said = asTexted(await textOf(w, body));
    return { message, send: () => app.text({ key, number: address!, body: said }) };
  }
  const letter = await letterOf(w, {
    id: key,
    name,
    address: address!,
    language,
    subject: subject ?? '',
    preview,
    body,
    formatted,
    closing,
    headers: message.headers ?? {},
    calendar,
  });
  return { message, send: () => app.mail(letter) };
}

/** A message as it goes out; one that was written before goes where it was written to. */
interface Final extends Partial<Said>, Partial<Pick<StoredMessage, 'address' | 'channel' | 'calendar'>> {
  why: Why | null;
  hasWayOut: boolean;
  /** The line it is of. */
  line?: LineRow;
}

/** The text as it goes out, or why it does not: things may have changed since it was planned. */
async function finalText(
  w: Work,
  message: StoredMessage,
  /** What is due then goes. */
  by = w.now,
): Promise<Final | { whyNot: Reason } | { later: string }> {
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
  if (!message.lineId) return written(w.tx, message);
  if (!message.eventId) return yearText(w, message, message.lineId, by);
  const event = await readEvent(w.tx, message.eventId);
  if (silentStates.includes(event.state)) return { whyNot: because('event ended', { state: event.state }) };
  const lines = await readMessageLines(w.tx, event.id);
  const line = lines.find((l) => l.id === message.lineId);
  if (!line) return { whyNot: because('step removed') };
  const orderId = await orderOf(w.tx, line.audience, message);
  const about = aboutOf(line.audience, message.recipientKey);
  const people = peopleOf(w.tx, event, orderId, about.of === 'follower' ? about.id : null);
  const plan = (await planFor(w.tx, event, beside(lines, line), people))(line.id);
  const goes = whetherGoes(w, message, plan, by);
  if (!('address' in goes)) return goes;
  // Somebody in two orders of the same event still gets one copy.
  const copy =
    audiences[line.audience].copies === 'address' &&
    (await first<{ name: string }>(
      w.tx,
      "select name from messages where line_id = $1 and id <> $2 and state in ('sent', 'due') and lower(address) = lower($3)",
      [line.id, message.id, goes.address],
    ));
  if (copy) return { whyNot: because('same address before', { name: copy.name }) };
  return filledIn(async () => ({
    ...(await render(w, event, line, message, orderId)),
    // To where they are reached by now.
    address: goes.address,
    channel: line.channel,
    calendar: calendarWith(w, event, line, message.language),
    ...endingOfLine(event, line, message),
    line,
  }));
}

/** The same of a line of the organization. */
async function yearText(
  w: Work,
  message: StoredMessage,
  lineId: string,
  by: string,
): Promise<Final | { whyNot: Reason } | { later: string }> {
  const year = message.contactId ? await yearOf(w.tx, lineId, message.contactId, w.now) : null;
  if (!year) return { whyNot: because('step removed') };
  const { line, plan } = year;
  const goes = whetherGoes(w, message, plan, by);
  if (!('address' in goes)) return goes;
  const { name } = await theOrganization(w.tx);
  return filledIn(async () => ({
    ...sayYear(line, goes.recipient, name),
    address: goes.address,
    channel: line.channel,
    ...yearWhy(line),
  }));
}

/** What a plan has for a message: that it goes, or why it does not, or not yet. */
function whetherGoes<R extends RecipientRow>(
  { now }: Pick<Work, 'now'>,
  message: Pick<StoredMessage, 'recipientKey' | 'state'>,
  plan: Plan<R>,
  /** What is due then goes. */
  by: string,
): PlannedMessage<R> | { whyNot: Reason } | { later: string } {
  const out = plan.leftOut.find((l) => l.recipient.key === message.recipientKey);
  if (out) return { whyNot: out.why };
  const goes = plan.planned.find((p) => p.recipient.key === message.recipientKey);
  if (!goes) return { whyNot: because('not taking part') };
  // It was planned by rules that have changed since.
  if (message.state === 'planned' && goes.at > by) return { later: goes.at };
  // It could not be sent in time.
  if (goes.until && now > goes.until) return { whyNot: because('too late') };
  return goes;
}

/** A text that is filled in, or why it cannot be sent as it is. */
async function filledIn(fill: () => Promise<Final>): Promise<Final | { whyNot: Reason }> {
  try {
    return await fill();
  } catch (error) {
    if (error instanceof EmptyField)
      return { whyNot: because('field empty', { field: `{{${error.field}}}` }) };
    if (error instanceof BrokenText) return { whyNot: because('text broken') };
    throw error;
  }
}

/** Of a message that was written already: why it is sent, and whether one can have no more of its kind. */
async function written(tx: Queries, message: StoredMessage): Promise<Final> {
  const { topic, contactId, eventId, language } = message;
  if (topic) return { why: { of: 'mailing', topic }, hasWayOut: topic !== 'notice' && contactId !== null };
  const audience = directAudiences[message.kind as DirectKind];
  if (!audience || !eventId) return { why: null, hasWayOut: false };
  const event = titleFor(await readEvent(tx, eventId), language);
  return { why: { of: 'line', audience, event }, hasWayOut: contactId !== null };
}

/** The order a message of an audience is about; null for the crew. */
export async function orderOf(
  tx: Queries,
  audience: EventAudience,
  message: { recipientKey: string },
): Promise<string | null> {
  const about = aboutOf(audience, message.recipientKey);
  if (about.of === 'shift' || about.of === 'follower') return null;
  if (about.of !== 'seat' && about.of !== 'guardian' && about.of !== 'session') return about.id;
  return orderOfSeat(tx, about.id);
}
