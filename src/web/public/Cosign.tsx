import './holdingWords.ts';
import { useState } from 'react';
import { useTranslation } from 'react-i18next';
import { useParams } from 'react-router';
import { waiversContract } from '#contract/waivers.ts';
import type { Answer } from '#web/api.ts';
import { Form } from '#web/kit/form/Form.tsx';
import { Text } from '#web/kit/form/fields.tsx';
import { prepare } from '#web/kit/form/request.ts';
import { useForm } from '#web/kit/form/useForm.ts';
import { Loaded } from '#web/kit/notices.tsx';
import { AboutOne, Clauses, HandMore } from '#web/signing/Clauses.tsx';
import { answersSent, handSent, nothingTyped } from '#web/signing/hand.ts';
import { useAsk } from './asking.ts';
import { language } from './language.ts';
import { Say, Soft, Title } from './parts.tsx';
import { useSigningWords } from './signingWords.ts';

type Page = Answer<'GET /api/public/cosign/:token'>;

/** Where the other guardian signs for the children that the first one signed for. */
export default function Cosign() {
  const { token = '' } = useParams();
  const { t } = useTranslation();
  const [done, setDone] = useState<{ people: number; email: string } | null>(null);
  const page = useAsk('GET /api/public/cosign/:token', { token }, { query: { language: language() } });
  return (
    <Loaded of={page}>
      {(p) => (
        <>
          <Title>{p.waiver.title}</Title>
          {done ? (
            <Say tone="good" role="status">
              <p>{t('standingDone', { count: done.people })}</p>
              <p>{t('standingCopy', { email: done.email })}</p>
            </Say>
          ) : p.closed ? (
            <Say tone="stop">{t('standingClosed', { organization: p.organization })}</Say>
          ) : p.people.length === 0 ? (
            <Say tone="good">{t('bothSigned')}</Say>
          ) : (
            <Signing page={p} token={token} done={setDone} />
          )}
        </>
      )}
    </Loaded>
  );
}

function Signing({
  page: { waiver, people, by, organization },
  token,
  done,
}: {
  page: Page;
  token: string;
  done: (done: { people: number; email: string }) => void;
}) {
  const { t } = useTranslation();
  const words = useSigningWords();
  const form = useForm({
    values: { ...nothingTyped(people.length), email: '' },
    request: (v) =>
      prepare(waiversContract, 'POST /api/public/cosign/:token', {
        params: { token },
        body: {
          ...handSent(waiver, v),
          email: v.email,
          people: people.map((p, at) => ({ signatureId: p.signatureId, answers: answersSent(v, at) })),
          language: language(),
        },
      }),
    after: (answer, { email }) => done({ people: answer.people, email }),
  });
  return (
    <>
      <Soft marginBottom="12px">
        {organization} · {t('otherHasSigned', { name: by, people: people.map((p) => p.name).join(', ') })}
      </Soft>
      <Form form={form} size="go" submit={t('sign')} label={waiver.title}>
        <Clauses form={form} waiver={waiver} words={words} />
        {people.map(({ signatureId, name }, at) => (
          <AboutOne
            key={signatureId}
            form={form}
            waiver={waiver}
            at={at}
            path={`people.${at}.answers`}
            name={name}
            words={words}
          />
        ))}
        <HandMore form={form} guardian words={words} />
        <Text form={form} name="email" label={t('email')} type="email" autoComplete="email" required />
        <Text
          form={form}
          name="typedName"
          label={t('typeName')}
          help={t('signNote')}
          autoComplete="name"
          required
        />
      </Form>
    </>
  );
}
