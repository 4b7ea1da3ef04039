import { useEffect, useState } from 'react';
import type { EventPage } from '#contract/events.ts';
import { registrationContract } from '#contract/registration.ts';
import { sayPhone, writableEmail } from '#core/contacts/reach.ts';
import { call } from '#web/api.ts';
import { FormDialog } from '#web/kit/form/FormDialog.tsx';
import { Choose, Count, OneOf } from '#web/kit/form/fields.tsx';
import { prepare } from '#web/kit/form/request.ts';
import { useForm } from '#web/kit/form/useForm.ts';
import { say } from '#web/kit/toast.tsx';
import { useAction, useAsk, useMe } from '#web/parts/ask.ts';
import { nobody, PersonFields } from '#web/parts/PersonFields.tsx';
import { PersonSearch } from '#web/parts/PersonSearch.tsx';
import { useSaying } from '#web/parts/saying.ts';
import { phrase } from '#web/words/phrase.ts';
import { useTold } from '../changes/useTold.ts';

type Paid = 'no' | 'cash' | 'transfer';

const orderOf = (v: { buyer: typeof nobody; offerId: string; units: string }, contactId: string | null) => ({
  contactId,
  buyer: v.buyer,
  lines: [{ offerId: v.offerId, units: Number(v.units) || 1 }],
  attendees: [{ given: v.buyer.given, family: v.buyer.family }],
});

/** Registers somebody who asked for it by telephone or in person: whoever is on record is found by a part of their name. */
export function AddRegistration({ page, close }: { page: EventPage; close: () => void }) {
  const { money } = useSaying();
  const [picked, setPicked] = useState<{ id: string; name: string } | null>(null);
  const pay = useAction('POST /api/orders/:id/payments');
  const params = { id: page.id };
  const form = useForm({
    values: { buyer: nobody, offerId: page.plan.offers[0]?.id ?? '', units: '1', paid: 'no' as Paid },
    request: (v) =>
      prepare(registrationContract, 'POST /api/events/:id/orders', {
        params,
        body: orderOf(v, picked?.id ?? null),
      }),
    fieldOf: (path) => (path === 'lines.0.units' ? 'units' : path === 'lines.0.offerId' ? 'offerId' : path),
    after: async ({ orderId, standing, total }, { paid }) => {
      if (standing === 'confirmed' && paid !== 'no' && total > 0)
        await pay.mutateAsync({ params: { id: orderId }, body: { method: paid, amount: total } });
      say(standing === 'waitlisted' ? phrase('event.fullOnTheWaitlist') : phrase('common.registered'));
      close();
    },
  });
  const { buyer, offerId, units } = form.values;
  const record = useAsk('GET /api/contacts/:id', {
    params: { id: picked?.id ?? '' },
    enabled: picked !== null,
  }).data;
  const country = useMe().data?.organization.country ?? 'CA';
  const { set } = form;
  const known = picked && record?.id === picked.id ? record : null;
  useEffect(() => {
    if (known)
      set({
        buyer: {
          given: known.given,
          family: known.family,
          email: writableEmail(known) ?? '',
          phone: sayPhone(known.phones.find((p) => !p.endedOn)?.phone ?? '', country),
        },
      });
  }, [known, set, country]);
  const offer = page.plan.offers.find((o) => o.id === offerId);
  const { told } = useTold(
    ['register', page.id],
    orderOf(
      { ...form.values, buyer: { ...buyer, given: buyer.given || '–', family: buyer.family || '–' } },
      picked?.id ?? null,
    ),
    (body) => call('POST /api/events/:id/orders/what-if', { params, body }),
    form.sending || !offerId,
  );
  return (
    <FormDialog
      form={form}
      close={close}
      title={phrase('event.addRegistration')}
      submit={phrase('common.register')}
    >
      <PersonSearch
        label={phrase('seats.whoCalls')}
        help={phrase('seats.whoCallsHelp')}
        chosen={picked?.name ?? ''}
        pick={setPicked}
        autoFocus
      />
      <PersonFields form={form} path="buyer." autoFocus={false} />
      <div className="pair">
        <Choose
          form={form}
          name="offerId"
          label={phrase('common.offer')}
          choices={page.plan.offers.map((o) => ({ value: o.id, label: o.name }))}
        />
        <Count
          form={form}
          name="units"
          label={phrase('event.howMany')}
          consequence={
            offer && offer.seatsPerUnit > 1
              ? phrase('event.nSeats', { n: (Number(units) || 1) * offer.seatsPerUnit })
              : ''
          }
        />
      </div>
      {told && (
        <p aria-live="polite">
          <b className="num">
            {told.total > 0 ? phrase('seats.comesTo', { amount: money(told.total) }) : phrase('seats.isFree')}
          </b>{' '}
          {told.standing === 'waitlisted' && <span className="need">{phrase('seats.isFull')}</span>}
        </p>
      )}
      {told && told.total > 0 && told.standing === 'confirmed' && (
        <OneOf
          form={form}
          name="paid"
          label={phrase('seats.whoPays')}
          choices={[
            { value: 'no', label: phrase('seats.notNow') },
            { value: 'cash', label: phrase('seats.cash') },
            { value: 'transfer', label: phrase('seats.transfer') },
          ]}
        />
      )}
      <p className="soft">{phrase('seats.goesToThem')}</p>
    </FormDialog>
  );
}
