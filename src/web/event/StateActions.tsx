import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import type { EventPage } from '#contract/events.ts';
import { sayConsequences } from '#core/events/consequences.ts';
import type { Move } from '#core/events/moves.ts';
import { Button } from '#web/kit/Button.tsx';
import { call } from '../api.ts';
import { Asking } from '../kit/Asking.tsx';
import { LongField } from '../kit/Field.tsx';
import { Problems } from '../kit/notices.tsx';
import { say } from '../kit/toast.tsx';
import { useAction } from '../parts/ask.ts';

const words: Record<Move, { label: string; does: (p: EventPage) => string; done: string }> = {
  open: {
    label: 'Open registration',
    done: 'Open',
    does: (p) =>
      `The page becomes public at /e/${p.plan.slug}${p.plan.listed && p.plan.visibility === 'everyone' ? ' and is listed' : ', not listed'}. Anyone can register from now on, and messages are planned for them.`,
  },
  close: {
    label: 'Close registration',
    done: 'Closed',
    does: () =>
      'Nobody can register any more; those who did keep their seats, and planned messages still go out. It can be opened again.',
  },
  'wrap up': {
    label: 'Wrap up',
    done: 'Wrapped up',
    does: () => 'The plan is kept as it was. Figures, money and answers stay open to look at.',
  },
  'call off': {
    label: 'Call off',
    done: 'Called off',
    does: () =>
      'The public page says so, and nothing goes out for it any more. It can’t be undone; money is paid back by hand.',
  },
  shelve: {
    label: 'Shelve',
    done: 'Shelved',
    does: () => 'It is hidden and kept; Season lists it under Shelved, from where it can be brought back.',
  },
  'bring back': {
    label: 'Bring back',
    done: 'Brought back',
    does: () =>
      'It becomes what it was before. A plan that was under way becomes a draft and is cleared anew.',
  },
};

/** What is done now and then stands out; what is rare does not. */
const looks: Partial<Record<Move, 'main' | 'plain'>> = {
  open: 'main',
  'wrap up': 'main',
  shelve: 'plain',
  'call off': 'plain',
};

/** What a move would bring about, a line each; nothing while it is asked, or where it cannot be told. */
function useWhatIf(id: string, move: Move | null): string[] {
  const asked = useQuery({
    queryKey: ['what-if', id, move],
    queryFn: () => call('POST /api/events/:id/what-if', { params: { id }, body: { move: move! } }),
    enabled: move !== null,
    gcTime: 0,
    retry: false,
  });
  return asked.data ? sayConsequences(asked.data, false) : [];
}

/** The steps an event can take now, each with what it will do before it is done. */
export function StateActions({ page }: { page: EventPage }) {
  const [asking, setAsking] = useState<Move | null>(null);
  const [why, setWhy] = useState('');
  const change = useAction('POST /api/events/:id/state', ({ followed }) => {
    say([asking ? words[asking].done : 'Done', ...sayConsequences(followed, true)].join('; '));
    setAsking(null);
  });
  const whatIf = useWhatIf(page.id, asking);
  return (
    <>
      {page.moves.map((move) => (
        <Button key={move} look={looks[move] ?? 'normal'} onClick={() => setAsking(move)}>
          {words[move].label}
        </Button>
      ))}
      <Asking
        open={asking !== null}
        close={() => setAsking(null)}
        title={asking ? `${words[asking].label}?` : ''}
        actions={
          asking && (
            <Button
              look={asking === 'call off' ? 'stop' : 'main'}
              disabled={change.isPending}
              onClick={() => change.mutate({ params: { id: page.id }, body: { move: asking, words: why } })}
            >
              {words[asking].label}
            </Button>
          )
        }
      >
        <Problems of={change.problem} />
        <p>{asking && words[asking].does(page)}</p>
        {whatIf.length > 0 && (
          <ul className="lines">
            {whatIf.map((line) => (
              <li key={line}>{line}</li>
            ))}
          </ul>
        )}
        {asking === 'call off' && (
          <LongField
            label="Why"
            rows={2}
            required
            value={why}
            set={setWhy}
            error={change.problem?.fields.words}
          />
        )}
      </Asking>
    </>
  );
}
