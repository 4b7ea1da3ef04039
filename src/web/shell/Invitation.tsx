import { chakra } from '@chakra-ui/react';
import { useState } from 'react';
import { useNavigate, useParams } from 'react-router';
import { Button } from '#web/kit/Button.tsx';
import { TextField } from '../kit/Field.tsx';
import { Loaded, Problems } from '../kit/notices.tsx';
import { useAction, useAsk } from '../parts/ask.ts';

export function Invitation() {
  const { token = '' } = useParams();
  const invitation = useAsk('GET /api/invitations/:token', { params: { token } });
  const navigate = useNavigate();
  const [password, setPassword] = useState('');
  const accept = useAction('POST /api/invitations/:token', () => navigate('/desk', { replace: true }));
  return (
    <main className="solo">
      <Loaded of={invitation}>
        {(i) => (
          <form
            noValidate
            onSubmit={(e) => {
              e.preventDefault();
              accept.mutate({ params: { token }, body: { password } });
            }}
          >
            <h1>Welcome, {i.name}</h1>
            <chakra.p className="soft" marginBottom="16px">
              {i.organization} invites you as {i.roles.join(', ')}. Your sign-in is {i.email}.
            </chakra.p>
            <Problems of={accept.problem} />
            <TextField
              label="Choose a password"
              type="password"
              value={password}
              set={setPassword}
              help="At least 10 characters."
              error={accept.problem?.fields.password}
            />
            <Button type="submit" look="main" disabled={accept.isPending}>
              Begin
            </Button>
          </form>
        )}
      </Loaded>
    </main>
  );
}
