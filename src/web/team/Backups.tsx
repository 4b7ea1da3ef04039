import { useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { backupContract } from '#contract/backup.ts';
import { type Answer, addressOf } from '#web/api.ts';
import { Button, ButtonAnchor } from '#web/kit/Button.tsx';
import { phrase } from '#web/words/phrase.ts';
import { Asking } from '../kit/Asking.tsx';
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
  n < 1_000_000
    ? phrase('team.kb', { n: Math.ceil(n / 1000) })
    : phrase('team.mb', { n: (n / 1_000_000).toFixed(1) });
const workingWords = {
  making: phrase('team.makingABackup'),
  checking: phrase('team.checkingTheBackup'),
  'putting back': phrase('team.puttingItBack'),
} as const;

/** Backups of everything: made while the product goes on, taken along, put back. */
export function Backups() {
  const { dayAndYear, timeOfDay } = useSaying();
  const backups = useAsk('GET /api/backups', { everyMs: 1500 });
  const make = useAction('POST /api/backups', ({ name }) => say(phrase('team.made', { name })));
  const [restoring, setRestoring] = useState<string | null>(null);
  const [removing, setRemoving] = useState<Kept | null>(null);
  return (
    <section aria-label={phrase('team.backups')}>
      <div className="spread">
        <h2>{phrase('team.backups')}</h2>
        <Button disabled={make.isPending || Boolean(backups.data?.working)} onClick={() => make.mutate({})}>
          {phrase('team.makeABackup')}
        </Button>
      </div>
      <p className="soft">{phrase('team.aBackupHoldsEverything')}</p>
      <Problems of={make.problem} />
      <Loaded of={backups}>
        {({ backups: list, working, unable }) => (
          <>
            {unable && <p className="soft">{unable}</p>}
            {working && <Working of={working} />}
            {!unable && list.length === 0 && !working && <Empty>{phrase('team.thereIsNoneYet')}</Empty>}
            <ul className="lines">
              {list.map((b) => (
                <li key={b.name} className="spread">
                  <span>
                    {dayAndYear(b.at)}, {timeOfDay(b.at)}{' '}
                    <small className="soft num">{sayBytes(b.bytes)}</small>
                  </span>
                  <span className="acts">
                    <ButtonAnchor href={addressOf('GET /api/backups/:name', { name: b.name })}>
                      {phrase('team.takeAlong')}
                    </ButtonAnchor>
                    <Button onClick={() => setRestoring(b.name)}>{phrase('team.putBack')}</Button>
                    <Button look="plain" onClick={() => setRemoving(b)}>
                      {phrase('common.deleteIt')}
                    </Button>
                  </span>
                </li>
              ))}
            </ul>
          </>
        )}
      </Loaded>
      {removing && <Remove of={removing} close={() => setRemoving(null)} />}
      {restoring && (
        <Restore name={restoring} working={backups.data?.working ?? null} close={() => setRestoring(null)} />
      )}
    </section>
  );
}

type Kept = Answer<'GET /api/backups'>['backups'][number];

/** Deletes a backup for good, once it was said which. */
function Remove({ of, close }: { of: Kept; close: () => void }) {
  const { dayAndYear, timeOfDay } = useSaying();
  const remove = useAction('DELETE /api/backups/:name', () => {
    say(phrase('team.deleted'));
    close();
  });
  return (
    <Asking
      open
      close={close}
      title={phrase('team.deleteBackup')}
      actions={
        <Button
          look="stop"
          disabled={remove.isPending}
          onClick={() => remove.mutate({ params: { name: of.name } })}
        >
          {phrase('team.deleteItForGood')}
        </Button>
      }
    >
      <Problems of={remove.problem} />
      <p>
        {phrase('team.deleteBackupOf', {
          at: `${dayAndYear(of.at)}, ${timeOfDay(of.at)}`,
          size: sayBytes(of.bytes),
        })}
      </p>
    </Asking>
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
      say(phrase('team.theBackupIsBack'));
      client.clear();
      window.location.assign('/sign-in');
    },
  });
  return (
    <FormDialog
      form={form}
      close={close}
      title={phrase('team.putThisBackupBack')}
      submit={phrase('team.putItBack')}
      look="stop"
      disabled={!form.values.organization.trim()}
    >
      {working && <Working of={working} />}
      <p>{phrase('team.everythingBecomesAsIt')}</p>
      <Text form={form} name="organization" label={phrase('team.typeTheNameOf', { organization })} />
    </FormDialog>
  );
}
