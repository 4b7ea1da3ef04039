import { clearanceContract } from '#contract/clearance.ts';
import { phrase } from '#web/words/phrase.ts';
import { Form } from '../../kit/form/Form.tsx';
import { LongText, OneOf } from '../../kit/form/fields.tsx';
import { prepare } from '../../kit/form/request.ts';
import { useForm } from '../../kit/form/useForm.ts';
import { Note } from '../../kit/Note.tsx';
import { say } from '../../kit/toast.tsx';

/** A coordinator says whether a plan that was sent late goes to its approvers. */
export function Granting({ eventId, days, reason }: { eventId: string; days: number; reason: string }) {
  const form = useForm({
    values: { grant: 'yes' as 'yes' | 'no', words: '' },
    request: ({ grant, words }) =>
      prepare(clearanceContract, 'POST /api/events/:id/clearance/late', {
        params: { id: eventId },
        body: { grant: grant === 'yes', words },
      }),
    after: () => say(phrase('clearance.decided')),
  });
  const no = form.values.grant === 'no';
  return (
    <Note tone="need" marginTop="12px">
      <p>{phrase('clearance.asksLate', { days })}</p>
      <p>“{reason}”</p>
      <Form form={form} submit={phrase(no ? 'clearance.doNot' : 'clearance.letIt')}>
        <OneOf
          form={form}
          name="grant"
          label={phrase('clearance.yourDecision', { step: '' })}
          headed
          choices={[
            { value: 'yes', label: phrase('clearance.letIt') },
            { value: 'no', label: phrase('clearance.doNot') },
          ]}
        />
        <LongText
          form={form}
          name="words"
          label={phrase(no ? 'clearance.whyNot' : 'clearance.comment')}
          rows={2}
          required={no}
        />
      </Form>
    </Note>
  );
}
