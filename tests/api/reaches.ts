import type { Everything } from '#contract/index.ts';
import { lineOn } from './messageLines.ts';
import { orderFor, surveyOf } from './scenes.ts';

export type Key = keyof Everything;
export type Letter = 'C' | 'A' | 'T' | 'K' | 'U' | 'D' | 't' | 'u' | 'N';

export interface Objects {
  event: string;
  lesson: string;
  /** What was copied from it. */
  next: string;
  survey: string;
  slug: string;
  offer: string;
  waiver: string;
  order: string;
  registration: string;
  contact: string;
  shift: string;
  skill: string;
  assignment: string;
  call: string;
  role: string;
  application: string;
  deposit: string;
  certificate: string;
  message: string;
  line: string;
  question: string;
  tally: string;
  countedLocal: string;
  step: string;
  version: number;
}

export interface Row {
  of: (o: Objects) => Record<string, string>;
  body?: (o: Objects) => object;
  query?: (o: Objects) => object;
  own: string;
  other: string;
  far: string;
}

const ofEvent = (o: Objects) => ({ id: o.event });
const ofSurvey = (o: Objects) => ({ id: o.event, survey: o.survey });
const ofLine = (o: Objects) => ({ id: o.event, lineId: o.line });
const ofSeat = (o: Objects) => ({ id: o.registration });
const ofOrder = (o: Objects) => ({ id: o.order });
export const shiftBody = {
  role: 'Landing',
  place: '',
  startsLocal: '2026-07-10T08:00',
  endsLocal: '2026-07-10T12:00',
  wished: 2,
};

/**
 * Who reaches what, written by hand. Three events: one of the unit of the unit lead, tomorrow; one of another unit,
 * tomorrow; one of the own unit, in two months. Letters:
 *
 * C coordinator · A approver for safety · T treasurer · K crew lead · U unit lead of the own unit · D door team ·
 * t treasurer of a third unit · u unit lead without a unit · N nobody signed in
 */
