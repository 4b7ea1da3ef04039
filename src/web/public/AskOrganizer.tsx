import './programmeWords.ts';
import { useTranslation } from 'react-i18next';
import { registrationContract } from '#contract/registration.ts';
import { Form } from '#web/kit/form/Form.tsx';
import { LongText, Text } from '#web/kit/form/fields.tsx';
import { prepare } from '#web/kit/form/request.ts';
import { useForm } from '#web/kit/form/useForm.ts';
import { Two } from './parts.tsx';

/** Writes to whoever organizes an event; their address is not told. */
export default function AskOrganizer({ slug, done }: { slug: string; done: () => void }) {
  const { t } = useTranslation();
  const form = useForm({
    values: { name: '', email: '', words: '' },
    request: (body) =>
      prepare(registrationContract, 'POST /api/public/events/:slug/question', { params: { slug }, body }),
    after: done,
    again: true,
  });
  return (
    <Form form={form} submit={t('send')}>
      <Two>
        <Text form={form} name="name" label={t('yourName')} autoComplete="name" required />
        <Text form={form} name="email" label={t('email')} type="email" autoComplete="email" required />
      </Two>
      <LongText form={form} name="words" label={t('yourQuestion')} rows={4} />
    </Form>
  );
}
