import { useState } from 'react';
import { type Role, roles } from '#core/staff/roles.ts';
import { useAsk, useDo } from '../parts/ask.ts';
import { ChoiceField, TextField } from '../parts/Field.tsx';
import { Asked, Problems } from '../parts/notices.tsx';
import { useSaying } from '../parts/saying.ts';

/** The staff's accounts and invitations. Everybody has an account of their own. */
export default function Team() {
  const team = useAsk('GET /api/staff');
  const units = useAsk('GET /api/choices').data?.units ?? [];
  const { day } = useSaying();
  const [form, setForm] = useState({
    name: '',
    email: '',
    roles: ['door'] as Role[],
    approves: '',
    unitId: '',
  });
  const invite = useDo('POST /api/staff/invitations', () =>
    setForm({ name: '', email: '', roles: ['door'], approves: '', unitId: '' }),
  );
  const wrong = invite.problem?.fields ?? {};
  return (
    <div className="page" style={{ maxWidth: 860 }}>
      <h1>Team and roles</h1>
      <Asked of={team}>
        {({ staff, invitations }) => (
          <ul className="lines">
            {staff.map((s) => (
              <li key={s.id} className="spread">
                <span>
                  <span className="name">{s.name}</span> <small className="soft">{s.email}</small>
                </span>
                <span className="soft">
                  {s.roles.join(', ')}
                  {s.approves.length > 0 && ` (${s.approves.join(', ')})`}
                  {s.unitId && `, ${units.find((u) => u.id === s.unitId)?.name ?? ''}`}
                </span>
              </li>
            ))}
            {invitations.map((i) => (
              <li key={i.id} className="spread">
                <span>
                  <span className="name">{i.name}</span> <small className="soft">{i.email}</small>
                </span>
                <span className="need">
                  invited as {i.roles.join(', ')}, until {day(i.expiresAt)}
                </span>
              </li>
            ))}
          </ul>
        )}
      </Asked>
      <h2 style={{ marginTop: 26 }}>Invite somebody</h2>
      {invite.data && (
        <p className="note" role="status">
          Invited. The message is in the Tray; the link is also here:{' '}
          <code style={{ wordBreak: 'break-all' }}>{invite.data.link}</code>
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
              approves: form.approves
                .split(',')
                .map((a) => a.trim())
                .filter(Boolean),
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
        <fieldset style={{ border: 0, padding: 0, margin: '0 0 14px' }}>
          <legend style={{ fontSize: 14, fontWeight: 500 }}>Roles</legend>
          {roles.map((r) => (
            <label key={r} className="tick">
              <input
                type="checkbox"
                checked={form.roles.includes(r)}
                onChange={(e) =>
                  setForm({
                    ...form,
                    roles: e.target.checked ? [...form.roles, r] : form.roles.filter((x) => x !== r),
                  })
                }
              />
              {r}
            </label>
          ))}
        </fieldset>
        {form.roles.includes('approver') && (
          <TextField
            label="Approves for"
            value={form.approves}
            set={(approves) => setForm({ ...form, approves })}
            help="For example: safety, finance"
          />
        )}
        {form.roles.includes('unit lead') && (
          <ChoiceField
            label="Unit"
            value={form.unitId}
            set={(unitId) => setForm({ ...form, unitId })}
            choices={units.map((u) => ({ value: u.id, label: u.name }))}
            empty="every unit"
          />
        )}
        <button type="submit" className="btn primary" disabled={invite.isPending}>
          Invite
        </button>
      </form>
    </div>
  );
}
