import { useState } from 'react';
import { staffContract } from '#contract/staff.ts';
import type { Answer } from '#web/api.ts';
import { Button } from '#web/kit/Button.tsx';
import { Phrase } from '#web/words/Phrase.tsx';
import { phrase } from '#web/words/phrase.ts';
import { Form } from '../kit/form/Form.tsx';
import { Text } from '../kit/form/fields.tsx';
import { type Prepared, prepare } from '../kit/form/request.ts';
import { type Form as FormState, useForm } from '../kit/form/useForm.ts';
import { Note } from '../kit/Note.tsx';
import { say } from '../kit/toast.tsx';

/** The second step of signing in: a code of an authenticator (RFC 6238), with recovery codes for when it is lost. */
export function SecondStep({ account }: { account: Answer<'GET /api/account'> }) {
  const { on, required, recoveryLeft } = account.secondStep;
  const [secret, setSecret] = useState<Answer<'POST /api/account/second-step'> | null>(null);
  const [recovery, setRecovery] = useState<string[] | null>(null);
  const begin = useForm({
    values: { current: '' },
    request: (body) => prepare(staffContract, 'POST /api/account/second-step', { body }),
    after: setSecret,
    again: true,
  });
  const turnOn = useForm({
    values: { code: '' },
    request: (body) => prepare(staffContract, 'PUT /api/account/second-step', { body }),
    after: (answer) => {
      setRecovery(answer.recovery);
      setSecret(null);
    },
    again: true,
  });
  const change = useForm({
    values: { current: '', off: false },
    request: ({ current, off }): Prepared<{ recovery?: string[] }> =>
      off
        ? (prepare(staffContract, 'DELETE /api/account/second-step', {
            body: { current },
          }) as Prepared<object>)
        : prepare(staffContract, 'POST /api/account/recovery', { body: { current } }),
    after: (answer) => {
      setRecovery(answer.recovery ?? null);
      if (!answer.recovery) say(phrase('common.theSecondStepIs'));
    },
    again: true,
  });
  return (
    <section aria-label={phrase('account.secondStep')}>
      <h2>{phrase('account.secondStepAtSign')}</h2>
      <p className={on ? 'soft' : required ? 'late' : 'soft'}>
        {on
          ? phrase('account.onOf10Recovery', { recoveryLeft })
          : required
            ? phrase('account.yourOrganizationAsksFor')
            : phrase('account.offWithItA')}
      </p>
      {recovery && (
        <Note tone="need">
          <p>
            <Phrase
              of="account.eachSignsYouIn"
              with={{ keepThese: <b>{phrase('account.keepTheseRecoveryCodes')}</b> }}
            />
          </p>
          <pre className="num">{recovery.join('\n')}</pre>
          <Button
            onClick={() => {
              void navigator.clipboard?.writeText(recovery.join('\n'));
              say(phrase('account.copied'));
            }}
          >
            {phrase('account.copyThem')}
          </Button>
        </Note>
      )}
      {!on && !secret && (
        <div className="form">
          <Form form={begin} submit={phrase('account.setItUp')} disabled={!begin.values.current}>
            <CurrentPassword form={begin} />
          </Form>
        </div>
      )}
      {!on && secret && (
        <div className="form">
          <p>{phrase('account.readThisPictureWith')}</p>
          <img
            alt={phrase('account.secretForTheAuthenticator')}
            width={180}
            height={180}
            src={`data:image/svg+xml,${encodeURIComponent(secret.svg)}`}
          />
          <p>
            <code className="num">{secret.secret.replace(/(.{4})/gu, '$1 ')}</code>
          </p>
          <Form
            form={turnOn}
            submit={phrase('account.turnItOn')}
            disabled={!turnOn.values.code.trim()}
            beside={
              <Button look="plain" onClick={() => setSecret(null)}>
                {phrase('common.cancel')}
              </Button>
            }
          >
            <Text
              form={turnOn}
              name="code"
              label={phrase('account.codeItShows')}
              inputMode="numeric"
              autoComplete="one-time-code"
              help={phrase('account.sixDigits')}
            />
          </Form>
        </div>
      )}
      {on && (
        <div className="form">
          <Form
            form={change}
            submit={phrase('account.newRecoveryCodes')}
            look="normal"
            disabled={!change.values.current}
            beside={
              !required && (
                <Button
                  look="stop"
                  disabled={change.sending || !change.values.current}
                  onClick={() => {
                    change.set({ off: true });
                    change.submit();
                  }}
                >
                  {phrase('account.turnItOff')}
                </Button>
              )
            }
          >
            <CurrentPassword form={change} />
          </Form>
        </div>
      )}
    </section>
  );
}

function CurrentPassword<V extends { current: string }>({ form }: { form: FormState<V> }) {
  return (
    <Text
      form={form as unknown as FormState<{ current: string }>}
      name="current"
      label={phrase('account.currentPassword')}
      type="password"
      autoComplete="current-password"
    />
  );
}
