import { useState } from 'react';
import { Link, useParams } from 'react-router';
import { useAction, useAsk } from '../parts/ask.ts';
import { TextField } from '../parts/Field.tsx';
import { Loaded, Problems } from '../parts/notices.tsx';

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
          <button type="submit" className="btn primary" disabled={ask.isPending || !email.trim()}>
            Send a link
          </button>
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
        <Link className="btn primary" to="/sign-in">
          Sign in
        </Link>
      </main>
    );
  return (
    <main className="solo">
      {reset.error ? (
        <>
          <h1>This link no longer works</h1>
          <p>It works once, for half an hour.</p>
          <Link className="btn" to="/forgotten">
            Ask for another
          </Link>
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
              <button type="submit" className="btn primary" disabled={choose.isPending}>
                Change the password
              </button>
            </form>
          )}
        </Loaded>
      )}
    </main>
  );
}
