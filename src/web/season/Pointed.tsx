import { chakra } from '@chakra-ui/react';
import type { SeasonEvent } from '#contract/events.ts';
import type { Clash } from '#core/season/clashes.ts';
import type { MissingThing } from '#core/season/missing.ts';
import { phrase, term } from '#web/words/phrase.ts';
import { sayWhen } from './marks.ts';
import { saySeats } from './seasonAddress.ts';

const missingNames: Record<MissingThing, string> = {
  date: phrase('season.missingDate'),
  place: phrase('season.missingPlace'),
  tickets: phrase('season.missingTickets'),
  clearance: phrase('season.missingClearance'),
  crew: phrase('season.missingCrew'),
};
const clashNames = {
  place: 'season.clashPlace',
  lead: 'season.clashLead',
  audience: 'season.clashAudience',
} as const;
/** What somebody points at, in full: when, where, how it stands, what it lacks and what is at odds with it. */
export function Pointed({
  event: e,
  clashes,
  events,
}: {
  event: SeasonEvent;
  clashes: readonly Clash[];
  events: readonly SeasonEvent[];
}) {
  const titleOf = (id: string) => events.find((other) => other.id === id)?.title ?? '';
  return (
    <>
      <chakra.b color="ink" fontWeight={600}>
        {e.title}
      </chakra.b>{' '}
      {[sayWhen(e), e.venue, term(e.state), saySeats(e) && phrase('season.seats', { seats: saySeats(e) })]
        .filter(Boolean)
        .join(' · ')}
      {e.missing.length > 0 && (
        <chakra.span color="ochre">
          {' · '}
          {phrase('season.lacksWhat', {
            what: e.missing.map((m) => missingNames[m]).join(', '),
          })}
        </chakra.span>
      )}
      {clashes.length > 0 && (
        <chakra.span color="madder">
          {' · '}
          {clashes.map((c) => phrase(clashNames[c.kind], { title: titleOf(c.other) })).join('; ')}
        </chakra.span>
      )}
    </>
  );
}
