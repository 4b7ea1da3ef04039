import { seatsContract } from '#contract/seats.ts';
import { FormDialog } from '#web/kit/form/FormDialog.tsx';
import { DateField, LongText } from '#web/kit/form/fields.tsx';
import { prepare } from '#web/kit/form/request.ts';
import { useForm } from '#web/kit/form/useForm.ts';
import { say } from '#web/kit/toast.tsx';
import { useSaying } from '#web/parts/saying.ts';
import { phrase } from '#web/words/phrase.ts';
import type { WithSeats } from './chosen.ts';

/** Sets a task about each of those on some seats. */
export function TaskForm({ seatIds, page, close, done }: WithSeats) {
  const { today } = useSaying();
  const form = useForm({
    values: { text: '', dueOn: today },
    request: (v) =>
      prepare(seatsContract, 'POST /api/events/:id/tasks', {
        params: { id: page.id },
        body: { seatIds: [...seatIds], ...v },
      }),
    after: ({ tasks, left }) => {
      say(
        [
          phrase('seats.taskSet', { n: tasks }),
          left.length > 0 && phrase('seats.taskNobody', { n: left.length }),
        ]
          .filter(Boolean)
          .join('. '),
      );
      done();
    },
  });
  return (
    <FormDialog
      form={form}
      close={close}
      title={phrase('seats.taskTitle', { n: seatIds.length })}
      submit={phrase('seats.setTasks')}
    >
      <LongText form={form} name="text" label={phrase('seats.taskWhat')} rows={3} required />
      <DateField form={form} name="dueOn" label={phrase('seats.taskDue')} help={phrase('seats.taskHelp')} />
    </FormDialog>
  );
}
