import { seatsContract } from '#contract/seats.ts';
import { call } from '#web/api.ts';
import { FormDialog } from '#web/kit/form/FormDialog.tsx';
import { OneOf, Text } from '#web/kit/form/fields.tsx';
import { prepare } from '#web/kit/form/request.ts';
import { useForm } from '#web/kit/form/useForm.ts';
import { Problems } from '#web/kit/notices.tsx';
import { say } from '#web/kit/toast.tsx';
import { useSaying } from '#web/parts/saying.ts';
import { phrase } from '#web/words/phrase.ts';
import { ToldLines } from '../changes/ToldLines.tsx';
import { useTold } from '../changes/useTold.ts';
import type { WithSeats } from './chosen.ts';
import { LeftAsTheyAre } from './LeftAsTheyAre.tsx';

/** Withdraws several seats. */
export function WithdrawForm({ seatIds, page, close, done }: WithSeats) {
  const { money } = useSaying();
  const params = { id: page.id };
  const form = useForm({
    values: { reason: '', back: 'terms' as 'terms' | 'all' | 'nothing' },
    request: (v) =>
      prepare(seatsContract, 'POST /api/events/:id/seats/withdraw', {
        params,
        body: { seatIds: [...seatIds], ...v },
      }),
    after: ({ seats }) => {
      say(phrase('seats.withdrawn', { n: seats }));
      done();
    },
  });
  const { told, busy, problem } = useTold(
    ['withdraw', page.id],
    { seatIds: [...seatIds], back: form.values.back },
    (body) => call('POST /api/events/:id/seats/withdraw/what-if', { params, body }),
    form.sending,
  );
  const lines = told && [
    told.seats > 0
      ? phrase('seats.willWithdraw', { n: told.seats, orders: told.orders })
      : phrase('seats.nobodyWithdraws'),
    told.owed > 0 && phrase('seats.willOwe', { amount: money(told.owed) }),
    told.kept > 0 && phrase('seats.willKeep', { amount: money(told.kept) }),
    told.offered.length > 0 && phrase('seats.willOffer', { names: told.offered.join(', ') }),
    told.seats > 0 && phrase('seats.theyAreTold'),
  ];
  return (
    <FormDialog
      form={form}
      close={close}
      look="stop"
      title={phrase('seats.withdrawTitle', { count: seatIds.length })}
      submit={phrase('seats.withdrawTitle', { count: told?.seats ?? seatIds.length })}
      disabled={!told?.seats || busy || problem !== null}
    >
      <Problems of={problem} />
      <ToldLines lines={lines} />
      {told && <LeftAsTheyAre left={told.left} />}
      {page.plan.refunds.length > 0 && (
        <OneOf
          form={form}
          name="back"
          label={phrase('event.goesBack')}
          choices={[
            { value: 'terms', label: phrase('seats.byTerms') },
            { value: 'all', label: phrase('event.backAll') },
            { value: 'nothing', label: phrase('event.backNothing') },
          ]}
        />
      )}
      <Text form={form} name="reason" label={phrase('seats.reason')} />
    </FormDialog>
  );
}
