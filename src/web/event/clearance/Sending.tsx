import { chakra } from '@chakra-ui/react';
import { type Clearance, clearanceContract } from '#contract/clearance.ts';
import { isThrough } from '#core/clearance/steps.ts';
import { sayShortDate } from '#core/time/say.ts';
import { inAList, phrase } from '#web/words/phrase.ts';
import { Asking } from '../../kit/Asking.tsx';
import { Button } from '../../kit/Button.tsx';
import { Form } from '../../kit/form/Form.tsx';
import { LongText, Tick as TickField } from '../../kit/form/fields.tsx';
import { prepare } from '../../kit/form/request.ts';
import { useForm } from '../../kit/form/useForm.ts';
import { say } from '../../kit/toast.tsx';
import { useMe } from '../../parts/ask.ts';

/** Sends a plan: says to whom it goes, asks what the steps want to know, and why where it is late. */
export function Sending({
  eventId,
  clearance: c,
  close,
}: {
  eventId: string;
  clearance: Clearance;
  close: () => void;
}) {
  const coordinator = useMe().data?.staff.roles.includes('coordinator') ?? false;
  const again = c.submittedAt !== null;
  const questions = c.steps.flatMap((s) => s.questions);
  const days = c.granted || !c.steps.length ? 0 : Math.max(0, -(c.deadline?.daysLeft ?? 0));
  const form = useForm({
    values: { lateReason: c.lateReason, answers: questions.map(() => ''), coversSeries: c.coversSeries },
    request: ({ lateReason, answers, coversSeries }) =>
      prepare(clearanceContract, 'POST /api/events/:id/clearance', {
        params: { id: eventId },
        body: {
          lateReason,
          answers: questions.map((q, n) => ({ id: q.id, words: answers[n] ?? '' })),
          coversSeries,
        },
      }),
    fieldOf: (path) => {
      const asked = questions.findIndex((q) => path === `answers.${q.id}`);
      return asked < 0 ? path : `answers.${asked}`;
    },
    after: () => {
      say(phrase('common.sent'));
      close();
    },
  });
  const steps = c.steps.filter((s) => !isThrough(s.state)).map((s) => s.step);
  return (
    <Asking
      open
      close={close}
      title={phrase(again ? 'clearance.sendAgainAsk' : 'clearance.sendAsk')}
      dirty={form.dirty}
      actions={
        <Button look="main" disabled={form.sending} onClick={form.submit}>
          {phrase(again ? 'clearance.sendAgain' : 'clearance.send')}
        </Button>
      }
    >
      <p>
        {steps.length ? phrase('clearance.itGoesTo', { steps: inAList(steps) }) : phrase('clearance.noStep')}{' '}
        {again && phrase('clearance.againText')}
      </p>
      <Form form={form}>
        {questions.map((q, n) => (
          <LongText
            key={q.id}
            form={form}
            name={`answers.${n}`}
            label={q.prompt}
            rows={2}
            required={q.required}
          />
        ))}
        {c.coverage && (
          <>
            {(c.coverage.alike > 0 || c.coverage.differs.length === 0) && (
              <>
                <TickField
                  form={form}
                  name="coversSeries"
                  label={phrase('clearance.forTheSeries', { count: c.coverage.alike })}
                />
                <chakra.p color="soft" fontSize="13.5px">
                  {phrase('clearance.forTheSeriesText')}
                </chakra.p>
              </>
            )}
            {c.coverage.differs.length > 0 && (
              <chakra.ul fontSize="13.5px" color="soft" margin="0 0 8px" paddingLeft="18px">
                {c.coverage.differs.map((d) => (
                  <li key={d.id}>
                    {phrase('clearance.differs', {
                      date: d.startsLocal ? sayShortDate(d.startsLocal, true) : '',
                      steps: inAList(d.steps),
                    })}
                  </li>
                ))}
              </chakra.ul>
            )}
          </>
        )}
        {days > 0 && (
          <LongText
            form={form}
            name="lateReason"
            label={phrase('clearance.whyLate')}
            help={phrase(coordinator ? 'clearance.whyLateHelp' : 'clearance.whyLateAsks', { days })}
            rows={2}
            required
          />
        )}
      </Form>
    </Asking>
  );
}
