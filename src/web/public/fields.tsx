import './holdingWords.ts';
import { chakra } from '@chakra-ui/react';
import type { ReactNode } from 'react';
import type { FieldPath, FieldPathByValue, FieldValues } from 'react-hook-form';
import { useTranslation } from 'react-i18next';
import type { PublicEvent } from '#contract/registration.ts';
import { OneOf as PlainOneOf } from '#web/kit/Choosing.tsx';
import { Choose, LongText, SeveralOf, Text, useBound } from '#web/kit/form/fields.tsx';
import type { Form } from '#web/kit/form/useForm.ts';
import { language } from './language.ts';

type Question = PublicEvent['questions'][number];

/** One question of an event, in the form its kind needs. */
export function QuestionField<V extends FieldValues>({
  form,
  name: path,
  question,
}: {
  form: Form<V>;
  name: FieldPath<V>;
  question: Question;
}) {
  const { t } = useTranslation();
  const label = (language() === 'fr' && question.prompt.fr) || question.prompt.en;
  const name = path as unknown as FieldPathByValue<V, string>;
  const field = { form, name, label, required: question.required };
  const choices = question.choices.map((c) => ({ value: c, label: c }));
  switch (question.kind) {
    case 'yes or no':
      return <YesOrNo {...field} />;
    case 'several of':
      return (
        <SeveralOf {...field} name={path as unknown as FieldPathByValue<V, string[]>} choices={choices} />
      );
    case 'one of':
      return <Choose {...field} choices={choices} empty={t('choose')} />;
    case 'long text':
      return <LongText {...field} rows={3} />;
    default:
      return <Text {...field} />;
  }
}

function YesOrNo<V extends FieldValues>({
  form,
  name,
  label,
  required,
}: {
  form: Form<V>;
  name: FieldPath<V>;
  label: string;
  required: boolean;
}) {
  const { t } = useTranslation();
  const { value, set, id, error } = useBound(form, name, label);
  return (
    <PlainOneOf
      id={id}
      label={label}
      required={required}
      error={error}
      value={value === undefined ? null : String(value)}
      set={(v) => set(v === 'true')}
      choices={[
        { value: 'true', label: t('yes') },
        { value: 'false', label: t('no') },
      ]}
    />
  );
}

/** A form within a line of a list, apart from what stands above it. */
export const Within = ({ children }: { children: ReactNode }) => (
  <chakra.div marginTop="12px">{children}</chakra.div>
);
