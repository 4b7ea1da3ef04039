import { Trash2 } from 'lucide-react';
import { useState } from 'react';
import type { QuestionPlan } from '#contract/plan.ts';
import { type QuestionSet, questionSetsContract } from '#contract/questionSets.ts';
import { Button } from '#web/kit/Button.tsx';
import { FormDialog } from '#web/kit/form/FormDialog.tsx';
import { Text } from '#web/kit/form/fields.tsx';
import { prepare } from '#web/kit/form/request.ts';
import { useForm } from '#web/kit/form/useForm.ts';
import { Menu } from '#web/kit/Menu.tsx';
import { Problems } from '#web/kit/notices.tsx';
import { say } from '#web/kit/toast.tsx';
import { useAction, useAsk } from '#web/parts/ask.ts';
import { phrase } from '#web/words/phrase.ts';

/** The same questions as new ones: each with an id of its own, and what hangs on another hangs on the new one. */
function anew(questions: readonly QuestionPlan[]): QuestionPlan[] {
  const ids = new Map(questions.map((q) => [q.id, crypto.randomUUID()]));
  return questions.map((q) => ({
    ...q,
    id: ids.get(q.id)!,
    offerId: null,
    shownIf: q.shownIf && { ...q.shownIf, questionId: ids.get(q.shownIf.questionId) ?? q.shownIf.questionId },
  }));
}

/** Questions that are asked again and again: taken from a set, and kept as one. */
export function QuestionSets({
  questions,
  add,
}: {
  questions: readonly QuestionPlan[];
  add: (questions: QuestionPlan[]) => void;
}) {
  const sets = useAsk('GET /api/question-sets').data ?? [];
  const [keeping, setKeeping] = useState(false);
  return (
    <>
      {(sets.length > 0 || questions.length > 0) && (
        <Menu
          trigger={<Button look="plain">{phrase('questions.sets')}</Button>}
          entries={[
            ...sets.map((s) => ({
              label: phrase('questions.useSet', { name: s.name, n: s.questions.length }),
              run: () => add(anew(s.questions)),
            })),
            { label: phrase('questions.keepSet'), run: () => setKeeping(true) },
          ]}
        />
      )}
      {keeping && <Keep questions={questions} sets={sets} close={() => setKeeping(false)} />}
    </>
  );
}

/** Keeps the questions of an event as a set, and takes sets away. */
function Keep({
  questions,
  sets,
  close,
}: {
  questions: readonly QuestionPlan[];
  sets: readonly QuestionSet[];
  close: () => void;
}) {
  const drop = useAction('DELETE /api/question-sets/:id', () => say(phrase('questions.setGone')));
  const form = useForm({
    values: { name: '' },
    request: ({ name }) =>
      prepare(questionSetsContract, 'POST /api/question-sets', {
        body: {
          name,
          questions: [...questions],
          replace: sets.some((s) => s.name.toLowerCase() === name.trim().toLowerCase()),
        },
      }),
    after: () => {
      close();
      say(phrase('questions.kept'));
    },
  });
  const same = sets.find((s) => s.name.toLowerCase() === form.values.name.trim().toLowerCase());
  return (
    <FormDialog
      form={form}
      title={phrase('questions.sets')}
      close={close}
      disabled={questions.length === 0}
      submit={phrase(same ? 'questions.replaceSet' : 'questions.keep')}
    >
      <Text
        form={form}
        name="name"
        label={phrase('questions.setName')}
        help={phrase('questions.keepHelp', { n: questions.length })}
        consequence={same && phrase('questions.replaces', { name: same.name })}
        required
      />
      <Problems of={drop.problem} />
      {sets.length > 0 && (
        <ul className="lines">
          {sets.map((s) => (
            <li key={s.id} className="spread">
              <span>{phrase('questions.setOf', { name: s.name, n: s.questions.length })}</span>
              <Button
                look="plain"
                disabled={drop.isPending}
                aria-label={phrase('questions.removeSet', { name: s.name })}
                onClick={() => drop.mutate({ params: { id: s.id } })}
              >
                <Trash2 size={15} aria-hidden /> {phrase('common.remove')}
              </Button>
            </li>
          ))}
        </ul>
      )}
    </FormDialog>
  );
}
