import { chakra } from '@chakra-ui/react';
import { useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { Navigate, useNavigate } from 'react-router';
import { staffContract } from '#contract/staff.ts';
import { call } from '#web/api.ts';
import { phrase } from '#web/words/phrase.ts';
import { Form } from '../kit/form/Form.tsx';
import { Text } from '../kit/form/fields.tsx';
import { prepare } from '../kit/form/request.ts';
import { useForm } from '../kit/form/useForm.ts';
import { Loaded } from '../kit/notices.tsx';
import { useAsk } from '../parts/ask.ts';
import { NewPassword } from '../parts/NewPassword.tsx';
import { OrganizationFields } from '../parts/OrganizationFields.tsx';
import { entered } from './entered.ts';

/** The first visit: names the organization and makes its first coordinator. */
export function Setup() {
  const setup = useAsk('GET /api/setup');
  const navigate = useNavigate();
  const client = useQueryClient();
  const [done, setDone] = useState(false);
  const form = useForm({
    values: {
      organization: {
        name: '',
        zone: Intl.DateTimeFormat().resolvedOptions().timeZone,
        currency: 'CAD',
        country: 'CA',
        sender: '',
      },
      coordinator: { name: '', email: '', password: '' },
    },
    request: (body) => prepare(staffContract, 'POST /api/setup', { body }),
    after: (_, { coordinator: { email, password } }) => {
      setDone(true);
      // Whoever chose a password a moment ago need not type it again.
      call('POST /api/sign-in', { body: { email, password } }).then(
        () => entered(client, email, '/desk', navigate),
        () => navigate('/sign-in', { replace: true }),
      );
    },
  });
  return (
    <main className="solo">
      <Loaded of={setup}>
        {({ needed }) =>
          !needed && !done ? (
            <Navigate to="/sign-in" replace />
          ) : (
            <>
              <h1>{phrase('shell.setUpYourOrganization')}</h1>
              <chakra.p className="soft" marginBottom="16px">
                {phrase('shell.thisHappensOnceYou')}
              </chakra.p>
              <Form form={form} submit={phrase('shell.setUp')}>
                <OrganizationFields form={form} at={(field) => `organization.${field}`} />
                <Text
                  form={form}
                  name="coordinator.name"
                  label={phrase('shell.yourName')}
                  autoComplete="name"
                  required
                />
                <Text
                  form={form}
                  name="coordinator.email"
                  label={phrase('shell.yourEmail')}
                  type="email"
                  autoComplete="username"
                  required
                />
                <NewPassword form={form} name="coordinator.password" label={phrase('shell.yourPassword')} />
              </Form>
            </>
          )
        }
      </Loaded>
    </main>
  );
}
