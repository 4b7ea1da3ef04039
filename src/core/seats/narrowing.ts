import { fold } from '#core/contacts/names.ts';
import type { Amount } from '#core/money/amount.ts';
import { type AnswerValue, readNumber, sayAnswer } from '#core/questions/answering.ts';
import type { QuestionKind } from '#core/questions/question.ts';
import type { CalendarDate, Instant } from '#core/time/clock.ts';

/** How a column of the table of seats is compared. */
export const comparisons = ['any of', 'none of', 'holds', 'at least', 'at most', 'given', 'missing'] as const;
export type Comparison = (typeof comparisons)[number];

/** What a column holds: one of some choices, words, a number, an amount in minor units, a day. */
export type ColumnKind = 'choice' | 'text' | 'number' | 'amount' | 'day';

/** What makes sense of each kind. */
export const comparisonsOf: Readonly<Record<ColumnKind, readonly Comparison[]>> = {
  choice: ['any of', 'none of', 'given', 'missing'],
  text: ['holds', 'given', 'missing'],
  number: ['at least', 'at most', 'given', 'missing'],
  amount: ['at least', 'at most'],
  day: ['at least', 'at most', 'given', 'missing'],
};

/** One condition: a fixed column by its name, or a question by its id. */
export interface Condition {
  column: string;
  is: Comparison;
  values: string[];
}

/** What the table is narrowed to: all conditions hold, and the words are found somewhere. */
export interface SeatFilter {
  q: string;
  conditions: Condition[];
}

export const everySeat: SeatFilter = { q: '', conditions: [] };

/** Whether two filters ask for the same, however they are written down. */
export const sameFilter = (a: SeatFilter, b: SeatFilter): boolean =>
  a.q === b.q &&
  a.conditions.length === b.conditions.length &&
  a.conditions.every((c, at) => {
    const other = b.conditions[at]!;
    return (
      c.column === other.column &&
      c.is === other.is &&
      c.values.length === other.values.length &&
      c.values.every((v, n) => v === other.values[n])
    );
  });

/** A seat as far as it can be narrowed by. */
export interface NarrowedSeat {
  orderId: string;
  orderNumber: number;
  given: string;
  family: string;
  buyer: string;
  email: string | null;
  phone: string | null;
  offer: string;
  state: string;
  attendance: string | null;
  waiver: string;
  received: Amount;
  balance: Amount;
  source: string | null;
  since: Instant;
  arrivedAt: Instant | null;
  extras: readonly string[];
  sessions: readonly string[];
  /** By question; what was answered for the whole booking stands on each of its seats. */
  answers: Readonly<Record<string, { value: AnswerValue; file: { name: string } | null }>>;
}

/** The day of a moment, where the event is. */
export type DayOf = (at: Instant) => CalendarDate;

interface FixedColumn {
  kind: ColumnKind;
  of: (seat: NarrowedSeat, dayOf: DayOf) => readonly (string | number | null)[];
}

/** The columns that every event has, beside its questions. */
export const fixedColumns = {
  offer: { kind: 'choice', of: (s) => [s.offer] },
  state: { kind: 'choice', of: (s) => [s.state] },
  attendance: { kind: 'choice', of: (s) => [s.attendance] },
  waiver: { kind: 'choice', of: (s) => [s.waiver] },
  name: { kind: 'text', of: (s) => [`${s.given} ${s.family}`.trim()] },
  buyer: { kind: 'text', of: (s) => [s.buyer] },
  email: { kind: 'text', of: (s) => [s.email] },
  phone: { kind: 'text', of: (s) => [s.phone] },
  received: { kind: 'amount', of: (s) => [s.received] },
  balance: { kind: 'amount', of: (s) => [s.balance] },
  extras: { kind: 'choice', of: (s) => s.extras },
  sessions: { kind: 'choice', of: (s) => s.sessions },
  source: { kind: 'choice', of: (s) => [s.source] },
  since: { kind: 'day', of: (s, dayOf) => [dayOf(s.since)] },
  arrived: { kind: 'day', of: (s, dayOf) => [s.arrivedAt && dayOf(s.arrivedAt)] },
} as const satisfies Record<string, FixedColumn>;
export type FixedColumnName = keyof typeof fixedColumns;

