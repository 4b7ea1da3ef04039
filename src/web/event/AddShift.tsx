import { crewContract } from '#contract/crew.ts';
import type { EventPage } from '#contract/events.ts';
import { shiftDate } from '#core/time/dates.ts';
import { phrase } from '#web/words/phrase.ts';
import { FormDialog } from '../kit/form/FormDialog.tsx';
import { Count, DateField, Text, Tick, TimeField } from '../kit/form/fields.tsx';
import { prepare } from '../kit/form/request.ts';
import { useForm } from '../kit/form/useForm.ts';
import { say } from '../kit/toast.tsx';

/** Adds a shift to an event; one that ends before it begins goes on into the next day. */
export function AddShift({ page, close }: { page: EventPage; close: () => void }) {
  const [date = '', from = ''] = (page.plan.startsLocal ?? '').split('T');
  const to = (page.plan.endsLocal ?? '').split('T')[1] ?? '';
  const overnight = (v: { from: string; to: string }) => v.to !== '' && v.to <= v.from;
  const form = useForm({
    values: { role: '', place: '', date, from, to, wished: '1', publicSignUp: true },
    request: (v) =>
      prepare(crewContract, 'POST /api/events/:id/shifts', {
        params: { id: page.id },
        body: {
          role: v.role,
          place: v.place,
          startsLocal: `${v.date}T${v.from}`,
          endsLocal: `${v.date && overnight(v) ? shiftDate(v.date, 1) : v.date}T${v.to}`,
          wished: Number(v.wished) || 0,
          publicSignUp: v.publicSignUp,
        },
      }),
    fieldOf: (path, v) =>
      path === 'startsLocal' ? (v.date ? 'from' : 'date') : path === 'endsLocal' ? 'to' : path,
    after: () => {
      say(phrase('common.added'));
      close();
    },
  });
  return (
    <FormDialog form={form} close={close} title={phrase('event.addAShift')} submit={phrase('common.add')}>
      <div className="pair">
        <Text form={form} name="role" label={phrase('event.role')} required autoFocus />
        <Text form={form} name="place" label={phrase('common.place')} />
        <DateField form={form} name="date" label={phrase('common.date')} required />
        <Count form={form} name="wished" label={phrase('event.howMany')} required />
        <TimeField form={form} name="from" label={phrase('common.from')} required />
        <TimeField
          form={form}
          name="to"
          label={phrase('common.to')}
          required
          consequence={overnight(form.values) ? phrase('event.endsTheNextDay') : ''}
        />
      </div>
      <Tick form={form} name="publicSignUp" label={phrase('event.anybodyMaySignUp')} />
    </FormDialog>
  );
}
