import type { MessageLinePlan } from '#contract/plan.ts';
import { silentStates } from '#core/events/states.ts';
import type { Channel } from '#core/messages/channels.ts';
import { hideLinks } from '#core/messages/links.ts';
import type { Recipient } from '#core/messages/planning.ts';
import type { Said } from '#core/messages/said.ts';
import { asTexted } from '#core/messages/segments.ts';
import { BrokenText, EmptyField } from '#core/messages/template.ts';
import type { Doc } from '#core/text/types.ts';
import { oneLine } from '#core/words/text.ts';
import type { SignedIn, Work } from '../app/app.ts';
import { record } from '../app/record.ts';
import { type Queries, update } from '../db/database.ts';
import { type EventRow, type LineRow, readMessageLines } from '../events/store.ts';
import { notFound, refused } from '../http/problem.ts';
import { theOrganization } from '../staff/store.ts';
import { peopleOf } from './audiences.ts';
import { endingOf, endingOfLine, shown } from './letter.ts';
import { putOut } from './outbox.ts';
import { beside, planFor } from './planning.ts';
import { render } from './rendering.ts';
import { orderOf } from './sending.ts';
import { type RecipientRow, readPlanned } from './store.ts';

async function lineOf(
  tx: Queries,
  event: EventRow,
  lineId: string,
): Promise<{ line: LineRow; lines: readonly LineRow[] }> {
  const lines = await readMessageLines(tx, event.id);
  const line = lines.find((l) => l.id === lineId);
  if (!line) throw notFound('This line');
  return { line, lines };
}

/** Who would get a line were it sent by hand now: everybody it goes to who has not got it. */
export async function whoNow(
  tx: Queries,
  event: EventRow,
  lineId: string,
  now: string,
): Promise<RecipientRow[]> {
  const { line } = await lineOf(tx, event, lineId);
  if (line.off) throw refused('line-off');
  if (silentStates.includes(event.state)) throw refused('event-silent', { state: event.state });
  const byHand = { ...line, late: 'skip' as const, sentByHandAt: now };
  const { planned } = (await planFor(tx, event, [byHand]))(line.id);
  const rows = await readPlanned(tx, event.id, [line.id], null);
  const had = new Set(
    rows.filter((r) => r.state !== 'planned' && r.state !== 'held back').map((r) => r.recipientKey),
  );
  return planned.filter((p) => !had.has(p.recipient.key)).map((p) => p.recipient);
}

/** Sends a line now. Refused where it would go to others than were seen. Those who come later get it at its time. */
export async function sendLine(w: Work, event: EventRow, lineId: string, expect: number): Promise<number> {
  const { length: count } = await whoNow(w.tx, event, lineId, w.now);
  if (count !== expect) throw refused('line-changed', { count, expected: expect });
  const { line } = await lineOf(w.tx, event, lineId);
  await update(w.tx, 'message_lines', lineId, { sentByHandAt: w.now });
  await record(w, 'line sent by hand', { eventId: event.id, lineId, name: line.name, count });
  return count;
}

export interface Previewed extends Pick<Recipient, 'name'>, Drawn {
  address: string | null;
  channel: Channel;
  language: 'en' | 'fr';
}

/** A line as somebody it concerns would get it, whether or not it goes to them. */
export async function previewLine(
  w: Pick<Work, 'tx' | 'app' | 'now'>,
  event: EventRow,
  lineId: string,
  key: string,
): Promise<Previewed> {
  const { line, lines } = await lineOf(w.tx, event, lineId);
  const orderId = await orderOf(w.tx, line.audience, { recipientKey: key });
  const people = peopleOf(w.tx, event, orderId);
  const plan = (await planFor(w.tx, event, beside(lines, line), people))(line.id);
  const recipient = [...plan.planned, ...plan.leftOut].find((p) => p.recipient.key === key)?.recipient;
  if (!recipient) throw notFound('This person');
  const { contactId, name, language, reach } = recipient;
  const said = await rendered(w, event, line, { recipientKey: key, contactId, name, language }, orderId);
  return { name, address: reach[line.channel], channel: line.channel, language, ...said };
}

/** How many of those a line would go to are named for a preview. */
export const named = 50;

