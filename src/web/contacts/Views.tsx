import { chakra } from '@chakra-ui/react';
import { type ReactNode, useState } from 'react';
import type { ContactFilter, View } from '#contract/views.ts';
import { Button } from '#web/kit/Button.tsx';
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
  const [name, setName] = useState('');
  const [shared, setShared] = useState(false);
  const coordinator = useMe().data?.staff.roles.includes('coordinator') ?? false;
  const keep = useAction('POST /api/views', () => {
    say(`“${name}” is kept.`);
    setKeeping(false);
    setName('');
  });
  const restore = useAction('POST /api/views', () => say('Undone.'));
  const remove = useAction('DELETE /api/views/:id');
  const throwAway = (v: View) =>
    remove.mutate(
      { params: { id: v.id } },
      {
        onSuccess: () =>
          say(`The view “${v.name}” was thrown away.`, {
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
        <button type="button" className="link" onClick={() => throwAway(now)}>
          Throw this view away
        </button>
      )}
      {!now && !keeping && (
        <button type="button" className="link" onClick={() => setKeeping(true)}>
          Keep this view
        </button>
      )}
      {keeping && (
        <form
          className="acts"
          onSubmit={(e) => {
            e.preventDefault();
            keep.mutate({ body: { name, shared, filter } });
          }}
        >
          <chakra.input
            aria-label="Name of the view"
            placeholder="its name"
            // The field was asked for just now.
            autoFocus
            width="170px"
            value={name}
            onChange={(e) => setName(e.target.value)}
            onKeyDown={(e) => e.key === 'Escape' && setKeeping(false)}
          />
          <label className="tick">
            <input type="checkbox" checked={shared} onChange={(e) => setShared(e.target.checked)} />
            for the whole team
          </label>
          <Button type="submit" disabled={keep.isPending || !name.trim()}>
            Keep
          </Button>
          <Button look="plain" onClick={() => setKeeping(false)}>
            Cancel
          </Button>
        </form>
      )}
      <Problems of={keep.problem ?? remove.problem} />
      {children}
    </div>
  );
}
