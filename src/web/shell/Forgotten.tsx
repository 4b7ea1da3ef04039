import { useState } from 'react';
import { Link, useParams } from 'react-router';
import { staffContract } from '#contract/staff.ts';
import { ButtonLink } from '#web/kit/Button.tsx';
import { Form } from '../kit/form/Form.tsx';
import { Text } from '../kit/form/fields.tsx';
import { prepare } from '../kit/form/request.ts';
import { useForm } from '../kit/form/useForm.ts';
import { Loaded } from '../kit/notices.tsx';
import { useAsk } from '../parts/ask.ts';

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
      <h1>A new password</h1>
      {sentTo !== null ? (
        <p role="status">
          If {sentTo} has an account here, a link is on its way. It works once, for half an hour.
        </p>
      ) : (
        <Form form={form} submit="Send a link">
          <Text form={form} name="email" label="Email" type="email" autoComplete="username" required />
        </Form>
      )}
      <p>
        <Link to="/sign-in">Back to sign in</Link>
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
        <h1>Changed</h1>
        <p role="status">Your password is the new one, and every session has ended.</p>
        <ButtonLink look="main" to="/sign-in">
          Sign in
        </ButtonLink>
      </main>
    );
  return (
    <main className="solo">
      {reset.error ? (
        <>
          <h1>This link no longer works</h1>
          <p>It works once, for half an hour.</p>
          <ButtonLink to="/forgotten">Ask for another</ButtonLink>
        </>
      ) : (
        <Loaded of={reset}>
          {({ name }) => (
            <>
              <h1>Hello, {name}</h1>
              <Form form={form} submit="Change the password">
                <Text
                  form={form}
                  name="password"
                  label="New password"
                  type="password"
                  autoComplete="new-password"
                  required
                  help="At least 10 characters. Several words are easier to remember than signs."
                />
              </Form>
            </>
          )}
        </Loaded>
      )}
    </main>
  );
}
