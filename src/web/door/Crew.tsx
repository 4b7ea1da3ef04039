import { useState } from 'react';
import type { CrewPresent } from '#contract/serving.ts';
import { fold } from '#core/contacts/names.ts';
import { type Standing, standingOf } from '#core/crew/serving.ts';
import { sayFromTo } from '#core/time/fromTo.ts';
import { sayLongDate } from '#core/time/say.ts';
import { Button } from '#web/kit/Button.tsx';
import { InlineText } from '#web/kit/Inline.tsx';
import { Empty } from '#web/kit/Note.tsx';
import { Loaded, Problems } from '#web/kit/notices.tsx';
import { say } from '#web/kit/toast.tsx';
import { useAction, useAsk } from '#web/parts/ask.ts';
import { useSaying } from '#web/parts/saying.ts';
import { phrase } from '#web/words/phrase.ts';
import { type KeptRequest, keepRequest, useOutbox, wasCut } from './outbox.ts';
import { CrewSignsHere } from './SignHere.tsx';
import { sayStanding } from './saying.ts';

const urgent: readonly (Standing | 'open')[] = ['late', 'missing'];

/** The crew with what was ticked off on this device and the server does not have yet. */
const withKept = (rows: readonly CrewPresent[], kept: readonly KeptRequest[]): CrewPresent[] =>
  rows.map((row) => {
    const last = kept
      .filter((k) => k.key === 'POST /api/assignments/:id/presence' && k.params.id === row.assignmentId)
      .filter((k) => k.refused === null)
      .at(-1);
    if (!last) return row;
    switch (last.body.to) {
      case 'in':
        return { ...row, inAt: row.inAt ?? last.at, outAt: null };
      case 'out':
        return { ...row, outAt: last.at };
      default:
        return { ...row, inAt: null, outAt: null };
    }
  });

/** The crew of the day, to be ticked off as they come and leave; whoever is missing first. */
export function Crew({ eventId }: { eventId: string }) {
  const { timeOfDay } = useSaying();
  const [typed, setTyped] = useState('');
  const [signing, setSigning] = useState<string | null>(null);
  const crew = useAsk('GET /api/events/:id/doors/crew', { params: { id: eventId }, everyMs: 15_000 });
  const mark = useAction('POST /api/assignments/:id/presence');
  const kept = useOutbox((s) => s.requests);
  const words = fold(typed).split(' ').filter(Boolean);
  const send = (row: CrewPresent, to: 'in' | 'out' | 'expected', said?: string) => {
    const params = { id: row.assignmentId };
    const isMarked = () => {
      setTyped('');
      if (said)
        say(said, {
          label: phrase('common.undo'),
          run: () => send(row, to === 'out' ? 'in' : 'expected'),
        });
    };
    mark.mutate(
      { params, body: { to } },
      {
        onSuccess: isMarked,
        onError: async (error) => {
          if (!wasCut(error)) return;
          // To mark it once more changes nothing, so that it needs no id of its own.
          await keepRequest({
            id: crypto.randomUUID(),
            name: row.name,
            key: 'POST /api/assignments/:id/presence',
            params,
            body: { to, at: new Date().toISOString() },
          });
          mark.reset();
          isMarked();
        },
      },
    );
  };
  return (
    <>
      <InlineText
        label={phrase('door.findCrew')}
        placeholder={phrase('door.findCrew')}
        width="100%"
        value={typed}
        set={setTyped}
      />
      <Problems of={mark.problem} />
      <Loaded of={crew}>
        {({ rows: told, lateMinutes, now, waivers }) => {
          const rows = withKept(told, kept);
          const shown = rows
            .filter((r) => words.every((w) => fold(`${r.name} ${r.role} ${r.place}`).includes(w)))
            .map((row) => ({ row, standing: standingOf(row, row, now, lateMinutes) }));
          // What is over stands last.
          const over = (day: string) =>
            shown.every(({ row }) => !row.startsLocal.startsWith(day) || row.endsAt <= now);
          const days = [...new Set(shown.map(({ row }) => row.startsLocal.slice(0, 10)))].sort(
            (a, b) => Number(over(a)) - Number(over(b)) || (a < b ? -1 : 1),
          );
          const here = rows.filter((r) => standingOf(r, r, now, lateMinutes) === 'here').length;
          const signs = rows.find((r) => r.assignmentId === signing);
          // One after the other.
          const waiver = waivers.find((w) => signs?.toSign.includes(w.id));
          if (rows.length === 0) return <Empty>{phrase('door.noCrew')}</Empty>;
          return (
            <>
              <p className="num" role="status">
                {phrase('door.crewHere', {
                  here,
                  missing: shown.filter((s) => urgent.includes(s.standing)).length,
                })}
              </p>
              {signs && waiver && (
                <div className="lamp stop form">
                  <CrewSignsHere
                    key={`${signs.assignmentId} ${waiver.id}`}
                    waiver={waiver}
                    row={signs}
                    cancel={() => setSigning(null)}
                    after={() => signs.toSign.length < 2 && setSigning(null)}
                  />
                </div>
              )}
              {shown.length === 0 && <Empty>{phrase('door.noCrewOfThatName')}</Empty>}
              {days.map((day) => (
                <section key={day} aria-label={sayLongDate(day, 'en')}>
                  {days.length > 1 && <h3>{sayLongDate(day, 'en')}</h3>}
                  <ul className="plainlist">
                    {shown
                      .filter(({ row }) => row.startsLocal.startsWith(day))
                      .sort(
                        (a, b) => Number(urgent.includes(b.standing)) - Number(urgent.includes(a.standing)),
                      )
                      .map(({ row, standing }) => (
                        <li key={row.assignmentId} className="spread">
                          <span className="grow">
                            <span className="name">{row.name}</span>
                            <br />
                            <small className="num">
                              {[sayFromTo(row), row.shift, row.role, row.place].filter(Boolean).join(' · ')}
                            </small>
                            <br />
                            <small className={urgent.includes(standing) ? 'late num' : 'soft num'}>
                              {sayStanding(standing, row, timeOfDay)}
                            </small>
                            {row.toSign.length > 0 && (
                              <>
                                <br />
                                <small className="late">{phrase('door.waiverNotSigned')}</small>{' '}
                                <Button look="link" onClick={() => setSigning(row.assignmentId)}>
                                  {phrase('door.signHere')}
                                </Button>
                              </>
                            )}
                          </span>
                          {(standing === 'here' || standing === 'still here') && (
                            <Button
                              size="touch"
                              disabled={mark.isPending}
                              aria-label={phrase('door.crewLeftNamed', { name: row.name })}
                              onClick={() => send(row, 'out', phrase('door.crewHasLeft', { name: row.name }))}
                            >
                              {phrase('door.left')}
                            </Button>
                          )}
                          {(standing === 'to come' ||
                            standing === 'late' ||
                            standing === 'missing' ||
                            standing === 'open' ||
                            standing === 'missed') && (
                            <Button
                              size="touch"
                              disabled={mark.isPending}
                              aria-label={phrase('door.crewInNamed', { name: row.name })}
                              onClick={() => send(row, 'in', phrase('door.crewIsHere', { name: row.name }))}
                            >
                              {phrase('door.crewIn')}
                            </Button>
                          )}
                          {standing === 'left' && row.outAt && (
                            <Button
                              look="plain"
                              size="touch"
                              disabled={mark.isPending}
                              onClick={() => send(row, 'in')}
                            >
                              {phrase('door.crewBack')}
                            </Button>
                          )}
                        </li>
                      ))}
                  </ul>
                </section>
              ))}
            </>
          );
        }}
      </Loaded>
    </>
  );
}
