import { Input } from '@chakra-ui/react';
import { type ReactNode, useState } from 'react';
import { type ContactFilter, type View, viewsContract } from '#contract/views.ts';
import { Button } from '#web/kit/Button.tsx';
import { Tick } from '../kit/Choosing.tsx';
import { Summary } from '../kit/form/Form.tsx';
import { prepare } from '../kit/form/request.ts';
import { useForm } from '../kit/form/useForm.ts';
import { Problems } from '../kit/notices.tsx';
import { say } from '../kit/toast.tsx';
import { useAction, useAsk, useMe } from '../parts/ask.ts';

const same = (a: ContactFilter, b: ContactFilter): boolean =>
  JSON.stringify({ ...a, hidden: [...a.hidden].sort() }) ===
  JSON.stringify({ ...b, hidden: [...b.hidden].sort() });

/** Views of the contacts under names: one's own and the team's, kept, opened and thrown away. */
export function Views({
  filter,
  open,
  children,
}: {
  filter: ContactFilter;
  open: (filter: ContactFilter) => void;
  children: ReactNode;
}) {
  const views = useAsk('GET /api/views').data ?? [];
  const [keeping, setKeeping] = useState(false);
  const coordinator = useMe().data?.staff.roles.includes('coordinator') ?? false;
  const form = useForm({
    values: { name: '', shared: false },
    request: (v) => prepare(viewsContract, 'POST /api/views', { body: { ...v, filter } }),
    after: (_, { name }) => {
      say(`“${name}” is kept.`);
      setKeeping(false);
    },
    again: true,
  });
  const restore = useAction('POST /api/views', () => say('Undone.'));
  const remove = useAction('DELETE /api/views/:id');
  const throwAway = (v: View) =>
    remove.mutate(
      { params: { id: v.id } },
      {
        onSuccess: () =>
          say(`The view “${v.name}” was deleted.`, {
            label: 'Undo',
            run: () => restore.mutate({ body: { name: v.name, shared: v.shared, filter: v.filter } }),
          }),
      },
    );
  const now = views.find((v) => same(v.filter, filter));
  return (
    <div className="tools views" role="group" aria-label="Views">
      {views.map((v) => (
        <button
          key={v.id}
          type="button"
          className="chip"
          aria-pressed={now?.id === v.id}
          title={v.shared ? 'A view of the whole team' : 'A view of your own'}
          onClick={() => open(v.filter)}
        >
          {v.name}
        </button>
      ))}
      {now && (now.mine || coordinator) && (
        <Button look="link" onClick={() => throwAway(now)}>
          Delete this view
        </Button>
      )}
      {!now && !keeping && (
        <Button look="link" onClick={() => setKeeping(true)}>
          Keep this view
        </Button>
      )}
      {keeping && (
        <form
          className="acts"
          noValidate
          onSubmit={(e) => {
            e.preventDefault();
            form.submit();
          }}
        >
          <Input
            aria-label="Name of the view"
            placeholder="its name"
            // The field was asked for just now.
            autoFocus
            width="170px"
            value={form.values.name}
            onChange={(e) => form.set({ name: e.target.value })}
            onKeyDown={(e) => e.key === 'Escape' && setKeeping(false)}
          />
          <Tick checked={form.values.shared} set={(shared) => form.set({ shared })}>
            for the whole team
          </Tick>
          <Button type="submit" disabled={form.sending || !form.values.name.trim()}>
            Keep
          </Button>
          <Button look="plain" onClick={() => setKeeping(false)}>
            Cancel
          </Button>
        </form>
      )}
      <Summary form={form} />
      <Problems of={remove.problem} />
      {children}
    </div>
  );
}
