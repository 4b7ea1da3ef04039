import { chakra } from '@chakra-ui/react';
import { useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { Link, Navigate, useNavigate, useSearchParams } from 'react-router';
import { staffContract } from '#contract/staff.ts';
import { Button } from '#web/kit/Button.tsx';
import { phrase } from '#web/words/phrase.ts';
import { Form } from '../kit/form/Form.tsx';
import { Text } from '../kit/form/fields.tsx';
import { prepare } from '../kit/form/request.ts';
import { useForm } from '../kit/form/useForm.ts';
import { Loaded } from '../kit/notices.tsx';
import { useAsk } from '../parts/ask.ts';
import { entered } from './entered.ts';

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
      const back = search.get('back');
      // An address within the product, and nothing that a browser takes for another site.
      const within = back !== null && /^\/(?![/\\])/u.test(back);
      entered(client, email, next === 'enroll' ? '/account' : within ? back : '/desk', navigate);
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
                {phrase('shell.signInToRun')}
              </chakra.p>
              <Form
                form={form}
                submit={phrase('shell.signIn')}
                beside={<Link to="/forgotten">{phrase('shell.forgottenYourPassword')}</Link>}
              >
                <Text
                  form={form}
                  name="email"
                  label={phrase('common.email')}
                  type="email"
                  autoComplete="username"
                />
                <Text
                  form={form}
                  name="password"
                  label={phrase('common.password')}
                  type="password"
                  autoComplete="current-password"
                />
                {asked && (
                  <Text
                    form={form}
                    name="code"
                    label={phrase('shell.code')}
                    autoComplete="one-time-code"
                    autoFocus
                    help={phrase('shell.sixDigitsFromYour')}
                  />
                )}
              </Form>
              {signIns.length > 0 && (
                <chakra.section marginTop="28px">
                  <h2>{phrase('shell.thisIsADemonstration')}</h2>
                  <p className="soft">{phrase('shell.everybodyInItIs')}</p>
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
                          {phrase('shell.signIn')}
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
