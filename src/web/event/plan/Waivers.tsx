import { chakra } from '@chakra-ui/react';
import { Plus } from 'lucide-react';
import type { EventPlan } from '#contract/plan.ts';
import { namedAnswers } from '#core/questions/showing.ts';
import { plainRule } from '#core/waivers/asking.ts';
import { Button } from '#web/kit/Button.tsx';
import { SeveralOf, Tick } from '#web/kit/Choosing.tsx';
import { ChoiceField, TextField } from '#web/kit/Field.tsx';
import { useAsk } from '#web/parts/ask.ts';
import { phrase, term } from '#web/words/phrase.ts';
import { Entries, FoldedEntry, numberIn, typedAs } from './entries.tsx';
import type { SectionProps } from './section.ts';

type Rule = EventPlan['waivers'][number];

/** A rule to begin with: everybody with a seat. */
const newRule = (): Rule => ({ ...plainRule, id: crypto.randomUUID(), waiverId: '' });

/** What people sign for this event, and who of them. */
export function Waivers({ page, draft: { plan, change, wrong } }: SectionProps) {
  const register = useAsk('GET /api/choices').data?.waivers ?? [];
  const rules = plan.waivers;
  // The crew is large; only a rule about it needs its roles.
  const crew = useAsk('GET /api/events/:id/crew', {
    params: { id: page.id },
    enabled: rules.some((r) => r.crew),
  }).data;
  const set = (waivers: Rule[]) => change({ waivers });
  const open = register.filter((w) => !w.closed || rules.some((r) => r.waiverId === w.id));
  if (!register.length) return <p className="soft">{phrase('waivers.noWaivers')}</p>;
  const roleNames = [...new Set((crew?.shifts ?? []).map((s) => s.role))].sort();
  return (
    <>
      {rules.length === 0 && <p className="soft">{phrase('waivers.noneAsked')}</p>}
      <Entries>
        {rules.map((rule, at) => (
          <RuleEntry
            key={rule.id}
            rule={rule}
            at={at}
            plan={plan}
            waivers={open.map((w) => ({ value: w.id, label: w.title }))}
            roles={[...new Set([...roleNames, ...rule.roles])]}
            wrong={wrong}
            put={(part) => set(rules.map((r) => (r.id === rule.id ? { ...r, ...part } : r)))}
            remove={() => set(rules.filter((r) => r.id !== rule.id))}
          />
        ))}
      </Entries>
      <Button
        onClick={() =>
          set([
            ...rules,
            {
              ...newRule(),
              waiverId: open.find((w) => !rules.some((r) => r.waiverId === w.id))?.id ?? open[0]!.id,
            },
          ])
        }
      >
        <Plus size={14} aria-hidden /> {phrase('waivers.askWaiver')}
      </Button>
    </>
  );
}

/** Who signs by a rule, in a few words. */
function sayRule(rule: Rule, plan: EventPlan): string {
  const offers = plan.offers.filter((o) => rule.offerIds.includes(o.id)).map((o) => o.name);
  const sessions = plan.sessions.filter((s) => rule.sessionIds.includes(s.id)).map((s) => s.title.en);
  const { fromAge, toAge } = rule;
  const ages = [
    fromAge !== null && phrase('waivers.ruleFrom', { age: fromAge }),
    toAge !== null && phrase('waivers.ruleTo', { age: toAge }),
  ].filter(Boolean);
  const narrowed = [
    offers.length && phrase('waivers.ruleOffers', { offers: offers.join(', ') }),
    sessions.length && phrase('waivers.ruleSessions', { sessions: sessions.join(', ') }),
    rule.answered && phrase('waivers.ruleAnswered', { answers: rule.answered.is.join(', ') }),
  ].filter(Boolean);
  const who = [
    rule.seats && (narrowed.length ? narrowed.join(', ') : phrase('waivers.ruleSeats')),
    rule.crew &&
      (rule.roles.length
        ? phrase('waivers.ruleRoles', { roles: rule.roles.join(', ') })
        : phrase('waivers.ruleCrew')),
  ].filter(Boolean);
  return [
    who.length ? who.join(' · ') : phrase('waivers.ruleNobody'),
    ages.length > 0 && phrase('waivers.ruleAges', { ages: ages.join(' ') }),
  ]
    .filter(Boolean)
    .join(', ');
}

