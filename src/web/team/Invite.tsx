import { useState } from 'react';
import type { Role } from '#contract/endpoint.ts';
import { staffContract } from '#contract/staff.ts';
import { Phrase } from '#web/words/Phrase.tsx';
import { phrase } from '#web/words/phrase.ts';
import { Form } from '../kit/form/Form.tsx';
import { Text } from '../kit/form/fields.tsx';
import { prepare } from '../kit/form/request.ts';
import { useForm } from '../kit/form/useForm.ts';
import { Note } from '../kit/Note.tsx';
import { RoleFields } from './RoleFields.tsx';

/** Invites somebody to the staff. */
export function Invite({ units }: { units: readonly { id: string; name: string }[] }) {
  const [link, setLink] = useState<string | null>(null);
  const form = useForm({
    values: { name: '', email: '', roles: ['door'] as string[], approves: [] as string[], unitId: '' },
    request: ({ unitId, ...v }) =>
      prepare(staffContract, 'POST /api/staff/invitations', {
        body: { ...v, roles: v.roles as Role[], unitId: unitId || null },
      }),
    after: (answer) => setLink(answer.link),
    again: true,
  });
  return (
    <section aria-label={phrase('team.inviteSomebody')}>
      <h2>{phrase('team.inviteSomebody')}</h2>
      {link && (
        <Note as="p" tone="know" role="status">
          <Phrase of="team.invitedTheMessageIs" with={{ link: <code>{link}</code> }} />
        </Note>
      )}
      <div className="form">
        <Form form={form} submit={phrase('team.invite')}>
          <div className="pair">
            <Text form={form} name="name" label={phrase('common.name')} required />
            <Text form={form} name="email" label={phrase('common.email')} type="email" required />
          </div>
          <RoleFields form={form} units={units} />
        </Form>
      </div>
    </section>
  );
}
