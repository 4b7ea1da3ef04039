import type { everything } from './index.ts';

/**
 * What an answer is about, and what a request changes. After a change everything that is about it is asked anew, and
 * nothing else; open pages are told by the same words.
 */
export const topics = [
  /** Contacts with all that belongs to them. */
  'people',
  /** Pairs that may be one person, and changes people asked for. */
  'decisions',
  /** Plans, their states, clearance. */
  'events',
  /** What was learnt at events. */
  'lessons',
  /** Reports to the board. */
  'reports',
  /** Measures, tallies, initiatives. */
  'outcomes',
  /** Orders, seats, arrivals, waivers. */
  'seats',
  'money',
  'crew',
  'messages',
  /** Segments and views. */
  'records',
  'imports',
  /** Accounts, invitations, what was done by whom, backups. */
  'team',
  /** What plans choose from, and fields of contacts. */
  'registers',
  /** Whoever is signed in. */
  'me',
] as const;
export type Topic = (typeof topics)[number];

type Key = keyof typeof everything;
export type ReadKey = Extract<Key, `GET ${string}`>;
export type WriteKey = Exclude<Key, ReadKey>;
/** Endpoints that the pages of the public call. */
export type OfPublic<K extends Key> = Extract<K, `${string} /api/public/${string}`>;

export const ofEvent: readonly Topic[] = ['events', 'seats', 'money', 'crew', 'messages'];
export const everybody: readonly Topic[] = ['people', 'seats', 'money', 'crew', 'messages'];
export const all: readonly Topic[] = topics;
/** Changes when it is sent, or never: asked once, or a file. */
export const nothing: readonly Topic[] = [];

type Reads = { [K in ReadKey]?: readonly Topic[] };
type Changes = { [K in WriteKey]?: readonly Topic[] };

/** What each answer of the public's pages is about. Those of the staff stand in `staffTopics.ts`: the public does without them. */
const publicReads: { readonly [K in OfPublic<ReadKey>]: readonly Topic[] } = {
  'GET /api/public/orders/:token/files/:file': nothing,
  'GET /api/public/events/:slug/call': ['events'],
  'GET /api/public/orders/:token/sessions': ['seats', 'events'],
  'GET /api/public/orders/:token/seats/:seat/sessions.ics': nothing,
  'GET /api/public/pictures/:id/:size': nothing,
  'GET /api/public/previews/:token': ['events', 'seats', 'crew'],
  'GET /api/public/orders/:token/money': ['money', 'seats'],
  'GET /api/public/crew/:token': ['crew', 'events', 'people', 'registers', 'seats'],
  'GET /api/public/calls/:slug': ['crew', 'events', 'people', 'registers'],
  'GET /api/public/applications/:token': ['crew', 'events', 'money', 'people', 'registers'],
  'GET /api/public/crew/:token/calendar.ics': nothing,
  'GET /api/public/events': ['events', 'seats'],
  'GET /api/public/calendar.ics': nothing,
  'GET /api/public/events/:slug': ['events', 'seats', 'crew'],
  'GET /api/public/events/:slug/calendar.ics': nothing,
  'GET /api/public/events/:slug/shifts': ['crew', 'events'],
  'GET /api/public/shifts': ['crew', 'events'],
  'GET /api/public/frame': nothing,
  'GET /api/public/propose': nothing,
  'GET /api/public/mine/:token/calendar.ics': nothing,
  'GET /api/public/mine': ['me', 'events', 'seats', 'crew'],
  'GET /api/public/invitations/:token': ['seats', 'events', 'people'],
  'GET /api/public/guests/:token/attendance': ['seats', 'events'],
  'GET /api/public/guests/:token/certificate.pdf': nothing,
  'GET /api/public/orders/:token/attendance': ['seats', 'events'],
  'GET /api/public/orders/:token/seats/:seat/certificate.pdf': nothing,
  'GET /api/public/guests/:token': ['seats', 'events', 'people'],
  'GET /api/public/receipts/:token': ['money'],
  'GET /api/public/receipts/:token/receipt.pdf': nothing,
  'GET /api/public/verify': ['money'],
  'GET /api/public/waivers/:slug': ['registers'],
  'GET /api/public/here/:token': ['events'],
  'GET /api/public/count/:token': ['outcomes', 'events'],
  'GET /api/public/initiatives/:token': ['outcomes'],
  'GET /api/public/cosign/:token': ['registers', 'people'],
  'GET /api/public/signed/:token': ['seats', 'people'],
  'GET /api/public/signed/:token/copy.pdf': nothing,
  'GET /api/public/giving/:slug': ['money', 'events'],
  'GET /api/public/gifts/:token': ['money'],
  'GET /api/public/pledges/:token': ['money'],
  'GET /api/public/orders/:token': ['seats', 'money', 'events', 'people'],
  'GET /api/public/orders/:token/calendar.ics': nothing,
  'GET /api/public/orders/:token/passes.pdf': nothing,
  'GET /api/public/orders/:token/confirmation.pdf': nothing,
  'GET /api/public/own/:token': ['people', 'decisions'],
  'GET /api/public/surveys/:token': ['events'],
  'GET /api/public/events/:slug/board': ['messages', 'events'],
  'GET /api/public/follow/:token': ['people', 'events'],
  'GET /api/public/out/:token': ['people', 'events'],
};

