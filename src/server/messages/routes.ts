import type { MessageRow, messagesContract } from '#contract/messages.ts';
import { messagesSeen } from '#core/access/messages.ts';
import { hideLinks } from '#core/messages/links.ts';
import type { Queries } from '../db/database.ts';
import { eventFor } from '../events/access.ts';
import { readEvent, readMessageLines } from '../events/store.ts';
import type { Handlers } from '../http/handle.ts';
import { notFound } from '../http/problem.ts';
import { theOrganization } from '../staff/store.ts';
import { shown } from './letter.ts';
import { previewDraft, previewLine, rendered, sendLine, testLine, whoNow } from './lines.ts';
import { retry } from './retrying.ts';
import { orderOf } from './sending.ts';
import { linesShown, peopleShown } from './showing.ts';
import { readStop, setStop } from './stopping.ts';
import { countTray, readInTray, readText, readTray, whatsOf } from './tray.ts';
import { yearLineTo } from './yearLines.ts';

const page = 200;

const organizationName = async (tx: Queries): Promise<string> => (await theOrganization(tx)).name;

/** A message as it left, with its headers; what worked like a password is said in its place. */
function asKept(row: MessageRow, stored: Awaited<ReturnType<typeof readText>>, organization: string) {
  const subject = hideLinks(stored.subject ?? '');
  const mail = { ...stored, subject, body: stored.body ?? '' };
  if (row.channel !== 'email') return { subject, body: hideLinks(mail.body), html: null, headers: [] };
  const { text, html } = shown(mail, organization);
  return {
    subject,
    body: text,
    html,
    headers: Object.entries(stored.headers ?? {}).map(([name, value]) => ({ name, value: hideLinks(value) })),
  };
}

export const messagesHandlers: Handlers<typeof messagesContract> = {
  'GET /api/tray': async ({ tx, query, staff }) => {
    const reach = messagesSeen(staff);
    const { zone } = await theOrganization(tx);
    const wanted = {
      eventId: query.eventId ?? null,
      q: query.q,
      day: query.day ?? null,
      what: query.what ?? null,
      zone,
    };
    const rows = await readTray(tx, query.state, reach, wanted, page + 1, query.offset);
    const counts = await countTray(tx, reach, wanted);
    return { rows: rows.slice(0, page), counts, more: rows.length > page };
  },

  'GET /api/tray/whats': ({ tx, query, staff }) =>
    whatsOf(tx, query.state, messagesSeen(staff), query.eventId ?? null),

  'GET /api/sending': async (c) => {
    const { eventId = null } = c.query;
    if (eventId) await eventFor(c, eventId, 'messages', 'see');
    const stop = await readStop(c.tx, eventId, c.now);
    // How many wait of all events is for those who see all of them.
    return eventId || messagesSeen(c.staff).everything ? stop : { ...stop, waiting: 0 };
  },

  'PUT /api/sending': async (c) => {
    await setStop(c, null, c.body.stop);
    return { done: true };
  },

  'PUT /api/events/:id/sending': async (c) => {
    await eventFor(c, c.params.id, 'messages', 'change');
    await setStop(c, c.params.id, c.body.stop);
    return { done: true };
  },

  'GET /api/messages/:id': async ({ tx, app, now, params, staff }) => {
    const reach = messagesSeen(staff);
    const row = await readInTray(tx, reach, params.id);
    if (!row) throw notFound('This message');
    const stored = await readText(tx, params.id);
    if (stored.body !== null || !(row.eventId || stored.lineId))
      return { ...row, ...asKept(row, stored, await organizationName(tx)) };
    const gone = { ...row, subject: '', body: '', html: null, headers: [] };
    if (!row.eventId) {
      const seen = await yearLineTo({ tx, now }, stored.lineId!, stored.recipientKey);
      return seen ? { ...row, subject: seen.subject, body: seen.text, html: seen.html, headers: [] } : gone;
    }
    const line = (await readMessageLines(tx, row.eventId)).find((l) => l.id === stored.lineId);
    if (!line) return gone;
    const {
      subject,
      text: body,
      html,
    } = await rendered(
      { tx, app, now },
      await readEvent(tx, row.eventId),
      line,
      { ...stored, contactId: row.contactId, name: row.name },
      await orderOf(tx, line.audience, stored),
    );
    return { ...row, subject, body, html, headers: [] };
  },

  'POST /api/messages/:id/retry': async (c) => {
    await retry(c, c.params.id, c.body.email ?? null);
    return { done: true };
  },

  'GET /api/events/:id/messages': async (c) =>
    linesShown(c.tx, await eventFor(c, c.params.id, 'messages', 'see')),

  'GET /api/events/:id/messages/people': async (c) =>
    peopleShown(c.tx, await eventFor(c, c.params.id, 'messages', 'see'), c.query.q),

  'GET /api/events/:id/lines/:lineId/now': async (c) => {
    const event = await eventFor(c, c.params.id, 'messages', 'change');
    const people = await whoNow(c.tx, event, c.params.lineId, c.now);
    return { count: people.length, names: people.slice(0, 5).map((p) => p.name) };
  },

  'POST /api/events/:id/lines/:lineId/send': async (c) => {
    const event = await eventFor(c, c.params.id, 'messages', 'change', true);
    return { sent: await sendLine(c, event, c.params.lineId, c.body.expect) };
  },

  'GET /api/events/:id/lines/:lineId/preview': async (c) => {
    const event = await eventFor(c, c.params.id, 'messages', 'see');
    return previewLine(c, event, c.params.lineId, c.query.key);
  },

  'POST /api/events/:id/lines/preview': async (c) => {
    const event = await eventFor(c, c.params.id, 'messages', 'see');
    return previewDraft(c, event, c.body.line, c.body.key ?? null);
  },

  'POST /api/events/:id/lines/:lineId/test': async (c) => {
    const event = await eventFor(c, c.params.id, 'messages', 'change');
    return { address: await testLine(c, event, c.params.lineId, c.body.key, c.staff) };
  },
};
