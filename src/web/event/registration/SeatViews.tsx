import { type SeatView, seatsContract } from '#contract/seats.ts';
import { type SeatFilter, sameFilter } from '#core/seats/narrowing.ts';
import { prepare } from '#web/kit/form/request.ts';
import { useForm } from '#web/kit/form/useForm.ts';
import { Problems } from '#web/kit/notices.tsx';
import { say } from '#web/kit/toast.tsx';
import { useAction, useAsk } from '#web/parts/ask.ts';
import { KeptViews } from '#web/parts/KeptViews.tsx';
import { phrase } from '#web/words/phrase.ts';

/** Views of the seats of one event under names. */
export function SeatViews({
  eventId,
  filter,
  open,
  mayShare,
}: {
  eventId: string;
  filter: SeatFilter;
  open: (filter: SeatFilter) => void;
  mayShare: boolean;
}) {
  const params = { id: eventId };
  const views = useAsk('GET /api/events/:id/registration-views', { params }).data ?? [];
  const form = useForm({
    values: { name: '', shared: false },
    request: (v) =>
      prepare(seatsContract, 'POST /api/events/:id/registration-views', { params, body: { ...v, filter } }),
    after: (_, { name }) => say(phrase('contacts.isKept', { name })),
    again: true,
  });
  const restore = useAction('POST /api/events/:id/registration-views', () => say(phrase('common.undone')));
  const remove = useAction('DELETE /api/events/:id/registration-views/:view');
  const throwAway = ({ id, name, shared, filter: kept }: SeatView) =>
    remove.mutate(
      { params: { ...params, view: id } },
      {
        onSuccess: () =>
          say(phrase('contacts.theViewWasDeleted', { name }), {
            label: phrase('common.undo'),
            run: () => restore.mutate({ params, body: { name, shared, filter: kept } }),
          }),
      },
    );
  return (
    <>
      <KeptViews
        views={views}
        isNow={(f) => sameFilter(f, filter)}
        open={open}
        form={form}
        remove={throwAway}
        mayShare={mayShare}
      />
      <Problems of={remove.problem} />
    </>
  );
}
