import { chakra } from '@chakra-ui/react';
import { useState } from 'react';
import { clearanceContract, type RuleBody, type RuleBook } from '#contract/clearance.ts';
import { phrase } from '#web/words/phrase.ts';
import { Button } from '../kit/Button.tsx';
import { Form } from '../kit/form/Form.tsx';
import { Choose, Text } from '../kit/form/fields.tsx';
import { prepare } from '../kit/form/request.ts';
import { useForm } from '../kit/form/useForm.ts';
import { Loaded } from '../kit/notices.tsx';
import { say } from '../kit/toast.tsx';
import { useAsk } from '../parts/ask.ts';
import { Bench } from './Bench.tsx';
import { RuleFields } from './RuleFields.tsx';
import { bookOf, noRule, typedRule } from './typed.ts';

/** The rules of clearance, each step as a part of one form, and beside them what they would have changed. */
export default function Rules() {
  const book = useAsk('GET /api/clearance/rules');
  return (
    <div className="page">
      <h1>{phrase('clearance.rules')}</h1>
      <chakra.p className="soft" maxWidth="70ch">
        {phrase('clearance.rulesText')}
      </chakra.p>
      <Loaded of={book}>{(b) => <Editor key={b.version} book={b} />}</Loaded>
    </div>
  );
}

function Editor({ book }: { book: RuleBook }) {
  const form = useForm({
    values: { rules: book.rules.map(typedRule), facts: book.facts },
    request: (values) =>
      prepare(clearanceContract, 'PUT /api/clearance/rules', {
        body: { ...bookOf(values), version: book.version },
      }),
    fieldOf: (path) => path.replace(/^(rules\.\d+)\.when\.(\d+)\.(\d+).*$/u, '$1.when.$2.$3.what'),
    after: () => say(phrase('clearance.rulesSaved')),
  });
  const { rules, facts } = form.values;
  const [open, setOpen] = useState<string | null>(null);
  const names = new Map(rules.map((r) => [r.id, r.step]));
  return (
    <chakra.div
      display="grid"
      gridTemplateColumns={{ base: '1fr', lg: 'minmax(0, 1fr) 340px' }}
      gap="28px"
      alignItems="start"
    >
      <Form form={form} submit={phrase('clearance.saveRules')}>
        <chakra.ol listStyleType="none" margin="0" padding="0">
          {rules.map((rule, at) => (
            <RuleFields
              key={rule.id}
              form={form}
              at={at}
              book={book}
              facts={facts}
              names={names}
              open={open === rule.id}
              toggle={() => setOpen(open === rule.id ? null : rule.id)}
              move={(by) => {
                const next = [...rules];
                next.splice(at + by, 0, ...next.splice(at, 1));
                form.set({ rules: next });
              }}
              remove={() =>
                form.set({
                  rules: rules
                    .filter((r) => r.id !== rule.id)
                    .map((r) => ({ ...r, after: r.after.filter((id) => id !== rule.id) })),
                })
              }
            />
          ))}
        </chakra.ol>
        <Button
          look="plain"
          onClick={() => {
            const rule = noRule();
            form.set({ rules: [...rules, rule] });
            setOpen(rule.id);
          }}
        >
          {phrase('clearance.addStep')}
        </Button>
        <chakra.h2 marginTop="22px">{phrase('clearance.ownFacts')}</chakra.h2>
        <p className="soft">{phrase('clearance.ownFactsText')}</p>
        {facts.map((fact, at) => (
          <chakra.div key={fact.id} display="flex" gap="12px" alignItems="end" flexWrap="wrap">
            <chakra.div flex="1 1 220px">
              <Text form={form} name={`facts.${at}.name`} label={phrase('clearance.factName')} required />
            </chakra.div>
            <Choose
              form={form}
              name={`facts.${at}.kind`}
              label={phrase('clearance.factKind')}
              choices={[
                { value: 'yes or no', label: phrase('clearance.yesOrNo') },
                { value: 'number', label: phrase('clearance.aNumber') },
              ]}
            />
            <chakra.span paddingBottom="12px">
              <Button look="link" onClick={() => form.set({ facts: facts.filter((f) => f.id !== fact.id) })}>
                {phrase('clearance.remove')}
              </Button>
            </chakra.span>
          </chakra.div>
        ))}
        <chakra.p marginBottom="16px">
          <Button
            look="plain"
            onClick={() =>
              form.set({ facts: [...facts, { id: crypto.randomUUID(), name: '', kind: 'yes or no' }] })
            }
          >
            {phrase('clearance.addFact')}
          </Button>
        </chakra.p>
      </Form>
      <Bench book={bookOf(form.values) as { rules: RuleBody[]; facts: RuleBook['facts'] }} />
    </chakra.div>
  );
}
