import type { EventTimes } from '#core/events/dated.ts';
import { type ListField, type PlanField, partOf } from '#core/events/parts.ts';
import { canonical, sameValue } from '#core/words/canonical.ts';

/** Fields that every date has for itself: its address, what was decided about its place, clock changes, until when sessions are proposed. */
const apart: ReadonlySet<PlanField> = new Set(['slug', 'beside', 'secondTime', 'call']);
/** Fields of a plan that the dates of a series have in common. Times are compared around the start of each date. */
export const sharedFields = (Object.keys(partOf) as PlanField[]).filter((field) => !apart.has(field));

/** Rows of a list in a plan. */
interface Row {
  id: string;
}

/** As much of a plan as is compared and carried; the contract has the rest of its shape. */
export type CarriedPlan = EventTimes & { readonly [F in Exclude<PlanField, keyof EventTimes>]: unknown };

/** What tells that two rows of different dates are the same one. */
const keys: Readonly<Record<ListField | 'waivers', (row: never) => string>> = {
  offers: (row: { name: string }) => row.name,
  extras: (row: { name: string }) => row.name,
  codes: (row: { code: string }) => row.code,
  questions: (row: { prompt: { en: string } }) => row.prompt.en,
  messages: (row: { name: string }) => row.name,
  surveys: (row: { audience: string; wave: number }) => `${row.audience} ${row.wave}`,
  speakers: (row: { contactId: string | null; name: string }) => row.contactId ?? row.name,
  sponsors: (row: { contactId: string | null; name: string }) => row.contactId ?? row.name,
  sessions: (row: { title: { en: string } }) => row.title.en,
  waivers: (row: { waiverId: string }) => row.waiverId,
};
const isList = (field: PlanField): field is keyof typeof keys => field in keys;

const rowsOf = (plan: CarriedPlan, field: PlanField): readonly Row[] => plan[field] as readonly Row[];
const nameOf = (rows: readonly Row[], field: keyof typeof keys, id: unknown): string | null => {
  const row = rows.find((r) => r.id === id);
  return row ? keys[field](row as never) : null;
};

/** Lists that rows of other lists point at. */
type Mapped = 'offers' | 'speakers' | 'questions' | 'sessions';

/** A field as it is compared: rows without their ids, and what they point at by name. */
function comparable(plan: CarriedPlan, field: PlanField): unknown {
  if (!isList(field)) return plan[field];
  return rowsOf(plan, field).map((row) => {
    const { id: _, ...rest } = row as Row & {
      offerId?: unknown;
      offerIds?: readonly unknown[];
      speakerIds?: readonly unknown[];
      sessionIds?: readonly unknown[];
      shownIf?: { questionId: unknown } | null;
      answered?: { questionId: unknown } | null;
      narrowed?: readonly { column: string }[];
    };
    return {
      ...rest,
      ...('offerId' in rest ? { offerId: nameOf(rowsOf(plan, 'offers'), 'offers', rest.offerId) } : {}),
      ...(rest.shownIf
        ? {
            shownIf: {
              ...rest.shownIf,
              questionId: nameOf(rowsOf(plan, field), field, rest.shownIf.questionId),
            },
          }
        : {}),
      ...(rest.answered
        ? {
            answered: {
              ...rest.answered,
              questionId: nameOf(rowsOf(plan, 'questions'), 'questions', rest.answered.questionId),
            },
          }
        : {}),
      ...(rest.sessionIds
        ? { sessionIds: rest.sessionIds.map((s) => nameOf(rowsOf(plan, 'sessions'), 'sessions', s)) }
        : {}),
      ...(rest.narrowed
        ? {
            narrowed: rest.narrowed.map((c) => ({
              ...c,
              column: nameOf(rowsOf(plan, 'questions'), 'questions', c.column) ?? c.column,
            })),
          }
        : {}),
      ...(rest.offerIds
        ? { offerIds: rest.offerIds.map((o) => nameOf(rowsOf(plan, 'offers'), 'offers', o)) }
        : {}),
      ...(rest.speakerIds
        ? { speakerIds: rest.speakerIds.map((s) => nameOf(rowsOf(plan, 'speakers'), 'speakers', s)) }
        : {}),
    };
  });
}

/** The shared fields in which two plans differ, both seen from the same start. */
export const differences = (a: CarriedPlan, b: CarriedPlan): PlanField[] =>
  sharedFields.filter((field) => !sameValue(comparable(a, field), comparable(b, field)));

/** How the rows of a list in one plan stand to those in another: by their ids here, and by those there of what is not here. */
export interface RowsApart {
  /** There is none like it there. */
  own: string[];
  /** It says something else there. */
  changed: string[];
  missing: { id: string; name: string }[];
}

/** Row by row, in what a list of one plan differs from that of another, as `differences` compares; nothing of what is no list. */
export function rowsApart(there: CarriedPlan, here: CarriedPlan, field: PlanField): RowsApart | null {
  if (!isList(field)) return null;
  const key = keys[field] as (row: Row) => string;
  const said = (plan: CarriedPlan) => (comparable(plan, field) as unknown[]).map(canonical);
  const [rowsThere, rowsHere] = [rowsOf(there, field), rowsOf(here, field)];
  const [saidThere, saidHere] = [said(there), said(here)];
  const left = new Set(rowsThere.keys());
  const apart: RowsApart = { own: [], changed: [], missing: [] };
  for (const [at, row] of rowsHere.entries()) {
    const same = [...left].find((n) => key(rowsThere[n]!) === key(row));
    if (same === undefined) {
      apart.own.push(row.id);
      continue;
    }
    left.delete(same);
    if (saidThere[same] !== saidHere[at]) apart.changed.push(row.id);
  }
  apart.missing = [...left].map((n) => ({ id: rowsThere[n]!.id, name: key(rowsThere[n]!) }));
  return apart;
}

