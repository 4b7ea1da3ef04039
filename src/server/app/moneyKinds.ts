import { type Entry, event, ofEvent, order, type Telling } from './telling.ts';

/** The deposit of a volunteer. */
interface OfDeposit {
  depositId: string;
  /** Null once whoever left it was erased. */
  applicationId: string | null;
  contactId: string;
  eventId: string | null;
}

/** What can happen to money: of bookings, gifts, receipts, at the processor and the bank, and in the account of an event. */
export interface MoneyFacts {
  'money received': { eventId: string; orderId: string; amount: number; method: string };
  'money let off': { eventId: string; orderId: string; amount: number; reason: string };
  /** Money that came after the seats were gone went back by itself. */
  'late payment returned': { eventId: string; orderId: string };
  /** A refund did not reach the card: it is owed back again. */
  'refund failed': { eventId: string; orderId: string; amount: number; words: string };
  /** Somebody contests a charge at their bank. */
  'payment contested': { eventId: string | null; chargeId: string; amount: number };
  /** The bank decided against us: what was paid is owed again. */
  'payment taken back': { eventId: string; orderId: string; amount: number };
  /** Money came in for a gift apart from an order: it is given. */
  'gift received': { giftId: string; eventId: string | null; amount: number; method: string };
  'gift hidden': { giftId: string; hidden: boolean };
  'gift returned': { giftId: string; eventId: string | null; amount: number; reason: string };
  'gift refund failed': { giftId: string; eventId: string | null; amount: number; words: string };
  'gift taken back': { giftId: string; eventId: string | null; amount: number };
  /** A volunteer was asked to leave a deposit. */
  'deposit asked for': OfDeposit & { amount: number };
  'deposit received': OfDeposit & { amount: number; method: string };
  'deposit let off': OfDeposit;
  /** So much of it went back, the rest is kept. */
  'deposit settled': OfDeposit & { amount: number; kept: number; words: string; tell: boolean };
  'deposit refund failed': OfDeposit & { amount: number; words: string };
  'deposit taken back': OfDeposit & { amount: number };
  /** A charge for a gift was declined. */
  'gift declined': { giftId: string; words: string };
  'giving page changed': { pageId: string; title: string; how: string };
  'pledge changed': { pledgeId: string; how: string };
  'receipt written': { receiptId: string; number: string; contactId: string };
  'receipt voided': { receiptId: string; number: string; why: string };
  'receipts of a year': { batchId: string; year: number; how: string };
  'receipts set up': object;
  /** What seats at an event are worth, for receipts. */
  'seats valued': { eventId: string };
  /** Whose payment a seat is. */
  'seat receipted': { eventId: string; registrationId: string; own: boolean };
  'bank file brought in': { name: string; lines: number };
  'bank line settled': { lineId: string; how: string };
  'account codes changed': object;
  'account planned': { eventId: string };
  /** Below nought where it was taken back. */
  'cost recorded': { eventId: string; costId: string; what: string; amount: number };
  'card move put aside': { moveId: string; kind: string; why: string };
  'card move settled': { moveId: string; words: string };
  'money returned': { eventId: string; orderId: string; amount: number; reason: string; gift: boolean };
  /** What was owed back is left with the organization. */
  'left as a gift': { eventId: string; orderId: string; amount: number };
}

const ofGift = (): readonly string[] => ['money', 'people', 'events'];
const ofWhom = (f: OfDeposit) => ({ kind: 'contact', id: f.contactId }) as const;
const said = (action: string, subject: Entry['subject'], detail?: object): Entry => ({
  action,
  subject,
  ...(detail ? { detail } : {}),
});