const isFixed = (column: string): column is FixedColumnName => Object.hasOwn(fixedColumns, column);

const kindOfQuestion: Readonly<Record<QuestionKind, ColumnKind>> = {
  text: 'text',
  'long text': 'text',
  file: 'text',
  number: 'number',
  date: 'day',
  'one of': 'choice',
  'several of': 'choice',
  'yes or no': 'choice',
  consent: 'choice',
};

/** What the answers to a question are compared as. */
export const columnKindOf = (question: { kind: QuestionKind }): ColumnKind => kindOfQuestion[question.kind];

/** What stands in a column for a seat; nothing where it is empty. */
export function valuesOf(seat: NarrowedSeat, column: string, dayOf: DayOf): string[] {
  if (isFixed(column))
    return fixedColumns[column]
      .of(seat, dayOf)
      .flatMap((v) => (v === null || v === undefined || v === '' ? [] : [String(v)]));
  const answer = seat.answers[column];
  if (!answer) return [];
  if (Array.isArray(answer.value)) return answer.value;
  return [sayAnswer(answer.value, answer.file?.name)].filter(Boolean);
}

/**
 * Numbers as numbers, days as they are written, so that the order of letters is that of days. Null where one is a number and the other
 * is not: words are neither more nor less than it.
 */
function compare(a: string, b: string): number | null {
  const [x, y] = [readNumber(a), readNumber(b)];
  if (x === null && y === null) return a < b ? -1 : a > b ? 1 : 0;
  return x === null || y === null ? null : x - y;
}

/** Whether a condition holds of what stands in its column. One that compares with nothing holds always: it is not filled in yet. */
export function holds({ is, values }: Condition, found: readonly string[]): boolean {
  if (is === 'given') return found.length > 0;
  if (is === 'missing') return found.length === 0;
  const wanted = values.filter((v) => v.trim() !== '');
  if (!wanted.length) return true;
  switch (is) {
    case 'any of':
      return found.some((v) => wanted.includes(v));
    case 'none of':
      return !found.some((v) => wanted.includes(v));
    case 'holds':
      return found.some((v) => wanted.every((w) => fold(v).includes(fold(w))));
    case 'at least':
      return found.some((v) => (compare(v, wanted[0]!) ?? -1) >= 0);
    case 'at most':
      return found.some((v) => (compare(v, wanted[0]!) ?? 1) <= 0);
  }
}

/** Whether the words are somewhere in a seat: its names, where they are reached, its order, its answers. */
function mentions(seat: NarrowedSeat, words: readonly string[]): boolean {
  if (!words.length) return true;
  const all = fold(
    [
      seat.given,
      seat.family,
      seat.buyer,
      seat.email ?? '',
      seat.phone ?? '',
      String(seat.orderNumber),
      seat.offer,
      ...Object.values(seat.answers).map((a) => sayAnswer(a.value, a.file?.name)),
    ].join(' '),
  );
  return words.every((w) => all.includes(w));
}

/** The seats that a filter leaves. */
export const narrowed = <S extends NarrowedSeat>(
  seats: readonly S[],
  filter: SeatFilter,
  dayOf: DayOf,
): S[] => {
  const words = fold(filter.q).split(' ').filter(Boolean);
  // The words last: they look through everything a seat says.
  return seats.filter(
    (s) => filter.conditions.every((c) => holds(c, valuesOf(s, c.column, dayOf))) && mentions(s, words),
  );
};

/**
 * The seats that stand for their order among those given, in the order they are given: the first of each. What belongs to the whole
 * order, as its money, is said and counted there and nowhere else.
 */
export function firstOfOrders(seats: readonly { id: string; orderId: string }[]): ReadonlySet<string> {
  const first = new Map<string, string>();
  for (const seat of seats) if (!first.has(seat.orderId)) first.set(seat.orderId, seat.id);
  return new Set(first.values());
}
