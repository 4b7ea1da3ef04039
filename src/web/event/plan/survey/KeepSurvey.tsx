import { Trash2 } from 'lucide-react';
import type { SurveyPlan } from '#contract/surveyPlan.ts';
import { surveysContract } from '#contract/surveys.ts';
import type { Answer } from '#web/api.ts';
import { Button } from '#web/kit/Button.tsx';
import { FormDialog } from '#web/kit/form/FormDialog.tsx';
import { Text } from '#web/kit/form/fields.tsx';
import { prepare } from '#web/kit/form/request.ts';
import { useForm } from '#web/kit/form/useForm.ts';
import { Problems } from '#web/kit/notices.tsx';
import { say } from '#web/kit/toast.tsx';
import { useAction } from '#web/parts/ask.ts';
import { phrase } from '#web/words/phrase.ts';

/** Keeps a survey as a template, and takes templates away. */
export function KeepSurvey({
  survey,
  templates,
  close,
}: {
  survey: SurveyPlan;
  templates: Answer<'GET /api/survey-templates'>;
  close: () => void;
}) {
  const drop = useAction('DELETE /api/survey-templates/:id', () => say(phrase('surveys.gone')));
  const kept = templates.filter((t) => t.id !== null);
  const { id: _, ...what } = survey;
  const form = useForm({
    values: { name: '' },
    request: ({ name }) =>
      prepare(surveysContract, 'POST /api/survey-templates', {
        body: {
          name,
          survey: what,
          replace: kept.some((t) => t.name.toLowerCase() === name.trim().toLowerCase()),
        },
      }),
    after: () => {
      close();
      say(phrase('surveys.kept'));
    },
  });
  const same = kept.find((t) => t.name.toLowerCase() === form.values.name.trim().toLowerCase());
  return (
    <FormDialog
      form={form}
      title={phrase('surveys.keepTitle')}
      close={close}
      submit={phrase(same ? 'surveys.replaceIt' : 'surveys.keepIt')}
    >
      <Text
        form={form}
        name="name"
        label={phrase('surveys.name')}
        consequence={same && phrase('surveys.replaces', { name: same.name })}
        required
      />
      <Problems of={drop.problem} />
      {kept.length > 0 && (
        <ul className="lines" aria-label={phrase('surveys.templates')}>
          {kept.map((t) => (
            <li key={t.id} className="spread">
              <span>{t.name}</span>
              <Button
                look="plain"
                disabled={drop.isPending}
                aria-label={phrase('surveys.removeTemplate', { name: t.name })}
                onClick={() => drop.mutate({ params: { id: t.id! } })}
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
