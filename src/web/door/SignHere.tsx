import { type DoorRow, doorsContract } from '#contract/doors.ts';
import type { Answer } from '#web/api.ts';
import { Button } from '#web/kit/Button.tsx';
import { phrase } from '#web/words/phrase.ts';
import { Form } from '../kit/form/Form.tsx';
import { Text } from '../kit/form/fields.tsx';
import { prepare } from '../kit/form/request.ts';
import { useForm } from '../kit/form/useForm.ts';
import { say } from '../kit/toast.tsx';
import { AboutOne, Clauses, HandMore } from '../signing/Clauses.tsx';
import { answersSent, handSent, nothingTyped } from '../signing/hand.ts';
import { signingWords } from '../signing/words.ts';
import { nameOf } from './saying.ts';

/** The waiver, read and signed on the device of the door: by the person, or by a guardian for a child. */
export function SignHere({
  waiver,
  row,
  cancel,
  after,
}: {
  waiver: Answer<'GET /api/events/:id/doors'>['waivers'][number];
  row: DoorRow;
  cancel: () => void;
  after: () => void;
}) {
  const guardian = row.missing.includes('guardian');
  const form = useForm({
    values: nothingTyped(1),
    request: (v) =>
      prepare(doorsContract, 'POST /api/registrations/:id/signatures', {
        params: { id: row.registrationId },
        body: {
          ...handSent(waiver, v),
          relation: guardian ? 'guardian' : 'self',
          answers: answersSent(v, 0),
        },
      }),
    after: () => {
      say(phrase('door.signedFor', { name: nameOf(row) }));
      after();
    },
  });
  return (
    <Form
      form={form}
      submit={phrase('door.sign')}
      size="touch"
      beside={
        <Button look="plain" size="touch" onClick={cancel}>
          {phrase('common.cancel')}
        </Button>
      }
    >
      <h3>{waiver.title}</h3>
      <p className="soft">
        {guardian
          ? phrase('door.aGuardianSignsFor', { name: nameOf(row) })
          : phrase('door.signs', { name: nameOf(row) })}
      </p>
      <Clauses form={form} waiver={waiver} words={signingWords} />
      <AboutOne form={form} waiver={waiver} at={0} path="seats.0.answers" name="" words={signingWords} />
      <HandMore form={form} guardian={guardian} words={signingWords} />
      <Text
        form={form}
        name="typedName"
        label={guardian ? phrase('door.guardiansFullName') : phrase('door.fullName')}
        help={phrase('door.typingTheNameSigns')}
        required
      />
    </Form>
  );
}
