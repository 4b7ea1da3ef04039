import type { EventPage } from '#contract/events.ts';
import { seatsContract } from '#contract/seats.ts';
import { call } from '#web/api.ts';
import { inBase64 } from '#web/base64.ts';
import { FormDialog } from '#web/kit/form/FormDialog.tsx';
import { Choose } from '#web/kit/form/fields.tsx';
import { prepare } from '#web/kit/form/request.ts';
import { useForm } from '#web/kit/form/useForm.ts';
import { Problems } from '#web/kit/notices.tsx';
import { say } from '#web/kit/toast.tsx';
import { useSaying } from '#web/parts/saying.ts';
import { Rejected, TableOfPeople } from '#web/parts/TableOfPeople.tsx';
import { phrase } from '#web/words/phrase.ts';
import { ToldLines } from '../changes/ToldLines.tsx';
import { useTold } from '../changes/useTold.ts';

/** Registers the people of a table; what becomes of each row is worked out before anything is done. */
export function BringIn({ page, close }: { page: EventPage; close: () => void }) {
  const { money } = useSaying();
  const params = { id: page.id };
  const bodyOf = ({ table, offerId }: { table: string; offerId: string }) => ({
    content: inBase64(table),
    offerId,
  });
  const form = useForm({
    values: { table: '', offerId: page.plan.offers[0]?.id ?? '' },
    request: (v) =>
      prepare(seatsContract, 'POST /api/events/:id/registrations/import', { params, body: bodyOf(v) }),
    fieldOf: (path) => (path === 'content' ? 'table' : path),
    after: ({ confirmed, waitlisted }) => {
      say(phrase('seats.broughtIn', { n: confirmed + waitlisted }));
      close();
    },
  });
  const { table, offerId } = form.values;
  const { told, busy, problem } = useTold(
    ['import', page.id],
    bodyOf(form.values),
    (body) => call('POST /api/events/:id/registrations/import/what-if', { params, body }),
    form.sending || !table.trim() || !offerId,
  );
  const lines = told && [
    told.confirmed > 0 && phrase('seats.willRegister', { n: told.confirmed }),
    told.waitlisted > 0 && phrase('seats.willWait', { n: told.waitlisted }),
    told.made > 0 && phrase('seats.willBeNew', { n: told.made }),
    told.already.length > 0 &&
      phrase('seats.haveOne', { n: told.already.length, names: told.already.slice(0, 5).join(', ') }),
    told.total > 0 && phrase('seats.willPay', { amount: money(told.total) }),
  ];
  return (
    <FormDialog
      form={form}
      wide
      close={close}
      title={phrase('seats.bringIn')}
      submit={
        told ? phrase('seats.registerN', { n: told.confirmed + told.waitlisted }) : phrase('seats.bringIn')
      }
      disabled={!told || busy || problem !== null || told.confirmed + told.waitlisted === 0}
    >
      <TableOfPeople form={form} name="table" put={(text) => form.set({ table: text })} />
      <Choose
        form={form}
        name="offerId"
        label={phrase('seats.ticket')}
        choices={page.plan.offers.map((o) => ({ value: o.id, label: o.name }))}
      />
      <Problems of={problem} />
      <ToldLines lines={lines} />
      {told && <Rejected rows={told.rejected} />}
      <p className="soft">{phrase('seats.bringInHelp')}</p>
    </FormDialog>
  );
}
