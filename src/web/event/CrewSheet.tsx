import { chakra } from '@chakra-ui/react';
import { useDeferredValue, useState } from 'react';
import type { CrewShift } from '#contract/crew.ts';
import type { EventPage } from '#contract/events.ts';
import { sayShortDate, sayTime } from '#core/time/say.ts';
import { shiftDate } from '#core/time/wallTime.ts';
import { because, sayReason } from '#core/words/reasons.ts';
import { Button, ButtonAnchor } from '#web/kit/Button.tsx';
import { Asking } from '../kit/Asking.tsx';
import { TextField } from '../kit/Field.tsx';
import { Loaded, Problems } from '../kit/notices.tsx';
import { say } from '../kit/toast.tsx';
import { useAction, useAsk } from '../parts/ask.ts';
import { Person } from '../parts/Person.tsx';
import { useSaying } from '../parts/saying.ts';

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
          {shifts.length === 0 && (
            <p className="empty">Nobody is needed yet. Add shifts by role, place and time.</p>
          )}
          <div className="table still">
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
                                <chakra.button
                                  type="button"
                                  className="link"
                                  color="verdigris"
                                  onClick={() =>
                                    state.mutate({ params: { id: a.id }, body: { state: 'served' } })
                                  }
                                >
                                  served
                                </chakra.button>
                                <button
                                  type="button"
                                  className="link late"
                                  onClick={() =>
                                    state.mutate({ params: { id: a.id }, body: { state: 'missed' } })
                                  }
                                >
                                  missed
                                </button>
                              </>
                            )}
                            {(a.state === 'served' || a.state === 'missed') && (
                              <button
                                type="button"
                                className="link soft"
                                onClick={() =>
                                  state.mutate({ params: { id: a.id }, body: { state: 'agreed' } })
                                }
                              >
                                take back
                              </button>
                            )}
                            {s.startsAt > now && (
                              <button
                                type="button"
                                className="link soft"
                                onClick={() =>
                                  state.mutate(
                                    { params: { id: a.id }, body: { state: 'dropped' } },
                                    { onSuccess: () => say(`${a.name} is off the shift`) },
                                  )
                                }
                              >
                                drop
                              </button>
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

function AddShift({ page, close }: { page: EventPage; close: () => void }) {
  const [date = '', from = ''] = (page.plan.startsLocal ?? '').split('T');
  const to = (page.plan.endsLocal ?? '').split('T')[1] ?? '';
  const [form, setForm] = useState({ role: '', place: '', date, from, to, needed: '1', publicSignUp: true });
  const overnight = form.to !== '' && form.to <= form.from;
  const add = useAction('POST /api/events/:id/shifts', () => {
    say('Added');
    close();
  });
  const wrong = add.problem?.fields ?? {};
  return (
    <Asking
      open
      close={close}
      title="Add a shift"
      actions={
        <Button
          look="main"
          disabled={add.isPending}
          onClick={() =>
            add.mutate({
              params: { id: page.id },
              body: {
                role: form.role,
                place: form.place,
                startsLocal: `${form.date}T${form.from}`,
                endsLocal: `${overnight ? shiftDate(form.date, 1) : form.date}T${form.to}`,
                needed: Number(form.needed) || 0,
                publicSignUp: form.publicSignUp,
              },
            })
          }
        >
          Add
        </Button>
      }
    >
      <Problems of={add.problem} />
      <div className="pair">
        <TextField
          label="Role"
          value={form.role}
          set={(role) => setForm({ ...form, role })}
          error={wrong.role}
          autoFocus
        />
        <TextField label="Place" value={form.place} set={(place) => setForm({ ...form, place })} />
        <TextField
          label="Date"
          type="date"
          value={form.date}
          set={(d) => setForm({ ...form, date: d })}
          error={wrong.startsLocal}
        />
        <TextField
          label="How many"
          type="number"
          value={form.needed}
          set={(needed) => setForm({ ...form, needed })}
          error={wrong.needed}
        />
        <TextField label="From" type="time" value={form.from} set={(f) => setForm({ ...form, from: f })} />
        <TextField
          label="To"
          type="time"
          value={form.to}
          set={(t) => setForm({ ...form, to: t })}
          error={wrong.endsLocal}
          consequence={overnight ? 'ends the next day' : ''}
        />
      </div>
      <label className="tick">
        <input
          type="checkbox"
          checked={form.publicSignUp}
          onChange={(e) => setForm({ ...form, publicSignUp: e.target.checked })}
        />{' '}
        anybody may sign up for it on the public page
      </label>
    </Asking>
  );
}

/** Puts somebody on a shift by name. A clash is shown and needs a reason to be overridden. */
function Assign({ shift, close }: { shift: CrewShift; close: () => void }) {
  const [typed, setTyped] = useState('');
  const [chosen, setChosen] = useState<{ id: string; name: string } | null>(null);
  const [reason, setReason] = useState('');
  const q = useDeferredValue(typed.trim());
  const found = useAsk('GET /api/search', { query: { q }, enabled: q.length > 0 }).data?.contacts ?? [];
  const assign = useAction('POST /api/shifts/:id/assignments', ({ assigned }) => {
    if (!assigned) return;
    say(`${chosen?.name ?? 'Done'} is on the shift; the message is planned`);
    close();
  });
  const clashes = assign.data && !assign.data.assigned ? assign.data.clashes : [];
  const put = (id: string) =>
    assign.mutate({ params: { id: shift.id }, body: { contactId: id, overrideReason: reason } });
  return (
    <Asking
      open
      close={close}
      title={`${shift.role}, ${sayTime(shift.startsLocal)}–${sayTime(shift.endsLocal)}`}
      actions={
        chosen &&
        clashes.length > 0 && (
          <Button
            look="stop"
            disabled={reason.trim().length < 3 || assign.isPending}
            onClick={() => put(chosen.id)}
          >
            Assign {chosen.name} anyway
          </Button>
        )
      }
    >
      <Problems of={assign.problem} />
      {clashes.length === 0 ? (
        <>
          <TextField
            label="Who"
            value={typed}
            set={setTyped}
            placeholder="Part of a name, email or telephone"
            autoFocus
          />
          <ul className="lines">
            {found.map((c) => {
              const name = `${c.given} ${c.family}`.trim();
              return (
                <li key={c.id} className="spread">
                  <span>
                    <span className="name">{name}</span> <small className="soft">{c.email}</small>
                  </span>
                  <Button
                    disabled={assign.isPending}
                    onClick={() => {
                      setChosen({ id: c.id, name });
                      put(c.id);
                    }}
                  >
                    Put on
                  </Button>
                </li>
              );
            })}
          </ul>
        </>
      ) : (
        <>
          <div className="note stop">
            <p>
              <b>{chosen?.name}:</b> {clashes.map((c) => c.text).join('; ')}
            </p>
          </div>
          <TextField
            label="Reason for overriding"
            value={reason}
            set={setReason}
            help="The reason is kept with the shift."
          />
        </>
      )}
    </Asking>
  );
}
