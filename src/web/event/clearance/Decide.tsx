import { chakra } from '@chakra-ui/react';
import { type Clearance, clearanceContract } from '#contract/clearance.ts';
import { type DecisionWord, decisions } from '#core/clearance/steps.ts';
import { phrase } from '#web/words/phrase.ts';
import { Button } from '../../kit/Button.tsx';
import { Form } from '../../kit/form/Form.tsx';
import { Choose, DateField, LongText, OneOf, Text, Tick } from '../../kit/form/fields.tsx';
import { prepare } from '../../kit/form/request.ts';
import { useForm } from '../../kit/form/useForm.ts';
import { say } from '../../kit/toast.tsx';

const decisionLabels: Record<DecisionWord, string> = {
  clear: phrase('clearance.clear'),
  'clear with conditions': phrase('clearance.withConditions'),
  'send back': phrase('clearance.sendBack'),
  refuse: phrase('clearance.refuse'),
};

const noCondition = { what: '', ownerId: '', dueOn: '', blocks: false };

/** The decision on a step: cleared, cleared with conditions, sent back with questions, or refused. */
export function Decide({
  stepId,
  step,
  people,
}: {
  stepId: string;
  step: string;
  people: Clearance['people'];
}) {
  const form = useForm({
    values: {
      decision: 'clear' as DecisionWord,
      words: '',
      conditions: [noCondition],
      questions: [''],
    },
    request: ({ decision, words, conditions, questions }) =>
      prepare(clearanceContract, 'POST /api/clearance-steps/:id/decision', {
        params: { id: stepId },
        body: {
          decision,
          words,
          conditions:
            decision === 'clear with conditions'
              ? conditions.map((c) => ({ ...c, ownerId: c.ownerId || null, dueOn: c.dueOn || null }))
              : [],
          questions: decision === 'send back' ? questions.filter((q) => q.trim()) : [],
        },
      }),
    after: () => say(phrase('clearance.decided')),
  });
  const { decision, conditions, questions } = form.values;
  return (
    <chakra.div className="form" marginTop="8px">
      <Form form={form} submit={decisionLabels[decision]}>
        <OneOf
          form={form}
          name="decision"
          label={phrase('clearance.yourDecision', { step })}
          choices={decisions.map((d) => ({ value: d, label: decisionLabels[d] }))}
        />
        {decision === 'clear with conditions' && (
          <>
            {conditions.map((_, n) => (
              // Lines have no identity but their place.
              <chakra.div key={n} borderLeft="2px solid" borderColor="line" paddingLeft="12px">
                <Text
                  form={form}
                  name={`conditions.${n}.what`}
                  label={phrase('clearance.condition', { n: n + 1 })}
                  required
                />
                <div className="pair">
                  <Choose
                    form={form}
                    name={`conditions.${n}.ownerId`}
                    label={phrase('clearance.owner')}
                    empty={phrase('clearance.nobodyYet')}
                    choices={people.map((p) => ({ value: p.id, label: p.name }))}
                  />
                  <DateField form={form} name={`conditions.${n}.dueOn`} label={phrase('clearance.dueOn')} />
                </div>
                <Tick form={form} name={`conditions.${n}.blocks`} label={phrase('clearance.blocks')}>
                  {phrase('clearance.blocks')}
                </Tick>
                {conditions.length > 1 && (
                  <Button
                    look="link"
                    onClick={() => form.set({ conditions: conditions.filter((_, at) => at !== n) })}
                  >
                    {phrase('clearance.remove')}
                  </Button>
                )}
              </chakra.div>
            ))}
            <Button look="plain" onClick={() => form.set({ conditions: [...conditions, noCondition] })}>
              {phrase('clearance.addCondition')}
            </Button>
          </>
        )}
        {decision === 'send back' && (
          <>
            {questions.map((_, n) => (
              <Text
                // Lines have no identity but their place.
                key={n}
                form={form}
                name={`questions.${n}`}
                label={phrase('clearance.question', { n: n + 1 })}
              />
            ))}
            <Button look="plain" onClick={() => form.set({ questions: [...questions, ''] })}>
              {phrase('clearance.addQuestion')}
            </Button>
          </>
        )}
        <LongText
          form={form}
          name="words"
          label={phrase('clearance.comment')}
          rows={2}
          required={decision === 'refuse'}
        />
      </Form>
    </chakra.div>
  );
}
