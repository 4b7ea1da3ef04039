import { chakra } from '@chakra-ui/react';
import { useState } from 'react';
import type { EventPage } from '#contract/events.ts';
import type { EventPlan } from '#contract/plan.ts';
import { mayWeigh } from '#core/changes/aspects.ts';
import type { Answer } from '#web/api.ts';
import { Button } from '#web/kit/Button.tsx';
import { phrase } from '#web/words/phrase.ts';
import { Asking } from '../../kit/Asking.tsx';
import { Facts } from '../../kit/Facts.tsx';
import { type Deed, History } from '../../kit/History.tsx';
import { Empty } from '../../kit/Note.tsx';
import { Loaded, Problems } from '../../kit/notices.tsx';
import { say } from '../../kit/toast.tsx';
import { useAction, useAsk } from '../../parts/ask.ts';
import { useSaying } from '../../parts/saying.ts';
import { fieldTitles } from './fieldWords.ts';
import { useSayChange, useSayValue } from './sayingChanges.ts';

type Change = Answer<'GET /api/events/:id/history'>[number];

/** Goes back on the last change of one's own that was not taken back yet. */
export function useUndo(page: EventPage) {
  const last = page.undoable;
  const back = useAction('POST /api/events/:id/history/:change/back', () =>
    say(phrase('event.takenBack', { field: last ? fieldTitles[last.field] : '' })),
  );
  return {
    last,
    busy: back.isPending,
    problem: back.problem,
    undo: () =>
      last && back.mutate({ params: { id: page.id, change: last.change }, body: { version: page.version } }),
  };
}

/** Who changed what of a plan, newest first, each with a way back. */
export function PlanHistory({
  page,
  change,
}: {
  page: EventPage;
  /** Types on the plan: what weighs is looked at before it is saved. */
  change: (part: Partial<EventPlan>) => void;
}) {
  const [open, setOpen] = useState(false);
  const history = useAsk('GET /api/events/:id/history', { params: { id: page.id }, enabled: open });
  const { at } = useSaying();
  const sayNamed = useSayValue(page);
  const sayChange = useSayChange(page);
  const [asking, setAsking] = useState<Change | null>(null);
  const back = useAction('POST /api/events/:id/history/:change/back', () => {
    say(phrase('event.takenBack', { field: asking ? fieldTitles[asking.field] : '' }));
    setAsking(null);
  });
  const now = (change: Change): unknown => page.plan[change.field];
  const may = page.may.change.includes('plan');
  return (
    <chakra.details marginTop="26px" onToggle={(e) => setOpen(e.currentTarget.open)}>
      <chakra.summary cursor="pointer" color="soft">
        {phrase('event.history')}
      </chakra.summary>
      <Loaded of={history}>
        {(changes) =>
          changes.length === 0 ? (
            <Empty>{phrase('event.nothingChangedYet')}</Empty>
          ) : (
            <History
              label={phrase('event.history')}
              deeds={changes.map(
                (c): Deed => ({
                  id: c.id,
                  when: at(c.at),
                  who: c.actor,
                  what: (
                    <span className={c.undoneBy ? 'soft' : ''}>
                      {fieldTitles[c.field]}: {sayChange(c)}
                    </span>
                  ),
                  about: c.undoneBy ? (
                    <span className="soft">{phrase('event.takenBackBy', { who: c.undoneBy })}</span>
                  ) : (
                    may && (
                      <Button
                        look="link"
                        color="verdigris"
                        aria-label={phrase('event.putBackField', {
                          field: fieldTitles[c.field],
                          when: at(c.at),
                        })}
                        onClick={() => setAsking(c)}
                      >
                        {phrase('event.putBack')}
                      </Button>
                    )
                  ),
                }),
              )}
            />
          )
        }
      </Loaded>
      <Asking
        open={asking !== null}
        close={() => setAsking(null)}
        title={asking ? phrase('event.putBackTitle', { field: fieldTitles[asking.field] }) : ''}
        actions={
          asking && (
            <Button
              look="main"
              disabled={back.isPending}
              onClick={() => {
                if (mayWeigh(page.state, asking.field)) {
                  change({ [asking.field]: asking.before });
                  setAsking(null);
                } else
                  back.mutate({
                    params: { id: page.id, change: asking.id },
                    body: { version: page.version },
                  });
              }}
            >
              {phrase('event.putBack')}
            </Button>
          )
        }
      >
        <Problems of={back.problem} />
        {asking && (
          <Facts
            of={[
              [phrase('event.saysNow'), sayNamed(now(asking))],
              [phrase('event.willSay'), sayNamed(asking.before)],
            ]}
          />
        )}
      </Asking>
    </chakra.details>
  );
}
