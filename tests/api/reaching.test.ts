import { afterAll, beforeAll, describe, expect, test } from 'vitest';
import type { Everything } from '#contract/index.ts';
import { type Caller, makeWorld, takeWritesBack, type World } from './harness.ts';
import { lineOn } from './messageLines.ts';
import { openEvent, orderFor, signs, surveyOf } from './scenes.ts';

/**
 * Who reaches what, written by hand. Three events: one of the unit of the unit lead, tomorrow; one of another unit,
 * tomorrow; one of the own unit, in two months. Letters:
 *
 * C coordinator · A approver for safety · T treasurer · K crew lead · U unit lead of the own unit · D door team ·
 * t treasurer of a third unit · u unit lead without a unit · N nobody signed in
 */
type Key = keyof Everything;
type Letter = 'C' | 'A' | 'T' | 'K' | 'U' | 'D' | 't' | 'u' | 'N';

interface Objects {
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
  step: string;
  version: number;
}

interface Row {
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
const shiftBody = {
  role: 'Landing',
  place: '',
  startsLocal: '2026-07-10T08:00',
  endsLocal: '2026-07-10T12:00',
  wished: 2,
};

const table: Partial<Record<Key, Row>> = {
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

describe('who reaches what', () => {
  let world: World;
  const callers = new Map<Letter, Caller>();
  const objects = {} as Record<'own' | 'other' | 'far', Objects>;

  async function makeObjects(unit: string, day: string, name: string): Promise<Objects> {
    const odalys = await world.as('odalys');
    const event = await openEvent(world, {
      title: `Day of ${unit} ${day}`,
      unit,
      startsLocal: `${day}T09:00`,
      endsLocal: `${day}T16:00`,
      price: 2500,
      so: ['boats', 'money'],
      waiver: 'On the water',
      surveys: [surveyOf([{ id: 'q', kind: 'text' }])],
    });
    const [survey] = await odalys.call('GET /api/events/:id/surveys', { params: { id: event.id } });
    const lesson = await odalys.call('POST /api/events/:id/lessons', {
      params: { id: event.id },
      body: { stage: 'crew', text: 'One more at the landing.' },
    });
    const next = await odalys.call('POST /api/events', {
      body: { publicTitle: `Next day of ${unit}`, from: event.id, date: '2027-08-07' },
    });
    const { steps } = await odalys.call('GET /api/events/:id/clearance', { params: { id: event.id } });
    await odalys.call('POST /api/events/:id/orders', {
      params: { id: event.id },
      body: orderFor(event, [{ given: name, family: 'Aldous', birthDate: '1988-02-03' }]),
    });
    await world.runner.run();
    const { rows } = await odalys.call('GET /api/events/:id/registrations', { params: { id: event.id } });
    const [waiver] = (await odalys.call('GET /api/events/:id/doors', { params: { id: event.id } })).waivers;
    await odalys.call('POST /api/registrations/:id/signatures', {
      params: { id: rows[0]!.id },
      body: {
        relation: 'self',
        ...signs(waiver!, `${name} Aldous`),
      },
    });
    const shift = await odalys.call('POST /api/events/:id/shifts', {
      params: { id: event.id },
      body: { ...shiftBody, startsLocal: `${day}T08:00`, endsLocal: `${day}T12:00` },
    });
    const person = await odalys.call('POST /api/contacts', {
      body: {
        given: `${name}helper`,
        family: 'Tansley',
        email: `${name}.helper@fenmail.example`.toLowerCase(),
      },
    });
    await odalys.call('POST /api/shifts/:id/assignments', {
      params: { id: shift.id },
      body: { contactId: person.id },
    });
    const skills = await odalys.call('GET /api/roles');
    const role = skills.roles.find((r) => r.name === 'Landing')!.id;
    const call = await odalys.call('POST /api/calls', {
      body: {
        eventId: event.id,
        title: { en: `Help at ${event.slug}` },
        words: { en: '' },
        asks: ['skills'],
        roles: [role],
        open: true,
      },
    });
    const file = await world.anyone.call('POST /api/public/calls/:slug/files', {
      params: { slug: call.slug },
      body: { name: 'ticket.txt', content: Buffer.from('Boat handling').toString('base64') },
    });
    const saying = (experience: string) =>
      world.anyone.call('POST /api/public/calls/:slug', {
        params: { slug: call.slug },
        body: {
          person: {
            given: `Helper${name}`,
            family: 'Lowry',
            email: `helper.${name.toLowerCase()}@fenmail.example`,
          },
          said: {
            wishes: [{ roleId: role, weight: 2 }],
            skills: [{ skillId: skills.skills[0]!.id, number: '7', until: '2027-01-01', fileId: file.id }],
            experience,
          },
        },
      });
    await saying('');
    await saying('');
    const [application] = await world.app.db.query<{ id: string }>(
      'update applications set again = said || \'{"experience": "Much"}\' where call_id = $1 returning id',
      [call.id],
    );
    const [deposit] = await world.app.db.query<{ id: string }>(
      `insert into deposits (id, call_id, application_id, contact_id, event_id, amount, currency, back, notice_hours, state, asked_at)
       select gen_random_uuid(), call_id, id, contact_id, $2, 2000, 'CAD', 'every', 24, 'asked', changed_at from applications where id = $1 returning id`,
      [application!.id, event.id],
    );
    const crew = await odalys.call('GET /api/events/:id/crew', { params: { id: event.id } });
    const [message] = await world.app.db.query<{ id: string }>(
      'select id from messages where event_id = $1 and contact_id is not null order by id limit 1',
      [event.id],
    );
    await odalys.call('PUT /api/events/:id/board', {
      params: { id: event.id },
      body: { on: true, shown: 'at once' },
    });
    await odalys.call('POST /api/public/events/:slug/board', {
      params: { slug: event.slug },
      body: { name: 'Asks Aldous', email: 'asks@fenmail.example', words: 'Is there parking?' },
    });
    const board = await odalys.call('GET /api/events/:id/board', { params: { id: event.id } });
    const page = await odalys.call('GET /api/events/:id', { params: { id: event.id } });
    return {
      survey: survey!.id,
      lesson: lesson.id,
      next: next.id,
      question: board.questions[0]!.id,
      event: event.id,
      slug: event.slug,
      offer: event.offers[0]!.id,
      waiver: waiver!.id,
      order: rows[0]!.orderId,
      registration: rows[0]!.id,
      contact: rows[0]!.contactId!,
      shift: shift.id,
      skill: skills.skills[0]!.id,
      call: call.id,
      role,
      application: application!.id,
      deposit: deposit!.id,
      certificate: file.id,
      assignment: crew.shifts[0]!.assignments[0]!.id,
      message: message!.id,
      line: page.plan.messages.find((l) => l.moment === 'start')!.id,
      step: steps.find((s) => s.approves === 'safety')!.id,
      version: page.version,
    };
  }

  beforeAll(async () => {
    world = await makeWorld();
    const { db } = world.app;
    objects.own = await makeObjects('Small Boats', '2026-07-10', 'Sunniva');
    objects.other = await makeObjects('Mudlarks', '2026-07-10', 'Torben');
    objects.far = await makeObjects('Small Boats', '2026-09-10', 'Ulrika');
    // One role each; and one account more of two kinds.
    await db.query("update staff set roles = '{treasurer}', approves = '{}' where email like 'marit%'");
    await db.query(
      `insert into staff (id, name, email, email_key, password_hash, roles, approves, unit_id, created_at)
       select gen_random_uuid(), x.name, x.name || '@brackenmere.example', x.name || '@brackenmere.example', s.password_hash, x.roles::text[], '{}',
         case when x.unit <> '' then (select id from units where name = x.unit) end, s.created_at
       from staff s, (values ('third', '{treasurer}', 'Night Herons'), ('loose', '{"unit lead"}', '')) x(name, roles, unit)
       where s.email like 'odalys%'`,
    );
    const people = {
      C: 'odalys',
      A: 'tobias',
      T: 'marit',
      K: 'imani',
      U: 'piers',
      D: 'door',
      t: 'third',
      u: 'loose',
    };
    for (const [letter, name] of Object.entries(people))
      callers.set(letter as Letter, await world.as(name as 'odalys'));
    callers.set('N', world.anyone);
    // Something in every field of one record, and answers in the registration.
    const odalys = await world.as('odalys');
    const params = { id: objects.own.contact };
    await odalys.call('PATCH /api/contacts/:id', {
      params,
      body: { street: '9 Sluice Lane', postalCode: 'B0K 1A0', dietary: 'wasp stings' },
    });
    await odalys.call('POST /api/contacts/:id/notes', { params, body: { text: 'Allergic to wasp stings.' } });
    await odalys.call('POST /api/tags', { body: { tag: 'paddler', ids: [params.id] } });
    await odalys.call('POST /api/contacts/:id/consents', {
      params,
      body: { topic: 'newsletter', channel: 'email', granted: true },
    });
    await odalys.call('POST /api/orders/:id/payments', {
      params: { id: objects.own.order },
      body: { method: 'cash', amount: 500 },
    });
    // Every write is taken back at its end, so that each caller finds the same.
    takeWritesBack(world);
  });
  afterAll(() => world.close());

  for (const [key, row] of Object.entries(table) as [Key, Row][])
    test(key, async () => {
      const found = { own: '', other: '', far: '' };
      for (const where of ['own', 'other', 'far'] as const)
        for (const [letter, caller] of callers) {
          const o = objects[where];
          const reply = await caller.try(key, {
            params: row.of(o) as never,
            ...(key.startsWith('GET') ? {} : { body: (row.body?.(o) ?? {}) as never }),
            ...(row.query ? { query: row.query(o) as never } : {}),
          });
          expect(reply.status, JSON.stringify(reply.problem)).toBeLessThan(500);
          // What is refused says nothing of what is there: also “there is nothing” is a refusal.
          const refused = [401, 403, 404].includes(reply.status);
          if (!refused) found[where] += letter;
          if (!refused)
            // Asked as it should be: no refusal of what was written stands in for one of who wrote it.
            expect(
              ['invalid', 'unticked'].includes(reply.problem?.code) ? [] : [200, 201, 409, 418],
              `${letter} ${where} ${JSON.stringify(reply.problem)}`,
            ).toContain(reply.status);
        }
      expect(found).toEqual({ own: row.own, other: row.other, far: row.far });
    });

  /** Which of the fields hold something, for each who reaches it. */
  const fieldsSeen = async (look: (caller: Caller) => Promise<Record<string, unknown> | null>) => {
    const seen: Record<string, string> = {};
    for (const [letter, caller] of callers) {
      const record = await look(caller);
      if (record)
        seen[letter] = Object.entries(record)
          .filter(
            ([, v]) => v !== null && v !== '' && v !== 0 && v !== false && !(Array.isArray(v) && !v.length),
          )
          .map(([k]) => k)
          .join(' ');
    }
    return seen;
  };

  test('fields of a record', async () => {
    const seen = await fieldsSeen(async (caller) => {
      const { status, body: r } = await caller.try('GET /api/contacts/:id', {
        params: { id: objects.own.contact },
      });
      if (status !== 200) return null;
      const { emails, birthDate, age, street, postalCode, dietary, notes, tags, consents, totals, source } =
        r;
      const { coming, firstSeen } = totals;
      return {
        emails,
        birthDate,
        age,
        street,
        postalCode,
        dietary,
        notes,
        tags,
        consents,
        coming,
        firstSeen,
        source,
      };
    });
    expect(seen).toEqual({
      C: 'emails birthDate age street postalCode dietary notes tags consents coming source',
      T: 'emails street postalCode tags',
      K: 'emails age tags consents',
      U: 'emails age coming',
    });
  });

  test('fields of a line in the list and of a search', async () => {
    const line = (l: { email: string | null; postalCode: string | null; tags: string[] } | undefined) =>
      l ? { email: l.email, postalCode: l.postalCode, tags: l.tags } : null;
    expect(
      await fieldsSeen(async (caller) => {
        const { status, body } = await caller.try('GET /api/contacts', { query: { q: 'Sunniva Aldous' } });
        return status === 200 ? line(body.contacts[0]) : null;
      }),
    ).toEqual({ C: 'email postalCode tags', T: 'email postalCode tags', K: 'email tags' });
    expect(
      await fieldsSeen(async (caller) => {
        const { status, body } = await caller.try('GET /api/search', { query: { q: 'Sunniva Aldous' } });
        return status === 200 ? line(body.contacts[0]) : null;
      }),
    ).toEqual({ C: 'email postalCode tags', T: 'email postalCode tags', K: 'email tags', U: 'email' });
    expect(
      await fieldsSeen(async (caller) => {
        const { status, body } = await caller.try('GET /api/search', { query: { q: 'Torben Aldous' } });
        return status === 200 ? line(body.contacts[0]) : null;
      }),
    ).toEqual({ C: 'email', T: 'email', K: 'email' });
  });

  test('fields of a registration, and of a line at the door', async () => {
    expect(
      await fieldsSeen(async (caller) => {
        const { status, body } = await caller.try('GET /api/events/:id/registrations', {
          params: { id: objects.own.event },
        });
        if (status !== 200) return null;
        const { due, received, linkReasons, contactId, care } = body.rows[0]!;
        return { due, received, linkReasons, contactId, care };
      }),
    ).toEqual({
      C: 'due received linkReasons contactId care',
      T: 'due received contactId',
      U: 'due received linkReasons contactId care',
    });
    expect(
      await fieldsSeen(async (caller) => {
        const { status, body } = await caller.try('GET /api/events/:id/doors', {
          params: { id: objects.own.event },
        });
        if (status !== 200) return null;
        const said = JSON.stringify(body.rows);
        return {
          care: body.rows[0]!.care,
          health: said.includes('wasp'),
          email: said.includes('@'),
          birth: said.includes('1988'),
        };
      }),
    ).toEqual({ C: 'care', K: '', U: 'care', D: 'care' });
  });

  test('no answer to the door team or to another unit holds what is not theirs', async () => {
    const secrets = ['wasp', '1988-02-03', '9 Sluice Lane', 'sunniva.aldous@', '/m/', '/own/', '/crew/'];
    const reads = Object.entries(table).filter(([key]) => key.startsWith('GET'));
    for (const letter of ['D', 't', 'u', 'N'] as const)
      for (const [key, row] of reads) {
        // Reading about health is what the door does there, and it is written down.
        if (key === 'GET /api/registrations/:id/care' || key === 'GET /api/registrations/:id/signatures')
          continue;
        const { body } = await callers.get(letter)!.try(key as 'GET /api/events/:id', {
          params: row.of(objects.own) as never,
        });
        const said = JSON.stringify(body);
        expect(
          secrets.filter((s) => said.includes(s)),
          `${letter} ${key}`,
        ).toEqual([]);
      }
  });
});
