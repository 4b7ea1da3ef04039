import { chakra } from '@chakra-ui/react';
import { useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { Link, Navigate, useNavigate, useSearchParams } from 'react-router';
import { Button } from '#web/kit/Button.tsx';
import { TextField } from '../kit/Field.tsx';
import { Loaded, Problems } from '../kit/notices.tsx';
import { useAction, useAsk } from '../parts/ask.ts';

export function SignIn() {
  const setup = useAsk('GET /api/setup');
  const [search] = useSearchParams();
  const navigate = useNavigate();
  const client = useQueryClient();
  const [email, setEmail] = useState('');
  const [password, setPassword] = useState('');
  const [code, setCode] = useState('');
  const [asked, setAsked] = useState(false);
  const signIn = useAction('POST /api/sign-in', ({ next }) => {
    if (next === 'code') {
      setAsked(true);
      return;
    }
    client.clear();
    const back = search.get('back');
    // An address within the product, and nothing that a browser takes for another site.
    const within = back !== null && /^\/(?![/\\])/u.test(back);
    navigate(next === 'enroll' ? '/account' : within ? back : '/desk', { replace: true });
  });
  return (
    <main className="solo">
      <Loaded of={setup}>
        {({ needed, organizationName, signIns }) =>
          needed ? (
            <Navigate to="/setup" replace />
          ) : (
            <>
              <h1>{organizationName}</h1>
              <chakra.p className="soft" marginBottom="16px">
                Sign in to run its events.
              </chakra.p>
              <form
                noValidate
                onSubmit={(e) => {
                  e.preventDefault();
                  signIn.mutate({ body: { email, password, code } });
                }}
              >
                <Problems of={signIn.problem} />
                <TextField label="Email" type="email" value={email} set={setEmail} />
                <TextField label="Password" type="password" value={password} set={setPassword} />
                {asked && (
                  <TextField
                    label="Code"
                    value={code}
                    set={setCode}
                    error={signIn.problem?.fields.code}
                    autoFocus
                    help="Six digits from your authenticator, or a recovery code."
                  />
                )}
                <div className="acts">
                  <Button type="submit" look="main" disabled={signIn.isPending}>
                    Sign in
                  </Button>
                  <Link to="/forgotten">Forgotten your password?</Link>
                </div>
              </form>
              {signIns.length > 0 && (
                <chakra.section marginTop="28px">
                  <h2>This is a demonstration</h2>
                  <p className="soft">Everybody in it is made up. Sign in as:</p>
                  <ul className="lines">
                    {signIns.map((s) => (
                      <li key={s.email} className="spread">
                        <span>
                          <span className="name">{s.name}</span> <small className="soft">{s.does}</small>
                        </span>
                        <Button
                          onClick={() => signIn.mutate({ body: { email: s.email, password: s.password } })}
                        >
                          Sign in
                        </Button>
                      </li>
                    ))}
                  </ul>
                </chakra.section>
              )}
            </>
          )
        }
      </Loaded>
    </main>
  );
}
