import './holdingWords.ts';
import { chakra } from '@chakra-ui/react';
import type { ReactNode } from 'react';
import type { FieldPath, FieldValues } from 'react-hook-form';
import { useTranslation } from 'react-i18next';
import type { PublicQuestion } from '#contract/publicEvent.ts';
import type { AnswerValue } from '#core/questions/answering.ts';
import { readTexts } from '#core/words/texts.ts';
import { call } from '#web/api.ts';
import { base64Of } from '#web/base64.ts';
import { useBound } from '#web/kit/form/fields.tsx';
import type { Form } from '#web/kit/form/useForm.ts';
import { QuestionControl } from '#web/questions/QuestionControl.tsx';
import { language } from './language.ts';

/** One question of an event, in the form its kind needs. */
export function QuestionField<V extends FieldValues>({
  form,
  name,
  question,
  slug,
}: {
  form: Form<V>;
  name: FieldPath<V>;
  question: PublicQuestion;
  /** The event it belongs to: a file is brought in for it. */
  slug: string;
}) {
  const { t } = useTranslation();
  const label = readTexts(question.prompt, language());
  const { value, ...bound } = useBound(form, name, label);
  return (
    <QuestionControl
      {...bound}
      question={{ ...question, label, help: readTexts(question.help, language()) }}
      value={value as AnswerValue | undefined}
      words={{
        choose: t('choose'),
        yes: t('yes'),
        no: t('no'),
        chooseFile: t('chooseFile'),
        remove: t('remove'),
      }}
      upload={async (file) =>
        call('POST /api/public/events/:slug/files', {
          params: { slug },
          body: { name: file.name, content: await base64Of(file) },
        })
      }
    />
  );
}

/** A form within a line of a list, apart from what stands above it. */
export const Within = ({ children }: { children: ReactNode }) => (
  <chakra.div marginTop="12px">{children}</chakra.div>
);
