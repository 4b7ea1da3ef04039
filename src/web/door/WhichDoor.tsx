import { chakra } from '@chakra-ui/react';
import { type ReactNode, useState } from 'react';
import type { Answer } from '#web/api.ts';
import { Button } from '#web/kit/Button.tsx';
import { InlineChoice, InlineText } from '#web/kit/Inline.tsx';
import { useSaying } from '#web/parts/saying.ts';
import { phrase } from '#web/words/phrase.ts';
import { doorName, nameDoor } from './doorName.ts';

type Sessions = Answer<'GET /api/events/:id/doors'>['sessions'];

/** Which door this is: of the event or of a session, and what it is called where this device stands. */
export function WhichDoor({
  sessions,
  sessionId,
  go,
  children,
}: {
  sessions: Sessions;
  sessionId: string | null;
  go: (sessionId: string | null) => void;
  /** What else can be looked at here. */
  children: ReactNode;
}) {
  const { timeOfDay, day } = useSaying();
  const [name, setName] = useState(doorName);
  const [naming, setNaming] = useState(false);
  const keep = (to: string) => {
    nameDoor(to);
    setName(doorName());
    setNaming(false);
  };
  // Those of today first: nobody looks for a door of tomorrow.
  const listed = [...sessions].sort((a, b) => Number(b.today) - Number(a.today));
  return (
    <chakra.div display="flex" flexWrap="wrap" gap="6px 18px" alignItems="center" margin="2px 0 6px">
      {sessions.length > 0 && (
        <InlineChoice
          label={phrase('door.whichDoor')}
          value={sessionId ?? ''}
          set={(to) => go(to || null)}
          empty={phrase('door.ofTheEvent')}
          maxWidth="100%"
          choices={listed.map((s) => ({
            value: s.id,
            label: [s.today ? timeOfDay(s.from) : `${day(s.from)}, ${timeOfDay(s.from)}`, s.title, s.room]
              .filter(Boolean)
              .join(' · '),
          }))}
        />
      )}
      {naming ? (
        <InlineText
          label={phrase('door.doorIsCalled')}
          placeholder={phrase('door.doorIsCalled')}
          autoFocus
          value={name}
          set={setName}
          maxLength={60}
          onKeyDown={(e) => {
            if (e.key === 'Enter') keep(name);
            if (e.key === 'Escape') keep(doorName());
          }}
          onBlur={() => keep(name)}
        />
      ) : (
        <Button look="link" onClick={() => setNaming(true)}>
          {name ? phrase('door.doorNamed', { name }) : phrase('door.nameThisDoor')}
        </Button>
      )}
      {children}
    </chakra.div>
  );
}
