import { chakra } from '@chakra-ui/react';
import type { TFunction } from 'i18next';
import { useState } from 'react';
import { useTranslation } from 'react-i18next';
import { type PublicOrder, registrationContract } from '#contract/registration.ts';
import { type AnswerValue, sayAnswer } from '#core/questions/answering.ts';
import { askedOfOrder } from '#core/questions/showing.ts';
import { readTexts } from '#core/words/texts.ts';
import { Button } from '#web/kit/Button.tsx';
import { Form } from '#web/kit/form/Form.tsx';
import { prepare } from '#web/kit/form/request.ts';
import { useForm } from '#web/kit/form/useForm.ts';
import { QuestionField } from '../fields.tsx';
import { language } from '../language.ts';
import { Acts, Ends, Head, Rows } from '../parts.tsx';
import { offersOf, useReload } from './booking.ts';

/** What was answered for the booking itself, and the way to change it. */
export function Answers({ order, token }: { order: PublicOrder; token: string }) {
  const { t } = useTranslation();
  const reload = useReload(token);
  const [open, setOpen] = useState(false);
  const form = useForm({
    values: { answers: order.form.answers },
    request: ({ answers }) =>
      prepare(registrationContract, 'PUT /api/public/orders/:token/answers', {
        params: { token },
        body: {
          answers: Object.fromEntries(Object.entries(answers).filter(([, v]) => v !== undefined)),
        },
      }),
    after: async () => {
      await reload();
      setOpen(false);
    },
  });
  const shown = askedOfOrder(order.form.questions, {
    offerIds: offersOf(order),
    answers: open ? (form.values.answers ?? {}) : order.form.answers,
  }).filter((q) => q.keeps !== 'phone');
  if (!shown.length) return null;
  return (
    <>
      <Head>{t('yourAnswers')}</Head>
      {open ? (
        <Form
          form={form}
          submit={t('save')}
          beside={<Button onClick={() => setOpen(false)}>{t('cancel')}</Button>}
        >
          {shown.map((q) => (
            <QuestionField
              key={q.id}
              form={form}
              name={`answers.${q.id}`}
              question={q}
              slug={order.event.slug}
            />
          ))}
        </Form>
      ) : (
        <>
          <Rows>
            {shown.map((q) => (
              <li key={q.id}>
                <Ends>
                  <span>{readTexts(q.prompt, language())}</span>
                  <chakra.span color="soft">{sayShort(order.form.answers[q.id], t)}</chakra.span>
                </Ends>
              </li>
            ))}
          </Rows>
          {order.namesUntil !== null && (
            <Acts marginTop="6px">
              <Button onClick={() => setOpen(true)}>{t('changeAnswers')}</Button>
            </Acts>
          )}
        </>
      )}
    </>
  );
}

const sayShort = (value: AnswerValue | undefined, t: TFunction): string =>
  value === undefined ? '–' : typeof value === 'boolean' ? t(value ? 'yes' : 'no') : sayAnswer(value);
