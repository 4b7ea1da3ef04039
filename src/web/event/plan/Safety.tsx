import { chakra } from '@chakra-ui/react';
import { askedCodes, type FactCode, isFactCode, planFacts } from '#core/clearance/facts.ts';
import { sayFact } from '#core/clearance/rules.ts';
import { phrase } from '#web/words/phrase.ts';
import { Button } from '../../kit/Button.tsx';
import { OneOf } from '../../kit/Choosing.tsx';
import { TextField } from '../../kit/Field.tsx';
import { useAsk } from '../../parts/ask.ts';
import type { SectionProps } from './section.ts';

/** What clearance looks at and the plan does not show. */
export function Safety({ draft: { plan, change } }: SectionProps) {
  const choices = useAsk('GET /api/choices').data;
  const own = useAsk('GET /api/clearance/facts').data ?? [];
  const { fromPlan } = planFacts({
    ...plan,
    highestPrice: Math.max(0, ...plan.offers.map((o) => o.price)),
    venueOurs: choices?.venues.find((v) => v.id === plan.venueId)?.ours ?? null,
    speakers: plan.speakers.length,
    shifts: [],
  });
  const answer = (key: string, value: boolean | number | null) => {
    const { [key]: _, ...others } = plan.facts;
    change({ facts: value === null ? others : { ...others, [key]: value } });
  };
  const yesNo = (key: string, label: string) => {
    const value = plan.facts[key];
    return (
      <YesNo
        key={key}
        label={label}
        value={value === undefined ? null : value === true}
        set={(so) => answer(key, so)}
        shown={isFactCode(key) && fromPlan.includes(key)}
      />
    );
  };
  // What nobody has said yet, of what is answered yes or no.
  const open = [...askedCodes, ...own.filter((f) => f.kind === 'yes or no').map((f) => f.id)].filter(
    (key) => plan.facts[key] === undefined && !fromPlan.some((code) => code === key),
  );
  return (
    <>
      <chakra.p className="soft" marginBottom="8px">
        {phrase('event.whatApplies')}
      </chakra.p>
      <chakra.div marginBottom="18px">
        {askedCodes.map((code: FactCode) => yesNo(code, sayFact({ code })))}
        {own.map((fact) =>
          fact.kind === 'yes or no' ? (
            yesNo(fact.id, fact.name)
          ) : (
            <TextField
              key={fact.id}
              label={fact.name}
              inputMode="numeric"
              value={plan.facts[fact.id] === undefined ? '' : String(plan.facts[fact.id])}
              set={(typed) => answer(fact.id, /^\d{1,6}$/u.test(typed.trim()) ? Number(typed.trim()) : null)}
            />
          ),
        )}
        {open.length > 0 && (
          <chakra.p marginTop="8px">
            <Button
              look="plain"
              onClick={() =>
                change({ facts: { ...plan.facts, ...Object.fromEntries(open.map((key) => [key, false])) } })
              }
            >
              {phrase('clearance.restNo')}
            </Button>
          </chakra.p>
        )}
      </chakra.div>
    </>
  );
}

/** Something that is so, is not so, or was not said yet; said by the plan itself where that shows it. */
function YesNo({
  label,
  value,
  set,
  shown,
}: {
  label: string;
  value: boolean | null;
  set: (so: boolean) => void;
  shown: boolean;
}) {
  return (
    <chakra.div
      display="grid"
      gridTemplateColumns={{ base: '1fr auto', md: '280px auto' }}
      gap="4px 16px"
      alignItems="center"
      padding="3px 0"
      borderBottom="1px solid"
      borderColor="line"
      css={{ '& fieldset': { margin: 0 }, '& [role="radiogroup"]': { display: 'flex', gap: '14px' } }}
    >
      <span>{label}</span>
      {shown ? (
        <span className="soft">
          {phrase('clearance.yes')} · {phrase('clearance.fromPlan')}
        </span>
      ) : (
        <OneOf
          label={label}
          headed
          value={value === null ? null : value ? 'yes' : 'no'}
          set={(v) => set(v === 'yes')}
          choices={[
            { value: 'yes', label: phrase('clearance.yes') },
            { value: 'no', label: phrase('clearance.no') },
          ]}
        />
      )}
    </chakra.div>
  );
}
