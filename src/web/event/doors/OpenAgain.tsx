import { attendanceContract } from '#contract/attendance.ts';
import { FormDialog } from '#web/kit/form/FormDialog.tsx';
import { Text } from '#web/kit/form/fields.tsx';
import { prepare } from '#web/kit/form/request.ts';
import { useForm } from '#web/kit/form/useForm.ts';
import { say } from '#web/kit/toast.tsx';
import { useSaying } from '#web/parts/saying.ts';
import { phrase } from '#web/words/phrase.ts';

/** Opens once more what is kept of who came, with a reason. */
export function OpenAgain({ eventId, close }: { eventId: string; close: () => void }) {
  const { at } = useSaying();
  const form = useForm({
    values: { why: '' },
    request: (v) =>
      prepare(attendanceContract, 'POST /api/events/:id/attendance/open', {
        params: { id: eventId },
        body: v,
      }),
    after: ({ until }) => {
      say(phrase('event.attendanceOpenUntil', { time: at(until) }));
      close();
    },
  });
  return (
    <FormDialog
      form={form}
      close={close}
      title={phrase('event.openOnceMore')}
      submit={phrase('event.openOnceMore')}
    >
      <p>{phrase('event.openOnceMoreSays')}</p>
      <Text form={form} name="why" label={phrase('event.whyOpened')} required autoFocus />
    </FormDialog>
  );
}
