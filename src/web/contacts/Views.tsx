import { chakra, Input, type SystemStyleObject } from '@chakra-ui/react';
import { useState } from 'react';
import { type ContactFilter, type View, viewsContract } from '#contract/views.ts';
import { Button } from '#web/kit/Button.tsx';
import { phrase } from '#web/words/phrase.ts';
import { Tick } from '../kit/Choosing.tsx';
import { Summary } from '../kit/form/Form.tsx';
import { prepare } from '../kit/form/request.ts';
import { useForm } from '../kit/form/useForm.ts';
import { Chip } from '../kit/ListViews.tsx';
import { Problems } from '../kit/notices.tsx';
import { say } from '../kit/toast.tsx';
import { useAction, useAsk, useMe } from '../parts/ask.ts';

const viewsLook: SystemStyleObject = {
  '& > .acts:last-child': {
    marginLeft: 'auto',
  },
};

const same = (a: ContactFilter, b: ContactFilter): boolean =>
  JSON.stringify({ ...a, hidden: [...a.hidden].sort() }) ===
  JSON.stringify({ ...b, hidden: [...b.hidden].sort() });

/** Views of the contacts under names: one's own and the team's, kept, opened and thrown away. */
export function Views({ filter, open }: { filter: ContactFilter; open: (filter: ContactFilter) => void }) {
  const views = useAsk('GET /api/views').data ?? [];
  const [keeping, setKeeping] = useState(false);
  const coordinator = useMe().data?.staff.roles.includes('coordinator') ?? false;
  const form = useForm({
    values: { name: '', shared: false },
    request: (v) => prepare(viewsContract, 'POST /api/views', { body: { ...v, filter } }),
    after: (_, { name }) => {
      say(phrase('contacts.isKept', { name }));
      setKeeping(false);
    },
    again: true,
  });
  const restore = useAction('POST /api/views', () => say(phrase('common.undone')));
  const remove = useAction('DELETE /api/views/:id');
  const throwAway = (v: View) =>
    remove.mutate(
      { params: { id: v.id } },
      {
        onSuccess: () =>
          say(phrase('contacts.theViewWasDeleted', { name: v.name }), {
            label: phrase('common.undo'),
            run: () => restore.mutate({ body: { name: v.name, shared: v.shared, filter: v.filter } }),
          }),
      },
    );
  const now = views.find((v) => same(v.filter, filter));
  return (
    <chakra.div className="tools" css={viewsLook} role="group" aria-label={phrase('contacts.views')}>
      {views.map((v) => (
        <Chip
          key={v.id}
          aria-pressed={now?.id === v.id}
          title={v.shared ? phrase('contacts.aViewOfThe') : phrase('contacts.aViewOfYour')}
          onClick={() => open(v.filter)}
        >
          {v.name}
        </Chip>
      ))}
      {now && (now.mine || coordinator) && (
        <Button look="link" onClick={() => throwAway(now)}>
          {phrase('contacts.deleteThisView')}
        </Button>
      )}
      {!now && !keeping && (
        <Button look="link" onClick={() => setKeeping(true)}>
          {phrase('contacts.keepThisView')}
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
            aria-label={phrase('contacts.nameOfTheView')}
            placeholder={phrase('contacts.itsName')}
            // The field was asked for just now.
            autoFocus
            width="170px"
            value={form.values.name}
            onChange={(e) => form.set({ name: e.target.value })}
            onKeyDown={(e) => e.key === 'Escape' && setKeeping(false)}
          />
          <Tick checked={form.values.shared} set={(shared) => form.set({ shared })}>
            {phrase('contacts.forTheWholeTeam')}
          </Tick>
          <Button type="submit" disabled={form.sending || !form.values.name.trim()}>
            {phrase('common.save')}
          </Button>
          <Button look="plain" onClick={() => setKeeping(false)}>
            {phrase('common.cancel')}
          </Button>
        </form>
      )}
      <Summary form={form} />
      <Problems of={remove.problem} />
    </chakra.div>
  );
}
