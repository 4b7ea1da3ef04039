import type { FieldPath } from 'react-hook-form';
import type { EventPage } from '#contract/events.ts';
import { guestsContract } from '#contract/guests.ts';
import type { QuestionPlan } from '#contract/plan.ts';
import type { RegistrationRow } from '#contract/seats.ts';
import type { AnswerValue } from '#core/questions/answering.ts';
import { askedOfSeat } from '#core/questions/showing.ts';
import { Button } from '#web/kit/Button.tsx';
import { Form as Filled } from '#web/kit/form/Form.tsx';
import { useBound } from '#web/kit/form/fields.tsx';
import { prepare } from '#web/kit/form/request.ts';
import { type Form, useForm } from '#web/kit/form/useForm.ts';
import { say } from '#web/kit/toast.tsx';
import { QuestionControl } from '#web/questions/QuestionControl.tsx';
import { phrase, term } from '#web/words/phrase.ts';

interface Typed {
  answers: Record<string, AnswerValue | undefined>;
}

/** Whether staff can answer a question for somebody: a file is whoever has it to bring, and what is sensitive is not seen here. */
const isTheirs = (q: QuestionPlan): boolean =>
  q.scope === 'attendee' && q.kind !== 'file' && !q.sensitive && q.keeps !== 'birthDate';

/** The questions of a seat that staff can answer for whoever sits there. */
export const answerable = (page: EventPage): QuestionPlan[] => page.plan.questions.filter(isTheirs);

/** Answers for whoever sits on a seat, as they said on the telephone. */
export function ChangeAnswers({
  row,
  page,
  done,
}: {
  row: RegistrationRow;
  page: EventPage;
  done: () => void;
}) {
  const questions = answerable(page);
  const form = useForm({
    values: {
      answers: Object.fromEntries(questions.map((q) => [q.id, row.answers[q.id]?.value])),
    } as Typed,
    request: ({ answers }) =>
      prepare(guestsContract, 'PATCH /api/registrations/:id', {
        params: { id: row.id },
        body: {
          given: row.given,
          family: row.family,
          birthDate: null,
          // What was taken away is said to be empty, so that it does not stay.
          answers: Object.fromEntries(questions.map((q) => [q.id, answers[q.id] ?? ''])),
        },
      }),
    after: () => {
      done();
      say(phrase('seats.answersChanged'));
    },
  });
  const given = Object.fromEntries(Object.entries(row.answers).map(([id, a]) => [id, a.value]));
  const shown = askedOfSeat(
    questions.map((q) => ({ ...q, prompt: q.prompt.en })),
    { offerId: row.offerId, answers: form.values.answers },
    { offerIds: [row.offerId], answers: given },
  );
  return (
    <Filled
      form={form}
      submit={phrase('common.save')}
      beside={<Button onClick={done}>{phrase('common.cancel')}</Button>}
    >
      {questions
        .filter((q) => shown.some((s) => s.id === q.id))
        .map((q) => (
          <Answer key={q.id} form={form} question={q} />
        ))}
    </Filled>
  );
}

function Answer({ form, question }: { form: Form<Typed>; question: QuestionPlan }) {
  const label = question.prompt.en;
  const { value, ...bound } = useBound(form, `answers.${question.id}` as FieldPath<Typed>, label);
  return (
    <QuestionControl
      {...bound}
      question={{ ...question, required: false, label, help: question.help.en }}
      value={value as AnswerValue | undefined}
      words={{
        choose: phrase('questions.choose'),
        yes: term('yes'),
        no: term('no'),
        chooseFile: phrase('questions.chooseFile'),
        remove: phrase('common.remove'),
      }}
    />
  );
}
