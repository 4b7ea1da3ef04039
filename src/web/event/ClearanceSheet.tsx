import { chakra } from '@chakra-ui/react';
import { useState } from 'react';
import { type Clearance, clearanceContract } from '#contract/clearance.ts';
import type { EventPage } from '#contract/events.ts';
import { type DecisionWord, decisions, needsWords } from '#core/clearance/steps.ts';
import { sayShortDate } from '#core/time/say.ts';
import { Button } from '#web/kit/Button.tsx';
import { Phrase } from '#web/words/Phrase.tsx';
import { inAList, phrase, term } from '#web/words/phrase.ts';
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
  'not sent': phrase('event.notSentForClearance'),
  'not needed': phrase('event.nobodyNeedsToBe'),
  'under way': phrase('event.inClearance'),
  cleared: phrase('event.cleared'),
  'sent back': phrase('event.sentBack'),
  refused: phrase('event.refused'),
};

/** Which steps the plan needs and why, by when it has to be sent, and what was decided. */
export default function ClearanceSheet({ page }: { page: EventPage }) {
  const clearance = useAsk('GET /api/events/:id/clearance', { params: { id: page.id } });
  const { day } = useSaying();
  const [confirming, setConfirming] = useState(false);
  const mayPlan = page.may.change.includes('clearance');
  const send = useAction('POST /api/events/:id/clearance', () => {
    say(phrase('common.sent'));
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
                {phrase('event.sendForClearance')}
              </Button>
            )}
          </div>
          {c.submittedAt ? (
            <p className="soft">
              {phrase(c.sentByMe ? 'event.sentByYou' : 'event.sent', { submittedAt: day(c.submittedAt) })}
              {c.lateByDays > 0 && (
                <span className="late">, {phrase('event.daysLate', { lateByDays: c.lateByDays })}</span>
              )}
            </p>
          ) : (
            c.deadline && (
              <p className={c.deadline.daysLeft < 0 ? 'late' : 'soft'}>
                <Phrase
                  of="event.lastDayToSend"
                  with={{
                    date: <b className="num">{sayShortDate(c.deadline.date, true)}</b>,
                    daysLeft:
                      c.deadline.daysLeft < 0
                        ? phrase('event.daysAgo', { days: -c.deadline.daysLeft })
                        : c.deadline.daysLeft === 0
                          ? phrase('event.todayLeft')
                          : phrase('event.daysLeft', { days: c.deadline.daysLeft }),
                    why: c.deadline.why,
                  }}
                />
              </p>
            )
          )}
          {page.state === 'draft' && c.lacks.length > 0 && (
            <Note tone="need" marginTop="12px">
              <p>
                <b>{phrase('event.beforeItCanBe')}</b>
              </p>
              {c.lacks.map((l) => (
                <p key={l}>{l}</p>
              ))}
            </Note>
          )}
          <chakra.p className="soft" marginTop="10px">
            {phrase('event.facts', {
              facts: c.facts.length ? c.facts.join(' · ') : phrase('event.nothingThatARule'),
            })}
          </chakra.p>
          <chakra.ul className="lines" marginTop="6px">
            {c.steps.map((s) => (
              <li key={s.id}>
                <div className="spread">
                  <span>
                    <chakra.span className="name" fontSize="16px">
                      {s.step}
                    </chakra.span>{' '}
                    <span className="soft">{phrase('event.because', { because: s.because.join(', ') })}</span>
                  </span>
                  <span
                    className={`word ${s.state.startsWith('cleared') ? 'live' : s.state === 'refused' || s.state === 'sent back' ? 'stop' : s.state === 'waiting' ? '' : 'need'}`}
                  >
                    {term(s.state)}
                  </span>
                </div>
                <chakra.p className="soft" fontSize="14px">
                  {s.asks}{' '}
                  {s.dueOn &&
                    !s.decidedAt &&
                    phrase('event.wantedBy', { dueOn: sayShortDate(s.dueOn, true) })}
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
          {c.steps.length === 0 && <Empty>{phrase('event.noRuleAsksFor')}</Empty>}
          <Asking
            open={confirming}
            close={() => setConfirming(false)}
            title={phrase('event.sendForClearanceAsk')}
            actions={
              <Button
                look="main"
                disabled={send.isPending}
                onClick={() => send.mutate({ params: { id: page.id } })}
              >
                {phrase('event.sendForClearance')}
              </Button>
            }
          >
            <Problems of={send.problem} />
            <p>
              {c.steps.length
                ? phrase('event.itGoesToNothing', { steps: inAList(c.steps.map((s) => s.step)) })
                : phrase('event.noStepIsNeeded')}
            </p>
            {c.deadline && c.deadline.daysLeft < 0 && (
              <p className="late">{phrase('event.itIsDaysLate', { daysLeft: -c.deadline.daysLeft })}</p>
            )}
          </Asking>
        </>
      )}
    </Loaded>
  );
}

const decisionLabels: Record<DecisionWord, string> = {
  clear: phrase('event.clear'),
  'clear with conditions': phrase('event.clearWithACondition'),
  'send back': phrase('event.sendBack'),
  refuse: phrase('event.refuse'),
};

function Decide({ stepId, step }: { stepId: string; step: string }) {
  const form = useForm({
    values: { decision: 'clear' as DecisionWord, words: '' },
    request: (body) =>
      prepare(clearanceContract, 'POST /api/clearance-steps/:id/decision', { params: { id: stepId }, body }),
    after: () => say(phrase('event.decided')),
  });
  const { decision } = form.values;
  return (
    <chakra.div className="form" marginTop="8px">
      <Form form={form} submit={decisionLabels[decision]}>
        <OneOf
          form={form}
          name="decision"
          label={phrase('event.yourDecisionOn', { step })}
          choices={decisions.map((d) => ({ value: d, label: decisionLabels[d] }))}
        />
        <LongText
          form={form}
          name="words"
          label={decision === 'clear with conditions' ? phrase('event.theCondition') : phrase('event.words')}
          rows={2}
          required={needsWords(decision)}
        />
      </Form>
    </chakra.div>
  );
}