/** What each request of the public's pages changes. */
const publicChanges: { readonly [K in OfPublic<WriteKey>]: readonly Topic[] } = {
  'PATCH /api/public/orders/:token/seats/:seat': ['seats', 'people', 'messages'],
  'POST /api/public/propose': nothing,
  'POST /api/public/orders/:token/seats/:seat/attendance': ['seats'],
  'POST /api/public/here/:token/signatures': ['seats'],
  'POST /api/public/cosign/:token': ['seats', 'people', 'messages'],
  'POST /api/public/guests/:token/attendance': ['seats'],
  'POST /api/public/orders/:token/money': ['money', 'seats'],
  'POST /api/public/crew/:token/drop': ['crew', 'messages'],
  'POST /api/public/crew/:token/signatures': ['crew', 'seats', 'people'],
  'POST /api/public/crew/:token/step-in': ['crew', 'messages', 'people'],
  'POST /api/public/crew/:token/swap': ['crew', 'messages'],
  'POST /api/public/crew/:token/wait-no-more': ['crew'],
  'POST /api/public/shifts/:id/wait': ['crew', 'messages', 'people', 'decisions'],
  'POST /api/public/calls/:slug': ['crew', 'messages', 'people', 'decisions'],
  'POST /api/public/calls/:slug/files': nothing,
  'PUT /api/public/applications/:token': ['crew', 'messages'],
  'POST /api/public/applications/:token/answer': ['crew'],
  'POST /api/public/applications/:token/deposit': ['crew', 'money'],
  'POST /api/public/applications/:token/deposit/code': ['crew', 'money'],
  'POST /api/public/events/:slug/code': nothing,
  'POST /api/public/events/:slug/files': nothing,
  'POST /api/public/orders/:token/answer': ['seats'],
  'PUT /api/public/orders/:token/answers': ['seats'],
  'POST /api/public/orders/:token/seats/:seat/guest': ['seats', 'messages'],
  'PUT /api/public/guests/:token': ['seats', 'people', 'messages'],
  'POST /api/public/guests/:token/signature': ['seats', 'people'],
  'POST /api/public/events/:slug/orders': ['seats', 'money', 'messages', 'people', 'decisions'],
  'POST /api/public/orders/:token/pay': ['seats', 'money', 'messages', 'people'],
  'POST /api/public/orders/:token/pay/code': ['seats', 'money', 'messages', 'people'],
  'POST /api/public/giving/:slug/gifts': ['money'],
  'POST /api/public/gifts/:token/pay': ['money', 'messages', 'people'],
  'POST /api/public/gifts/:token/pay/code': ['money', 'messages', 'people'],
  'POST /api/public/pledges/:token': ['money', 'messages'],
  'POST /api/public/pledges/:token/card': ['money', 'messages'],
  'POST /api/public/card-notifications': nothing,
  'POST /api/public/orders/:token/signatures': ['seats', 'people'],
  'POST /api/public/here/:token': ['seats', 'people'],
  'POST /api/public/count/:token': ['outcomes', 'events'],
  'POST /api/public/count/:token/pictures': nothing,
  'POST /api/public/waivers/:slug/signatures': ['people', 'registers', 'decisions'],
  'POST /api/public/signed/:token/seen': nothing,
  'POST /api/public/signed/:token/revocation': ['seats', 'people', 'registers'],
  'POST /api/public/signatures/check': nothing,
  'POST /api/public/orders/:token/take': ['seats', 'money', 'messages', 'people'],
  'POST /api/public/orders/:token/withdraw/what-if': nothing,
  'POST /api/public/orders/:token/ticket/what-if': nothing,
  'POST /api/public/orders/:token/ticket': ['seats', 'money', 'messages', 'people'],
  'POST /api/public/orders/:token/date/what-if': nothing,
  'POST /api/public/orders/:token/date': ['seats', 'money', 'messages', 'people'],
  'POST /api/public/events/:slug/seen': nothing,
  'POST /api/public/invitations/:token/answer': ['seats'],
  'POST /api/public/orders/:token/withdraw': ['seats', 'money', 'messages', 'people'],
  'POST /api/public/own/:token/consents': ['people'],
  'POST /api/public/own/:token/details': ['people', 'decisions'],
  'POST /api/public/own/:token/memberships/:id': ['people', 'decisions'],
  // Whoever signs in, or out, sees other events.
  'POST /api/public/sign-in': nothing,
  'POST /api/public/sign-in/code': ['me', 'events'],
  'POST /api/public/sign-in/link': ['me', 'events'],
  'DELETE /api/public/sign-in': ['me', 'events'],
  'POST /api/public/shifts/:id/sign-up': ['crew', 'messages', 'people', 'decisions'],
  'POST /api/public/surveys/:token': ['events'],
  'POST /api/public/surveys/:token/first': ['events'],
  'POST /api/public/events/:slug/followers': ['messages'],
  'POST /api/public/events/:slug/board': ['messages'],
  'POST /api/public/follow/:token': ['people', 'messages'],
  'POST /api/public/out/:token': ['people', 'messages'],
  'POST /api/public/events/:slug/question': ['messages'],
  'POST /api/public/events/:slug/proposals': ['events'],
  'PUT /api/public/orders/:token/seats/:seat/sessions': ['seats', 'events'],
};

const reads: Reads = { ...publicReads };
const changes: Changes = { ...publicChanges };

/** Takes in what other answers are about, and other requests change. */
export function alsoTopics(more: { reads: Reads; changes: Changes }): void {
  Object.assign(reads, more.reads);
  Object.assign(changes, more.changes);
}

/** What an event’s open pages show, and ask anew when the server says that something about it changed. */
export const topicsOfEvent = ofEvent;

export const changesOf = (key: Key): readonly Topic[] => changes[key as WriteKey] ?? nothing;
export const readsOf = (key: Key): readonly Topic[] => reads[key as ReadKey] ?? nothing;
