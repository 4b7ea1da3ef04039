import type { RuleBody, RuleBook, RulesTried } from '#contract/clearance.ts';
import { type FactPlan, headcount, isFactCode, type OwnFact } from '#core/clearance/facts.ts';
import { circleIn } from '#core/clearance/order.ts';
import { timeOf } from '#core/clearance/schedule.ts';
import { undecidable } from '#core/clearance/steps.ts';
import type { Work } from '../app/app.ts';
import { record } from '../app/record.ts';
import { first, insert, type Queries, update } from '../db/database.ts';
import { type FieldProblem, invalid, refused } from '../http/problem.ts';
import { type Book, neededBy, readBook } from './book.ts';
import { deciders } from './deciders.ts';

export interface BookBody {
  rules: readonly RuleBody[];
  facts: readonly OwnFact[];
}

/** The rules with everything that can be chosen in them. */
export async function ruleBook(tx: Queries): Promise<RuleBook> {
  const { version, rules, names } = await readBook(tx);
  const team = await deciders(tx);
  const organization = (await first<{ minimumNoticeDays: number }>(
    tx,
    'select minimum_notice_days from organization',
  ))!;
  const listed = (map: ReadonlyMap<string, string>) =>
    [...map].map(([id, name]) => ({ id, name })).sort((a, b) => a.name.localeCompare(b.name));
  return {
    version,
    rules: rules as RuleBook['rules'],
    facts: [...names.facts],
    minimumNoticeDays: organization.minimumNoticeDays,
    words: [...new Set(team.flatMap((p) => p.approves))].sort(),
    people: team.map(({ id, name }) => ({ id, name })),
    units: listed(names.units),
    venues: listed(names.venues),
  };
}

/** Working days that the longest path of all steps may take: more could never be counted back from a date. */
const mostDays = 250;

/** What is wrong with rules: circles, steps nobody can decide, tests of what is not there. */
async function wrongWith(
  tx: Queries,
  { rules, facts }: BookBody,
  names: Book['names'],
): Promise<FieldProblem[]> {
  const wrong: FieldProblem[] = [];
  const team = await deciders(tx);
  const nobody = new Set(undecidable(rules, team));
  const seen = new Set<string>();
  for (const [n, rule] of rules.entries()) {
    const at = `rules.${n}`;
    const name = rule.step.toLowerCase();
    if (seen.has(name)) wrong.push({ path: `${at}.step`, code: 'step-twice', params: { step: rule.step } });
    seen.add(name);
    if ((rule.approves === null) === (rule.approverId === null))
      wrong.push({ path: `${at}.approves`, code: 'rule-decider' });
    else if (nobody.has(rule))
      wrong.push({ path: `${at}.approves`, code: 'rule-nobody', params: { step: rule.step } });
    if (rule.after.some((id) => !rules.some((r) => r.id === id)))
      wrong.push({ path: `${at}.after`, code: 'rule-after-gone' });
    for (const [g, group] of rule.when.entries())
      for (const [t, test] of group.entries()) {
        const path = `${at}.when.${g}.${t}`;
        if ('unit' in test ? !names.units.has(test.unit) : 'venue' in test && !names.venues.has(test.venue))
          wrong.push({ path, code: 'test-wrong' });
        if (!('fact' in test)) continue;
        const own = facts.find((f) => f.id === test.fact);
        const number = test.fact === headcount || own?.kind === 'number';
        if (!own && test.fact !== headcount && !isFactCode(test.fact))
          wrong.push({ path, code: 'fact-gone', params: { step: rule.step } });
        else if (number !== 'atLeast' in test) wrong.push({ path, code: 'test-wrong' });
      }
  }
  const ids = new Set<string>();
  for (const [at, { id }] of [...rules.entries(), ...facts.entries()]) {
    if (ids.has(id))
      wrong.push({ path: rules[at]?.id === id ? `rules.${at}.id` : `facts.${at}.id`, code: 'id-twice' });
    ids.add(id);
  }
  const circle = circleIn(rules);
  if (circle) {
    const names = circle.map((id) => rules.find((r) => r.id === id)!.step);
    const at = rules.findIndex((r) => r.id === circle[0]);
    wrong.push({
      path: `rules.${at}.after`,
      code: 'rules-circle',
      params: { steps: [...names, names[0]!].join(' → ') },
    });
  } else if (timeOf(rules, '2026-01-01', []).working > mostDays)
    wrong.push({ path: 'rules', code: 'rules-too-long', params: { days: mostDays } });
  return wrong;
}

