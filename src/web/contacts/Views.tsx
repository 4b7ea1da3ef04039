import { type ContactFilter, viewsContract } from '#contract/views.ts';
import { phrase } from '#web/words/phrase.ts';
import { prepare } from '../kit/form/request.ts';
import { useForm } from '../kit/form/useForm.ts';
import { Problems } from '../kit/notices.tsx';
import { say } from '../kit/toast.tsx';
import { useAction, useAsk, useMe } from '../parts/ask.ts';
import { KeptViews } from '../parts/KeptViews.tsx';

/** Whether two filters ask for the same; the database keeps their keys in an order of its own. */
const same = (a: ContactFilter, b: ContactFilter): boolean =>
  (['q', 'tag', 'kind', 'segment', 'sort', 'reverse'] as const).every((key) => a[key] === b[key]) &&
  [...a.hidden].sort().join() === [...b.hidden].sort().join();

/** Views of the contacts under names. */
export function Views({ filter, open }: { filter: ContactFilter; open: (filter: ContactFilter) => void }) {
  const views = useAsk('GET /api/views').data ?? [];
  const coordinator = useMe().data?.staff.roles.includes('coordinator') ?? false;
  const form = useForm({
    values: { name: '', shared: false },
    request: (v) => prepare(viewsContract, 'POST /api/views', { body: { ...v, filter } }),
    after: (_, { name }) => say(phrase('contacts.isKept', { name })),
    again: true,
  });
  const restore = useAction('POST /api/views', () => say(phrase('common.undone')));
  const remove = useAction('DELETE /api/views/:id');
  return (
    <>
      <KeptViews
        views={views}
        isNow={(f) => same(f, filter)}
        open={open}
        form={form}
        mayShare={coordinator}
        remove={(v) =>
          remove.mutate(
            { params: { id: v.id } },
            {
              onSuccess: () =>
                say(phrase('contacts.theViewWasDeleted', { name: v.name }), {
                  label: phrase('common.undo'),
                  run: () => restore.mutate({ body: { name: v.name, shared: v.shared, filter: v.filter } }),
                }),
            },
          )
        }
      />
      <Problems of={remove.problem} />
    </>
  );
}
