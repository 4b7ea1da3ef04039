import { chakra } from '@chakra-ui/react';
import { useState } from 'react';
import { plusMinutes } from '#core/time/clock.ts';
import { instantOf, shiftWall, wallOf } from '#core/time/wallTime.ts';
import type { Answer } from '#web/api.ts';
import { Button } from '#web/kit/Button.tsx';
import { Phrase } from '#web/words/Phrase.tsx';
import { phrase } from '#web/words/phrase.ts';
import { Asking } from '../kit/Asking.tsx';
import { TextField } from '../kit/Field.tsx';
import { Problems } from '../kit/notices.tsx';
import { useAction, useAsk, useMe } from '../parts/ask.ts';
import { useSaying } from '../parts/saying.ts';

/** The product's clock. In a demonstration it stands still and is moved forward here; everything due on the way is done. */
export function ClockMenu() {
  const me = useMe().data!;
  const { at } = useSaying();
  const [open, setOpen] = useState(false);
  if (!me.clock.movable) return <span className="clock num">{at(me.clock.now)}</span>;
  return (
    <>
      <button
        type="button"
        className="clock num"
        onClick={() => setOpen(true)}
        title={phrase('shell.moveTheClock')}
      >
        {at(me.clock.now)}
      </button>
      {open && <Mover close={() => setOpen(false)} />}
    </>
  );
}

function Mover({ close }: { close: () => void }) {
  const { at, now, zone } = useSaying();
  const clock = useAsk('GET /api/clock').data;
  const [typed, setTyped] = useState('');
  const [last, setLast] = useState<Answer<'POST /api/clock'> | null>(null);
  const move = useAction('POST /api/clock', setLast);
  const to = (instant: string) => move.mutate({ body: { to: instant } });
  const dayOn = (days: number) => instantOf(shiftWall(wallOf(now, zone), { days }), zone);
  const dueText = clock?.nextDue
    ? phrase('shell.nextDue', { what: clock.nextDue.what, at: at(clock.nextDue.at) })
    : phrase('shell.nothingIsDue');
  return (
    <Asking open close={close} title={phrase('shell.moveTheClock')} actions={null}>
      <p>
        <Phrase of="shell.itStandsAt" with={{ now: <b className="num">{at(now)}</b>, dueText }} />
      </p>
      <chakra.p className="soft" margin="4px 0 12px">
        {phrase('shell.everythingThatComesDue')}
      </chakra.p>
      <Problems of={move.problem} />
      <chakra.div className="acts" marginBottom="12px">
        {clock?.nextDue && clock.nextDue.at > now && (
          <Button disabled={move.isPending} onClick={() => to(clock.nextDue!.at)}>
            {phrase('shell.toWhatIsDue')}
          </Button>
        )}
        <Button disabled={move.isPending} onClick={() => to(plusMinutes(now, 60))}>
          {phrase('shell.anHourOn')}
        </Button>
        <Button disabled={move.isPending} onClick={() => to(dayOn(1))}>
          {phrase('shell.aDayOn')}
        </Button>
        <Button disabled={move.isPending} onClick={() => to(dayOn(7))}>
          {phrase('shell.aWeekOn')}
        </Button>
      </chakra.div>
      <chakra.div className="acts" alignItems="flex-end">
        <TextField
          label={phrase('shell.toADateAnd')}
          type="datetime-local"
          value={typed}
          set={setTyped}
          error={move.problem?.fields.to}
        />
        <Button
          marginBottom="14px"
          disabled={!typed || move.isPending}
          onClick={() => to(instantOf(typed.slice(0, 16), zone))}
        >
          {phrase('shell.move')}
        </Button>
      </chakra.div>
      {move.isPending && <p role="status">{phrase('shell.moving')}</p>}
      {last && !move.isPending && (
        <p role="status">
          {last.done.length === 0
            ? phrase('shell.nothingCameDue')
            : phrase('shell.done', { done: last.done.map((d) => `${d.count} × ${d.what}`).join(', ') })}
        </p>
      )}
    </Asking>
  );
}
