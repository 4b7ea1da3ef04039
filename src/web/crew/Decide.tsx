import { type Application, applyingContract } from '#contract/applying.ts';
import { FormDialog } from '#web/kit/form/FormDialog.tsx';
import { LongText, Tick } from '#web/kit/form/fields.tsx';
import { prepare } from '#web/kit/form/request.ts';
import { useForm } from '#web/kit/form/useForm.ts';
import { say } from '#web/kit/toast.tsx';
import { inAList, phrase } from '#web/words/phrase.ts';

export type Decision = 'accepted' | 'declined' | 'resting';

const titleOf = (to: Decision, n: number): string =>
  to === 'accepted'
    ? phrase('applying.acceptTitle', { n })
    : to === 'declined'
      ? phrase('applying.declineTitle', { n })
      : phrase('applying.restTitle', { n });
const doneWords = (to: Decision, n: number): string =>
  to === 'accepted'
    ? phrase('applying.isAccepted', { n })
    : to === 'declined'
      ? phrase('applying.isDeclined', { n })
      : phrase('applying.isResting', { n });
const means: Readonly<Record<Decision, string>> = {
  accepted: phrase('applying.acceptMeans'),
  declined: phrase('applying.declineMeans'),
  resting: phrase('applying.restMeans'),
};
const submits: Readonly<Record<Decision, string>> = {
  accepted: phrase('applying.doAccept'),
  declined: phrase('applying.doDecline'),
  resting: phrase('applying.doRest'),
};
/** How many are named before the rest is only counted. */
const named = 8;

/** Accepts people, declines them or lets them rest, once it was said what that means. */
export function Decide({
  to,
  of,
  deposit,
  close,
  done,
}: {
  to: Decision;
  of: readonly Application[];
  /** What is asked of whoever is accepted, said as an amount; null for none. */
  deposit: string | null;
  close: () => void;
  done: () => void;
}) {
  const form = useForm({
    values: { words: '', tell: true },
    request: ({ words, tell }) =>
      prepare(applyingContract, 'POST /api/applications/decide', {
        body: { ids: of.map((a) => a.id), to, words, tell },
      }),
    after: ({ changed }) => {
      say(doneWords(to, changed));
      done();
    },
  });
  const busy = of.filter((a) => a.shifts > 0).length;
  const names = of.slice(0, named).map((a) => a.name);
  return (
    <FormDialog
      form={form}
      close={close}
      title={titleOf(to, of.length)}
      submit={submits[to]}
      look={to === 'declined' ? 'stop' : 'main'}
    >
      <p>
        <span className="name">{inAList(names)}</span>
        {of.length > named && ' …'}
      </p>
      <p className="soft">{means[to]}</p>
      {to === 'accepted' && deposit && (
        <p className="soft">{phrase('applying.acceptDeposit', { amount: deposit })}</p>
      )}
      {to === 'declined' && of.some((a) => a.deposit?.state === 'held') && (
        <p className="soft">{phrase('applying.declineDeposit')}</p>
      )}
      {to !== 'accepted' && busy > 0 && <p className="need">{phrase('applying.haveShifts', { n: busy })}</p>}
      {to !== 'resting' && (
        <>
          <Tick form={form} name="tell" label={phrase('applying.tellThem')} />
          {form.values.tell && (
            <LongText form={form} name="words" label={phrase('applying.decideWords')} rows={3} />
          )}
        </>
      )}
    </FormDialog>
  );
}
