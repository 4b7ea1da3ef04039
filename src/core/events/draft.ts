import { type PlanField, type PlanPart, partOf, partsOf, planParts } from './parts.ts';

type Fields = Partial<Record<PlanField, unknown>>;

/** What somebody typed on a plan and what has not been kept of it yet. Nothing typed ever leaves but by being kept. */
export interface Draft<Plan extends Fields = Fields> {
  typed: Partial<Plan>;
  /** The version of the plan that each part was written on. */
  seen: Partial<Record<PlanPart, number>>;
  /** Fields that were refused, with the value that was and what is wrong, by path. Typed anew, they are tried again. */
  refused: Partial<Record<PlanField, { value: unknown; messages: Record<string, string> }>>;
  /** Parts that somebody else saved meanwhile, with what is to be said about it. */
  clashes: Partial<Record<PlanPart, string>>;
}

export const nothingTyped = { typed: {}, seen: {}, refused: {}, clashes: {} } as const;

const without = <T extends object>(record: T, keys: readonly string[]): T =>
  Object.fromEntries(Object.entries(record).filter(([key]) => !keys.includes(key))) as T;
const fieldsIn = (fields: object, part: PlanPart): PlanField[] =>
  (Object.keys(fields) as PlanField[]).filter((field) => partOf[field] === part);

/** Parts that are judged together: an end that was refused is right once the start moves, and a place at another time. */
const together: readonly PlanPart[] = ['place', 'times'];

/** What was refused and may be right now that some parts changed: it is tried again. */
const judgedWith = (draft: Draft, changed: readonly PlanPart[]): PlanField[] =>
  changed.some((part) => together.includes(part))
    ? together.flatMap((part) => fieldsIn(draft.refused, part))
    : [];

/** Somebody types. `version` is that of the plan they look at. */
export function type<Plan extends Fields>(
  draft: Draft<Plan>,
  change: Partial<Plan>,
  version: number,
): Draft<Plan> {
  const fields = Object.keys(change) as PlanField[];
  const fresh = partsOf(fields).filter((part) => !fieldsIn(draft.typed, part).length);
  return {
    ...draft,
    typed: { ...draft.typed, ...change },
    seen: {
      ...draft.seen,
      ...Object.fromEntries(fresh.map((part) => [part, Math.max(version, draft.seen[part] ?? 1)])),
    },
    refused: without(draft.refused, [...fields, ...judgedWith(draft, partsOf(fields))]),
  };
}

/** The parts that have something to send, in their order. */
export const partsToSend = (draft: Draft): PlanPart[] =>
  planParts.filter((part) => toSend(draft, part) !== null);

/**
 * What of a part is to be saved now; null for nothing. What was refused waits until it is typed anew, and holds nothing
 * else back; what clashes waits for a decision.
 */
export function toSend<Plan extends Fields>(draft: Draft<Plan>, part: PlanPart): Partial<Plan> | null {
  if (draft.clashes[part]) return null;
  const fields = fieldsIn(draft.typed, part).filter((field) => !draft.refused[field]);
  return fields.length
    ? (Object.fromEntries(fields.map((field) => [field, draft.typed[field]])) as Partial<Plan>)
    : null;
}

/**
 * A part was kept at a version of the plan; what was typed meanwhile stays to be sent. A place that was refused at the time
 * that stood before is tried again at the one that was kept, and the other way about.
 */
export function kept<Plan extends Fields>(
  draft: Draft<Plan>,
  part: PlanPart,
  sent: Partial<Plan>,
  version: number,
): Draft<Plan> {
  const done = (Object.keys(sent) as PlanField[]).filter((field) => draft.typed[field] === sent[field]);
  return {
    ...draft,
    typed: without(draft.typed, done),
    seen: { ...draft.seen, [part]: version },
    refused: without(draft.refused, judgedWith(draft, [part])),
  };
}

const placing: readonly PlanField[] = ['venueId', 'roomId', 'layout', 'beside'];

/** Some fields were refused, by the path of what is wrong: "slug", "offers.0.price", "change.capacity". */
export function refuse<Plan extends Fields>(
  draft: Draft<Plan>,
  sent: Partial<Plan>,
  messages: Readonly<Record<string, string>>,
): Draft<Plan> {
  const refused = { ...draft.refused };
  const wrong = Object.entries(messages).map(
    ([path, text]) => [path.replace(/^change\./u, ''), text] as const,
  );
  const known = wrong.filter(([path]) => path.split('.')[0]! in sent);
  // What is wrong with none of the fields that were sent is wrong with all of them.
  const fields = (Object.keys(sent) as PlanField[]).filter(
    (field) => !known.length || known.some(([path]) => path.split('.')[0] === field),
  );
  // A place goes with its room: what is wrong with one of them holds the others back.
  if (fields.some((f) => placing.includes(f)))
    fields.push(...placing.filter((f) => f in sent && !fields.includes(f)));
  for (const field of fields) {
    // Typed anew since: that was not refused.
    if (draft.typed[field] !== sent[field]) continue;
    refused[field] = {
      value: sent[field],
      messages: Object.fromEntries(known.filter(([path]) => path.split('.')[0] === field)),
    };
  }
  return { ...draft, refused };
}

/** Somebody else saved the part meanwhile. */
export const clash = <Plan extends Fields>(
  draft: Draft<Plan>,
  part: PlanPart,
  says: string,
): Draft<Plan> => ({
  ...draft,
  clashes: { ...draft.clashes, [part]: says },
});

/** What was typed goes over what the other saved, which has been seen by now. */
export const keepMine = <Plan extends Fields>(
  draft: Draft<Plan>,
  part: PlanPart,
  version: number,
): Draft<Plan> => ({
  ...draft,
  clashes: without(draft.clashes, [part]),
  seen: { ...draft.seen, [part]: version },
});

/** What the other saved stays, and what was typed is let go. */
export function takeTheirs<Plan extends Fields>(draft: Draft<Plan>, part: PlanPart): Draft<Plan> {
  const fields = fieldsIn(draft.typed, part);
  return {
    ...draft,
    typed: without(draft.typed, fields),
    refused: without(draft.refused, fields),
    clashes: without(draft.clashes, [part]),
    seen: without(draft.seen, [part]),
  };
}

/** What is wrong, by the path of the field. */
export const wrongIn = (draft: Draft): Record<string, string> =>
  Object.assign({}, ...Object.values(draft.refused).map((r) => r.messages)) as Record<string, string>;
