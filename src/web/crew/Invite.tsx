import { useQuery } from '@tanstack/react-query';
import { applyingContract, type Call } from '#contract/applying.ts';
import { call as ask } from '#web/api.ts';
import { FormDialog } from '#web/kit/form/FormDialog.tsx';
import { prepare } from '#web/kit/form/request.ts';
import { useForm } from '#web/kit/form/useForm.ts';
import { Loaded } from '#web/kit/notices.tsx';
import { say } from '#web/kit/toast.tsx';
import { phrase } from '#web/words/phrase.ts';

/** Writes to everybody who helped before, once it was said to how many. */
export function Invite({ call, close }: { call: Call; close: () => void }) {
  const params = { id: call.id };
  const would = useQuery({
    queryKey: ['invite', call.id, call.version],
    queryFn: () =>
      ask('POST /api/calls/:id/invite', { params, body: { contactIds: [], helped: true, trying: true } }),
  });
  const form = useForm({
    values: {},
    request: () =>
      prepare(applyingContract, 'POST /api/calls/:id/invite', { params, body: { helped: true } }),
    after: ({ invited }) => {
      say(phrase('applying.isInvited', { n: invited }));
      close();
    },
  });
  const n = would.data?.invited ?? 0;
  return (
    <FormDialog
      form={form}
      close={close}
      title={phrase('applying.inviteTitle')}
      submit={phrase('applying.inviteSend', { n })}
      disabled={n === 0}
    >
      <p>{phrase('applying.inviteMeans')}</p>
      <Loaded of={would}>
        {({ invited, names }) =>
          invited === 0 ? (
            <p className="soft">{phrase('applying.inviteNobody')}</p>
          ) : (
            <>
              <p>{phrase('applying.inviteHow', { n: invited })}</p>
              <p className="soft">
                {names.join(', ')}
                {invited > names.length && ' …'}
              </p>
            </>
          )
        }
      </Loaded>
    </FormDialog>
  );
}
