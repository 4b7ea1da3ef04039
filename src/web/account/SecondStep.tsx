import { useState } from 'react';
import type { Answer } from '#web/api.ts';
import { Button } from '#web/kit/Button.tsx';
import { TextField } from '../kit/Field.tsx';
import { Problems } from '../kit/notices.tsx';
import { say } from '../kit/toast.tsx';
import { useAction } from '../parts/ask.ts';

/** The second step of signing in: a code of an authenticator (RFC 6238), with recovery codes for when it is lost. */
export function SecondStep({ account }: { account: Answer<'GET /api/account'> }) {
  const { on, required, recoveryLeft } = account.secondStep;
  const [current, setCurrent] = useState('');
  const [code, setCode] = useState('');
  const [recovery, setRecovery] = useState<string[] | null>(null);
  const begin = useAction('POST /api/account/second-step', () => setCurrent(''));
  const turnOn = useAction('PUT /api/account/second-step', (answer) => {
    setRecovery(answer.recovery);
    begin.reset();
    setCode('');
  });
  const turnOff = useAction('DELETE /api/account/second-step', () => {
    setCurrent('');
    setRecovery(null);
    say('The second step is off');
  });
  const renew = useAction('POST /api/account/recovery', (answer) => {
    setCurrent('');
    setRecovery(answer.recovery);
  });
  const problem = begin.problem ?? turnOn.problem ?? turnOff.problem ?? renew.problem;
  const password = (
    <TextField
      label="Current password"
      type="password"
      value={current}
      set={setCurrent}
      error={problem?.fields.current}
    />
  );
  return (
    <section aria-label="Second step">
      <h2>Second step at sign-in</h2>
      <p className={on ? 'soft' : required ? 'late' : 'soft'}>
        {on
          ? `On. ${recoveryLeft} of 10 recovery codes are left.`
          : required
            ? 'Your organization asks for it in your role: nothing else is open until it is set up.'
            : 'Off. With it, a password alone does not open your account.'}
      </p>
      <Problems of={problem} />
      {recovery && (
        <div className="note need">
          <p>
            <b>Keep these recovery codes somewhere safe.</b> Each signs you in once when the authenticator is
            lost. They are not shown again.
          </p>
          <pre className="num">{recovery.join('\n')}</pre>
          <Button
            onClick={() => {
              void navigator.clipboard?.writeText(recovery.join('\n'));
              say('Copied');
            }}
          >
            Copy them
          </Button>
        </div>
      )}
      {!on && !begin.data && (
        <form
          className="form"
          noValidate
          onSubmit={(e) => {
            e.preventDefault();
            begin.mutate({ body: { current } });
          }}
        >
          {password}
          <Button type="submit" look="main" disabled={begin.isPending || !current}>
            Set it up
          </Button>
        </form>
      )}
      {!on && begin.data && (
        <form
          className="form"
          noValidate
          onSubmit={(e) => {
            e.preventDefault();
            turnOn.mutate({ body: { code } });
          }}
        >
          <p>Read this picture with an authenticator app, or type the secret into it.</p>
          <img
            alt="Secret for the authenticator"
            width={180}
            height={180}
            src={`data:image/svg+xml,${encodeURIComponent(begin.data.svg)}`}
          />
          <p>
            <code className="num">{begin.data.secret.replace(/(.{4})/gu, '$1 ')}</code>
          </p>
          <TextField
            label="Code it shows"
            value={code}
            set={setCode}
            error={turnOn.problem?.fields.code}
            help="Six digits."
          />
          <div className="acts">
            <Button type="submit" look="main" disabled={turnOn.isPending || !code.trim()}>
              Turn it on
            </Button>
            <Button look="plain" onClick={() => begin.reset()}>
              Cancel
            </Button>
          </div>
        </form>
      )}
      {on && (
        <form className="form" noValidate onSubmit={(e) => e.preventDefault()}>
          {password}
          <div className="acts">
            <Button
              disabled={renew.isPending || !current}
              onClick={() => renew.mutate({ body: { current } })}
            >
              New recovery codes
            </Button>
            {!required && (
              <Button
                look="stop"
                disabled={turnOff.isPending || !current}
                onClick={() => turnOff.mutate({ body: { current } })}
              >
                Turn it off
              </Button>
            )}
          </div>
        </form>
      )}
    </section>
  );
}
