import { useState } from 'react';
import type { Answer } from '#web/api.ts';
import { Asking } from '../parts/Asking.tsx';
import { useAction } from '../parts/ask.ts';
import { Problems } from '../parts/notices.tsx';
import { say } from '../parts/toast.tsx';
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
          <button
            type="button"
            className="btn primary"
            disabled={change.isPending}
            onClick={() =>
              change.mutate({
                params,
                body: { roles: form.roles, approves: approvesOf(form), unitId: form.unitId || null },
              })
            }
          >
            Save
          </button>
          <button
            type="button"
            className={s.resting ? 'btn' : 'btn stop'}
            disabled={change.isPending}
            onClick={() => change.mutate({ params, body: { resting: !s.resting } })}
          >
            {s.resting ? 'Bring back' : 'Put to rest'}
          </button>
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
          <button
            type="button"
            className="btn"
            disabled={endSessions.isPending}
            onClick={() => endSessions.mutate({ params })}
          >
            Sign them out everywhere
          </button>
        )}
        {s.secondStep && (
          <button
            type="button"
            className="btn"
            disabled={noStep.isPending}
            onClick={() => noStep.mutate({ params })}
          >
            Turn their second step off
          </button>
        )}
      </div>
    </Asking>
  );
}
