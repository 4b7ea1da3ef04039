import { chakra } from '@chakra-ui/react';
import { useState } from 'react';
import { Navigate, useNavigate } from 'react-router';
import { staffContract } from '#contract/staff.ts';
import { phrase } from '#web/words/phrase.ts';
import { Form } from '../kit/form/Form.tsx';
import { Text, ZoneField } from '../kit/form/fields.tsx';
import { prepare } from '../kit/form/request.ts';
import { useForm } from '../kit/form/useForm.ts';
import { Loaded } from '../kit/notices.tsx';
import { useAsk } from '../parts/ask.ts';

/** The first visit: names the organization and makes its first coordinator. */
export function Setup() {
  const setup = useAsk('GET /api/setup');
  const navigate = useNavigate();
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
    request: ({ organization: o, coordinator }) =>
      prepare(staffContract, 'POST /api/setup', {
        body: {
          organization: { ...o, currency: o.currency.toUpperCase(), country: o.country.toUpperCase() },
          coordinator,
        },
      }),
    after: () => {
      setDone(true);
      navigate('/sign-in', { replace: true });
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
                <Text
                  form={form}
                  name="organization.name"
                  label={phrase('common.organization')}
                  autoComplete="organization"
                  required
                />
                <ZoneField
                  form={form}
                  name="organization.zone"
                  label={phrase('common.timeZone')}
                  required
                  help={phrase('shell.eventsBeginInThis')}
                />
                <div className="pair">
                  <Text
                    form={form}
                    name="organization.currency"
                    label={phrase('shell.currency')}
                    maxLength={3}
                    required
                  />
                  <Text
                    form={form}
                    name="organization.country"
                    label={phrase('shell.country')}
                    maxLength={2}
                    required
                    help={phrase('shell.telephoneNumbersAreRead')}
                  />
                </div>
                <Text
                  form={form}
                  name="organization.sender"
                  label={phrase('shell.emailThatMessagesCome')}
                  type="email"
                  required
                />
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
                <Text
                  form={form}
                  name="coordinator.password"
                  label={phrase('shell.yourPassword')}
                  type="password"
                  autoComplete="new-password"
                  required
                  help={phrase('shell.atLeast10Characters')}
                />
              </Form>
            </>
          )
        }
      </Loaded>
    </main>
  );
}
