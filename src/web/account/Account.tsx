import { staffContract } from '#contract/staff.ts';
import type { Answer } from '#web/api.ts';
import { Button } from '#web/kit/Button.tsx';
import { phrase } from '#web/words/phrase.ts';
import { OneOf } from '../kit/Choosing.tsx';
import { Form } from '../kit/form/Form.tsx';
import { Text } from '../kit/form/fields.tsx';
import { prepare } from '../kit/form/request.ts';
import { useForm } from '../kit/form/useForm.ts';
import { Loaded, Problems } from '../kit/notices.tsx';
import { say } from '../kit/toast.tsx';
import { useAction, useAsk, useMe } from '../parts/ask.ts';
import { NewPassword } from '../parts/NewPassword.tsx';
import { useSaying } from '../parts/saying.ts';
import { Absence } from './Absence.tsx';
import { Notices } from './Notices.tsx';
import { SecondStep } from './SecondStep.tsx';

type Account = Answer<'GET /api/account'>;

/** One’s own account: password, second step, and where one is signed in. */
export default function Account() {
  const account = useAsk('GET /api/account');
  const approves = useMe().data?.staff.roles.some((r) => r === 'approver' || r === 'coordinator') ?? false;
  return (
    <div className="page narrow">
      <Loaded of={account}>
        {(a) => (
          <>
            <h1>{phrase('common.yourAccount')}</h1>
            <p className="soft">
              {a.name}, {a.email}
            </p>
            <SecondStep account={a} />
            <Clock />
            <Notices />
            <Password />
            {approves && <Absence />}
            <Sessions account={a} />
          </>
        )}
      </Loaded>
    </div>
  );
}

/** By which clock times of day are read. */
function Clock() {
  const me = useMe().data;
  const set = useAction('PUT /api/account/clock', () => say(phrase('common.saved')));
  if (!me) return null;
  return (
    <section aria-label={phrase('account.clock')}>
      <h2>{phrase('account.clock')}</h2>
      <Problems of={set.problem} />
      <OneOf
        label={phrase('account.clock')}
        headed
        value={String(me.staff.clock ?? 'organization')}
        set={(clock) =>
          set.mutate({ body: { clock: clock === 'organization' ? null : clock === '12' ? 12 : 24 } })
        }
        choices={[
          { value: 'organization', label: phrase('account.asTheOrganization') },
          { value: '12', label: phrase('account.clock12') },
          { value: '24', label: phrase('account.clock24') },
        ]}
      />
    </section>
  );
}

function Password() {
  const form = useForm({
    values: { current: '', password: '' },
    request: (body) => prepare(staffContract, 'POST /api/account/password', { body }),
    after: () => say(phrase('account.yourPasswordWasChanged')),
    again: true,
  });
  return (
    <section aria-label={phrase('common.password')}>
      <h2>{phrase('common.password')}</h2>
      <div className="form">
        <Form form={form} submit={phrase('common.changeThePassword')} look="normal">
          <div className="pair">
            <Text
              form={form}
              name="current"
              label={phrase('account.currentPassword')}
              type="password"
              autoComplete="current-password"
              required
            />
            <NewPassword form={form} name="password" label={phrase('common.newPassword')} />
          </div>
        </Form>
      </div>
    </section>
  );
}

function Sessions({ account }: { account: Account }) {
  const { dayAndYear } = useSaying();
  const end = useAction('DELETE /api/account/sessions/:id', () => say(phrase('account.signedOutThere')));
  const endOthers = useAction('DELETE /api/account/sessions', ({ ended }) =>
    say(phrase('account.otherSessionsHaveEnded', { ended })),
  );
  return (
    <section aria-label={phrase('account.sessions')}>
      <div className="spread">
        <h2>{phrase('account.whereYouAreSigned')}</h2>
        {account.sessions.length > 1 && (
          <Button disabled={endOthers.isPending} onClick={() => endOthers.mutate({})}>
            {phrase('account.signOutEverywhereElse')}
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
                {phrase('account.sinceLastUsed', {
                  createdAt: dayAndYear(s.createdAt),
                  seenAt: dayAndYear(s.seenAt),
                })}
              </small>
            </span>
            {s.current ? (
              <span className="soft">{phrase('account.thisOne')}</span>
            ) : (
              <Button disabled={end.isPending} onClick={() => end.mutate({ params: { id: s.id } })}>
                {phrase('common.signOut')}
              </Button>
            )}
          </li>
        ))}
      </ul>
    </section>
  );
}
