import type { Role } from '#contract/endpoint.ts';
import { staffContract } from '#contract/staff.ts';
import type { Answer } from '#web/api.ts';
import { Button } from '#web/kit/Button.tsx';
import { phrase } from '#web/words/phrase.ts';
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
      say(phrase('team.changedItCountsFrom'));
      close();
    },
  });
  const rest = useAction('PATCH /api/staff/:id', () => {
    say(phrase(s.resting ? 'team.backAtWork' : 'team.suspended'));
    close();
  });
  const endSessions = useAction('DELETE /api/staff/:id/sessions', ({ ended }) =>
    say(phrase('team.signedOutInPlaces', { ended })),
  );
  const noStep = useAction('DELETE /api/staff/:id/second-step', () => {
    say(phrase('common.theSecondStepIs'));
    close();
  });
  return (
    <FormDialog
      form={form}
      close={close}
      title={s.name}
      submit={phrase('common.save')}
      beside={
        <Button
          look={s.resting ? 'normal' : 'stop'}
          disabled={rest.isPending}
          onClick={() => rest.mutate({ params, body: { resting: !s.resting } })}
        >
          {s.resting ? phrase('common.bringBack') : phrase('team.suspend')}
        </Button>
      }
    >
      <Problems of={rest.problem ?? endSessions.problem ?? noStep.problem} />
      <RoleFields form={form} units={units} />
      <p className="soft">{phrase('team.atRestSomebodyIs')}</p>
      {s.sessions > 0 && <p className="soft">{phrase('team.lostDevice')}</p>}
      <div className="acts">
        {s.sessions > 0 && (
          <Button disabled={endSessions.isPending} onClick={() => endSessions.mutate({ params })}>
            {phrase('team.signThemOutEverywhere')}
          </Button>
        )}
        {s.secondStep && (
          <Button disabled={noStep.isPending} onClick={() => noStep.mutate({ params })}>
            {phrase('team.turnTheirSecondStep')}
          </Button>
        )}
      </div>
    </FormDialog>
  );
}
