import { useState } from 'react';
import type { Answer } from '#web/api.ts';
import { Button } from '#web/kit/Button.tsx';
import { Asking } from '../kit/Asking.tsx';
import { Problems } from '../kit/notices.tsx';
import { say } from '../kit/toast.tsx';
import { useAction } from '../parts/ask.ts';
import { approvesOf, RoleFields, type RoleForm } from './RoleFields.tsx';

export type Member = Answer<'GET /api/staff'>['staff'][number];

/** Changes what somebody may do; it counts at once, also where they are signed in. */
export function ChangeAccount({
  member: s,
  units,
  close,
}: {
  member: Member;
  units: readonly { id: string; name: string }[];
  close: () => void;
}) {
  const params = { id: s.id };
  const [form, setForm] = useState<RoleForm>({
    roles: s.roles,
    approves: s.approves.join(', '),
    unitId: s.unitId ?? '',
  });
  const change = useAction('PATCH /api/staff/:id', () => {
    say('Changed; it counts from now on');
    close();
  });
  const endSessions = useAction('DELETE /api/staff/:id/sessions', ({ ended }) =>
    say(ended === 1 ? 'Signed out in 1 place' : `Signed out in ${ended} places`),
  );
  const noStep = useAction('DELETE /api/staff/:id/second-step', () => {
    say('The second step is off');
    close();
  });
  return (
    <Asking
      open
      close={close}
      title={s.name}
      actions={
        <>
          <Button
            look="main"
            disabled={change.isPending}
            onClick={() =>
              change.mutate({
                params,
                body: { roles: form.roles, approves: approvesOf(form), unitId: form.unitId || null },
              })
            }
          >
            Save
          </Button>
          <Button
            look={s.resting ? 'normal' : 'stop'}
            disabled={change.isPending}
            onClick={() => change.mutate({ params, body: { resting: !s.resting } })}
          >
            {s.resting ? 'Bring back' : 'Put to rest'}
          </Button>
        </>
      }
    >
      <Problems of={change.problem ?? endSessions.problem ?? noStep.problem} />
      <RoleFields
        form={form}
        set={(part) => setForm({ ...form, ...part })}
        units={units}
        wrong={change.problem?.fields ?? {}}
      />
      <p className="soft">
        At rest, somebody is signed out everywhere and cannot sign in; what they did stays theirs.
      </p>
      <div className="acts">
        {s.sessions > 0 && (
          <Button disabled={endSessions.isPending} onClick={() => endSessions.mutate({ params })}>
            Sign them out everywhere
          </Button>
        )}
        {s.secondStep && (
          <Button disabled={noStep.isPending} onClick={() => noStep.mutate({ params })}>
            Turn their second step off
          </Button>
        )}
      </div>
    </Asking>
  );
}
