import { useState } from 'react';
import type { EventPage } from '#contract/events.ts';
import { Asking } from '../parts/Asking.tsx';
import { useDo } from '../parts/ask.ts';
import { Field } from '../parts/Field.tsx';
import { Problems } from '../parts/notices.tsx';
import { say } from '../parts/toast.tsx';

type To = 'open' | 'closed' | 'wrapped' | 'called off' | 'shelved' | 'draft';
const words: Record<To, { label: string; does: (p: EventPage) => string; done: string }> = {
  open: {
    label: 'Open registration',
    done: 'Open',
    does: (p) =>
      `The page becomes public at /e/${p.plan.slug}${p.plan.listed && p.plan.visibility === 'everyone' ? ' and is listed' : ', not listed'}. Anyone can register from now on, and messages are planned for them.`,
  },
  closed: {
    label: 'Close registration',
    done: 'Closed',
    does: () =>
      'Nobody can register any more; those who did keep their seats, and planned messages still go out. It can be opened again.',
  },
  wrapped: {
    label: 'Wrap up',
    done: 'Wrapped up',
    does: () => 'The plan is kept as it was. Figures, money and answers stay open to look at.',
  },
  'called off': {
    label: 'Call off',
    done: 'Called off',
    does: () =>
      'The public page says so. Messages that have not gone out are held back, and seats that are held, offered or waited for are let go. It cannot be undone; money is paid back by hand.',
  },
  shelved: {
    label: 'Shelve',
    done: 'Shelved',
    does: () => 'It is hidden and kept; Season lists it under Shelved, from where it can be brought back.',
  },
  draft: {
    label: 'Bring back',
    done: 'Brought back',
    does: () =>
      'It becomes what it was before. A plan that was under way becomes a draft and is cleared anew.',
  },
};

/** The steps an event can take now, each with what it will do before it is done. */
export function StateActions({ page }: { page: EventPage }) {
  const [asking, setAsking] = useState<To | null>(null);
  const [why, setWhy] = useState('');
  const change = useDo('POST /api/events/:id/state', () => {
    say(asking ? words[asking].done : 'Done');
    setAsking(null);
  });
  const over = page.spine.today?.stage === 'wrap-up';
  const possible: To[] =
    page.state === 'cleared'
      ? ['open']
      : page.state === 'open'
        ? ['closed']
        : page.state === 'closed'
          ? over
            ? ['wrapped']
            : ['open']
          : page.state === 'shelved'
            ? ['draft']
            : [];
  const rare: To[] =
    ['draft', 'cleared', 'in clearance', 'open', 'closed'].includes(page.state) && !over
      ? [...(page.state === 'draft' || page.state === 'cleared' ? (['shelved'] as const) : []), 'called off']
      : page.state === 'wrapped' || page.state === 'called off'
        ? ['shelved']
        : [];
  if (page.isTemplate) return null;
  return (
    <>
      {possible.map((to) => (
        <button
          key={to}
          type="button"
          className={`btn ${to === 'open' || to === 'wrapped' ? 'primary' : ''}`}
          onClick={() => setAsking(to)}
        >
          {words[to].label}
        </button>
      ))}
      {rare.map((to) => (
        <button key={to} type="button" className="btn plain" onClick={() => setAsking(to)}>
          {words[to].label}
        </button>
      ))}
      <Asking
        open={asking !== null}
        close={() => setAsking(null)}
        title={asking ? `${words[asking].label}?` : ''}
        actions={
          asking && (
            <button
              type="button"
              className={`btn ${asking === 'called off' ? 'stop' : 'primary'}`}
              disabled={change.isPending}
              onClick={() => change.mutate({ params: { id: page.id }, body: { to: asking, words: why } })}
            >
              {words[asking].label}
            </button>
          )
        }
      >
        <Problems of={change.problem} />
        <p>{asking && words[asking].does(page)}</p>
        {asking === 'called off' && (
          <Field label="Why">
            {(props) => <textarea {...props} rows={2} value={why} onChange={(e) => setWhy(e.target.value)} />}
          </Field>
        )}
      </Asking>
    </>
  );
}
