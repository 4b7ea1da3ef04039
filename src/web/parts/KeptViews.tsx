import { chakra, Input } from '@chakra-ui/react';
import { useEffect, useState } from 'react';
import { Button } from '#web/kit/Button.tsx';
import { Tick } from '#web/kit/Choosing.tsx';
import { Summary } from '#web/kit/form/Form.tsx';
import type { Form } from '#web/kit/form/useForm.ts';
import { Chip } from '#web/kit/ListViews.tsx';
import { phrase } from '#web/words/phrase.ts';

/** A view as it is kept: what a list is narrowed to, under a name. */
export interface KeptView<F> {
  id: string;
  name: string;
  /** Seen by the whole team, or only by who made it. */
  shared: boolean;
  mine: boolean;
  filter: F;
}

/** The name a view is kept under, as it is typed. */
export interface ViewForm {
  name: string;
  shared: boolean;
}

/** Views of a list under names: one's own and the team's, kept, opened and thrown away. */
export function KeptViews<F>({
  views,
  isNow,
  open,
  form,
  remove,
  mayShare,
}: {
  views: readonly KeptView<F>[];
  /** Whether the list is narrowed to just this. */
  isNow: (filter: F) => boolean;
  open: (filter: F) => void;
  /** Keeps what the list is narrowed to now. */
  form: Form<ViewForm>;
  remove: (view: KeptView<F>) => void;
  /** Whether they may keep and throw away what the whole team sees. */
  mayShare: boolean;
}) {
  const [keeping, setKeeping] = useState(false);
  const now = views.find((v) => isNow(v.filter));
  const nowId = now?.id;
  // Once it is kept, what is shown is that view.
  useEffect(() => {
    if (nowId) setKeeping(false);
  }, [nowId]);
  return (
    <chakra.div
      className="tools"
      css={{ '& > .acts:last-child': { marginLeft: 'auto' } }}
      role="group"
      aria-label={phrase('contacts.views')}
    >
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
      {now && (now.mine || mayShare) && (
        <Button look="link" onClick={() => remove(now)}>
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
          {mayShare && (
            <Tick checked={form.values.shared} set={(shared) => form.set({ shared })}>
              {phrase('contacts.forTheWholeTeam')}
            </Tick>
          )}
          <Button type="submit" disabled={form.sending || !form.values.name.trim()}>
            {phrase('common.save')}
          </Button>
          <Button look="plain" onClick={() => setKeeping(false)}>
            {phrase('common.cancel')}
          </Button>
        </form>
      )}
      <Summary form={form} />
    </chakra.div>
  );
}
