import { useState } from 'react';
import { Link, useParams } from 'react-router';
import { staffContract } from '#contract/staff.ts';
import { ButtonLink } from '#web/kit/Button.tsx';
import { phrase } from '#web/words/phrase.ts';
import { Form } from '../kit/form/Form.tsx';
import { Text } from '../kit/form/fields.tsx';
import { prepare } from '../kit/form/request.ts';
import { useForm } from '../kit/form/useForm.ts';
import { Loaded } from '../kit/notices.tsx';
import { useAsk } from '../parts/ask.ts';
import { NewPassword } from '../parts/NewPassword.tsx';

/** Asks for a new password by mail. */
export function Forgotten() {
  const [sentTo, setSentTo] = useState<string | null>(null);
  const form = useForm({
    values: { email: '' },
    request: (body) => prepare(staffContract, 'POST /api/password-resets', { body }),
    after: (_, { email }) => setSentTo(email),
  });
  return (
    <main className="solo">
      <h1>{phrase('shell.aNewPassword')}</h1>
      {sentTo !== null ? (
        <p role="status">{phrase('shell.ifHasAnAccount', { sentTo })}</p>
      ) : (
        <Form form={form} submit={phrase('shell.sendALink')}>
          <Text
            form={form}
            name="email"
            label={phrase('common.email')}
            type="email"
            autoComplete="username"
            required
          />
        </Form>
      )}
      <p>
        <Link to="/sign-in">{phrase('shell.backToSignIn')}</Link>
      </p>
    </main>
  );
}

/** Chooses a new password by the link from the message. */
export function Reset() {
  const { token = '' } = useParams();
  const reset = useAsk('GET /api/password-resets/:token', { params: { token } });
  const [done, setDone] = useState(false);
  const form = useForm({
    values: { password: '' },
    request: (body) =>
      prepare(staffContract, 'POST /api/password-resets/:token', { params: { token }, body }),
    after: () => setDone(true),
  });
  if (done)
    return (
      <main className="solo">
        <h1>{phrase('shell.changed')}</h1>
        <p role="status">{phrase('shell.yourPasswordIsThe')}</p>
        <ButtonLink look="main" to="/sign-in">
          {phrase('shell.signIn')}
        </ButtonLink>
      </main>
    );
  return (
    <main className="solo">
      {reset.error ? (
        <>
          <h1>{phrase('shell.thisLinkNoLonger')}</h1>
          <p>{phrase('shell.itWorksOnceFor')}</p>
          <ButtonLink to="/forgotten">{phrase('shell.askForAnother')}</ButtonLink>
        </>
      ) : (
        <Loaded of={reset}>
          {({ name }) => (
            <>
              <h1>{phrase('shell.hello', { name })}</h1>
              <Form form={form} submit={phrase('common.changeThePassword')}>
                <NewPassword form={form} name="password" label={phrase('common.newPassword')} />
              </Form>
            </>
          )}
        </Loaded>
      )}
    </main>
  );
}
