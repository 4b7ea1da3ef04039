import './programmeWords.ts';
import { useState } from 'react';
import { useTranslation } from 'react-i18next';
import { useParams } from 'react-router';
import { agendaContract } from '#contract/agenda.ts';
import { inLanguage } from '#core/events/french.ts';
import { sayLongDate } from '#core/time/say.ts';
import { readTexts } from '#core/words/texts.ts';
import { TextLink } from '#web/kit/Button.tsx';
import { Form } from '#web/kit/form/Form.tsx';
import { Count, LongText, Text } from '#web/kit/form/fields.tsx';
import { prepare } from '#web/kit/form/request.ts';
import { useForm } from '#web/kit/form/useForm.ts';
import { useAsk } from './asking.ts';
import { language } from './language.ts';
import { Loaded } from './notices.tsx';
import { Say, Soft, Title, Two } from './parts.tsx';

/** Somebody proposes a session for an event. */
export default function Propose() {
  const { slug = '' } = useParams();
  const { t } = useTranslation();
  return (
    <Loaded of={useAsk('GET /api/public/events/:slug/call', { slug })}>
      {(event) => (
        <>
          <Title>{t('proposeSession')}</Title>
          <Soft>
            {inLanguage(event, language()).title}
            {event.startsLocal && `, ${sayLongDate(event.startsLocal, language())}`}
          </Soft>
          <p>{readTexts(event.call.words, language())}</p>
          {event.call.closes && (
            <Soft>{t('callUntil', { date: sayLongDate(event.call.closes, language()) })}</Soft>
          )}
          <Fields slug={slug} isPublic={event.isPublic} />
        </>
      )}
    </Loaded>
  );
}

function Fields({ slug, isPublic }: { slug: string; isPublic: boolean }) {
  const { t } = useTranslation();
  const [sent, setSent] = useState('');
  const form = useForm({
    values: { title: '', about: '', minutes: '45', speakerName: '', speakerLine: '', email: '' },
    request: ({ minutes, ...v }) =>
      prepare(agendaContract, 'POST /api/public/events/:slug/proposals', {
        params: { slug },
        body: { ...v, minutes: Number(minutes), language: language() },
      }),
    after: (_, { title }) => setSent(title),
    draft: { name: `propose ${slug}`, keeping: 'device' },
  });
  if (sent)
    return (
      <Say tone="good" role="status">
        <p>{t('proposalSent', { title: sent })}</p>
        {isPublic && <TextLink to={`/e/${slug}`}>{t('backToEvent')}</TextLink>}
      </Say>
    );
  return (
    <Form form={form} size="go" submit={t('propose')}>
      <Text form={form} name="title" label={t('sessionTitle')} required />
      <LongText form={form} name="about" label={t('sessionAbout')} rows={6} />
      <Count form={form} name="minutes" label={t('sessionMinutes')} />
      <Two>
        <Text form={form} name="speakerName" label={t('yourName')} autoComplete="name" required />
        <Text form={form} name="email" label={t('email')} inputMode="email" autoComplete="email" required />
      </Two>
      <Text form={form} name="speakerLine" label={t('speakerLine')} help={t('speakerLineHelp')} />
    </Form>
  );
}
