import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import type { EventPage } from '#contract/events.ts';
import { sayConsequences } from '#core/events/consequences.ts';
import type { Move } from '#core/events/moves.ts';
import { Button } from '#web/kit/Button.tsx';
import { phrase } from '#web/words/phrase.ts';
import { call } from '../api.ts';
import { Asking } from '../kit/Asking.tsx';
import { Problems } from '../kit/notices.tsx';
import { say } from '../kit/toast.tsx';
import { useAction } from '../parts/ask.ts';
import { WhatIf } from './changes/WhatIf.tsx';
import { EventMenu } from './EventMenu.tsx';

const words: Record<Move, { label: string; does: (p: EventPage) => string; done: string }> = {
  open: {
    label: phrase('event.openRegistration'),
    done: phrase('event.open'),
    does: (p) =>
      phrase(
        p.plan.listed && p.plan.visibility === 'everyone'
          ? 'event.thePageBecomesPublic'
          : 'event.thePageBecomesPublicUnlisted',
        { slug: p.plan.slug ?? '' },
      ),
  },
  close: {
    label: phrase('event.closeRegistration'),
    done: phrase('event.closed'),
    does: () => phrase('event.nobodyCanRegisterAny'),
  },
  'wrap up': {
    label: phrase('event.wrapItUp'),
    done: phrase('event.wrappedUp'),
    does: () => phrase('event.thePlanIsKept'),
  },
  'call off': {
    label: phrase('event.callOff'),
    done: phrase('event.calledOff'),
    does: () => phrase('event.thePublicPageSays'),
  },
  shelve: {
    label: phrase('event.shelve'),
    done: phrase('common.shelved'),
    does: () => phrase('event.itIsHiddenAnd'),
  },
  'bring back': {
    label: phrase('common.bringBack'),
    done: phrase('event.broughtBack'),
    does: () => phrase('event.itBecomesWhatIt'),
  },
};

/** What is done now and then stands beside the title; what is rare is in the menu. */
const rare: readonly Move[] = ['shelve', 'call off'];
const looks: Partial<Record<Move, 'main' | 'plain'>> = {
  open: 'main',
  'wrap up': 'main',
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
  return asked.data ? sayConsequences(asked.data.followed, false) : [];
}

/** The steps an event can take now, each with what it will do before it is done. */
export function StateActions({ page }: { page: EventPage }) {
  const [asking, setAsking] = useState<Move | null>(null);
  const change = useAction('POST /api/events/:id/state', ({ followed }) => {
    say([asking ? words[asking].done : phrase('event.done'), ...sayConsequences(followed, true)].join('; '));
    setAsking(null);
  });
  const whatIf = useWhatIf(page.id, asking === 'call off' ? null : asking);
  return (
    <>
      {page.moves
        .filter((move) => !rare.includes(move))
        .map((move) => (
          <Button key={move} look={looks[move] ?? 'normal'} onClick={() => setAsking(move)}>
            {words[move].label}
          </Button>
        ))}
      <EventMenu
        page={page}
        moves={page.moves
          .filter((move) => rare.includes(move))
          .map((move) => ({ label: words[move].label, run: () => setAsking(move) }))}
      />
      <Asking
        open={asking !== null && asking !== 'call off'}
        close={() => setAsking(null)}
        title={asking ? `${words[asking].label}?` : ''}
        actions={
          asking && (
            <Button
              look="main"
              disabled={change.isPending}
              onClick={() => change.mutate({ params: { id: page.id }, body: { move: asking } })}
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
      </Asking>
      {asking === 'call off' && (
        <WhatIf
          page={page}
          doing={{ move: 'call off' }}
          close={() => setAsking(null)}
          done={() => setAsking(null)}
        />
      )}
    </>
  );
}
