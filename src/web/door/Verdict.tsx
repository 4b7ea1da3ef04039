import { useState } from 'react';
import type { DoorRow } from '#contract/doors.ts';
import { type Answer, ApiProblem, saveFile } from '#web/api.ts';
import { Button } from '#web/kit/Button.tsx';
import { InlineText } from '#web/kit/Inline.tsx';
import { phrase } from '#web/words/phrase.ts';
import { Problems } from '../kit/notices.tsx';
import { say } from '../kit/toast.tsx';
import { useAction } from '../parts/ask.ts';
import { HealthNotes } from '../parts/HealthNotes.tsx';
import { useSaying } from '../parts/saying.ts';
import { HandOver } from './HandOver.tsx';
import { SignHere, signedTogether } from './SignHere.tsx';
import { nameOf } from './saying.ts';
import { type DoorAt, useMark } from './useMarks.ts';

/** One person at arm's length: may they come in, what is missing, and how it is settled here. */
export function Verdict({
  row,
  all,
  door,
  waivers,
  close,
}: {
  row: DoorRow & { waits?: boolean };
  /** Everybody on the list: children of one booking are signed for together. */
  all: readonly DoorRow[];
  door: DoorAt;
  waivers: Answer<'GET /api/events/:id/doors'>['waivers'];
  close: () => void;
}) {
  const { money, at } = useSaying();
  const [despite, setDespite] = useState('');
  const [signing, setSigning] = useState(false);
  const { mark, pending, refused } = useMark(door);
  const pay = useAction('POST /api/orders/:id/payments', () => say(phrase('common.recorded')));
  const who = { registrationId: row.registrationId, name: nameOf(row), undo: row.undo };
  const [tagging, setTagging] = useState(false);
  const [failed, setFailed] = useState<ApiProblem | null>(null);
  const tag = async () => {
    setTagging(true);
    setFailed(null);
    try {
      await saveFile(
        'POST /api/registrations/:id/name-tag.pdf',
        { params: { id: row.registrationId }, body: {} },
        'name-tag.pdf',
      );
    } catch (error) {
      if (error instanceof ApiProblem) setFailed(error);
      else throw error;
    } finally {
      setTagging(false);
    }
  };
  const set = async (state: 'expected' | 'arrived' | 'left', handedTo = '') => {
    if (await mark(who, state, despite, handedTo)) {
      setDespite('');
      close();
    }
  };
  // A party arrives at once, or one by one.
  const along = all.filter(
    (r) =>
      r.orderId === row.orderId &&
      r.registrationId !== row.registrationId &&
      r.light === 'go' &&
      r.attendance !== 'arrived' &&
      `${r.given}${r.family}` !== '',
  );
  const letAllIn = async () => {
    for (const r of [row, ...along])
      await mark({ registrationId: r.registrationId, name: nameOf(r), undo: r.undo }, 'arrived');
    close();
  };
  // One after the other, as the page of the door has them.
  const waiver = waivers.find((w) => row.toSign.includes(w.id));
  const needsReason = row.light !== 'go' && row.attendance !== 'arrived';
  return (
    <div className={`lamp ${row.light}`} role="alert">
      <h2>{row.headline}</h2>
      <p className="name who">{who.name}</p>
      <p className="soft">
        {[
          row.offer,
          row.party,
          row.arrivedAt && phrase('door.inSince', { arrivedAt: at(row.arrivedAt) }),
          row.waits && phrase('door.keptOnThisDevice'),
        ]
          .filter(Boolean)
          .join(' · ')}
      </p>
      {row.details.map((d) => (
        <p key={d}>{d}</p>
      ))}
      {row.toKnow.map((d) => (
        <p key={d}>
          <b>{d}</b>
        </p>
      ))}
      {row.care && <HealthNotes registrationId={row.registrationId} />}
      {refused && (
        <p className="late" role="alert">
          {refused}
        </p>
      )}
      <Problems of={pay.problem ?? failed} />
      {signing && waiver && (
        <SignHere
          key={waiver.id}
          waiver={waiver}
          people={signedTogether(row, all, waiver.id)}
          cancel={() => setSigning(false)}
          after={() => setSigning(row.toSign.length > 1)}
        />
      )}
      {row.attendance === 'arrived' && row.handover && !door.sessionId && (
        <HandOver of={row.handover} pending={pending} leave={(to) => void set('left', to)} />
      )}
      {row.attendance === 'arrived' ? (
        <div className="acts">
          {(!row.handover || door.sessionId) && (
            <Button size="touch" disabled={pending} onClick={() => void set('left')}>
              {phrase('door.left')}
            </Button>
          )}
          <Button size="touch" disabled={pending} onClick={() => void set('expected')}>
            {phrase('door.undoTheArrival')}
          </Button>
          <Button look="plain" size="touch" disabled={tagging} onClick={() => void tag()}>
            {phrase(row.tagged ? 'door.tagAgain' : 'door.tag')}
          </Button>
          <Button look="plain" size="touch" onClick={close}>
            {phrase('common.close')}
          </Button>
        </div>
      ) : (
        <>
          <div className="acts">
            {waiver && !signing && (
              <Button size="touch" onClick={() => setSigning(true)}>
                {phrase('door.signHere')}
              </Button>
            )}
            {row.balance > 0 && (
              <Button
                size="touch"
                disabled={pay.isPending}
                onClick={() =>
                  pay.mutate({ params: { id: row.orderId }, body: { method: 'cash', amount: row.balance } })
                }
              >
                {phrase('door.paidInCash', { balance: money(row.balance) })}
              </Button>
            )}
          </div>
          <div className="acts">
            {needsReason && (
              <InlineText
                label={phrase('door.reasonForLettingThem')}
                placeholder={phrase('door.reasonForLettingThem')}
                width="100%"
                value={despite}
                set={setDespite}
              />
            )}
            <Button
              look="main"
              size="touch"
              disabled={pending || (needsReason && despite.trim().length < 3)}
              onClick={() => void set('arrived')}
            >
              {phrase('door.arrive')}
            </Button>
            {row.light === 'go' && along.length > 0 && (
              <Button size="touch" disabled={pending} onClick={() => void letAllIn()}>
                {phrase('door.allArrive', { count: along.length + 1 })}
              </Button>
            )}
            <Button look="plain" size="touch" disabled={tagging} onClick={() => void tag()}>
              {phrase(row.tagged ? 'door.tagAgain' : 'door.tag')}
            </Button>
            <Button look="plain" size="touch" onClick={close}>
              {phrase('common.close')}
            </Button>
          </div>
        </>
      )}
    </div>
  );
}
