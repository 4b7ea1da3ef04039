import { seatsContract } from '#contract/seats.ts';
import { sayShortDate } from '#core/time/say.ts';
import { call } from '#web/api.ts';
import { FormDialog } from '#web/kit/form/FormDialog.tsx';
import { Choose, OneOf } from '#web/kit/form/fields.tsx';
import { prepare } from '#web/kit/form/request.ts';
import { useForm } from '#web/kit/form/useForm.ts';
import { Problems } from '#web/kit/notices.tsx';
import { say } from '#web/kit/toast.tsx';
import { useAsk } from '#web/parts/ask.ts';
import { useSaying } from '#web/parts/saying.ts';
import { phrase } from '#web/words/phrase.ts';
import { ToldLines } from '../changes/ToldLines.tsx';
import { useTold } from '../changes/useTold.ts';
import type { WithSeats } from './chosen.ts';
import { LeftAsTheyAre } from './LeftAsTheyAre.tsx';

interface Wanted {
  to: 'ticket' | 'date';
  offerId: string;
  eventId: string;
}
const bodyOf = (seatIds: readonly string[], { to, offerId, eventId }: Wanted) => ({
  seatIds: [...seatIds],
  offerId: to === 'ticket' ? offerId || null : null,
  eventId: to === 'date' ? eventId || null : null,
});
const nowhere: Wanted = { to: 'ticket', offerId: '', eventId: '' };

/** Moves several seats to another ticket, or their bookings to another date. */
export function MoveForm({ seatIds, page, close, done }: WithSeats) {
  const { money, now } = useSaying();
  const params = { id: page.id };
  const events = useAsk('GET /api/events').data ?? [];
  // Dates of the same series first, then whatever else is open.
  const dates = events
    .filter((e) => e.id !== page.id && e.state === 'open' && e.startsLocal && (e.startsAt ?? '') > now)
    .sort(
      (a, b) =>
        Number(b.title === page.plan.teamTitle) - Number(a.title === page.plan.teamTitle) ||
        (a.startsLocal! < b.startsLocal! ? -1 : 1),
    );
  const form = useForm({
    values: nowhere,
    request: (v) =>
      prepare(seatsContract, 'POST /api/events/:id/seats/move', { params, body: bodyOf(seatIds, v) }),
    after: ({ seats }) => {
      say(phrase('seats.moved', { n: seats }));
      done();
    },
  });
  const body = bodyOf(seatIds, form.values);
  const { told, busy, problem } = useTold(
    ['move', page.id],
    body,
    (asked) => call('POST /api/events/:id/seats/move/what-if', { params, body: asked }),
    form.sending || (!body.offerId && !body.eventId),
  );
  const lines = told && [
    told.seats > 0 ? phrase('seats.willMove', { n: told.seats }) : phrase('seats.nobodyMoves'),
    told.more > 0 && phrase('seats.willPay', { amount: money(told.more) }),
    told.back > 0 && phrase('seats.willOwe', { amount: money(told.back) }),
    told.kept > 0 && phrase('seats.willKeep', { amount: money(told.kept) }),
    told.seats > 0 && !told.more && !told.back && phrase('seats.nothingMore'),
    told.seats > 0 && phrase('seats.theyAreTold'),
  ];
  return (
    <FormDialog
      form={form}
      close={close}
      title={phrase('seats.moveTitle', { count: seatIds.length })}
      submit={phrase('seats.moveTitle', { count: told?.seats ?? seatIds.length })}
      disabled={!told?.seats || busy || problem !== null}
    >
      <OneOf
        form={form}
        name="to"
        label={phrase('seats.moveTo')}
        choices={[
          { value: 'ticket', label: phrase('seats.anotherTicket') },
          { value: 'date', label: phrase('seats.anotherDate') },
        ]}
      />
      {form.values.to === 'ticket' ? (
        <Choose
          form={form}
          name="offerId"
          label={phrase('seats.ticket')}
          empty="…"
          choices={page.plan.offers.map((o) => ({ value: o.id, label: o.name }))}
        />
      ) : (
        <Choose
          form={form}
          name="eventId"
          label={phrase('seats.date')}
          empty={phrase('seats.chooseDate')}
          help={phrase('seats.wholeBookings')}
          choices={dates.map((e) => ({
            value: e.id,
            label: `${sayShortDate(e.startsLocal!)} · ${e.title}`,
          }))}
        />
      )}
      <Problems of={problem} />
      <ToldLines lines={lines} />
      {told && <LeftAsTheyAre left={told.left} />}
    </FormDialog>
  );
}
