import { useEffect, useState } from 'react';
import type { EventPage } from '#contract/events.ts';
import { Button } from '#web/kit/Button.tsx';
import { Note } from '#web/kit/Note.tsx';
import { useAction } from '#web/parts/ask.ts';
import { phrase } from '#web/words/phrase.ts';
import { type HeldChange, useHeldChange } from '../plan/planDraft.ts';
import { sayAspects } from './changeWords.ts';
import { nothingSettled } from './settling.ts';
import { isQuiet, useWhatIf } from './useWhatIf.ts';
import { WhatIf } from './WhatIf.tsx';

/**
 * What was typed and people count on: what it brings about is worked out, and where anything follows it is not saved before
 * somebody saw that. Where nothing does, it is saved as everything is. On every stage of the event.
 */
export function HeldChanges({ page }: { page: EventPage }) {
  const held = useHeldChange(page);
  return held && <Held page={page} held={held} />;
}

const asItIs = nothingSettled(false);

function Held({ page, held }: { page: EventPage; held: HeldChange }) {
  const [looking, setLooking] = useState(false);
  const { change, version } = held;
  const nothing = Object.keys(change).length === 0;
  const save = useAction('PATCH /api/events/:id', (saved) => held.kept(saved.version));
  const { told, busy, problem } = useWhatIf(
    page,
    { change, version },
    asItIs,
    nothing || looking || save.isPending,
  );
  // What was refused is not sent: of nothing, nothing follows, and nothing is saved.
  const quiet = !nothing && told !== null && !busy && problem === null && isQuiet(told);
  const { mutate } = save;
  const wanted = JSON.stringify({ change, version });
  // biome-ignore lint/correctness/useExhaustiveDependencies: what is saved is what was asked about
  useEffect(() => {
    if (quiet && !looking) mutate({ params: { id: page.id }, body: { version, change } });
  }, [quiet, wanted]);
  const said = problem ?? save.problem;
  // What was typed since is asked about anew: an answer to what it was before says nothing of it.
  // biome-ignore lint/correctness/useExhaustiveDependencies: said once for each answer
  useEffect(() => {
    if (said && !busy) held.refused(said);
  }, [said, busy]);
  const waits = told !== null && !busy && !quiet && !said && !nothing;
  // biome-ignore lint/correctness/useExhaustiveDependencies: the setter stays
  useEffect(() => {
    held.wait(waits);
    return () => held.wait(false);
  }, [waits]);
  if (!waits && !looking) return null;
  return (
    <>
      <Note
        tone="need"
        role="status"
        position="sticky"
        top="0"
        zIndex="docked"
        background="sheet"
        margin="10px -20px 12px"
        padding="8px 20px 10px 31px"
        _before={{ left: '20px' }}
      >
        <p>{phrase('changes.held', { fields: sayAspects(held.fields) })}</p>
        <div className="acts">
          <Button look="main" onClick={() => setLooking(true)}>
            {phrase('changes.look')}
          </Button>
          <Button onClick={held.putBack}>{phrase('changes.letItBe')}</Button>
        </div>
      </Note>
      {looking && (
        <WhatIf
          page={page}
          doing={{ change, version }}
          close={() => setLooking(false)}
          done={(saved) => {
            setLooking(false);
            if (saved !== null) held.kept(saved);
          }}
        />
      )}
    </>
  );
}
