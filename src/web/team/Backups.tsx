import { useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { backupContract } from '#contract/backup.ts';
import { type Answer, addressOf } from '#web/api.ts';
import { Button, ButtonAnchor } from '#web/kit/Button.tsx';
import { FormDialog } from '../kit/form/FormDialog.tsx';
import { Text } from '../kit/form/fields.tsx';
import { prepare } from '../kit/form/request.ts';
import { useForm } from '../kit/form/useForm.ts';
import { Empty } from '../kit/Note.tsx';
import { Loaded, Problems } from '../kit/notices.tsx';
import { Progress } from '../kit/Progress.tsx';
import { say } from '../kit/toast.tsx';
import { useAction, useAsk, useMe } from '../parts/ask.ts';
import { useSaying } from '../parts/saying.ts';

const sayBytes = (n: number): string =>
  n < 1_000_000 ? `${Math.ceil(n / 1000)} kB` : `${(n / 1_000_000).toFixed(1)} MB`;
const workingWords = {
  making: 'Making a backup',
  checking: 'Checking the backup',
  'putting back': 'Putting it back',
} as const;

/** Backups of everything: made while the product goes on, taken along, put back. */
export function Backups() {
  const { dayAndYear, timeOfDay } = useSaying();
  const backups = useAsk('GET /api/backups', { everyMs: 1500 });
  const make = useAction('POST /api/backups', ({ name }) => say(`Made: ${name}`));
  const remove = useAction('DELETE /api/backups/:name', () => say('Deleted'));
  const [restoring, setRestoring] = useState<string | null>(null);
  return (
    <section aria-label="Backups">
      <div className="spread">
        <h2>Backups</h2>
        <Button disabled={make.isPending || Boolean(backups.data?.working)} onClick={() => make.mutate({})}>
          Make a backup
        </Button>
      </div>
      <p className="soft">
        A backup holds everything, also the secret of every link that was sent. Take it along to another
        machine: with this one, a backup that lies here is lost too.
      </p>
      <Problems of={make.problem ?? remove.problem} />
      <Loaded of={backups}>
        {({ backups: list, working, unable }) => (
          <>
            {unable && <p className="soft">{unable}</p>}
            {working && <Working of={working} />}
            {!unable && list.length === 0 && !working && <Empty>There is none yet.</Empty>}
            <ul className="lines">
              {list.map((b) => (
                <li key={b.name} className="spread">
                  <span>
                    {dayAndYear(b.at)}, {timeOfDay(b.at)}{' '}
                    <small className="soft num">{sayBytes(b.bytes)}</small>
                  </span>
                  <span className="acts">
                    <ButtonAnchor href={addressOf('GET /api/backups/:name', { name: b.name })}>
                      Take along
                    </ButtonAnchor>
                    <Button onClick={() => setRestoring(b.name)}>Put back</Button>
                    <Button
                      look="plain"
                      disabled={remove.isPending}
                      onClick={() => remove.mutate({ params: { name: b.name } })}
                    >
                      Delete
                    </Button>
                  </span>
                </li>
              ))}
            </ul>
          </>
        )}
      </Loaded>
      {restoring && (
        <Restore name={restoring} working={backups.data?.working ?? null} close={() => setRestoring(null)} />
      )}
    </section>
  );
}

type Work = Answer<'GET /api/backups'>['working'];

/** How far a backup is: rows while it is made, bytes afterwards. */
function Working({ of }: { of: NonNullable<Work> }) {
  return (
    <Progress
      words={workingWords[of.what]}
      done={of.done}
      all={Math.max(1, of.all)}
      {...(of.what === 'making' ? {} : { sayAmount: sayBytes })}
    />
  );
}

function Restore({ name, working, close }: { name: string; working: Work; close: () => void }) {
  const client = useQueryClient();
  const organization = useMe().data?.organization.name ?? '';
  const form = useForm({
    values: { organization: '' },
    request: (body) => prepare(backupContract, 'POST /api/backups/:name/restore', { params: { name }, body }),
    after: () => {
      say('The backup is back');
      client.clear();
      window.location.assign('/sign-in');
    },
  });
  return (
    <FormDialog
      form={form}
      close={close}
      title="Put this backup back?"
      submit="Put it back"
      look="stop"
      disabled={!form.values.organization.trim()}
    >
      {working && <Working of={working} />}
      <p>
        Everything becomes as it was in the backup: what came since is no longer there. What there is now is
        kept aside in the data folder. Everybody may have to sign in again.
      </p>
      <Text form={form} name="organization" label={`Type the name of the organization: ${organization}`} />
    </FormDialog>
  );
}
