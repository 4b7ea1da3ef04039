import { chakra } from '@chakra-ui/react';
import { useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { Link, Navigate, useNavigate, useSearchParams } from 'react-router';
import { staffContract } from '#contract/staff.ts';
import { addressOf } from '#web/api.ts';
import { Button } from '#web/kit/Button.tsx';
import { keepDraftsOf } from '../kit/form/drafts.ts';
import { Form } from '../kit/form/Form.tsx';
import { Text } from '../kit/form/fields.tsx';
import { prepare } from '../kit/form/request.ts';
import { useForm } from '../kit/form/useForm.ts';
import { Loaded } from '../kit/notices.tsx';
import { useAsk } from '../parts/ask.ts';
import { askAhead } from './places.ts';

export function SignIn() {
  const setup = useAsk('GET /api/setup');
  const [search] = useSearchParams();
  const navigate = useNavigate();
  const client = useQueryClient();
  const [asked, setAsked] = useState(false);
  const form = useForm({
    values: { email: '', password: '', code: '' },
    request: (body) => prepare(staffContract, 'POST /api/sign-in', { body }),
    after: ({ next }, { email }) => {
      if (next === 'code') {
        setAsked(true);
        return;
      }
      keepDraftsOf(email.trim().toLowerCase());
      // Nothing is kept of whoever was here before.
      client.removeQueries({ predicate: ({ queryKey }) => queryKey[0] !== addressOf('GET /api/setup') });
      if (next !== 'enroll' && !search.get('back')) askAhead(client, 'Desk');
      const back = search.get('back');
      // An address within the product, and nothing that a browser takes for another site.
      const within = back !== null && /^\/(?![/\\])/u.test(back);
      navigate(next === 'enroll' ? '/account' : within ? back : '/desk', { replace: true });
    },
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
              <Form
                form={form}
                submit="Sign in"
                beside={<Link to="/forgotten">Forgotten your password?</Link>}
              >
                <Text form={form} name="email" label="Email" type="email" autoComplete="username" />
                <Text
                  form={form}
                  name="password"
                  label="Password"
                  type="password"
                  autoComplete="current-password"
                />
                {asked && (
                  <Text
                    form={form}
                    name="code"
                    label="Code"
                    autoComplete="one-time-code"
                    autoFocus
                    help="Six digits from your authenticator, or a recovery code."
                  />
                )}
              </Form>
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
                          disabled={form.sending}
                          onClick={() => {
                            form.set({ email: s.email, password: s.password });
                            form.submit();
                          }}
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
