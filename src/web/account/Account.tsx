import { staffContract } from '#contract/staff.ts';
import type { Answer } from '#web/api.ts';
import { Button } from '#web/kit/Button.tsx';
import { Form } from '../kit/form/Form.tsx';
import { Text } from '../kit/form/fields.tsx';
import { prepare } from '../kit/form/request.ts';
import { useForm } from '../kit/form/useForm.ts';
import { Loaded, Problems } from '../kit/notices.tsx';
import { say } from '../kit/toast.tsx';
import { useAction, useAsk } from '../parts/ask.ts';
import { useSaying } from '../parts/saying.ts';
import { SecondStep } from './SecondStep.tsx';

type Account = Answer<'GET /api/account'>;

/** One’s own account: password, second step, and where one is signed in. */
export default function Account() {
  const account = useAsk('GET /api/account');
  return (
    <div className="page narrow">
      <Loaded of={account}>
        {(a) => (
          <>
            <h1>Your account</h1>
            <p className="soft">
              {a.name}, {a.email}
            </p>
            <SecondStep account={a} />
            <Password />
            <Sessions account={a} />
          </>
        )}
      </Loaded>
    </div>
  );
}

function Password() {
  const form = useForm({
    values: { current: '', password: '' },
    request: (body) => prepare(staffContract, 'POST /api/account/password', { body }),
    after: () => say('Your password was changed; other sessions have ended'),
    again: true,
  });
  return (
    <section aria-label="Password">
      <h2>Password</h2>
      <div className="form">
        <Form form={form} submit="Change the password" look="normal">
          <div className="pair">
            <Text
              form={form}
              name="current"
              label="Current password"
              type="password"
              autoComplete="current-password"
              required
            />
            <Text
              form={form}
              name="password"
              label="New password"
              type="password"
              autoComplete="new-password"
              required
              help="At least 10 characters. Several words are easier to remember than signs."
            />
          </div>
        </Form>
      </div>
    </section>
  );
}

function Sessions({ account }: { account: Account }) {
  const { dayAndYear } = useSaying();
  const end = useAction('DELETE /api/account/sessions/:id', () => say('Signed out there'));
  const endOthers = useAction('DELETE /api/account/sessions', ({ ended }) =>
    say(ended === 1 ? '1 other session has ended' : `${ended} other sessions have ended`),
  );
  return (
    <section aria-label="Sessions">
      <div className="spread">
        <h2>Where you are signed in</h2>
        {account.sessions.length > 1 && (
          <Button disabled={endOthers.isPending} onClick={() => endOthers.mutate({})}>
            Sign out everywhere else
          </Button>
        )}
      </div>
      <Problems of={end.problem ?? endOthers.problem} />
      <ul className="lines">
        {account.sessions.map((s) => (
          <li key={s.id} className="spread">
            <span>
              {s.device} <small className="soft">{s.address}</small>
              <br />
              <small className="soft">
                since {dayAndYear(s.createdAt)}, last used {dayAndYear(s.seenAt)}
              </small>
            </span>
            {s.current ? (
              <span className="soft">this one</span>
            ) : (
              <Button disabled={end.isPending} onClick={() => end.mutate({ params: { id: s.id } })}>
                Sign out
              </Button>
            )}
          </li>
        ))}
      </ul>
    </section>
  );
}
