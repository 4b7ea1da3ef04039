import '../holdingWords.ts';
import './words.ts';
import { useState } from 'react';
import { useTranslation } from 'react-i18next';
import { useParams } from 'react-router';
import { applyingContract } from '#contract/applying.ts';
import { readTexts } from '#core/words/texts.ts';
import type { Answer } from '#web/api.ts';
import { Form } from '#web/kit/form/Form.tsx';
import { prepare } from '#web/kit/form/request.ts';
import { type Form as FormOf, useForm } from '#web/kit/form/useForm.ts';
import { useAsk } from '../asking.ts';
import { language } from '../language.ts';
import { Loaded } from '../notices.tsx';
import { PersonFields, type PersonValues } from '../PersonFields.tsx';
import { Head, Say, Title } from '../parts.tsx';
import { AboutCall } from './AboutCall.tsx';
import { SaidFields } from './SaidFields.tsx';
import { fieldOfSaid, type SaidValues, saidIn, typedSaid } from './saidValues.ts';

type Page = Answer<'GET /api/public/calls/:slug'>;

/** A call for volunteers, and the form in which somebody offers to help. */
export default function Help() {
  const { slug = '' } = useParams();
  return (
    <Loaded of={useAsk('GET /api/public/calls/:slug', { slug })}>{(page) => <Shown page={page} />}</Loaded>
  );
}

function Shown({ page }: { page: Page }) {
  const { t } = useTranslation();
  const [sentTo, setSentTo] = useState<string | null>(null);
  return (
    <>
      <Title>{readTexts(page.title, language())}</Title>
      <AboutCall call={page} />
      {sentTo !== null ? (
        <Say tone="good" role="status">
          {sentTo ? t('helpSent', { email: sentTo }) : t('helpSentOwn')}
        </Say>
      ) : page.open ? (
        <Offer page={page} sent={setSentTo} />
      ) : (
        <Say>{t('helpClosed')}</Say>
      )}
    </>
  );
}

function Offer({ page, sent }: { page: Page; sent: (to: string) => void }) {
  const { t } = useTranslation();
  const { you } = page;
  const form = useForm({
    values: { given: '', family: '', email: '', phone: '', ...typedSaid(page, you?.said ?? null) },
    request: ({ given, family, email, phone, ...v }) =>
      prepare(applyingContract, 'POST /api/public/calls/:slug', {
        params: { slug: page.slug },
        body: {
          person: you ? null : { given, family, email, phone },
          said: saidIn(page, v),
          language: language(),
        },
      }),
    fieldOf: (path, v) => fieldOfSaid(path, page, v),
    draft: { name: `help ${page.slug}`, keeping: 'device' },
    after: (_, { email }) => sent(you ? '' : email),
  });
  return (
    <Form form={form} size="go" submit={t('helpSend')}>
      {you ? (
        <Say>
          <p>{t('helpAs', { name: you.name })}</p>
          {you.applied && <p>{t('helpSaid')}</p>}
        </Say>
      ) : (
        <>
          <Head>{t('helpYour')}</Head>
          <PersonFields form={form as unknown as FormOf<PersonValues>} />
        </>
      )}
      <SaidFields form={form as unknown as FormOf<SaidValues>} call={page} files={you?.files ?? []} />
    </Form>
  );
}