/** Which row of a date each row that is carried becomes: by what it is called, else in the same place, else a new one. */
function idsFor(
  field: keyof typeof keys,
  from: readonly Row[],
  to: readonly Row[],
  newId: () => string,
): ReadonlyMap<string, string> {
  const left = new Set(to);
  const ids = new Map<string, string>();
  const key = keys[field] as (row: Row) => string;
  for (const row of from) {
    const same = [...left].find((r) => key(r) === key(row));
    if (!same) continue;
    ids.set(row.id, same.id);
    left.delete(same);
  }
  for (const [at, row] of from.entries()) {
    if (ids.has(row.id)) continue;
    const there = to[at];
    const free = there && left.has(there);
    ids.set(row.id, free ? there.id : newId());
  }
  return ids;
}

/**
 * What has to be saved on the plan of another date so that it says the same in some fields: its own rows keep their ids, so that
 * seats and answers stay with what they were given for. Times are carried by whoever knows the start of the date.
 */
export function carry<P extends CarriedPlan>(
  from: P,
  to: P,
  fields: readonly PlanField[],
  newId: () => string,
): Partial<P> {
  const change: Record<string, unknown> = {};
  const mapOf = (field: Mapped) => idsFor(field, rowsOf(from, field), rowsOf(to, field), newId);
  const offers = mapOf('offers');
  const speakers = mapOf('speakers');
  const questions = mapOf('questions');
  const sessions = mapOf('sessions');
  const mapped: Readonly<Record<Mapped, ReadonlyMap<string, string>>> = {
    offers,
    speakers,
    questions,
    sessions,
  };
  for (const field of fields) {
    if (!isList(field)) {
      change[field] = from[field];
      continue;
    }
    const ids =
      field in mapped
        ? mapped[field as Mapped]
        : idsFor(field, rowsOf(from, field), rowsOf(to, field), newId);
    change[field] = rowsOf(from, field).map((row) => {
      const moved: Row & {
        offerId?: string | null;
        offerIds?: readonly string[];
        speakerIds?: readonly string[];
        sessionIds?: readonly string[];
        shownIf?: { questionId: string } | null;
        answered?: { questionId: string } | null;
        narrowed?: readonly { column: string }[];
      } = {
        ...row,
        id: ids.get(row.id)!,
      };
      if (moved.offerId) moved.offerId = carried(offers, moved.offerId, fields, 'offers', to);
      if (moved.shownIf)
        moved.shownIf = {
          ...moved.shownIf,
          questionId: ids.get(moved.shownIf.questionId) ?? moved.shownIf.questionId,
        };
      if (moved.answered)
        moved.answered = {
          ...moved.answered,
          questionId: questions.get(moved.answered.questionId) ?? moved.answered.questionId,
        };
      if (moved.sessionIds)
        moved.sessionIds = moved.sessionIds.flatMap(
          (s) => carried(sessions, s, fields, 'sessions', to) ?? [],
        );
      // What narrows by an answer goes by the question of that date.
      if (moved.narrowed)
        moved.narrowed = moved.narrowed.map((c) => ({ ...c, column: questions.get(c.column) ?? c.column }));
      if (moved.offerIds)
        moved.offerIds = moved.offerIds.flatMap((o) => carried(offers, o, fields, 'offers', to) ?? []);
      if (moved.speakerIds)
        moved.speakerIds = moved.speakerIds.flatMap(
          (s) => carried(speakers, s, fields, 'speakers', to) ?? [],
        );
      return moved;
    });
  }
  return change as Partial<P>;
}

/**
 * The same for some rows of one list alone, named by their ids in `to`, or in `from` where they are missing there: the others stay as
 * they are, what is missing comes last.
 */
export function carryRows<P extends CarriedPlan>(
  from: P,
  to: P,
  field: PlanField,
  chosen: readonly string[],
  newId: () => string,
): Partial<P> {
  if (!isList(field)) return {};
  const all = rowsOf(carry(from, to, [field], newId) as P, field);
  const key = keys[field] as (row: Row) => string;
  const taken = new Map<string, Row>();
  for (const [at, row] of rowsOf(from, field).entries()) {
    const same = rowsOf(to, field).find((r) => key(r) === key(row));
    // In the place of a row that is called otherwise stands nothing that was chosen.
    if (chosen.includes(same?.id ?? row.id)) {
      const id = same?.id ?? newId();
      taken.set(id, { ...all[at]!, id });
    }
  }
  const here = rowsOf(to, field).map((row) => taken.get(row.id) ?? row);
  const more = [...taken.values()].filter((row) => !here.includes(row));
  return { [field]: [...here, ...more] } as Partial<P>;
}

/** What a row points at, in the other plan; null where that plan does not have it. */
function carried(
  ids: ReadonlyMap<string, string>,
  id: string,
  fields: readonly PlanField[],
  field: Mapped,
  to: CarriedPlan,
): string | null {
  const there = ids.get(id);
  if (!there) return null;
  return fields.includes(field) || rowsOf(to, field).some((r) => r.id === there) ? there : null;
}
