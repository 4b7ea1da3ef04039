import { chakra } from '@chakra-ui/react';
import { useState } from 'react';
import type { EventPage } from '#contract/events.ts';
import { type Deed, History } from '#web/kit/History.tsx';
import { Empty } from '#web/kit/Note.tsx';
import { Loaded } from '#web/kit/notices.tsx';
import { useAsk } from '#web/parts/ask.ts';
import { useSaying } from '#web/parts/saying.ts';
import { phrase, term } from '#web/words/phrase.ts';
import { sayAspects, whoWords } from './changeWords.ts';

/** Every change that people were told of, or were not and why. */
export function Told({ page }: { page: EventPage }) {
  const [open, setOpen] = useState(false);
  const changes = useAsk('GET /api/events/:id/changes', { params: { id: page.id }, enabled: open });
  const { at } = useSaying();
  return (
    <chakra.details marginTop="10px" onToggle={(e) => setOpen(e.currentTarget.open)}>
      <chakra.summary cursor="pointer" color="soft">
        {phrase('changes.history')}
      </chakra.summary>
      <Loaded of={changes}>
        {(list) =>
          list.length === 0 ? (
            <Empty>{phrase('changes.noneYet')}</Empty>
          ) : (
            <History
              label={phrase('changes.history')}
              deeds={list.map(
                (c): Deed => ({
                  id: c.id,
                  when: at(c.madeAt),
                  who: c.by,
                  what: (
                    <span className={c.undoneBy ? 'soft' : ''}>
                      {c.kind === 'called off' ? term('called off') : sayAspects(c.fields)}
                      {c.words && `: “${c.words}”`}
                    </span>
                  ),
                  about: (
                    <span className="soft">
                      {[
                        c.undoneBy
                          ? phrase('changes.historyBack', { who: c.undoneBy })
                          : phrase('changes.historyTold', { count: c.letters }),
                        ...c.untold.map((u) =>
                          phrase('changes.historyUntold', { who: phrase(whoWords[u.to]), why: u.why }),
                        ),
                      ].join(' · ')}
                    </span>
                  ),
                }),
              )}
            />
          )
        }
      </Loaded>
    </chakra.details>
  );
}
