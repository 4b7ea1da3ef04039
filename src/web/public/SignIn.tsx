import './calendarWords.ts';
import { useMutation, useQueryClient } from '@tanstack/react-query';
import { useEffect, useRef, useState } from 'react';
import { useTranslation } from 'react-i18next';
import { useNavigate, useParams } from 'react-router';
import { mineContract } from '#contract/mine.ts';
import { type Answer, ApiProblem, call } from '#web/api.ts';
import { Button } from '#web/kit/Button.tsx';
import { Form } from '#web/kit/form/Form.tsx';
import { Text } from '#web/kit/form/fields.tsx';
import { prepare } from '#web/kit/form/request.ts';
import { useForm } from '#web/kit/form/useForm.ts';
import { Loading, Problems } from '#web/kit/notices.tsx';
import { askAnewAfter } from '#web/topics.ts';
import { language } from './language.ts';
import { Acts, Say, Soft, Title } from './parts.tsx';

type Entered = Answer<'POST /api/public/sign-in/code'>;
type Person = Entered['choose'][number];
type Asked = Answer<'POST /api/public/sign-in'> & { email: string };

/** Signs in without a password: an email on record, and the code that is sent there. */
export function SignIn({ then }: { then: () => void }) {
  const { t } = useTranslation();
  const [asked, setAsked] = useState<Asked | null>(null);
  const form = useForm({
    values: { email: '' },
    request: ({ email }) =>
      prepare(mineContract, 'POST /api/public/sign-in', { body: { email, language: language() } }),
    after: (answer, { email }) => setAsked({ email, ...answer }),
    again: true,
  });
  if (asked) return <Code asked={asked} again={() => setAsked(null)} then={then} />;
  return (
    <>
      <Title>{t('signInTitle')}</Title>
      <Soft marginBottom="14px">{t('signInText')}</Soft>
      <Form form={form} submit={t('sendCode')} size="go">
        <Text
          form={form}
          name="email"
          label={t('email')}
          type="email"
          autoComplete="email"
          inputMode="email"
          required
          autoFocus
        />
      </Form>
    </>
  );
}

/** The code that was sent, typed in the browser that asked for it. */
function Code({ asked, again, then }: { asked: Asked; again: () => void; then: () => void }) {
  const { t } = useTranslation();
  const [choose, setChoose] = useState<{ people: Person[]; code: string } | null>(null);
  const form = useForm({
    values: { code: '' },
    request: ({ code }) =>
      prepare(mineContract, 'POST /api/public/sign-in/code', { body: { ticket: asked.ticket, code } }),
    after: (entered, { code }) => (entered.signedIn ? then() : setChoose({ people: entered.choose, code })),
    again: true,
  });
  const pick = useMutation({
    mutationFn: (contactId: string) =>
      call('POST /api/public/sign-in/code', {
        body: { ticket: asked.ticket, code: choose?.code ?? '', contactId },
      }),
    onSuccess: then,
  });
  if (choose)
    return (
      <>
        <Problems of={pick.error instanceof ApiProblem ? pick.error : null} />
        <Choose people={choose.people} pick={pick.mutate} busy={pick.isPending} />
      </>
    );
  return (
    <>
      <Title>{t('codeTitle')}</Title>
      <Say role="status">
        {t('codeSent', { email: asked.email })}
        {asked.demoCode && ` ${t('demoCode', { code: asked.demoCode })}`}
      </Say>
      <Form
        form={form}
        submit={t('signIn')}
        size="go"
        beside={
          <Button look="plain" onClick={again}>
            {t('codeAgain')}
          </Button>
        }
      >
        <Text
          form={form}
          name="code"
          label={t('code')}
          inputMode="numeric"
          autoComplete="one-time-code"
          required
          autoFocus
        />
      </Form>
    </>
  );
}

/** Several people have an address: which of them it is. */
function Choose({
  people,
  pick,
  busy,
}: {
  people: readonly Person[];
  pick: (id: string) => void;
  busy: boolean;
}) {
  const { t } = useTranslation();
  return (
    <>
      <Title>{t('whichOfYou')}</Title>
      <Acts flexDirection="column" alignItems="flex-start">
        {people.map((p) => (
          <Button key={p.id} size="touch" disabled={busy} onClick={() => pick(p.id)}>
            {p.name}
          </Button>
        ))}
      </Acts>
    </>
  );
}

/** Signs in by the link of the message, once the page is open: a mail scanner that only looks at it uses nothing up. */
export default function ByLink() {
  const { t } = useTranslation();
  const { token = '' } = useParams();
  const navigate = useNavigate();
  const client = useQueryClient();
  const [choose, setChoose] = useState<Person[]>([]);
  const [problem, setProblem] = useState<ApiProblem | null>(null);
  const [busy, setBusy] = useState(false);
  const begun = useRef(false);
  const enter = async (contactId: string | null) => {
    setBusy(true);
    try {
      const entered = await call('POST /api/public/sign-in/link', { body: { token, contactId } });
      if (!entered.signedIn) setChoose(entered.choose);
      else {
        await askAnewAfter(client, 'POST /api/public/sign-in/link');
        await navigate('/mine', { replace: true });
      }
    } catch (error) {
      if (!(error instanceof ApiProblem)) throw error;
      setProblem(error);
    } finally {
      setBusy(false);
    }
  };
  useEffect(() => {
    if (begun.current) return;
    begun.current = true;
    void enter(null);
  });
  if (problem)
    return (
      <>
        <Title>{t('signInTitle')}</Title>
        <Problems of={problem} />
        <Acts>
          <Button onClick={() => void navigate('/mine', { replace: true })}>{t('codeAgain')}</Button>
        </Acts>
      </>
    );
  if (choose.length) return <Choose people={choose} busy={busy} pick={(id) => void enter(id)} />;
  return <Loading />;
}
