import { useEffect, useRef, useState } from 'react';
import type { CrewShift } from '#contract/crew.ts';
import { sayFromTo } from '#core/time/fromTo.ts';
import { sayShortDate } from '#core/time/say.ts';
import type { Answer } from '#web/api.ts';
import { Asking } from '#web/kit/Asking.tsx';
import { Button } from '#web/kit/Button.tsx';
import { Tick } from '#web/kit/Choosing.tsx';
import { Loading, Problems } from '#web/kit/notices.tsx';
import { useAction } from '#web/parts/ask.ts';
import { phrase } from '#web/words/phrase.ts';
import { Affected } from './Affected.tsx';
import type { Put } from './Board.tsx';

/** A shift as it is sent, with a change to it. */
export const withChange = (shift: CrewShift, change: Partial<Put>) => ({
  name: shift.name,
  role: shift.role,
  place: shift.place,
  startsLocal: shift.startsLocal,
  endsLocal: shift.endsLocal,
  wished: shift.wished,
  least: shift.least,
  importance: shift.importance,
  briefing: shift.briefing,
  leadId: shift.leadId,
  publicSignUp: shift.publicSignUp,
  version: shift.version,
  ...change,
});

/** Asks before a shift that people are on is put elsewhere: what it was and will be, whom it concerns, and whether they are told. */
export function MoveShift({
  shift,
  to,
  done,
  close,
}: {
  shift: CrewShift;
  to: Put;
  done: () => void;
  close: () => void;
}) {
  const [tell, setTell] = useState(true);
  const [tried, setTried] = useState<Answer<'PUT /api/shifts/:id'> | null>(null);
  const change = useAction('PUT /api/shifts/:id');
  const send = (trying: boolean, after: (answer: Answer<'PUT /api/shifts/:id'>) => void) =>
    change.mutate(
      { params: { id: shift.id }, body: { ...withChange(shift, to), tell, trying } },
      { onSuccess: after },
    );
  const asked = useRef(false);
  useEffect(() => {
    if (asked.current) return;
    asked.current = true;
    send(true, setTried);
  });
  const said = (of: Put) =>
    [[of.role, of.place].filter(Boolean).join(', '), `${sayShortDate(of.startsLocal)} ${sayFromTo(of)}`].join(
      ', ',
    );
  return (
    <Asking
      open
      close={close}
      title={phrase('crew.moveShift')}
      closeWords={phrase('crew.leaveIt')}
      actions={
        <Button
          look="main"
          disabled={!tried || change.isPending}
          onClick={() =>
            send(false, () => {
              close();
              done();
            })
          }
        >
          {tried?.told && tell ? phrase('crew.moveAndTell', { n: tried.told }) : phrase('crew.moveNow')}
        </Button>
      }
    >
      <p>{phrase('crew.wasAndWillBe', { was: said(shift), will: said(to) })}</p>
      <Problems of={change.problem} />
      {!tried && !change.problem && <Loading />}
      {tried && <Affected on={tried.on} />}
      {tried && tried.told > 0 && (
        <Tick checked={tell} set={setTell}>
          {phrase('crew.tellThem', { n: tried.told })}
        </Tick>
      )}
    </Asking>
  );
}
