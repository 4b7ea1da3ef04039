import { useState } from 'react';
import { useNavigate, useParams } from 'react-router';
import { useAction, useAsk } from '../parts/ask.ts';
import { TextField } from '../parts/Field.tsx';
import { Loaded, Problems } from '../parts/notices.tsx';

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
            <p className="soft" style={{ marginBottom: 16 }}>
              {i.organization} invites you as {i.roles.join(', ')}. Your sign-in is {i.email}.
            </p>
            <Problems of={accept.problem} />
            <TextField
              label="Choose a password"
              type="password"
              value={password}
              set={setPassword}
              help="At least 10 characters."
              error={accept.problem?.fields.password}
            />
            <button type="submit" className="btn primary" disabled={accept.isPending}>
              Begin
            </button>
          </form>
        )}
      </Loaded>
    </main>
  );
}
