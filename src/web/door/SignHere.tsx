import { type DoorRow, doorsContract } from '#contract/doors.ts';
import type { Answer } from '#web/api.ts';
import { Button } from '#web/kit/Button.tsx';
import { phrase } from '#web/words/phrase.ts';
import { Tick } from '../kit/Choosing.tsx';
import { Form } from '../kit/form/Form.tsx';
import { Text } from '../kit/form/fields.tsx';
import { prepare } from '../kit/form/request.ts';
import { useForm } from '../kit/form/useForm.ts';
import { say } from '../kit/toast.tsx';
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
    values: { typedName: '', ticked: [] as string[] },
    request: (v) =>
      prepare(doorsContract, 'POST /api/registrations/:id/signatures', {
        params: { id: row.registrationId },
        body: { waiverId: waiver.id, relation: guardian ? 'guardian' : 'self', ...v },
      }),
    after: () => {
      say(phrase('door.signedFor', { name: nameOf(row) }));
      after();
    },
  });
  const { ticked } = form.values;
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
      {waiver.clauses.map((c) => (
        <Tick
          key={c.id}
          checked={ticked.includes(c.id)}
          set={(on) => form.set({ ticked: on ? [...ticked, c.id] : ticked.filter((x) => x !== c.id) })}
        >
          {c.text}
        </Tick>
      ))}
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
