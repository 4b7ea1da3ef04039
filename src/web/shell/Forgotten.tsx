import { useState } from 'react';
import { Link, useParams } from 'react-router';
import { Button, ButtonLink } from '#web/kit/Button.tsx';
import { TextField } from '../kit/Field.tsx';
import { Loaded, Problems } from '../kit/notices.tsx';
import { useAction, useAsk } from '../parts/ask.ts';

/** Asks for a new password by mail. */
export function Forgotten() {
  const [email, setEmail] = useState('');
  const ask = useAction('POST /api/password-resets');
  return (
    <main className="solo">
      <h1>A new password</h1>
      {ask.isSuccess ? (
        <p role="status">
          If {email} has an account here, a link is on its way. It works once, for half an hour.
        </p>
      ) : (
        <form
          noValidate
          onSubmit={(e) => {
            e.preventDefault();
            ask.mutate({ body: { email } });
          }}
        >
          <Problems of={ask.problem} />
          <TextField label="Email" type="email" value={email} set={setEmail} />
          <Button type="submit" look="main" disabled={ask.isPending || !email.trim()}>
            Send a link
          </Button>
        </form>
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
  const [password, setPassword] = useState('');
  const choose = useAction('POST /api/password-resets/:token');
  if (choose.isSuccess)
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
            <form
              noValidate
              onSubmit={(e) => {
                e.preventDefault();
                choose.mutate({ params: { token }, body: { password } });
              }}
            >
              <h1>Hello, {name}</h1>
              <Problems of={choose.problem} />
              <TextField
                label="New password"
                type="password"
                value={password}
                set={setPassword}
                help="At least 10 characters. Several words are easier to remember than signs."
                error={choose.problem?.fields.password}
              />
              <Button type="submit" look="main" disabled={choose.isPending}>
                Change the password
              </Button>
            </form>
          )}
        </Loaded>
      )}
    </main>
  );
}
