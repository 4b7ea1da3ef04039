import { chakra } from '@chakra-ui/react';
import { useNavigate, useParams } from 'react-router';
import { staffContract } from '#contract/staff.ts';
import { phrase, term } from '#web/words/phrase.ts';
import { Form } from '../kit/form/Form.tsx';
import { prepare } from '../kit/form/request.ts';
import { useForm } from '../kit/form/useForm.ts';
import { Loaded } from '../kit/notices.tsx';
import { useAsk } from '../parts/ask.ts';
import { NewPassword } from '../parts/NewPassword.tsx';

export function Invitation() {
  const { token = '' } = useParams();
  const invitation = useAsk('GET /api/invitations/:token', { params: { token } });
  const navigate = useNavigate();
  const form = useForm({
    values: { password: '' },
    request: (body) => prepare(staffContract, 'POST /api/invitations/:token', { params: { token }, body }),
    after: () => navigate('/desk', { replace: true }),
  });
  return (
    <main className="solo">
      <Loaded of={invitation}>
        {(i) => (
          <>
            <h1>{phrase('shell.welcome', { name: i.name })}</h1>
            <chakra.p className="soft" marginBottom="16px">
              {phrase('shell.invitesYouAsYour', {
                organization: i.organization,
                roles: i.roles.map(term).join(', '),
                email: i.email,
              })}
            </chakra.p>
            <Form form={form} submit={phrase('common.begin')}>
              <NewPassword form={form} name="password" label={phrase('shell.chooseAPassword')} />
            </Form>
          </>
        )}
      </Loaded>
    </main>
  );
}
