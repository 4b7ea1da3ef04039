import { useState } from 'react';
import type { EventPage } from '#contract/events.ts';
import type { RegistrationRow } from '#contract/seats.ts';
import { Button } from '#web/kit/Button.tsx';
import { ChosenBar } from '#web/kit/ChosenBar.tsx';
import { phrase } from '#web/words/phrase.ts';
import { LetterForm } from './LetterForm.tsx';
import { MoveForm } from './MoveForm.tsx';
import { Papers } from './Papers.tsx';
import { TaskForm } from './TaskForm.tsx';
import { WithdrawForm } from './WithdrawForm.tsx';

const doings = { letter: LetterForm, move: MoveForm, task: TaskForm, withdraw: WithdrawForm } as const;
type Doing = keyof typeof doings;

/** What can be done with several seats at once; each says what it would do to how many before it does it. */
export function ChosenSeats({
  rows,
  page,
  clear,
}: {
  rows: readonly RegistrationRow[];
  page: EventPage;
  clear: () => void;
}) {
  const [doing, setDoing] = useState<Doing | null>(null);
  const [printing, setPrinting] = useState(false);
  const Form = doing && doings[doing];
  const asked = rows.some((r) => r.state === 'asked');
  return (
    <ChosenBar label={phrase('seats.nChosen', { n: rows.length })}>
      <Button onClick={() => setDoing('letter')}>{phrase('seats.write')}</Button>
      <Button onClick={() => setDoing('move')}>{phrase('seats.move')}</Button>
      <Button onClick={() => setDoing('task')}>{phrase('seats.task')}</Button>
      <Button onClick={() => setPrinting(true)}>{phrase('seats.print')}</Button>
      <Button look="stop" onClick={() => setDoing('withdraw')}>
        {phrase('seats.withdraw')}
      </Button>
      <Button look="plain" onClick={clear}>
        {phrase('contacts.clearSelection')}
      </Button>
      {asked && <span className="soft">{phrase('seats.accept')}</span>}
      {Form && (
        <Form
          seatIds={rows.map((r) => r.id)}
          page={page}
          close={() => setDoing(null)}
          done={() => {
            setDoing(null);
            clear();
          }}
        />
      )}
      {printing && <Papers rows={rows} page={page} chosen close={() => setPrinting(false)} />}
    </ChosenBar>
  );
}
