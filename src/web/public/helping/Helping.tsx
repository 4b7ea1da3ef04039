import '../holdingWords.ts';
import './words.ts';
import { chakra } from '@chakra-ui/react';
import { useState } from 'react';
import { useTranslation } from 'react-i18next';
import { Link, useParams } from 'react-router';
import { applyingContract } from '#contract/applying.ts';
import { readTexts } from '#core/words/texts.ts';
import type { Answer } from '#web/api.ts';
import { Form } from '#web/kit/form/Form.tsx';
import { LongText } from '#web/kit/form/fields.tsx';
import { prepare } from '#web/kit/form/request.ts';
import { useForm } from '#web/kit/form/useForm.ts';
import { useAsk } from '../asking.ts';
import { language } from '../language.ts';
import { Loaded } from '../notices.tsx';
import { Say, Soft, Title } from '../parts.tsx';
import { AboutCall } from './AboutCall.tsx';
import { OwnDeposit } from './OwnDeposit.tsx';
import { SaidFields } from './SaidFields.tsx';
import { fieldOfSaid, saidIn, typedSaid } from './saidValues.ts';

type Page = Answer<'GET /api/public/applications/:token'>;

/** Somebody’s own application, by their link: confirmed, changed, and what is asked answered. */
export default function Helping() {
  const { token = '' } = useParams();
  return (
    <Loaded of={useAsk('GET /api/public/applications/:token', { token }, { everyMs: 15_000 })}>
      {(page) => <Shown page={page} token={token} />}
    </Loaded>
  );
}

function Shown({ page, token }: { page: Page; token: string }) {
  const { t } = useTranslation();
  const { call, state } = page;
  return (
    <>
      <Title>{t('helpOwnTitle', { name: page.name })}</Title>
      <Soft>{readTexts(call.title, language())}</Soft>
      <AboutCall call={call} depositAsked={page.deposit !== null} />
      <Say {...(state === 'accepted' && { tone: 'good' as const })}>
        <p>{t(`helpState.${state}`)}</p>
        {page.shiftsToken && (
          <p>
            <Link to={`/crew/${page.shiftsToken}`}>{t('helpShiftsLink')}</Link>
          </p>
        )}
      </Say>
      {page.deposit && <OwnDeposit deposit={page.deposit} token={token} />}
      {page.question && <Asked page={page} token={token} />}
      {page.maySay && (call.open || state !== 'invited') && <Own page={page} token={token} />}
    </>
  );
}

function Asked({ page, token }: { page: Page; token: string }) {
  const { t } = useTranslation();
  const form = useForm({
    values: { words: page.answer },
    request: (body) =>
      prepare(applyingContract, 'POST /api/public/applications/:token/answer', { params: { token }, body }),
    again: true,
  });
  return (
    <Say tone="need">
      <p>{t('helpAsked')}</p>
      <chakra.p className="name" whiteSpace="pre-line" margin="4px 0 8px">
        {page.question}
      </chakra.p>
      {page.answer ? (
        <chakra.p whiteSpace="pre-line">{t('helpAnswered', { answer: page.answer })}</chakra.p>
      ) : (
        <Form form={form} submit={t('helpSendAnswer')}>
          <LongText form={form} name="words" label={t('helpAnswer')} rows={3} />
        </Form>
      )}
    </Say>
  );
}

function Own({ page, token }: { page: Page; token: string }) {
  const { t } = useTranslation();
  const { call, state } = page;
  const [kept, setKept] = useState(false);
  const form = useForm({
    values: typedSaid(call, page.said),
    request: (v) =>
      prepare(applyingContract, 'PUT /api/public/applications/:token', {
        params: { token },
        body: { said: saidIn(call, v), language: language() },
      }),
    fieldOf: (path, v) => fieldOfSaid(path, call, v),
    after: () => setKept(true),
    again: true,
  });
  return (
    <>
      {state === 'invited' && <Soft>{t('helpKnown')}</Soft>}
      <Form form={form} size="go" submit={t(state === 'invited' ? 'helpConfirm' : 'helpChange')}>
        <SaidFields form={form} call={call} files={page.files} />
      </Form>
      {kept && (
        <Say tone="good" role="status">
          {t('helpSentOwn')}
        </Say>
      )}
    </>
  );
}