function RuleEntry({
  rule,
  at,
  plan,
  waivers,
  roles,
  wrong,
  put,
  remove,
}: {
  rule: Rule;
  at: number;
  plan: EventPlan;
  waivers: readonly { value: string; label: string }[];
  roles: readonly string[];
  wrong: Record<string, string>;
  put: (part: Partial<Rule>) => void;
  remove: () => void;
}) {
  const error = (field: string) => wrong[`waivers.${at}.${field}`];
  const asked = plan.questions.filter((q) => namedAnswers(q).length > 0);
  const question = plan.questions.find((q) => q.id === rule.answered?.questionId);
  return (
    <FoldedEntry
      name={waivers.find((w) => w.value === rule.waiverId)?.label ?? ''}
      line={sayRule(rule, plan)}
      remove={remove}
      wrong={Object.keys(wrong).some((path) => path.startsWith(`waivers.${at}.`))}
    >
      <chakra.div maxWidth="420px">
        <ChoiceField
          label={phrase('waivers.waiver')}
          value={rule.waiverId}
          set={(waiverId) => put({ waiverId })}
          choices={waivers}
          error={error('waiverId')}
        />
      </chakra.div>
      <Tick checked={rule.seats} set={(seats) => put({ seats })} error={error('seats')}>
        {phrase('waivers.ofSeats')}
      </Tick>
      {rule.seats && (
        <chakra.div paddingLeft="24px">
          {plan.offers.length > 1 && (
            <SeveralOf
              label={phrase('waivers.onlyOffers')}
              value={rule.offerIds}
              set={(offerIds) => put({ offerIds })}
              error={error('offerIds')}
              choices={plan.offers.map((o) => ({ value: o.id, label: o.name }))}
            />
          )}
          {plan.sessions.some((s) => s.signUp) && (
            <SeveralOf
              label={phrase('waivers.onlySessions')}
              value={rule.sessionIds}
              set={(sessionIds) => put({ sessionIds })}
              error={error('sessionIds')}
              choices={plan.sessions.filter((s) => s.signUp).map((s) => ({ value: s.id, label: s.title.en }))}
            />
          )}
          {asked.length > 0 && (
            <ChoiceField
              label={phrase('waivers.onlyAnswer')}
              value={rule.answered?.questionId ?? ''}
              error={error('answered')}
              empty={phrase('waivers.everyAnswer')}
              set={(questionId) => {
                const on = asked.find((q) => q.id === questionId);
                put({ answered: on ? { questionId, is: [...namedAnswers(on)].slice(0, 1) } : null });
              }}
              choices={asked.map((q) => ({ value: q.id, label: q.prompt.en }))}
            />
          )}
          {question && rule.answered && (
            <SeveralOf
              label={phrase('waivers.answeredOne')}
              value={rule.answered.is}
              set={(is) => put({ answered: { questionId: question.id, is } })}
              choices={namedAnswers(question).map((name) => ({
                value: name,
                label: name === 'yes' || name === 'no' ? term(name) : name,
              }))}
            />
          )}
        </chakra.div>
      )}
      <Tick checked={rule.crew} set={(crew) => put({ crew })}>
        {phrase('waivers.ofCrew')}
      </Tick>
      {rule.crew && roles.length > 1 && (
        <chakra.div paddingLeft="24px">
          <SeveralOf
            label={phrase('waivers.onlyRoles')}
            value={rule.roles}
            set={(only) => put({ roles: only })}
            choices={roles.map((role) => ({ value: role, label: role }))}
          />
        </chakra.div>
      )}
      <div className="pair">
        <TextField
          label={phrase('waivers.fromAge')}
          type="number"
          value={typedAs(rule.fromAge)}
          set={(v) => put({ fromAge: numberIn(v) })}
          error={error('fromAge')}
        />
        <TextField
          label={phrase('waivers.toAge')}
          type="number"
          value={typedAs(rule.toAge)}
          set={(v) => put({ toAge: numberIn(v) })}
          error={error('toAge')}
        />
      </div>
    </FoldedEntry>
  );
}