/** A line as it is being written, as one of those it would concern would get it; somebody made up where there is nobody yet. */
export async function previewDraft(
  w: Pick<Work, 'tx' | 'app' | 'now'>,
  event: EventRow,
  draft: MessageLinePlan,
  key: string | null,
): Promise<Previewed & { key: string | null; people: { key: string; name: string }[] }> {
  const line: LineRow = { ...draft, off: false, addedAt: null, sentByHandAt: null };
  const plan = (await planFor(w.tx, event, [line]))(line.id);
  const all = [...plan.planned, ...plan.leftOut].map((p) => p.recipient);
  const to = all.find((r) => r.key === key) ?? all[0];
  const people = all.slice(0, named).map(({ key, name }) => ({ key, name }));
  const { channel } = line;
  if (!to) {
    const made = { recipientKey: event.id, contactId: null, name: 'Mai Example', language: 'en' as const };
    const said = await rendered(w, event, line, made, null, true);
    return { name: made.name, address: null, channel, language: 'en', key: null, people, ...said };
  }
  const { contactId, name, language, reach } = to;
  const orderId = await orderOf(w.tx, line.audience, { recipientKey: to.key });
  const said = await rendered(w, event, line, { recipientKey: to.key, contactId, name, language }, orderId);
  return { name, address: reach[channel], channel, language, key: to.key, people, ...said };
}

/** What a line says to somebody, as it is shown to the team; what keeps it from going is said as a refusal. */
export const rendered = (
  w: Pick<Work, 'tx' | 'app' | 'now'>,
  event: EventRow,
  line: MessageLinePlan,
  to: Parameters<typeof render>[3],
  orderId: string | null,
  madeUp = false,
): Promise<Drawn> =>
  drawn(w.tx, line.channel, endingOfLine(event, line, { id: event.id, ...to }), () =>
    render(w, event, line, to, orderId, madeUp ? 'made up' : 'shown'),
  );

export interface Drawn extends Said {
  /** The text with its end. */
  text: string;
  /** The mail as it is drawn, without live links; null of a text message. */
  html: string | null;
}

/** A text as it is shown to the team, with its end; what keeps it from going is said as a refusal. */
export async function drawn(
  tx: Queries,
  channel: Channel,
  about: Parameters<typeof endingOf>[1],
  fill: () => Said | Promise<Said>,
): Promise<Drawn> {
  try {
    const text = await fill();
    const { closing } = await endingOf(tx, about);
    const { name } = await theOrganization(tx);
    const mail = channel === 'email' ? shown({ ...text, closing, language: about.language }, name) : null;
    return {
      subject: hideLinks(text.subject),
      preview: hideLinks(text.preview),
      body: hideLinks(text.body),
      formatted: text.formatted && withoutLinks(text.formatted),
      text: mail?.text ?? hideLinks(asTexted(text.body)),
      html: mail?.html ?? null,
    };
  } catch (error) {
    if (error instanceof EmptyField) throw refused('field-empty', { field: `{{${error.field}}}` });
    if (error instanceof BrokenText) throw refused('text-unreadable');
    throw error;
  }
}

/** A formatted text with words where its links stand. */
const withoutLinks = (doc: Doc): Doc => JSON.parse(hideLinks(JSON.stringify(doc))) as Doc;

/** Sends a line to whoever asks, as somebody it concerns would get it; links are said and not live. */
export async function testLine(
  w: Work,
  event: EventRow,
  lineId: string,
  key: string,
  staff: SignedIn,
): Promise<string> {
  const line = await previewLine(w, event, lineId, key);
  await record(w, 'line tested', { eventId: event.id, lineId });
  return putTest(w, lineId, line, staff);
}

/** Puts out what was previewed, to whoever asks. */
export async function putTest(
  w: Work,
  lineId: string,
  { subject, preview, body, formatted, language, channel }: Previewed,
  staff: SignedIn,
): Promise<string> {
  await putOut(w, [
    {
      // To one of the team: it is none of the event's messages.
      eventId: null,
      recipientKey: `test:${lineId}:${staff.id}:${w.app.ids.id()}`,
      kind: 'test',
      contactId: null,
      name: staff.name,
      address: staff.email,
      language,
      reason: 'a test, asked for by themselves',
      at: w.now,
      subject: oneLine(`Test: ${subject}`),
      preview,
      body: channel === 'email' ? body : asTexted(body),
      formatted,
    },
  ]);
  return staff.email;
}
