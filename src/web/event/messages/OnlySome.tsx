import { chakra } from '@chakra-ui/react';
import { useMemo } from 'react';
import type { EventPage } from '#contract/events.ts';
import { shiftColumns } from '#core/crew/narrowing.ts';
import { type Condition, comparisonsOf } from '#core/seats/narrowing.ts';
import { dateOf } from '#core/time/wallTime.ts';
import { Button } from '../../kit/Button.tsx';
import { useAsk } from '../../parts/ask.ts';
import { phrase } from '../../words/phrase.ts';
import { Conditions } from '../registration/Conditions.tsx';
import { type NarrowColumn, narrowColumns } from '../registration/narrowing.ts';

interface Narrowing {
  narrowed: readonly Condition[];
  set: (narrowed: Condition[]) => void;
  wrong: string | undefined;
}

/** To which of its people a line goes: those on seats of which all of this holds. */
export function OnlySeats({ page, ...narrowing }: Narrowing & { page: EventPage }) {
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
  return <OnlySome columns={columns} {...narrowing} />;
}

const shiftHeadings = { role: phrase('event.role'), place: phrase('common.place') };

/** To which of the crew a line goes: those on shifts of which all of this holds. */
export function OnlyShifts({ page, ...narrowing }: Narrowing & { page: EventPage }) {
  const crew = useAsk('GET /api/events/:id/crew', { params: { id: page.id } });
  const columns = useMemo(
    (): NarrowColumn[] =>
      shiftColumns.map((id) => ({
        id,
        heading: shiftHeadings[id],
        kind: 'choice',
        choices: [...new Set(crew.data?.shifts.map((s) => s[id]))]
          .filter(Boolean)
          .sort()
          .map((value) => ({ value, label: value })),
      })),
    [crew.data],
  );
  return <OnlySome columns={columns.filter((c) => c.choices.length > 0)} {...narrowing} />;
}

function OnlySome({ columns, narrowed, set, wrong }: Narrowing & { columns: readonly NarrowColumn[] }) {
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
