import type { Role } from '#contract/endpoint.ts';
import { staffContract } from '#contract/staff.ts';
import type { Answer } from '#web/api.ts';
import { Button } from '#web/kit/Button.tsx';
import { FormDialog } from '../kit/form/FormDialog.tsx';
import { prepare } from '../kit/form/request.ts';
import { useForm } from '../kit/form/useForm.ts';
import { Problems } from '../kit/notices.tsx';
import { say } from '../kit/toast.tsx';
import { useAction } from '../parts/ask.ts';
import { RoleFields } from './RoleFields.tsx';

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
  const form = useForm({
    values: { roles: s.roles as string[], approves: [...s.approves], unitId: s.unitId ?? '' },
    request: ({ roles, approves, unitId }) =>
      prepare(staffContract, 'PATCH /api/staff/:id', {
        params,
        body: { roles: roles as Role[], approves, unitId: unitId || null },
      }),
    after: () => {
      say('Changed; it counts from now on');
      close();
    },
  });
  const rest = useAction('PATCH /api/staff/:id', () => {
    say(s.resting ? 'Back at work' : 'Put to rest');
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
    <FormDialog
      form={form}
      close={close}
      title={s.name}
      submit="Save"
      beside={
        <Button
          look={s.resting ? 'normal' : 'stop'}
          disabled={rest.isPending}
          onClick={() => rest.mutate({ params, body: { resting: !s.resting } })}
        >
          {s.resting ? 'Bring back' : 'Put to rest'}
        </Button>
      }
    >
      <Problems of={rest.problem ?? endSessions.problem ?? noStep.problem} />
      <RoleFields form={form} units={units} />
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
    </FormDialog>
  );
}
