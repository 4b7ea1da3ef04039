import { useState } from 'react';
import type { Clearance } from '#contract/clearance.ts';
import type { EventPage } from '#contract/events.ts';
import { type DecisionWord, decisions, needsWords } from '#core/clearance/steps.ts';
import { sayShortDate } from '#core/time/say.ts';
import { Asking } from '../parts/Asking.tsx';
import { useAction, useAsk } from '../parts/ask.ts';
import { Field } from '../parts/Field.tsx';
import { Loaded, Problems } from '../parts/notices.tsx';
import { useSaying } from '../parts/saying.ts';
import { say } from '../parts/toast.tsx';

const standingWords: Record<Clearance['standing'], string> = {
  'not sent': 'Not sent for clearance yet',
  'not needed': 'Nobody needs to be asked',
  'under way': 'In clearance',
  cleared: 'Cleared',
  'sent back': 'Sent back',
  refused: 'Refused',
};

/** Which steps the plan needs and why, by when it has to be sent, and what was decided. */
export default function ClearanceSheet({ page }: { page: EventPage }) {
  const clearance = useAsk('GET /api/events/:id/clearance', { params: { id: page.id } });
  const { day } = useSaying();
  const [confirming, setConfirming] = useState(false);
  const mayPlan = page.may.change.includes('clearance');
  const send = useAction('POST /api/events/:id/clearance', () => {
    say('Sent');
    setConfirming(false);
  });
  return (
    <Loaded of={clearance}>
      {(c) => (
        <>
          <div className="spread">
            <h2>{standingWords[c.standing]}</h2>
            {page.state === 'draft' && mayPlan && (
              <button
                type="button"
                className="btn primary"
                onClick={() => setConfirming(true)}
                disabled={c.lacks.length > 0}
              >
                Send for clearance
              </button>
            )}
          </div>
          {c.submittedAt ? (
            <p className="soft">
              Sent {day(c.submittedAt)}
              {c.sentByMe && ' by you: somebody else decides'}
              {c.lateByDays > 0 && <span className="late">, {c.lateByDays} days late</span>}
            </p>
          ) : (
            c.deadline && (
              <p className={c.deadline.daysLeft < 0 ? 'late' : 'soft'}>
                Last day to send: <b className="num">{sayShortDate(c.deadline.date, true)}</b>,{' '}
                {c.deadline.daysLeft < 0
                  ? `${-c.deadline.daysLeft} days ago`
                  : c.deadline.daysLeft === 0
                    ? 'today'
                    : `${c.deadline.daysLeft} days left`}{' '}
                ({c.deadline.why}).
              </p>
            )
          )}
          {page.state === 'draft' && c.lacks.length > 0 && (
            <div className="note need" style={{ marginTop: 12 }}>
              <p>
                <b>Before it can be sent:</b>
              </p>
              {c.lacks.map((l) => (
                <p key={l}>{l}</p>
              ))}
            </div>
          )}
          <p className="soft" style={{ marginTop: 10 }}>
            Facts: {c.facts.length ? c.facts.join(' · ') : 'nothing that a rule looks at'}
          </p>
          <ul className="lines" style={{ marginTop: 6 }}>
            {c.steps.map((s) => (
              <li key={s.id}>
                <div className="spread">
                  <span>
                    <span className="name" style={{ fontSize: 16 }}>
                      {s.step}
                    </span>{' '}
                    <span className="soft">because {s.because.join(', ')}</span>
                  </span>
                  <span
                    className={`word ${s.state.startsWith('cleared') ? 'live' : s.state === 'refused' || s.state === 'sent back' ? 'stop' : s.state === 'waiting' ? '' : 'need'}`}
                  >
                    {s.state}
                  </span>
                </div>
                <p className="soft" style={{ fontSize: 14 }}>
                  {s.asks}
                  {s.dueOn && !s.decidedAt && ` Wanted by ${sayShortDate(s.dueOn, true)}.`}
                </p>
                {s.decidedAt && (
                  <p style={{ fontSize: 14 }}>
                    {s.decidedBy}, {day(s.decidedAt)}
                    {s.words && <>: “{s.words}”</>}
                  </p>
                )}
                {s.mayDecide && <Decide stepId={s.id} step={s.step} />}
              </li>
            ))}
          </ul>
          {c.steps.length === 0 && (
            <p className="empty">No rule asks for a step. Sending it clears it at once.</p>
          )}
          <Asking
            open={confirming}
            close={() => setConfirming(false)}
            title="Send for clearance?"
            actions={
              <button
                type="button"
                className="btn primary"
                disabled={send.isPending}
                onClick={() => send.mutate({ params: { id: page.id } })}
              >
                Send for clearance
              </button>
            }
          >
            <Problems of={send.problem} />
            <p>
              {c.steps.length
                ? `It goes to ${c.steps.map((s) => s.step).join(' and ')}. Nothing can be opened to the public before they clear it.`
                : 'No step is needed; it is cleared at once.'}
            </p>
            {c.deadline && c.deadline.daysLeft < 0 && (
              <p className="late">It is {-c.deadline.daysLeft} days late; the approvers see that.</p>
            )}
          </Asking>
        </>
      )}
    </Loaded>
  );
}

const decisionLabels: Record<DecisionWord, string> = {
  clear: 'Clear',
  'clear with conditions': 'Clear with a condition',
  'send back': 'Send back',
  refuse: 'Refuse',
};

function Decide({ stepId, step }: { stepId: string; step: string }) {
  const [decision, setDecision] = useState<DecisionWord>('clear');
  const [words, setWords] = useState('');
  const decide = useAction('POST /api/clearance-steps/:id/decision', () => say('Decided'));
  return (
    <form
      className="form"
      style={{ marginTop: 8 }}
      onSubmit={(e) => {
        e.preventDefault();
        decide.mutate({ params: { id: stepId }, body: { decision, words } });
      }}
    >
      <Problems of={decide.problem} />
      <fieldset style={{ border: 0, padding: 0, margin: '0 0 8px' }}>
        <legend style={{ fontWeight: 500, fontSize: 14 }}>Your decision on {step}</legend>
        {decisions.map((d) => (
          <label key={d} className="tick">
            <input type="radio" name={stepId} checked={decision === d} onChange={() => setDecision(d)} />
            {decisionLabels[d]}
          </label>
        ))}
      </fieldset>
      <Field
        label={decision === 'clear with conditions' ? 'The condition' : 'Words'}
        error={decide.problem?.fields.words}
        help={needsWords(decision) ? '' : 'Not needed.'}
      >
        {(props) => <textarea {...props} rows={2} value={words} onChange={(e) => setWords(e.target.value)} />}
      </Field>
      <button type="submit" className="btn primary" disabled={decide.isPending}>
        {decisionLabels[decision]}
      </button>
    </form>
  );
}
