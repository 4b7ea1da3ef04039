import { chakra } from '@chakra-ui/react';
import { useState } from 'react';
import { Navigate, useNavigate } from 'react-router';
import { Button } from '#web/kit/Button.tsx';
import { TextField } from '../kit/Field.tsx';
import { Loaded, Problems } from '../kit/notices.tsx';
import { useAction, useAsk } from '../parts/ask.ts';

/** The first visit: names the organization and makes its first coordinator. */
export function Setup() {
  const setup = useAsk('GET /api/setup');
  const navigate = useNavigate();
  const [o, setO] = useState({
    name: '',
    zone: Intl.DateTimeFormat().resolvedOptions().timeZone,
    currency: 'CAD',
    country: 'CA',
    sender: '',
  });
  const [c, setC] = useState({ name: '', email: '', password: '' });
  const found = useAction('POST /api/setup', () => navigate('/sign-in', { replace: true }));
  const wrong = found.problem?.fields ?? {};
  return (
    <main className="solo">
      <Loaded of={setup}>
        {({ needed }) =>
          !needed && !found.isSuccess ? (
            <Navigate to="/sign-in" replace />
          ) : (
            <form
              noValidate
              onSubmit={(e) => {
                e.preventDefault();
                found.mutate({ body: { organization: o, coordinator: c } });
              }}
            >
              <h1>Set up your organization</h1>
              <chakra.p className="soft" marginBottom="16px">
                This happens once. You become its first coordinator and can invite the others.
              </chakra.p>
              <Problems of={found.problem} />
              <TextField
                label="Organization"
                value={o.name}
                set={(name) => setO({ ...o, name })}
                error={wrong['organization.name']}
              />
              <TextField
                label="Time zone"
                value={o.zone}
                set={(zone) => setO({ ...o, zone })}
                error={wrong['organization.zone']}
                help="Events begin in this zone, like America/Halifax."
              />
              <div className="pair">
                <TextField
                  label="Currency"
                  value={o.currency}
                  set={(currency) => setO({ ...o, currency: currency.toUpperCase() })}
                  error={wrong['organization.currency']}
                />
                <TextField
                  label="Country"
                  value={o.country}
                  set={(country) => setO({ ...o, country: country.toUpperCase() })}
                  error={wrong['organization.country']}
                  help="Telephone numbers are read by it."
                />
              </div>
              <TextField
                label="Email that messages come from"
                type="email"
                value={o.sender}
                set={(sender) => setO({ ...o, sender })}
                error={wrong['organization.sender']}
              />
              <TextField
                label="Your name"
                value={c.name}
                set={(name) => setC({ ...c, name })}
                error={wrong['coordinator.name']}
              />
              <TextField
                label="Your email"
                type="email"
                value={c.email}
                set={(email) => setC({ ...c, email })}
                error={wrong['coordinator.email']}
              />
              <TextField
                label="Your password"
                type="password"
                value={c.password}
                set={(password) => setC({ ...c, password })}
                error={wrong['coordinator.password']}
                help="At least 10 characters."
              />
              <Button type="submit" look="main" disabled={found.isPending}>
                Set up
              </Button>
            </form>
          )
        }
      </Loaded>
    </main>
  );
}
