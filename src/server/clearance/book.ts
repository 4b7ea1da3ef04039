import { answerable, type FactPlan, type OwnFact, planFacts } from '#core/clearance/facts.ts';
import { depthsOf, waitsFor } from '#core/clearance/order.ts';
import { type ClearanceRule, type NeededStep, type RuleNames, stepsFor } from '#core/clearance/rules.ts';
import type { TimedStep } from '#core/clearance/schedule.ts';
import { first, once, type Queries } from '../db/database.ts';
import type { EventRow } from '../events/store.ts';

/** The organization's rules of clearance, with what they point at. */
export interface Book {
  version: number;
  /** In the order they are shown. */
  rules: ClearanceRule[];
  names: RuleNames;
}

interface BookRow {
  version: number;
  rules: ClearanceRule[];
  facts: OwnFact[];
  units: { id: string; name: string }[];
  venues: { id: string; name: string }[];
}

const named = (table: string) =>
  `coalesce((select jsonb_agg(jsonb_build_object('id', id, 'name', name)) from ${table}), '[]')`;

/** Reads the rules as they are now. */
export async function readBook(tx: Queries): Promise<Book> {
  const row = (await first<BookRow>(
    tx,
    `select clearance_version as version,
       coalesce((select jsonb_agg(jsonb_build_object('id', r.id, 'step', r.step, 'when', r.groups, 'approves', r.approves, 'approverId', r.approver_id,
         'after', r.after, 'workingDays', r.working_days, 'asks', r.asks, 'documents', r.documents, 'questions', r.questions,
         'meanwhile', r.meanwhile) order by r.position, r.id) from clearance_rules r), '[]') as rules,
       coalesce((select jsonb_agg(jsonb_build_object('id', f.id, 'name', f.name, 'kind', f.kind) order by f.position)
         from clearance_facts f where f.retired_at is null), '[]') as facts,
       ${named('units')} as units, ${named('venues')} as venues
     from organization`,
  ))!;
  const mapOf = (rows: readonly { id: string; name: string }[]) => new Map(rows.map((r) => [r.id, r.name]));
  return {
    version: row.version,
    rules: row.rules,
    names: { facts: row.facts, units: mapOf(row.units), venues: mapOf(row.venues) },
  };
}

/** The same, read once in a transaction. */
export const theBook = (tx: Queries): Promise<Book> =>
  once(
    tx,
    'the rules of clearance',
    ['organization', 'clearance_rules', 'clearance_facts', 'units', 'venues'],
    () => readBook(tx),
  );

/** As much of an event as facts are taken from. */
export const factPlanOf = (event: EventRow, offers: readonly { price: number }[]): FactPlan => ({
  ...event,
  highestPrice: Math.max(0, ...offers.map((o) => o.price)),
  speakers: event.speaking,
  shifts: event.plannedShifts,
});

/** What a plan needs by some rules: its steps in the order they can come, and what each waits for. */
export interface Needed {
  steps: NeededStep[];
  /** By the id of a rule, the ids of the rules whose steps come before. */
  waits: ReadonlyMap<string, readonly string[]>;
  timed: TimedStep[];
}

/** The steps a plan needs by some rules, with the facts they follow from. */
export function neededBy({ rules, names }: Pick<Book, 'rules' | 'names'>, plan: FactPlan) {
  const facts = planFacts(answerable(plan, names.facts));
  const unsorted = stepsFor(facts, rules, names);
  const waits = waitsFor(
    unsorted.map((s) => s.rule.id),
    rules,
  );
  const depth = depthsOf(waits);
  const steps = unsorted.sort((a, b) => depth.get(a.rule.id)! - depth.get(b.rule.id)!);
  const needed: Needed = {
    steps,
    waits,
    timed: steps.map(({ rule }) => ({
      id: rule.id,
      after: waits.get(rule.id)!,
      workingDays: rule.workingDays,
    })),
  };
  return { facts, needed };
}