/** What each of them leaves behind by itself. */
export const moneyTellings: { readonly [K in keyof MoneyFacts]: Telling<MoneyFacts[K]> } = {
  'money received': {
    entry: (f) => said('received money', order(f.orderId), { amount: f.amount, method: f.method }),
    topics: ofEvent,
  },
  'money let off': {
    entry: (f) =>
      said('let money off', order(f.orderId), { amount: f.amount, method: 'waived', reason: f.reason }),
    topics: ofEvent,
  },
  'late payment returned': { topics: ofEvent },
  'refund failed': {
    entry: (f) => said('a refund did not go through', order(f.orderId), { amount: f.amount, words: f.words }),
    topics: ofEvent,
  },
  'payment contested': {
    entry: (f) => said('a payment is contested', { kind: 'charge', id: f.chargeId }, { amount: f.amount }),
    topics: ofEvent,
  },
  'payment taken back': {
    entry: (f) => said('the bank took a payment back', order(f.orderId), { amount: f.amount }),
    topics: ofEvent,
  },
  'gift received': {
    entry: (f) =>
      said('received a gift', { kind: 'gift', id: f.giftId }, { amount: f.amount, method: f.method }),
    topics: ofGift,
  },
  'gift hidden': {
    entry: (f) =>
      said(f.hidden ? 'kept a gift off its page' : 'showed a gift on its page again', {
        kind: 'gift',
        id: f.giftId,
      }),
    topics: ofGift,
  },
  'gift returned': {
    entry: (f) =>
      said('returned a gift', { kind: 'gift', id: f.giftId }, { amount: f.amount, reason: f.reason }),
    topics: ofGift,
  },
  'gift refund failed': {
    entry: (f) =>
      said(
        'a refund did not go through',
        { kind: 'gift', id: f.giftId },
        { amount: f.amount, words: f.words },
      ),
    topics: ofGift,
  },
  'gift taken back': {
    entry: (f) => said('the bank took a payment back', { kind: 'gift', id: f.giftId }, { amount: f.amount }),
    topics: ofGift,
  },
  'deposit asked for': {
    entry: (f) => said('asked for a deposit', ofWhom(f), { amount: f.amount }),
    topics: ofGift,
  },
  'deposit received': {
    entry: (f) => said('received a deposit', ofWhom(f), { amount: f.amount, method: f.method }),
    topics: ofGift,
  },
  'deposit let off': { entry: (f) => said('let a deposit off', ofWhom(f)), topics: ofGift },
  'deposit settled': {
    entry: (f) =>
      said('settled a deposit', ofWhom(f), { amount: f.amount, kept: f.kept, words: f.words, told: f.tell }),
    topics: ofGift,
  },
  'deposit refund failed': {
    entry: (f) => said('a refund did not go through', ofWhom(f), { amount: f.amount, words: f.words }),
    topics: ofGift,
  },
  'deposit taken back': {
    entry: (f) => said('the bank took a payment back', ofWhom(f), { amount: f.amount }),
    topics: ofGift,
  },
  'gift declined': { topics: ofGift },
  'giving page changed': {
    entry: (f) =>
      said(`${f.how} a page to give on`, { kind: 'giving page', id: f.pageId }, { title: f.title }),
    topics: ofGift,
  },
  'pledge changed': {
    entry: (f) => said(`${f.how} a monthly gift`, { kind: 'pledge', id: f.pledgeId }),
    topics: ofGift,
  },
  'receipt written': {
    entry: (f) => said('wrote a receipt', { kind: 'receipt', id: f.receiptId }, { number: f.number }),
    topics: ofGift,
  },
  'receipt voided': {
    entry: (f) =>
      said('voided a receipt', { kind: 'receipt', id: f.receiptId }, { number: f.number, why: f.why }),
    topics: ofGift,
  },
  'receipts of a year': {
    entry: (f) =>
      said(`${f.how} the receipts of a year`, { kind: 'receipts', id: f.batchId }, { year: f.year }),
    topics: ofGift,
  },
  'receipts set up': {
    entry: () => said('set receipts up', { kind: 'organization', id: null }),
    topics: ofGift,
  },
  'seats valued': {
    entry: (f) => said('said what seats are worth', event(f.eventId)),
    topics: ofEvent,
  },
  'seat receipted': {
    entry: (f) =>
      said('said whose payment a seat is', { kind: 'registration', id: f.registrationId }, { own: f.own }),
    topics: ofEvent,
  },
  'bank file brought in': {
    entry: (f) =>
      said('brought in a file of the bank', { kind: 'bank', id: null }, { name: f.name, lines: f.lines }),
    topics: ofGift,
  },
  'bank line settled': {
    entry: (f) =>
      said('said what a line of the bank is', { kind: 'bank line', id: f.lineId }, { how: f.how }),
    topics: ofGift,
  },
  'account codes changed': {
    entry: () => said('changed the codes of accounts', { kind: 'organization', id: null }),
    topics: ofGift,
  },
  'account planned': {
    entry: (f) => said('planned what it brings and costs', event(f.eventId)),
    topics: ofEvent,
  },
  'cost recorded': {
    entry: (f) =>
      said(f.amount > 0 ? 'recorded a cost' : 'took a cost back', event(f.eventId), {
        what: f.what,
        amount: f.amount,
      }),
    topics: ofEvent,
  },
  'card move put aside': {
    entry: (f) =>
      said(
        'put a move at the processor aside',
        { kind: 'card move', id: null },
        { move: f.moveId, kind: f.kind, why: f.why },
      ),
    topics: () => ['money'],
  },
  'card move settled': {
    entry: (f) =>
      said(
        'settled a move at the processor',
        { kind: 'card move', id: null },
        { move: f.moveId, words: f.words },
      ),
    topics: () => ['money'],
  },
  'money returned': {
    entry: (f) => said('refunded', order(f.orderId), { amount: f.amount, reason: f.reason, gift: f.gift }),
    topics: ofEvent,
  },
  'left as a gift': {
    entry: (f) => ({ action: 'left as a gift', subject: order(f.orderId), detail: { amount: f.amount } }),
    topics: ofEvent,
  },
};
