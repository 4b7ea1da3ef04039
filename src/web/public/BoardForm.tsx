import { useTranslation } from 'react-i18next';
import { boardContract } from '#contract/board.ts';
import { Form } from '#web/kit/form/Form.tsx';
import { LongText, Text, Tick } from '#web/kit/form/fields.tsx';
import { prepare } from '#web/kit/form/request.ts';
import { useForm } from '#web/kit/form/useForm.ts';
import { language } from './language.ts';
import { Two } from './parts.tsx';

/** Asks a question on the board of an event. */
export default function BoardForm({ slug, done }: { slug: string; done: () => void }) {
  const { t } = useTranslation();
  const form = useForm({
    values: { name: '', email: '', words: '', follows: false },
    request: (body) =>
      prepare(boardContract, 'POST /api/public/events/:slug/board', {
        params: { slug },
        body: { ...body, language: language() },
      }),
    after: done,
    again: true,
  });
  return (
    <Form form={form} submit={t('boardSend')}>
      <LongText form={form} name="words" label={t('boardQuestion')} rows={3} required />
      <Two>
        <Text form={form} name="name" label={t('followName')} autoComplete="name" required />
        <Text form={form} name="email" label={t('email')} type="email" autoComplete="email" required />
      </Two>
      <Tick form={form} name="follows" label={t('boardFollow')} />
    </Form>
  );
}
