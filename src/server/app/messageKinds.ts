import { type Changed, changed, event, nobody, ofEvent, type Telling } from './telling.ts';

/** What can happen to messages: lines of plans, mailings, what left and came back, who follows, what is asked on boards. */
export interface MessageFacts {
  'mailing written': Changed & { mailingId: string };
  'message tried again': { messageId: string };
  'line sent by hand': { eventId: string; lineId: string; name: string; count: number };
  'line tested': { eventId: string; lineId: string };
  'board asked': { eventId: string; name: string; words: string };
  'board set': { eventId: string; on: boolean };
  /** A question on the board of an event was answered, shown or put away. */
  'board answered': { eventId: string; questionId: string; answered: boolean; how: string };
  /** Who the lines of an event go to, or where, is to be worked out anew. */
  'recipients changed': { eventId: string };
  /** A reply, or a question from the page of an event. */
  'something came in': { eventId: string | null; name: string; words: string; automatic: boolean };
  'incoming settled': { eventId: string | null; how: string };
  /** What a letter says that goes out by itself. */
  'letter changed': { kind: string; first: boolean };
  /** A line of the organization was added, changed or removed. */
  'year-round line changed': { lineId: string; name: string; removed: boolean };
  'year-round lines planned': Record<string, never>;
  'mail bounced': { messageId: string; contactId: string | null; eventId: string | null; address: string };
  'mail complained of': { messageId: string; contactId: string | null; eventId: string | null };
  'quiet hours changed': Changed;
  /** Of an event, or of everything. */
  'sending stopped or not': { eventId: string | null; stop: boolean };
  'message settled': { eventId: string | null; messageId: string };
}

/** What each of them leaves behind by itself. */
export const messageTellings: { readonly [K in keyof MessageFacts]: Telling<MessageFacts[K]> } = {
  'mailing written': { entry: (f) => changed('mailing', f.mailingId, f), topics: nobody },
  'message tried again': {
    entry: (f) => ({ action: 'tried a message again', subject: { kind: 'message', id: f.messageId } }),
    topics: nobody,
  },
  'message settled': { topics: ofEvent },
  'line sent by hand': {
    entry: (f) => ({
      action: 'sent a line of the message plan by hand',
      subject: event(f.eventId),
      detail: { line: f.name, count: f.count },
    }),
    topics: ofEvent,
  },
  'line tested': { topics: nobody },
  'recipients changed': { topics: ofEvent },
  'board asked': { topics: ofEvent },
  'board set': {
    entry: (f) => ({
      action: f.on ? 'gave it a board of questions' : 'took its board of questions away',
      subject: event(f.eventId),
    }),
    topics: ofEvent,
  },
  'board answered': {
    entry: (f) => ({ action: f.how, subject: event(f.eventId), detail: { questionId: f.questionId } }),
    topics: ofEvent,
  },
  'mail bounced': {
    entry: (f) => ({
      action: 'noted that an address bounced',
      subject: f.contactId ? { kind: 'contact', id: f.contactId } : { kind: 'message', id: f.messageId },
      detail: { address: f.address },
    }),
    topics: () => ['people', 'messages'],
  },
  'mail complained of': {
    entry: (f) => ({
      action: 'noted a complaint about a message',
      subject: f.contactId ? { kind: 'contact', id: f.contactId } : { kind: 'message', id: f.messageId },
    }),
    topics: () => ['people', 'messages'],
  },
  'something came in': { topics: () => ['people', 'messages'] },
  'incoming settled': {
    entry: (f) => ({
      action: f.how,
      subject: f.eventId ? event(f.eventId) : { kind: 'organization', id: null },
    }),
    topics: () => ['people', 'messages'],
  },
  'letter changed': {
    entry: (f) => ({
      action: f.first ? 'let a letter say again what it says at first' : 'wrote a letter anew',
      subject: { kind: 'organization', id: null },
      detail: { letter: f.kind },
    }),
    topics: () => ['messages'],
  },
  'year-round line changed': {
    entry: (f) => ({
      action: f.removed ? 'removed a year-round line' : 'changed a year-round line',
      subject: { kind: 'organization', id: null },
      detail: { line: f.name },
    }),
    topics: () => ['messages'],
  },
  'year-round lines planned': { topics: () => ['messages'] },
  'sending stopped or not': {
    entry: (f) => ({
      action: f.stop ? 'stopped sending' : 'let sending go on',
      subject: f.eventId ? event(f.eventId) : { kind: 'organization', id: null },
    }),
    topics: () => ['messages', 'events'],
  },
  'quiet hours changed': { entry: (f) => changed('organization', null, f), topics: nobody },
};