/** Changes the rules and facts as a whole. Clearances under way keep what they were sent with. */
export async function changeRules(w: Work, body: BookBody & { version: number }): Promise<void> {
  const { tx, now } = w;
  const held = (await first<{ version: number }>(
    tx,
    'select clearance_version as version from organization for update',
  ))!;
  if (held.version !== body.version) throw refused('rules-changed');
  const before = await readBook(tx);
  const wrong = await wrongWith(tx, body, before.names);
  if (wrong.length) throw invalid(wrong);
  const kept = new Set(body.facts.map((f) => f.id));
  for (const { id } of before.names.facts)
    if (!kept.has(id)) await update(tx, 'clearance_facts', id, { retiredAt: now });
  const known = new Set((await tx.query<{ id: string }>('select id from clearance_facts')).map((f) => f.id));
  for (const [position, { id, ...fact }] of body.facts.entries()) {
    const row = { ...fact, position, retiredAt: null };
    if (known.has(id)) await update(tx, 'clearance_facts', id, row);
    else await insert(tx, 'clearance_facts', { id, ...row });
  }
  await tx.query('delete from clearance_rules');
  if (body.rules.length)
    await insert(
      tx,
      'clearance_rules',
      body.rules.map(({ when, ...rule }, position) => ({ ...rule, groups: when, position })),
    );
  await tx.query('update organization set clearance_version = clearance_version + 1');
  await record(w, 'organization changed', {
    how: 'changed the rules of clearance',
    detail: { steps: body.rules.map((r) => r.step) },
  });
}

interface PastPlan extends FactPlan {
  id: string;
  title: string;
}

/** Events a bench goes through at most, the newest. */
const mostTried = 2000;

/** Past events, newest first, as far as rules look at them. */
const pastPlans = (tx: Queries, now: string): Promise<PastPlan[]> =>
  tx.query<PastPlan>(
    `select e.id, coalesce(nullif(e.public_title, ''), e.team_title) as title, e.facts, e.capacity, e.online_capacity, e.starts_local, e.ends_local, e.all_day,
       e.unit_id, e.venue_id, v.ours as venue_ours,
       coalesce((select max(price)::int from offers o where o.event_id = e.id and o.removed_at is null), 0) as highest_price,
       (select count(*)::int from speakers s where s.event_id = e.id and s.removed_at is null) as speakers,
       coalesce((select jsonb_agg(jsonb_build_object('startsLocal', to_char(s.starts_local, 'YYYY-MM-DD"T"HH24:MI'), 'endsLocal',
         to_char(s.ends_local, 'YYYY-MM-DD"T"HH24:MI'), 'needed', s.least))
         from shifts s where s.event_id = e.id and s.removed_at is null), '[]') as shifts
     from events e left join venues v on v.id = e.venue_id
     where not e.is_template and e.starts_at < $1 and e.state in ('open', 'closed', 'wrapped') order by e.starts_at desc limit $2`,
    [now, mostTried],
  );

/** Which steps past events would have had by the rules as they are, and by others. */
export async function tryRules(tx: Queries, body: BookBody, now: string): Promise<RulesTried> {
  const book = await readBook(tx);
  const wrong = await wrongWith(tx, body, book.names);
  if (wrong.length) throw invalid(wrong);
  const next: Book = { ...book, rules: [...body.rules], names: { ...book.names, facts: [...body.facts] } };
  const plans = await pastPlans(tx, now);
  const counts = new Map<string, { before: number; after: number }>();
  const count = (step: string, when: 'before' | 'after') => {
    const at = counts.get(step) ?? { before: 0, after: 0 };
    at[when] += 1;
    counts.set(step, at);
  };
  const days = { before: [] as number[], after: [] as number[] };
  const changed: RulesTried['changed'] = [];
  for (const plan of plans) {
    const stepsBy = (rules: Book, when: 'before' | 'after'): string[] => {
      const { needed } = neededBy(rules, plan);
      if (needed.timed.length) days[when].push(timeOf(needed.timed, '2026-01-01', []).working);
      const steps = needed.steps.map((s) => s.rule.step);
      for (const step of steps) count(step, when);
      return steps;
    };
    const [before, after] = [stepsBy(book, 'before'), stepsBy(next, 'after')];
    if (changed.length < 60 && before.join('\n') !== after.join('\n'))
      changed.push({ id: plan.id, title: plan.title, startsLocal: plan.startsLocal, before, after });
  }
  const mean = (list: readonly number[]) =>
    list.length ? Math.round((list.reduce((sum, n) => sum + n, 0) / list.length) * 10) / 10 : 0;
  return {
    events: plans.length,
    steps: [...counts].map(([step, n]) => ({ step, ...n })),
    days: { before: mean(days.before), after: mean(days.after) },
    changed,
  };
}
