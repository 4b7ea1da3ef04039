import { useState } from 'react';
import { Button } from '#web/kit/Button.tsx';
import { TextField } from '../kit/Field.tsx';
import { Problems } from '../kit/notices.tsx';
import { useAction } from '../parts/ask.ts';
import { approvesOf, RoleFields, type RoleForm } from './RoleFields.tsx';

type Form = RoleForm & { name: string; email: string };
const empty: Form = { name: '', email: '', roles: ['door'], approves: '', unitId: '' };

/** Invites somebody to the staff. */
export function Invite({ units }: { units: readonly { id: string; name: string }[] }) {
  const [form, setForm] = useState<Form>(empty);
  const invite = useAction('POST /api/staff/invitations', () => setForm(empty));
  const wrong = invite.problem?.fields ?? {};
  return (
    <section aria-label="Invite somebody">
      <h2>Invite somebody</h2>
      {invite.data && (
        <p className="note" role="status">
          Invited. The message is in the Tray; to hand the link over yourself: <code>{invite.data.link}</code>
        </p>
      )}
      <form
        className="form"
        noValidate
        onSubmit={(e) => {
          e.preventDefault();
          invite.mutate({
            body: {
              name: form.name,
              email: form.email,
              roles: form.roles,
              approves: approvesOf(form),
              unitId: form.unitId || null,
            },
          });
        }}
      >
        <Problems of={invite.problem} />
        <div className="pair">
          <TextField
            label="Name"
            value={form.name}
            set={(name) => setForm({ ...form, name })}
            error={wrong.name}
          />
          <TextField
            label="Email"
            type="email"
            value={form.email}
            set={(email) => setForm({ ...form, email })}
            error={wrong.email}
          />
        </div>
        <RoleFields form={form} set={(part) => setForm({ ...form, ...part })} units={units} wrong={wrong} />
        <Button type="submit" look="main" disabled={invite.isPending}>
          Invite
        </Button>
      </form>
    </section>
  );
}