export const table: Partial<Record<Key, Row>> = {
  // Of no event: whoever leads a unit, and not who leads none.
  'POST /api/survey-templates': {
    of: () => ({}),
    body: () => {
      const { id: _, ...survey } = surveyOf([{ id: 'q', kind: 'text' }]);
      return { name: 'Our own', survey, replace: true };
    },
    own: 'CU',
    other: 'CU',
    far: 'CU',
  },
  'POST /api/question-sets': {
    of: () => ({}),
    body: () => ({
      name: 'Our own',
      questions: [{ id: crypto.randomUUID(), kind: 'yes or no', prompt: { en: 'By train?' } }],
    }),
    own: 'CU',
    other: 'CU',
    far: 'CU',
  },
  'GET /api/events/:id': { of: ofEvent, own: 'CATKUD', other: 'CATKD', far: 'CATKU' },
  'PATCH /api/events/:id': {
    of: ofEvent,
    body: (o) => ({ version: o.version, change: { summary: 'On the fen.' } }),
    own: 'CU',
    other: 'C',
    far: 'CU',
  },
  'POST /api/events/:id/state': {
    of: ofEvent,
    body: () => ({ move: 'call off', words: 'Storm' }),
    own: 'CU',
    other: 'C',
    far: 'CU',
  },
  'GET /api/events/:id/again': { of: ofEvent, own: 'CU', other: 'C', far: 'CU' },
  'GET /api/events/:id/clearance': { of: ofEvent, own: 'CAU', other: 'CA', far: 'CAU' },
  'POST /api/events/:id/clearance': { of: ofEvent, own: 'CU', other: 'C', far: 'CU' },
  // The coordinator sent the plan in, so that she does not clear it.
  'POST /api/clearance-steps/:id/decision': {
    of: (o) => ({ id: o.step }),
    body: () => ({ decision: 'clear' }),
    own: 'A',
    other: 'A',
    far: 'A',
  },
  'GET /api/events/:id/registrations': { of: ofEvent, own: 'CTU', other: 'CT', far: 'CTU' },
  'GET /api/events/:id/registrations.csv': { of: ofEvent, own: 'CTU', other: 'CT', far: 'CTU' },
  'GET /api/orders/:id/confirmation.pdf': { of: ofOrder, own: 'CTU', other: 'CT', far: 'CTU' },
  'GET /api/events/:id/registration-views': { of: ofEvent, own: 'CTU', other: 'CT', far: 'CTU' },
  'GET /api/events/:id/sources': { of: ofEvent, own: 'CTU', other: 'CT', far: 'CTU' },
  'POST /api/events/:id/sources': {
    of: ofEvent,
    body: () => ({ name: 'Poster' }),
    own: 'CU',
    other: 'C',
    far: 'CU',
  },
  'POST /api/events/:id/door-list.pdf': { of: ofEvent, body: () => ({}), own: 'CU', other: 'C', far: 'CU' },
  'POST /api/events/:id/seats/move/what-if': {
    of: ofEvent,
    body: (o) => ({ seatIds: [o.registration], offerId: o.offer }),
    own: 'CU',
    other: 'C',
    far: 'CU',
  },
  'POST /api/events/:id/letters/preview': {
    of: ofEvent,
    body: (o) => ({ seatIds: [o.registration], subject: '', body: '' }),
    own: 'CU',
    other: 'C',
    far: 'CU',
  },
  'POST /api/events/:id/seats/withdraw': {
    of: ofEvent,
    body: (o) => ({ seatIds: [o.registration] }),
    own: 'CU',
    other: 'C',
    far: 'CU',
  },
  'POST /api/registrations/:id/withdraw': { of: ofSeat, body: () => ({}), own: 'CU', other: 'C', far: 'CU' },
  'POST /api/orders/:id/offer': { of: ofOrder, body: () => ({}), own: 'CU', other: 'C', far: 'CU' },
  'POST /api/events/:id/orders': {
    of: ofEvent,
    body: (o) =>
      orderFor({ id: o.event, slug: o.slug, offers: [{ id: o.offer, price: 2500 }], questions: [] }, [
        { given: 'Nils', family: 'Quayle' },
      ]),
    own: 'CU',
    other: 'C',
    far: 'CU',
  },
  'GET /api/registrations/:id/signatures': { of: ofSeat, own: 'CUD', other: 'CD', far: 'CU' },
  'POST /api/orders/:id/payments': {
    of: ofOrder,
    body: () => ({ method: 'cash', amount: 100, reason: 'the rest by transfer' }),
    own: 'CTUD',
    other: 'CTD',
    far: 'CTU',
  },
  'POST /api/orders/:id/refunds': {
    of: ofOrder,
    body: () => ({ amount: 100, reason: 'rained out' }),
    own: 'CT',
    other: 'CT',
    far: 'CT',
  },
  'GET /api/events/:id/crew': { of: ofEvent, own: 'CKU', other: 'CK', far: 'CKU' },
  'GET /api/events/:id/crew/figures': { of: ofEvent, own: 'CKU', other: 'CK', far: 'CKU' },
  'GET /api/events/:id/crew.pdf': { of: ofEvent, own: 'CKU', other: 'CK', far: 'CKU' },
  'GET /api/events/:id/crew.csv': { of: ofEvent, own: 'CKU', other: 'CK', far: 'CKU' },
  'POST /api/events/:id/shifts': { of: ofEvent, body: () => shiftBody, own: 'CKU', other: 'CK', far: 'CKU' },
  'POST /api/events/:id/shifts/several': {
    of: ofEvent,
    body: () => ({ shifts: [shiftBody] }),
    own: 'CKU',
    other: 'CK',
    far: 'CKU',
  },
  'PUT /api/shifts/:id': {
    of: (o) => ({ id: o.shift }),
    body: () => ({ ...shiftBody, version: 1 }),
    own: 'CKU',
    other: 'CK',
    far: 'CKU',
  },
  'GET /api/shifts/:id/candidates': {
    of: (o) => ({ id: o.shift }),
    own: 'CKU',
    other: 'CK',
    far: 'CKU',
  },
  'GET /api/events/:id/roster': {
    of: ofEvent,

    own: 'CKU',
    other: 'CK',
    far: 'CKU',
  },
  'POST /api/events/:id/roster': {
    of: ofEvent,
    body: () => ({ seconds: 2 }),
    own: 'CKU',
    other: 'CK',
    far: 'CKU',
  },
  'POST /api/events/:id/roster/stop': {
    of: ofEvent,

    own: 'CKU',
    other: 'CK',
    far: 'CKU',
  },
  'DELETE /api/events/:id/roster': {
    of: ofEvent,

    own: 'CKU',
    other: 'CK',
    far: 'CKU',
  },
  'POST /api/events/:id/roster/accept': {
    of: ofEvent,
    body: (o) => ({ pairs: [{ contactId: o.contact, shiftId: o.shift }] }),
    own: 'CKU',
    other: 'CK',
    far: 'CKU',
  },
  'GET /api/shifts/:id/repair': {
    of: (o) => ({ id: o.shift }),

    own: 'CKU',
    other: 'CK',
    far: 'CKU',
  },
  'POST /api/shifts/:id/repair': {
    of: (o) => ({ id: o.shift }),
    body: (o) => ({ steps: [{ contactId: o.contact, to: o.shift, from: null }] }),
    own: 'CKU',
    other: 'CK',
    far: 'CKU',
  },
  'GET /api/shifts/:id/step-in': {
    of: (o) => ({ id: o.shift }),
    own: 'CKU',
    other: 'CK',
    far: 'CKU',
  },
  'POST /api/shifts/:id/step-in': {
    of: (o) => ({ id: o.shift }),
    own: 'CKU',
    other: 'CK',
    far: 'CKU',
  },
  'DELETE /api/shifts/:id/step-in': {
    of: (o) => ({ id: o.shift }),
    own: 'CKU',
    other: 'CK',
    far: 'CKU',
  },
  'GET /api/events/:id/swaps': {
    of: (o) => ({ id: o.event }),
    own: 'CKU',
    other: 'CK',
    far: 'CKU',
  },
  'POST /api/events/:id/swaps': {
    of: (o) => ({ id: o.event }),
    body: (o) => ({ moves: [{ assignmentId: o.shift, to: o.shift }] }),
    own: 'CKU',
    other: 'CK',
    far: 'CKU',
  },
  'POST /api/events/:id/swaps/decline': {
    of: (o) => ({ id: o.event }),
    body: (o) => ({ assignmentIds: [o.shift] }),
    own: 'CKU',
    other: 'CK',
    far: 'CKU',
  },
  'GET /api/calls/:id/applications': {
    of: (o) => ({ id: o.call }),

    own: 'CKU',
    other: 'CK',
    far: 'CKU',
  },
  'PUT /api/calls/:id': {
    of: (o) => ({ id: o.call }),
    body: (o) => ({
      version: 1,
      title: { en: 'Helpers' },
      words: { en: '' },
      asks: [],
      roles: [o.role],
      open: true,
    }),
    own: 'CKU',
    other: 'CK',
    far: 'CKU',
  },
  'POST /api/calls/:id/invite': {
    of: (o) => ({ id: o.call }),
    body: () => ({ trying: true }),
    own: 'CKU',
    other: 'CK',
    far: 'CKU',
  },
  'POST /api/calls/:id/deposits': {
    of: (o) => ({ id: o.call }),
    body: () => ({ trying: true }),
    own: 'CKU',
    other: 'CK',
    far: 'CKU',
  },
  'POST /api/deposits/:id/received': {
    of: (o) => ({ id: o.deposit }),
    body: () => ({ method: 'cash' }),
    own: 'CKU',
    other: 'CK',
    far: 'CKU',
  },
  'POST /api/deposits/:id/settle': {
    of: (o) => ({ id: o.deposit }),
    body: () => ({ amount: 0, words: 'Left early.' }),
    own: 'CKU',
    other: 'CK',
    far: 'CKU',
  },
  'POST /api/deposits/:id/let-off': {
    of: (o) => ({ id: o.deposit }),
    own: 'CKU',
    other: 'CK',
    far: 'CKU',
  },
  'POST /api/applications/decide': {
    of: () => ({}),
    body: (o) => ({ ids: [o.application], to: 'accepted' }),
    own: 'CKU',
    other: 'CK',
    far: 'CKU',
  },
  'POST /api/applications/:id/ask': {
    of: (o) => ({ id: o.application }),
    body: () => ({ words: 'Since when?' }),
    own: 'CKU',
    other: 'CK',
    far: 'CKU',
  },
  'POST /api/applications/:id/again': {
    of: (o) => ({ id: o.application }),
    body: () => ({ take: false }),
    own: 'CKU',
    other: 'CK',
    far: 'CKU',
  },
  'POST /api/applications/:id/skills/:skill/seen': {
    of: (o) => ({ id: o.application, skill: o.skill }),

    own: 'CKU',
    other: 'CK',
    far: 'CKU',
  },
  'GET /api/applications/:id/files/:file': {
    of: (o) => ({ id: o.application, file: o.certificate }),

    own: 'CKU',
    other: 'CK',
    far: 'CKU',
  },
  'POST /api/applications/:id/pairs': {
    of: (o) => ({ id: o.application }),
    body: (o) => ({ contactId: o.contact, kind: 'apart' }),
    own: 'CKU',
    other: 'CK',
    far: 'CKU',
  },
  'POST /api/shifts/:id/cut': {
    of: (o) => ({ id: o.shift }),
    body: () => ({ version: 1, parts: 2 }),
    own: 'CKU',
    other: 'CK',
    far: 'CKU',
  },
  'GET /api/contacts/:id/skills': { of: (o) => ({ id: o.contact }), own: 'CKU', other: 'CK', far: 'CKU' },
  'PUT /api/contacts/:id/skills/:skill': {
    of: (o) => ({ id: o.contact, skill: o.skill }),
    body: () => ({ seen: true }),
    own: 'CKU',
    other: 'CK',
    far: 'CKU',
  },
  'DELETE /api/contacts/:id/skills/:skill': {
    of: (o) => ({ id: o.contact, skill: o.skill }),
    own: 'CKU',
    other: 'CK',
    far: 'CKU',
  },
  'DELETE /api/shifts/:id': { of: (o) => ({ id: o.shift }), own: 'CKU', other: 'CK', far: 'CKU' },
  'POST /api/shifts/:id/assignments': {
    of: (o) => ({ id: o.shift }),
    body: (o) => ({ contactId: o.contact }),
    own: 'CKU',
    other: 'CK',
    far: 'CKU',
  },
  'POST /api/events/:id/crew/mail': {
    of: ofEvent,
    body: () => ({ subject: 'News', words: 'The tide is early.', trying: true }),
    own: 'CKU',
    other: 'CK',
    far: 'CKU',
  },
  'POST /api/assignments/:id/hours': {
    of: (o) => ({ id: o.assignment }),
    body: () => ({ hours: 2, why: 'Left early' }),
    own: 'CKU',
    other: 'CK',
    far: 'CKU',
  },
  'POST /api/assignments/:id/presence': {
    of: (o) => ({ id: o.assignment }),
    body: () => ({ to: 'expected' }),
    own: 'CKUD',
    other: 'CKD',
    far: 'CKU',
  },
  'POST /api/assignments/:id/signatures': {
    of: (o) => ({ id: o.assignment }),
    body: (o) => ({
      waiverId: o.waiver,
      version: 3,
      relation: 'self',
      typedName: 'Sunniva Aldous',
      ticked: [],
    }),
    own: 'CKUD',
    other: 'CKD',
    far: 'CKU',
  },
  'GET /api/events/:id/doors/crew': { of: ofEvent, own: 'CKUD', other: 'CKD', far: 'CKU' },
  'GET /api/contacts/:id/hours.pdf': {
    of: (o) => ({ id: o.contact }),
    query: () => ({ from: '2026-01-01', until: '2026-12-31' }),
    own: 'CKU',
    other: 'CK',
    far: 'CKU',
  },
  'POST /api/assignments/:id/state': {
    of: (o) => ({ id: o.assignment }),
    body: () => ({ state: 'dropped' }),
    own: 'CKU',
    other: 'CK',
    far: 'CKU',
  },
  'GET /api/events/:id/messages/people': { of: ofEvent, own: 'CU', other: 'C', far: 'CU' },
  'GET /api/events/:id/messages/template': { of: ofEvent, own: 'CU', other: 'C', far: 'CU' },
  'POST /api/events/:id/messages/template': {
    of: ofEvent,
    body: () => ({ rows: [crypto.randomUUID()] }),
    own: 'CU',
    other: 'C',
    far: 'CU',
  },
  'GET /api/events/:id/messages': { of: ofEvent, own: 'CU', other: 'C', far: 'CU' },
  'GET /api/events/:id/lines/:lineId/now': { of: ofLine, own: 'CU', other: 'C', far: 'CU' },
  'POST /api/events/:id/lines/:lineId/send': {
    of: ofLine,
    body: () => ({ expect: 1 }),
    own: 'CU',
    other: 'C',
    far: 'CU',
  },
  'GET /api/events/:id/lines/:lineId/preview': {
    of: ofLine,
    query: (o) => ({ key: o.registration }),
    own: 'CU',
    other: 'C',
    far: 'CU',
  },
  'GET /api/events/:id/board': { of: ofEvent, own: 'CU', other: 'C', far: 'CU' },
  'PUT /api/events/:id/board': {
    of: ofEvent,
    body: () => ({ on: true, shown: 'at once' }),
    own: 'CU',
    other: 'C',
    far: 'CU',
  },
  'POST /api/events/:id/board/:question': {
    of: (o) => ({ id: o.event, question: o.question }),
    body: () => ({ state: 'hidden' }),
    own: 'CU',
    other: 'C',
    far: 'CU',
  },
  'POST /api/events/:id/lines/preview': {
    of: ofEvent,
    body: () => ({ line: lineOn('start') }),
    own: 'CU',
    other: 'C',
    far: 'CU',
  },
  'PUT /api/events/:id/sending': {
    of: ofEvent,
    body: () => ({ stop: true }),
    own: 'CU',
    other: 'C',
    far: 'CU',
  },
  'POST /api/events/:id/lines/:lineId/test': {
    of: ofLine,
    body: (o) => ({ key: o.registration }),
    own: 'CU',
    other: 'C',
    far: 'CU',
  },
  'GET /api/messages/:id': { of: (o) => ({ id: o.message }), own: 'CU', other: 'C', far: 'CU' },
  'POST /api/messages/:id/retry': {
    of: (o) => ({ id: o.message }),
    body: () => ({}),
    own: 'C',
    other: 'C',
    far: 'C',
  },
  'GET /api/events/:id/doors': { of: ofEvent, own: 'CKUD', other: 'CKD', far: 'CKU' },
  'GET /api/registrations/:id/care': { of: ofSeat, own: 'CUD', other: 'CD', far: 'CU' },
  'POST /api/events/:id/scan': {
    of: ofEvent,
    body: () => ({ code: 'nothing of ours' }),
    own: 'CKUD',
    other: 'CKD',
    far: 'CKU',
  },
  'POST /api/registrations/:id/attendance': {
    of: ofSeat,
    body: (o) => ({ eventId: o.event, state: 'arrived', despite: 'known to us' }),
    own: 'CKUD',
    other: 'CKD',
    far: 'CKU',
  },
  'GET /api/events/:id/attendance': { of: ofEvent, own: 'CKUD', other: 'CKD', far: 'CKU' },
  'GET /api/registrations/:id/attendance': { of: ofSeat, own: 'CKUD', other: 'CKD', far: 'CKU' },
  'PUT /api/registrations/:id/attendance': {
    of: ofSeat,
    body: () => ({ stays: [], why: 'A slip of the hand' }),
    own: 'CKUD',
    other: 'CKD',
    far: 'CKU',
  },
  'GET /api/events/:id/doors/live': { of: ofEvent, own: 'CKUD', other: 'CKD', far: 'CKU' },
  'POST /api/registrations/:id/name-tag.pdf': {
    of: ofSeat,
    body: () => ({}),
    own: 'CKUD',
    other: 'CKD',
    far: 'CKU',
  },
  'GET /api/events/:id/known/:contact': {
    of: (o) => ({ id: o.event, contact: o.contact }),
    own: 'CKUD',
    other: 'CKD',
    far: 'CKU',
  },
  'POST /api/events/:id/doors/close': {
    of: ofEvent,
    body: () => ({ closed: true }),
    own: 'CKU',
    other: 'CK',
    far: 'CKU',
  },
  'POST /api/events/:id/attendance/check': {
    of: ofEvent,
    body: () => ({ fileName: 'a.csv', content: 'TmFtZSxFbWFpbApBZGEsYUBiLmNhCg==' }),
    own: 'CKU',
    other: 'CK',
    far: 'CKU',
  },
  'GET /api/events/:id/inside': { of: ofEvent, own: 'CUD', other: 'CD', far: 'CU' },
  'PUT /api/events/:id/self-check-in': {
    of: ofEvent,
    body: () => ({ on: true }),
    own: 'CKU',
    other: 'CK',
    far: 'CKU',
  },
  'GET /api/events/:id/signing': { of: ofEvent, own: 'CKUD', other: 'CKD', far: 'CKU' },
  'POST /api/events/:id/signing/reminders': {
    of: ofEvent,
    body: () => ({ keys: ['seat nobody'] }),
    own: 'CKU',
    other: 'CK',
    far: 'CKU',
  },
  'POST /api/registrations/:id/signatures': {
    of: ofSeat,
    body: (o) => ({
      waiverId: o.waiver,
      version: 3,
      relation: 'self',
      typedName: 'Sunniva Aldous',
      ticked: [],
    }),
    own: 'CKUD',
    other: 'CKD',
    far: 'CKU',
  },
  'POST /api/events/:id/walk-ins': {
    of: ofEvent,
    body: (o) => ({ given: 'Corin', family: 'Blythe', offerId: o.offer, despite: 'pays later' }),
    own: 'CKUD',
    other: 'CKD',
    far: 'CKU',
  },
  'GET /api/events/:id/lessons': { of: ofEvent, own: 'CATKUD', other: 'CATKD', far: 'CATKU' },
  'POST /api/events/:id/lessons': {
    of: ofEvent,
    body: () => ({ stage: 'crew', text: 'One more at the landing.' }),
    own: 'CKU',
    other: 'CK',
    far: 'CKU',
  },
  'PATCH /api/events/:id/lessons/:lesson': {
    of: (o) => ({ id: o.event, lesson: o.lesson }),
    body: () => ({ stage: 'crew', text: 'Two more at the landing.' }),
    own: 'CKU',
    other: 'CK',
    far: 'CKU',
  },
  'PUT /api/events/:id/lessons/:lesson/settled': {
    of: (o) => ({ id: o.next, lesson: o.lesson }),
    body: () => ({ settled: true }),
    own: 'CKU',
    other: 'CK',
    far: 'CKU',
  },
  'GET /api/events/:id/surveys': { of: ofEvent, own: 'CTU', other: 'CT', far: 'CTU' },
  'GET /api/events/:id/surveys/:survey': { of: ofSurvey, own: 'CTU', other: 'CT', far: 'CTU' },
  'GET /api/events/:id/surveys/:survey/answers.csv': { of: ofSurvey, own: 'CU', other: 'C', far: 'CU' },
  'GET /api/events/:id/figures': { of: ofEvent, own: 'CTU', other: 'CT', far: 'CTU' },
  'GET /api/records/series': { of: () => ({}), own: 'CTK', other: 'CTK', far: 'CTK' },
  'GET /api/records/returns': { of: () => ({}), own: 'CTK', other: 'CTK', far: 'CTK' },
  'GET /api/records/paths': { of: () => ({}), own: 'CTK', other: 'CTK', far: 'CTK' },
  'GET /api/records/audiences': { of: () => ({}), own: 'CTK', other: 'CTK', far: 'CTK' },
  'GET /api/records/timing': { of: () => ({}), own: 'CTK', other: 'CTK', far: 'CTK' },
  'GET /api/records/drifting': { of: () => ({}), own: 'CK', other: 'CK', far: 'CK' },
  'GET /api/records/events': {
    of: () => ({}),
    query: (o) => ({ ids: o.event }),
    own: 'CTU',
    other: 'CT',
    far: 'CTU',
  },
  'GET /api/reports': { of: () => ({}), own: 'CT', other: 'CT', far: 'CT' },
  'POST /api/reports': {
    of: () => ({}),
    body: (o) => ({ title: 'Of one event', eventId: o.event }),
    own: 'CT',
    other: 'CT',
    far: 'CT',
  },
  'GET /api/events/:id/outcomes': { of: ofEvent, own: 'CTU', other: 'CT', far: 'CTU' },
  'GET /api/events/:id/tallies.csv': { of: ofEvent, own: 'CTU', other: 'CT', far: 'CTU' },
  'GET /api/events/:id/counting.pdf': { of: ofEvent, own: 'CTU', other: 'CT', far: 'CTU' },
  'POST /api/events/:id/tallies/decided': {
    of: ofEvent,
    body: (o) => ({ ids: [o.tally], state: 'set aside' }),
    own: 'CU',
    other: 'C',
    far: 'CU',
  },
  'PATCH /api/events/:id/tallies/:tally': {
    of: (o) => ({ id: o.event, tally: o.tally }),
    body: (o) => ({
      said: '3',
      thing: '',
      countedLocal: o.countedLocal,
      place: '',
      note: '',
      why: 'A slip',
      version: 1,
    }),
    own: 'CU',
    other: 'C',
    far: 'CU',
  },
  'PUT /api/events/:id/counting': {
    of: ofEvent,
    body: () => ({ on: true }),
    own: 'CU',
    other: 'C',
    far: 'CU',
  },
  // The record itself: a unit lead sees whoever takes part in their unit.
  'GET /api/contacts/:id': { of: (o) => ({ id: o.contact }), own: 'CTKU', other: 'CTK', far: 'CTKU' },
  'GET /api/contacts/:id/lifeline': {
    of: (o) => ({ id: o.contact }),
    own: 'CTKU',
    other: 'CTK',
    far: 'CTKU',
  },
  'POST /api/contacts/:id/notes': {
    of: (o) => ({ id: o.contact }),
    body: () => ({ text: 'Asked about parking.' }),
    own: 'CTKU',
    other: 'CTK',
    far: 'CTKU',
  },
};
