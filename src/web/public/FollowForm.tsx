import './followingWords.ts';
import { useTranslation } from 'react-i18next';
import { followingContract } from '#contract/following.ts';
import { Form } from '#web/kit/form/Form.tsx';
import { OneOf, Text } from '#web/kit/form/fields.tsx';
import { prepare } from '#web/kit/form/request.ts';
import { useForm } from '#web/kit/form/useForm.ts';
import { language } from './language.ts';
import { Two } from './parts.tsx';
import { ownZone } from './saying.ts';

/** Asks to hear of an event, or of every date of it, without a seat. */
export default function FollowForm({
  slug,
  series,
  done,
}: {
  slug: string;
  series: boolean;
  done: () => void;
}) {
  const { t } = useTranslation();
  const form = useForm({
    values: { of: series ? ('series' as const) : ('event' as 'event' | 'series'), name: '', email: '' },
    request: (body) =>
      prepare(followingContract, 'POST /api/public/events/:slug/followers', {
        params: { slug },
        body: { ...body, language: language(), zone: ownZone() },
      }),
    after: done,
    again: true,
  });
  return (
    <Form form={form} submit={t('followAsk')}>
      {series && (
        <OneOf
          form={form}
          name="of"
          label={t('followOf')}
          choices={[
            { value: 'series', label: t('followSeries') },
            { value: 'event', label: t('followEvent') },
          ]}
        />
      )}
      <Two>
        <Text form={form} name="name" label={t('followName')} autoComplete="name" required />
        <Text form={form} name="email" label={t('email')} type="email" autoComplete="email" required />
      </Two>
    </Form>
  );
}
