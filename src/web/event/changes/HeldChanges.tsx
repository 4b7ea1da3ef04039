import { useState } from 'react';
import type { EventPage } from '#contract/events.ts';
import { Button } from '#web/kit/Button.tsx';
import { Note } from '#web/kit/Note.tsx';
import { phrase } from '#web/words/phrase.ts';
import { useHeldChange } from '../plan/planDraft.ts';
import { sayAspects } from './changeWords.ts';
import { WhatIf } from './WhatIf.tsx';

/** What was typed and people count on: it is not saved before somebody saw what it brings about. On every stage of the event. */
export function HeldChanges({ page }: { page: EventPage }) {
  const held = useHeldChange(page);
  const [looking, setLooking] = useState(false);
  if (!held) return null;
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
          doing={{ change: held.change, version: held.version }}
          close={() => setLooking(false)}
          done={(version) => {
            setLooking(false);
            if (version !== null) held.kept(version);
          }}
        />
      )}
    </>
  );
}
