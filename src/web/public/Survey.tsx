import './holdingWords.ts';
import { chakra } from '@chakra-ui/react';
import { useState } from 'react';
import { useTranslation } from 'react-i18next';
import { useParams } from 'react-router';
import { surveysContract } from '#contract/surveys.ts';
import type { Answer } from '#web/api.ts';
import { Group } from '#web/kit/Field.tsx';
import { Form } from '#web/kit/form/Form.tsx';
import { LongText, OneOf, useBound } from '#web/kit/form/fields.tsx';
import { prepare } from '#web/kit/form/request.ts';
import { type Form as FormState, useForm } from '#web/kit/form/useForm.ts';
import { useAsk } from './asking.ts';
import { language } from './language.ts';
import { Loaded } from './notices.tsx';
import { Ends, Soft, Title } from './parts.tsx';

type Page = Answer<'GET /api/public/surveys/:token'>;
interface Filled {
  answers: Record<string, string | number>;
}

export default function Survey() {
  const { token = '' } = useParams();
  return (
    <Loaded of={useAsk('GET /api/public/surveys/:token', { token })}>
      {(page) => <Shown page={page} token={token} />}
    </Loaded>
  );
}

function Shown({ page, token }: { page: Page; token: string }) {
  const { t } = useTranslation();
  const [sent, setSent] = useState(false);
  const form = useForm({
    values: { answers: {} } as Filled,
    request: ({ answers }) =>
      prepare(surveysContract, 'POST /api/public/surveys/:token', {
        params: { token },
        body: {
          answers: Object.fromEntries(Object.entries(answers).filter(([, v]) => v !== undefined && v !== '')),
        },
      }),
    draft: { name: `survey ${token.slice(0, 12)}`, keeping: 'tab' },
    after: () => setSent(true),
  });
  if (page.answered || sent)
    return (
      <>
        <Title>{t('thankYou')}</Title>
        <Soft>{t('surveyDone')}</Soft>
      </>
    );
  return (
    <>
      <Soft marginTop="12px">{page.event}</Soft>
      <Title marginTop="2px">{(language() === 'fr' && page.title.fr) || page.title.en}</Title>
      <Soft marginBottom="18px">{page.anonymous ? t('surveyAnonymous') : t('surveyNamed')}</Soft>
      <Form form={form} submit={t('send')} size="go">
        {page.questions.map((q) => {
          const name = `answers.${q.id}` as const;
          const field = { form, name: name as never, label: q.prompt, required: q.required };
          if (q.kind === 'text') return <LongText key={q.id} {...field} />;
          if (q.kind === 'scale') return <Scale key={q.id} {...field} name={name} />;
          return (
            <OneOf
              key={q.id}
              {...field}
              choices={q.choices.filter((c) => c.trim()).map((c) => ({ value: c, label: c }))}
            />
          );
        })}
      </Form>
    </>
  );
}

/** One to five, each a thumb wide. */
function Scale({
  form,
  name,
  label,
  required,
}: {
  form: FormState<Filled>;
  name: `answers.${string}`;
  label: string;
  required: boolean;
}) {
  const { t } = useTranslation();
  const { value, set, id, error } = useBound(form, name, label);
  return (
    <Group label={label} required={required} error={error} id={id}>
      <chakra.div display="grid" gridTemplateColumns="repeat(5, 1fr)" gap="8px">
        {[1, 2, 3, 4, 5].map((n) => (
          <chakra.label
            key={n}
            border="1px solid"
            borderColor="rule"
            borderRadius="corner"
            textAlign="center"
            padding="9px 0"
            cursor="pointer"
            position="relative"
            css={{
              '&:has(input:checked)': {
                borderColor: 'verdigris',
                background: 'verdigris',
                color: 'onVerdigris',
              },
              '&:has(input:focus-visible)': {
                outline: '2px solid',
                outlineColor: 'verdigris',
                outlineOffset: '2px',
              },
            }}
          >
            <chakra.input
              type="radio"
              name={id}
              checked={value === n}
              onChange={() => set(n)}
              position="absolute"
              opacity="0"
            />
            {n}
          </chakra.label>
        ))}
      </chakra.div>
      <Ends fontSize="14px" color="soft">
        <span>{t('scaleLow')}</span>
        <span>{t('scaleHigh')}</span>
      </Ends>
    </Group>
  );
}
