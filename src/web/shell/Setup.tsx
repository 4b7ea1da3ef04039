import { chakra } from '@chakra-ui/react';
import { useState } from 'react';
import { Navigate, useNavigate } from 'react-router';
import { staffContract } from '#contract/staff.ts';
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
              <h1>Set up your organization</h1>
              <chakra.p className="soft" marginBottom="16px">
                This happens once. You become its first coordinator and can invite the others.
              </chakra.p>
              <Form form={form} submit="Set up">
                <Text
                  form={form}
                  name="organization.name"
                  label="Organization"
                  autoComplete="organization"
                  required
                />
                <ZoneField
                  form={form}
                  name="organization.zone"
                  label="Time zone"
                  required
                  help="Events begin in this zone, like America/Halifax."
                />
                <div className="pair">
                  <Text form={form} name="organization.currency" label="Currency" maxLength={3} required />
                  <Text
                    form={form}
                    name="organization.country"
                    label="Country"
                    maxLength={2}
                    required
                    help="Telephone numbers are read by it."
                  />
                </div>
                <Text
                  form={form}
                  name="organization.sender"
                  label="Email that messages come from"
                  type="email"
                  required
                />
                <Text form={form} name="coordinator.name" label="Your name" autoComplete="name" required />
                <Text
                  form={form}
                  name="coordinator.email"
                  label="Your email"
                  type="email"
                  autoComplete="username"
                  required
                />
                <Text
                  form={form}
                  name="coordinator.password"
                  label="Your password"
                  type="password"
                  autoComplete="new-password"
                  required
                  help="At least 10 characters."
                />
              </Form>
            </>
          )
        }
      </Loaded>
    </main>
  );
}
