import type { EventPage } from '#contract/events.ts';
import { registrationContract } from '#contract/registration.ts';
import { phrase } from '#web/words/phrase.ts';
import { FormDialog } from '../kit/form/FormDialog.tsx';
import { Choose, Count } from '../kit/form/fields.tsx';
import { prepare } from '../kit/form/request.ts';
import { useForm } from '../kit/form/useForm.ts';
import { say } from '../kit/toast.tsx';
import { nobody, PersonFields } from '../parts/PersonFields.tsx';

/** Registers somebody who asked for it by telephone or in person. */
export function AddRegistration({ page, close }: { page: EventPage; close: () => void }) {
  const form = useForm({
    values: { buyer: nobody, offerId: page.plan.offers[0]?.id ?? '', units: '1' },
    request: ({ buyer, offerId, units }) =>
      prepare(registrationContract, 'POST /api/events/:id/orders', {
        params: { id: page.id },
        body: {
          buyer,
          lines: [{ offerId, units: Number(units) || 1 }],
          attendees: [{ given: buyer.given, family: buyer.family }],
        },
      }),
    fieldOf: (path) => (path === 'lines.0.units' ? 'units' : path === 'lines.0.offerId' ? 'offerId' : path),
    after: ({ standing }) => {
      say(standing === 'waitlisted' ? phrase('event.fullOnTheWaitlist') : phrase('common.registered'));
      close();
    },
  });
  const { offerId, units } = form.values;
  const offer = page.plan.offers.find((o) => o.id === offerId);
  return (
    <FormDialog
      form={form}
      close={close}
      title={phrase('event.addRegistration')}
      submit={phrase('common.register')}
    >
      <PersonFields form={form} path="buyer." emailHelp={phrase('event.theConfirmationGoesThere')} />
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
      <p className="soft">{phrase('event.whatIsDueCan')}</p>
    </FormDialog>
  );
}
