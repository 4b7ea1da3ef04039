import { chakra } from '@chakra-ui/react';
import { useState } from 'react';
import { type Clearance, clearanceContract } from '#contract/clearance.ts';
import type { EventPage } from '#contract/events.ts';
import { type DecisionWord, decisions, needsWords } from '#core/clearance/steps.ts';
import { sayShortDate } from '#core/time/say.ts';
import { Button } from '#web/kit/Button.tsx';
import { Asking } from '../kit/Asking.tsx';
import { Form } from '../kit/form/Form.tsx';
import { LongText, OneOf } from '../kit/form/fields.tsx';
import { prepare } from '../kit/form/request.ts';
import { useForm } from '../kit/form/useForm.ts';
import { Empty, Note } from '../kit/Note.tsx';
import { Loaded, Problems } from '../kit/notices.tsx';
import { say } from '../kit/toast.tsx';
import { useAction, useAsk } from '../parts/ask.ts';
import { useSaying } from '../parts/saying.ts';

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
              <Button look="main" onClick={() => setConfirming(true)} disabled={c.lacks.length > 0}>
                Send for clearance
              </Button>
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
            <Note tone="need" marginTop="12px">
              <p>
                <b>Before it can be sent:</b>
              </p>
              {c.lacks.map((l) => (
                <p key={l}>{l}</p>
              ))}
            </Note>
          )}
          <chakra.p className="soft" marginTop="10px">
            Facts: {c.facts.length ? c.facts.join(' · ') : 'nothing that a rule looks at'}
          </chakra.p>
          <chakra.ul className="lines" marginTop="6px">
            {c.steps.map((s) => (
              <li key={s.id}>
                <div className="spread">
                  <span>
                    <chakra.span className="name" fontSize="16px">
                      {s.step}
                    </chakra.span>{' '}
                    <span className="soft">because {s.because.join(', ')}</span>
                  </span>
                  <span
                    className={`word ${s.state.startsWith('cleared') ? 'live' : s.state === 'refused' || s.state === 'sent back' ? 'stop' : s.state === 'waiting' ? '' : 'need'}`}
                  >
                    {s.state}
                  </span>
                </div>
                <chakra.p className="soft" fontSize="14px">
                  {s.asks}
                  {s.dueOn && !s.decidedAt && ` Wanted by ${sayShortDate(s.dueOn, true)}.`}
                </chakra.p>
                {s.decidedAt && (
                  <chakra.p fontSize="14px">
                    {s.decidedBy}, {day(s.decidedAt)}
                    {s.words && <>: “{s.words}”</>}
                  </chakra.p>
                )}
                {s.mayDecide && <Decide stepId={s.id} step={s.step} />}
              </li>
            ))}
          </chakra.ul>
          {c.steps.length === 0 && <Empty>No rule asks for a step. Sending it clears it at once.</Empty>}
          <Asking
            open={confirming}
            close={() => setConfirming(false)}
            title="Send for clearance?"
            actions={
              <Button
                look="main"
                disabled={send.isPending}
                onClick={() => send.mutate({ params: { id: page.id } })}
              >
                Send for clearance
              </Button>
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
  const form = useForm({
    values: { decision: 'clear' as DecisionWord, words: '' },
    request: (body) =>
      prepare(clearanceContract, 'POST /api/clearance-steps/:id/decision', { params: { id: stepId }, body }),
    after: () => say('Decided'),
  });
  const { decision } = form.values;
  return (
    <chakra.div className="form" marginTop="8px">
      <Form form={form} submit={decisionLabels[decision]}>
        <OneOf
          form={form}
          name="decision"
          label={`Your decision on ${step}`}
          choices={decisions.map((d) => ({ value: d, label: decisionLabels[d] }))}
        />
        <LongText
          form={form}
          name="words"
          label={decision === 'clear with conditions' ? 'The condition' : 'Words'}
          rows={2}
          required={needsWords(decision)}
        />
      </Form>
    </chakra.div>
  );
}
