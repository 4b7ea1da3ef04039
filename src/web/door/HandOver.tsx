import { useState } from 'react';
import type { DoorRow } from '#contract/doors.ts';
import { shortestHanded } from '#core/doors/handover.ts';
import { Button } from '#web/kit/Button.tsx';
import { TextField } from '#web/kit/Field.tsx';
import { phrase } from '#web/words/phrase.ts';

/** A child leaves: the code of the booking, or the name of whoever takes them, after those who may. */
export function HandOver({
  of,
  pending,
  leave,
}: {
  of: NonNullable<DoorRow['handover']>;
  pending: boolean;
  leave: (handedTo: string) => void;
}) {
  const [said, setSaid] = useState('');
  return (
    <form
      onSubmit={(e) => {
        e.preventDefault();
        if (said.trim().length >= shortestHanded) leave(said.trim());
      }}
    >
      <p>
        {phrase('door.mayCollect')} <b>{of.collect.join(', ')}</b>
      </p>
      <TextField
        label={phrase('door.codeOrWho')}
        help={phrase('door.codeOrWhoHelp')}
        value={said}
        set={setSaid}
        autoComplete="off"
      />
      <Button
        type="submit"
        look="main"
        size="touch"
        disabled={pending || said.trim().length < shortestHanded}
      >
        {phrase('door.handOver')}
      </Button>
    </form>
  );
}
