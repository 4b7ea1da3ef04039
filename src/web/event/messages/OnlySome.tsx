import { chakra } from '@chakra-ui/react';
import { useMemo } from 'react';
import type { EventPage } from '#contract/events.ts';
import { type Condition, comparisonsOf } from '#core/seats/narrowing.ts';
import { dateOf } from '#core/time/wallTime.ts';
import { Button } from '../../kit/Button.tsx';
import { useAsk } from '../../parts/ask.ts';
import { phrase } from '../../words/phrase.ts';
import { Conditions } from '../registration/Conditions.tsx';
import { narrowColumns } from '../registration/narrowing.ts';

/** To which of its people a line goes: those on seats of which all of this holds. */
export function OnlySome({
  page,
  narrowed,
  set,
  wrong,
}: {
  page: EventPage;
  narrowed: readonly Condition[];
  set: (narrowed: Condition[]) => void;
  wrong: string | undefined;
}) {
  const seats = useAsk('GET /api/events/:id/registrations', { params: { id: page.id } });
  const { zone } = page.plan;
  const columns = useMemo(
    () =>
      seats.data
        ? narrowColumns(seats.data.rows, seats.data.questions, (at) => dateOf(at, zone)).filter(
            // Who still has to sign is a moment of its own.
            (c) => c.id !== 'waiver',
          )
        : [],
    [seats.data, zone],
  );
  return (
    <chakra.div role="group" aria-label={phrase('messages.onlySome')}>
      <chakra.p fontWeight="600" fontSize="14.5px">
        {phrase('messages.onlySome')}
      </chakra.p>
      {narrowed.length === 0 && <p className="soft">{phrase('messages.everybodyOfThem')}</p>}
      <Conditions columns={columns} conditions={narrowed} set={set} />
      {wrong && <p className="late">{wrong}</p>}
      {columns.length > 0 && narrowed.length < 10 && (
        <Button
          look="plain"
          onClick={() =>
            set([
              ...narrowed,
              { column: columns[0]!.id, is: comparisonsOf[columns[0]!.kind][0]!, values: [] },
            ])
          }
        >
          {phrase(narrowed.length ? 'messages.andAlso' : 'messages.narrow')}
        </Button>
      )}
    </chakra.div>
  );
}
