import { chakra } from '@chakra-ui/react';
import { type DoorRow, doorsContract } from '#contract/doors.ts';
import { type CrewPresent, servingContract } from '#contract/serving.ts';
import type { Answer } from '#web/api.ts';
import { Button } from '#web/kit/Button.tsx';
import { phrase } from '#web/words/phrase.ts';
import { Form } from '../kit/form/Form.tsx';
import { Text } from '../kit/form/fields.tsx';
import { type Prepared, prepare } from '../kit/form/request.ts';
import { useForm } from '../kit/form/useForm.ts';
import { say } from '../kit/toast.tsx';
import { AboutOne, Clauses, HandMore } from '../signing/Clauses.tsx';
import { answersSent, type HandTyped, handSent, nothingTyped } from '../signing/hand.ts';
import { signingWords } from '../signing/words.ts';
import { nameOf } from './saying.ts';

/** Whether a guardian signs for somebody on the list, or they sign themselves. */
const relationOf = (row: DoorRow): 'guardian' | 'self' =>
  row.missing.includes('guardian') ? 'guardian' : 'self';

/**
 * Who signs in one go with somebody: the children of their booking of whom the same is asked. Grown-ups sign for themselves, each with a hand
 * of their own.
 */
export const signedTogether = (row: DoorRow, all: readonly DoorRow[], waiverId: string): DoorRow[] => [
  row,
  ...all.filter(
    (r) =>
      r.registrationId !== row.registrationId &&
      r.orderId === row.orderId &&
      relationOf(r) === 'guardian' &&
      r.toSign.includes(waiverId) &&
      `${r.given}${r.family}` !== '',
  ),
];

type Waiver = Answer<'GET /api/events/:id/doors'>['waivers'][number];

/** The waiver, read and signed on the device of the door: by the person, or by a guardian for a child, and for the others of a family at once. */
export function SignHere({
  waiver,
  people,
  cancel,
  after,
}: {
  waiver: Waiver;
  /** Whom it is signed for, whoever stands there first. */
  people: readonly DoorRow[];
  cancel: () => void;
  after: () => void;
}) {
  const [row, ...others] = people as [DoorRow, ...DoorRow[]];
  return (
    <Signing
      waiver={waiver}
      people={people.map((r) => ({ name: nameOf(r), relation: relationOf(r) }))}
      request={(v) =>
        prepare(doorsContract, 'POST /api/registrations/:id/signatures', {
          params: { id: row.registrationId },
          body: {
            ...handSent(waiver, v),
            relation: relationOf(row),
            answers: answersSent(v, 0),
            others: others.map((r, at) => ({
              registrationId: r.registrationId,
              relation: relationOf(r),
              answers: answersSent(v, at + 1),
            })),
          },
        })
      }
      cancel={cancel}
      after={after}
    />
  );
}

/** The same for somebody of the crew. */
export function CrewSignsHere({
  waiver,
  row,
  cancel,
  after,
}: {
  waiver: Waiver;
  row: CrewPresent;
  cancel: () => void;
  after: () => void;
}) {
  return (
    <Signing
      waiver={waiver}
      people={[row]}
      request={(v) =>
        prepare(servingContract, 'POST /api/assignments/:id/signatures', {
          params: { id: row.assignmentId },
          body: { ...handSent(waiver, v), relation: row.relation, answers: answersSent(v, 0) },
        })
      }
      cancel={cancel}
      after={after}
    />
  );
}

function Signing<A>({
  waiver,
  people,
  request,
  cancel,
  after,
}: {
  waiver: Waiver;
  people: readonly { name: string; relation: 'self' | 'guardian' }[];
  request: (typed: HandTyped) => Prepared<A>;
  cancel: () => void;
  after: () => void;
}) {
  const [first, ...others] = people as [(typeof people)[number], ...(typeof people)[number][]];
  const names = people.map((p) => p.name).join(', ');
  const form = useForm({
    values: nothingTyped(people.length),
    request,
    after: () => {
      say(phrase('door.signedFor', { name: names }));
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
      <chakra.h3 marginTop="14px">{waiver.title}</chakra.h3>
      <p className="soft">
        {first.relation === 'guardian'
          ? phrase('door.aGuardianSignsFor', { name: names })
          : others.length > 0
            ? phrase('door.signsForAlso', { name: first.name, others: others.map((o) => o.name).join(', ') })
            : phrase('door.signs', { name: names })}
      </p>
      <Clauses form={form} waiver={waiver} words={signingWords} />
      {people.map(({ name }, at) => (
        <AboutOne
          key={at}
          form={form}
          waiver={waiver}
          at={at}
          path={`seats.${at}.answers`}
          name={people.length > 1 ? name : ''}
          words={signingWords}
        />
      ))}
      <HandMore form={form} guardian={people.some((p) => p.relation === 'guardian')} words={signingWords} />
      <Text
        form={form}
        name="typedName"
        label={first.relation === 'guardian' ? phrase('door.guardiansFullName') : phrase('door.fullName')}
        help={phrase('door.typingTheNameSigns')}
        required
      />
    </Form>
  );
}
