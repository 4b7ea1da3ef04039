import { chakra } from '@chakra-ui/react';
import { useState } from 'react';
import type { CrewShift } from '#contract/crew.ts';
import type { EventPage } from '#contract/events.ts';
import { sayShortDate, sayTime } from '#core/time/say.ts';
import { because, sayReason } from '#core/words/reasons.ts';
import { Button, ButtonAnchor } from '#web/kit/Button.tsx';
import { Empty } from '../kit/Note.tsx';
import { Loaded, Problems } from '../kit/notices.tsx';
import { say } from '../kit/toast.tsx';
import { useAction, useAsk } from '../parts/ask.ts';
import { Person } from '../parts/Person.tsx';
import { useSaying } from '../parts/saying.ts';
import { AddShift } from './AddShift.tsx';
import { Assign } from './Assign.tsx';

/** The shifts: filled out of needed, who is on each, and hours afterwards. */
export default function CrewSheet({ page }: { page: EventPage }) {
  const crew = useAsk('GET /api/events/:id/crew', { params: { id: page.id } });
  const { now } = useSaying();
  const [adding, setAdding] = useState(false);
  const [assigning, setAssigning] = useState<CrewShift | null>(null);
  const remove = useAction('DELETE /api/shifts/:id', () => say('Removed'));
  const state = useAction('POST /api/assignments/:id/state');
  return (
    <Loaded of={crew}>
      {({ shifts, needed, filled, hours }) => (
        <>
          <div className="spread">
            <h2 className="num">
              {filled} of {needed} places filled
            </h2>
            <div className="acts">
              {page.publicUrl && shifts.some((s) => s.publicSignUp) && (
                <ButtonAnchor href={`/e/${page.plan.slug}/shifts`} target="_blank" rel="noreferrer">
                  Public sign-up
                </ButtonAnchor>
              )}
              <Button
                look="main"
                data-new
                title="Add a shift (n)"
                disabled={!page.plan.startsLocal}
                onClick={() => setAdding(true)}
              >
                Add a shift
              </Button>
            </div>
          </div>
          <p className="soft num">
            {shifts.length} shifts, {hours} hours in all
            {!page.plan.startsLocal && '. Shifts need a date; give the event one first.'}
          </p>
          <Problems of={remove.problem ?? state.problem} />
          {shifts.length === 0 && <Empty>Nobody is needed yet. Add shifts by role, place and time.</Empty>}
          <div className="table still stack">
            <table>
              <tbody>
                {shifts.map((s) => (
                  <tr key={s.id}>
                    <chakra.td width="148px">
                      {sayShortDate(s.startsLocal)} {sayTime(s.startsLocal)}–{sayTime(s.endsLocal)}
                      {s.endsLocal.slice(0, 10) !== s.startsLocal.slice(0, 10) && (
                        <small className="soft"> next day</small>
                      )}
                    </chakra.td>
                    <chakra.td width="180px">
                      <span className="name">{s.role}</span> <span className="soft">{s.place}</span>
                    </chakra.td>
                    <chakra.td className={`n ${s.filled < s.needed ? 'need' : ''}`} width="60px">
                      {s.filled}/{s.needed}
                    </chakra.td>
                    <td>
                      {s.assignments.map((a) => (
                        <div key={a.id} className="spread">
                          <span>
                            <Person id={a.contactId} name={a.name} />
                            {a.quiet && <span className="late"> {sayReason(because(a.quiet))}</span>}
                            {a.overrideReason && (
                              <small className="need"> despite a clash: {a.overrideReason}</small>
                            )}
                            {a.state !== 'agreed' && (
                              <small className="soft">
                                {' '}
                                {a.state}
                                {a.hours !== null && `, ${a.hours} h`}
                              </small>
                            )}
                          </span>
                          <chakra.span className="acts" fontSize="13px">
                            {s.endsAt <= now && a.state === 'agreed' && (
                              <>
                                <Button
                                  look="link"
                                  color="verdigris"
                                  onClick={() =>
                                    state.mutate({ params: { id: a.id }, body: { state: 'served' } })
                                  }
                                >
                                  served
                                </Button>
                                <Button
                                  look="link"
                                  color="madder"
                                  onClick={() =>
                                    state.mutate({ params: { id: a.id }, body: { state: 'missed' } })
                                  }
                                >
                                  missed
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
                                take back
                              </Button>
                            )}
                            {s.startsAt > now && (
                              <Button
                                look="link"
                                color="soft"
                                onClick={() =>
                                  state.mutate(
                                    { params: { id: a.id }, body: { state: 'dropped' } },
                                    { onSuccess: () => say(`${a.name} is off the shift`) },
                                  )
                                }
                              >
                                drop
                              </Button>
                            )}
                          </chakra.span>
                        </div>
                      ))}
                    </td>
                    <chakra.td className="n" whiteSpace="nowrap" width="120px">
                      {s.startsAt > now && (
                        <Button look="plain" onClick={() => setAssigning(s)}>
                          Put somebody on
                        </Button>
                      )}
                      {s.assignments.length === 0 && (
                        <Button
                          look="plain"
                          className="late"
                          onClick={() => remove.mutate({ params: { id: s.id } })}
                          aria-label={`Remove ${s.role}`}
                        >
                          Remove
                        </Button>
                      )}
                    </chakra.td>
                  </tr>
                ))}
              </tbody>
            </table>
          </div>
          {adding && <AddShift page={page} close={() => setAdding(false)} />}
          {assigning && <Assign shift={assigning} close={() => setAssigning(null)} />}
        </>
      )}
    </Loaded>
  );
}
