import { chakra } from '@chakra-ui/react';
import { useState } from 'react';
import type { CrewShift } from '#contract/crew.ts';
import type { EventPage } from '#contract/events.ts';
import { sayShortDate, sayTime } from '#core/time/say.ts';
import { because, sayReason } from '#core/words/reasons.ts';
import { Button, ButtonAnchor } from '#web/kit/Button.tsx';
import { phrase, term } from '#web/words/phrase.ts';
import { Asking } from '../kit/Asking.tsx';
import { Empty } from '../kit/Note.tsx';
import { Loaded, Problems } from '../kit/notices.tsx';
import { say } from '../kit/toast.tsx';
import { useAction, useAsk } from '../parts/ask.ts';
import { Person } from '../parts/Person.tsx';
import { useSaying } from '../parts/saying.ts';
import { AddShift } from './AddShift.tsx';
import { Assign } from './Assign.tsx';

/** The shifts: filled out of wished, who is on each, and hours afterwards. */
export default function CrewSheet({ page }: { page: EventPage }) {
  const crew = useAsk('GET /api/events/:id/crew', { params: { id: page.id } });
  const { now } = useSaying();
  const [adding, setAdding] = useState(false);
  const [dropping, setDropping] = useState<{ shift: CrewShift; id: string; name: string } | null>(null);
  const [assigning, setAssigning] = useState<CrewShift | null>(null);
  const remove = useAction('DELETE /api/shifts/:id', () => say(phrase('event.removed')));
  const state = useAction('POST /api/assignments/:id/state');
  return (
    <Loaded of={crew}>
      {({ shifts, wished, filled, hours }) => (
        <>
          <div className="spread">
            <h2 className="num">{phrase('event.ofPlacesFilled', { filled, wished })}</h2>
            <div className="acts">
              {page.publicUrl && shifts.some((s) => s.publicSignUp) && (
                <ButtonAnchor href={`/e/${page.plan.slug}/shifts`} target="_blank" rel="noreferrer">
                  {phrase('event.publicSignUp')}
                </ButtonAnchor>
              )}
              <Button
                look="main"
                data-new
                title={phrase('event.addAShiftN')}
                disabled={!page.plan.startsLocal}
                onClick={() => setAdding(true)}
              >
                {phrase('event.addAShift')}
              </Button>
            </div>
          </div>
          <p className="soft num">
            {phrase('event.shiftsHoursInAll', { shifts: shifts.length, hours })}
            {!page.plan.startsLocal && '. '}
            {!page.plan.startsLocal && phrase('event.shiftsNeedADate')}
          </p>
          <Problems of={remove.problem ?? state.problem} />
          {shifts.length === 0 && <Empty>{phrase('event.nobodyIsNeededYet')}</Empty>}
          <div className="table still stack">
            <table>
              <tbody>
                {shifts.map((s) => (
                  <tr key={s.id}>
                    <chakra.td width="148px">
                      {sayShortDate(s.startsLocal)} {sayTime(s.startsLocal)}–{sayTime(s.endsLocal)}
                      {s.endsLocal.slice(0, 10) !== s.startsLocal.slice(0, 10) && (
                        <small className="soft"> {phrase('event.nextDay')}</small>
                      )}
                    </chakra.td>
                    <chakra.td width="150px">
                      <span className="name">{s.role}</span> <span className="soft">{s.place}</span>
                    </chakra.td>
                    <chakra.td
                      className={`n ${s.filled < s.wished ? 'need' : ''}`}
                      width="92px"
                      whiteSpace="nowrap"
                    >
                      {s.filled}/{s.wished}
                      {s.filled < s.wished && s.endsAt > now && (
                        <small> {phrase('event.lacks', { n: s.wished - s.filled })}</small>
                      )}
                    </chakra.td>
                    <td>
                      {s.assignments.map((a) => (
                        <chakra.div key={a.id} className="spread" alignItems="flex-start">
                          <span>
                            <Person id={a.contactId} name={a.name} />
                            {a.quiet && <span className="late"> {sayReason(because(a.quiet))}</span>}
                            {a.overrideReason && (
                              <small className="need">
                                {' '}
                                {phrase('event.despiteAClash', { overrideReason: a.overrideReason })}
                              </small>
                            )}
                            {a.state !== 'agreed' && (
                              <small className="soft">
                                {' '}
                                {[term(a.state), a.hours !== null && phrase('event.h', { hours: a.hours })]
                                  .filter(Boolean)
                                  .join(', ')}
                              </small>
                            )}
                          </span>
                          <chakra.span className="acts" fontSize="13px" flexShrink={0}>
                            {s.endsAt <= now && a.state === 'agreed' && (
                              <>
                                <Button
                                  look="link"
                                  color="verdigris"
                                  onClick={() =>
                                    state.mutate({ params: { id: a.id }, body: { state: 'served' } })
                                  }
                                >
                                  {phrase('event.served')}
                                </Button>
                                <Button
                                  look="link"
                                  color="madder"
                                  onClick={() =>
                                    state.mutate({ params: { id: a.id }, body: { state: 'missed' } })
                                  }
                                >
                                  {phrase('event.missed')}
                                </Button>
                              </>
                            )}
                            {(a.state === 'served' || a.state === 'missed') && (
                              <Button
                                look="link"
                                color="soft"
                                onClick={() =>
                                  state.mutate({ params: { id: a.id }, body: { state: 'agreed' } })
                                }
                              >
                                {phrase('event.takeBack')}
                              </Button>
                            )}
                            {s.startsAt > now && (
                              <Button
                                look="link"
                                color="soft"
                                whiteSpace="nowrap"
                                aria-label={phrase('event.takeOffNamed', { name: a.name, role: s.role })}
                                onClick={() => setDropping({ shift: s, id: a.id, name: a.name })}
                              >
                                {phrase('event.takeOff')}
                              </Button>
                            )}
                          </chakra.span>
                        </chakra.div>
                      ))}
                    </td>
                    <chakra.td className="n" whiteSpace="nowrap" width="120px">
                      {s.startsAt > now && (
                        <Button look="plain" onClick={() => setAssigning(s)}>
                          {phrase('event.putSomebodyOn')}
                        </Button>
                      )}
                      {s.assignments.length === 0 && (
                        <Button
                          look="plain"
                          className="late"
                          onClick={() => remove.mutate({ params: { id: s.id } })}
                          aria-label={phrase('event.removeRole', { role: s.role })}
                        >
                          {phrase('common.remove')}
                        </Button>
                      )}
                    </chakra.td>
                  </tr>
                ))}
              </tbody>
            </table>
          </div>
          {dropping && (
            <Asking
              open
              close={() => setDropping(null)}
              title={phrase('event.takeOffNamed', { name: dropping.name, role: dropping.shift.role })}
              closeWords={phrase('event.keepOnShift')}
              actions={
                <Button
                  look="stop"
                  disabled={state.isPending}
                  onClick={() =>
                    state.mutate(
                      { params: { id: dropping.id }, body: { state: 'dropped' } },
                      {
                        onSuccess: () => {
                          say(phrase('event.isOffTheShift', { name: dropping.name }));
                          setDropping(null);
                        },
                      },
                    )
                  }
                >
                  {phrase('event.takeOffNow')}
                </Button>
              }
            >
              <p>
                {phrase('event.takeOffSays', {
                  when: `${sayShortDate(dropping.shift.startsLocal)}, ${sayTime(dropping.shift.startsLocal)}–${sayTime(dropping.shift.endsLocal)}`,
                  filled: dropping.shift.filled - 1,
                  wished: dropping.shift.wished,
                })}
              </p>
              <p className="soft">{phrase('event.takeOffUntold')}</p>
              <Problems of={state.problem} />
            </Asking>
          )}
          {adding && <AddShift page={page} close={() => setAdding(false)} />}
          {assigning && <Assign shift={assigning} close={() => setAssigning(null)} />}
        </>
      )}
    </Loaded>
  );
}
