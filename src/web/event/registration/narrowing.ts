import type { AskedColumn, RegistrationRow } from '#contract/seats.ts';
import { sayAnswer } from '#core/questions/answering.ts';
import {
  type ColumnKind,
  type Comparison,
  type Condition,
  columnKindOf,
  comparisons,
  type DayOf,
  fixedColumns,
  valuesOf,
} from '#core/seats/narrowing.ts';
import { phrase, term } from '#web/words/phrase.ts';

/** What the table is narrowed to by one press, each as the conditions it stands for. */
export const quickViews = {
  everyone: [{ column: 'state', is: 'any of', values: ['confirmed', 'held', 'offered'] }],
  waiver: [{ column: 'waiver', is: 'any of', values: ['self', 'guardian'] }],
  owes: [
    { column: 'balance', is: 'at least', values: ['1'] },
    { column: 'state', is: 'any of', values: ['confirmed'] },
  ],
  back: [{ column: 'balance', is: 'at most', values: ['-1'] }],
  waiting: [{ column: 'state', is: 'any of', values: ['waitlisted', 'offered'] }],
  gone: [{ column: 'state', is: 'any of', values: ['withdrawn', 'lapsed', 'declined'] }],
  all: [],
} as const satisfies Record<
  string,
  readonly { column: string; is: Condition['is']; values: readonly string[] }[]
>;
export type QuickView = keyof typeof quickViews;

export const isQuickView = (name: string): name is QuickView => Object.hasOwn(quickViews, name);
export const conditionsOf = (view: QuickView): Condition[] =>
  quickViews[view].map(({ column, is, values }) => ({ column, is, values: [...values] }));

/** A column that seats are narrowed by: what it is called, what it holds, and what can be chosen of it. */
export interface NarrowColumn {
  id: string;
  heading: string;
  kind: ColumnKind;
  choices: { value: string; label: string }[];
}

const headings: Record<keyof typeof fixedColumns, string> = {
  name: phrase('common.name'),
  offer: phrase('common.offer'),
  state: phrase('common.state'),
  attendance: phrase('seats.attendance'),
  waiver: phrase('event.waiver'),
  balance: phrase('seats.open'),
  received: phrase('seats.received'),
  email: phrase('common.email'),
  phone: phrase('common.telephone'),
  buyer: phrase('seats.buyer'),
  extras: phrase('seats.extras'),
  sessions: phrase('seats.sessions'),
  source: phrase('seats.source'),
  since: phrase('event.since'),
  arrived: phrase('seats.arrived'),
};
/** Columns whose values are words of ours. */
const ofTerms = ['state', 'attendance', 'waiver'];
const standings: Record<string, string> = {
  self: phrase('seats.selfMissing'),
  guardian: phrase('seats.guardianMissing'),
  signed: phrase('seats.signed'),
  'not asked': phrase('seats.notAsked'),
};

/** What a value of a column is called. */
const labelOf = (column: string, value: string): string =>
  column === 'waiver' ? (standings[value] ?? value) : ofTerms.includes(column) ? term(value) : value;

/** What the seats of an event can be narrowed by: of the fixed columns those in which something stands, and its questions. */
export function narrowColumns(
  rows: readonly RegistrationRow[],
  questions: readonly AskedColumn[],
  dayOf: DayOf,
): NarrowColumn[] {
  const fixed = (Object.keys(headings) as (keyof typeof fixedColumns)[]).flatMap((id) => {
    const { kind } = fixedColumns[id];
    const found = [...new Set(rows.flatMap((r) => valuesOf(r, id, dayOf)))];
    if (!found.length) return [];
    const choices =
      kind === 'choice' ? found.sort().map((value) => ({ value, label: labelOf(id, value) })) : [];
    return [{ id, heading: headings[id], kind, choices }];
  });
  const asked = questions.map((q): NarrowColumn => {
    const kind = columnKindOf(q);
    const values =
      kind !== 'choice' ? [] : q.choices.length ? q.choices : [sayAnswer(true), sayAnswer(false)];
    return { id: q.id, heading: q.prompt, kind, choices: values.map((value) => ({ value, label: value })) };
  });
  return [...fixed, ...asked];
}

const isCondition = (c: unknown): c is Condition => {
  const { column, is, values } = (c ?? {}) as Partial<Condition>;
  return (
    typeof column === 'string' &&
    comparisons.includes(is as Comparison) &&
    Array.isArray(values) &&
    values.every((v) => typeof v === 'string')
  );
};

/** Conditions as they stand in the address; what cannot be read narrows nothing. */
export function readConditions(text: string): Condition[] {
  try {
    const read: unknown = JSON.parse(text || '[]');
    return Array.isArray(read) ? read.filter(isCondition) : [];
  } catch {
    return [];
  }
}
