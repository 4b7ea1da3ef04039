import { chakra } from '@chakra-ui/react';
import { useState } from 'react';
import { attendanceContract, type Dispute } from '#contract/attendance.ts';
import { wallOf } from '#core/time/wallTime.ts';
import type { Answer } from '#web/api.ts';
import { Button } from '#web/kit/Button.tsx';
import { FormDialog } from '#web/kit/form/FormDialog.tsx';
import { LongText, OneOf } from '#web/kit/form/fields.tsx';
import { prepare } from '#web/kit/form/request.ts';
import { useForm } from '#web/kit/form/useForm.ts';
import { say } from '#web/kit/toast.tsx';
import { useSaying } from '#web/parts/saying.ts';
import { phrase } from '#web/words/phrase.ts';
import { StaysFields, staysSent, type TypedStay } from './StaysFields.tsx';

type Days = Answer<'GET /api/events/:id/attendance'>['days'];

/** What somebody says of their attendance, in words. */
const sayClaim = (says: Dispute['says']): string => {
  switch (says) {
    case 'came':
      return phrase('event.saysCame');
    case 'did not come':
      return phrase('event.saysNotCame');
    case 'other times':
      return phrase('event.saysOtherTimes');
  }
};

/** What people say against what is kept of them: open ones to answer, the others as they were answered. */
export function Disputes({
  disputes,
  may,
  days,
}: {
  disputes: readonly Dispute[];
  may: boolean;
  days: Days;
}) {
  const { at } = useSaying();
  const [open, setOpen] = useState<Dispute | null>(null);
  if (!disputes.length) return null;
  return (
    <section aria-label={phrase('event.disputes')}>
      <chakra.h3 marginTop="14px">{phrase('event.disputes')}</chakra.h3>
      <ul className="lines">
        {disputes.map((d) => (
          <li key={d.id} className="spread">
            <span>
              <span className="name">{d.name || phrase('common.guestToBeNamed')}</span>, {sayClaim(d.says)}
              {d.words && `: “${d.words}”`}
              <br />
              <small className={d.outcome ? 'soft' : 'need'}>
                {d.outcome === null
                  ? phrase('event.disputeWaits', { time: at(d.at) })
                  : [
                      phrase(d.outcome === 'corrected' ? 'event.disputeCorrected' : 'event.disputeKept', {
                        by: d.answeredBy,
                      }),
                      d.answer,
                    ]
                      .filter(Boolean)
                      .join(' ')}
              </small>
            </span>
            {may && d.outcome === null && (
              <Button onClick={() => setOpen(d)}>{phrase('event.answerDispute')}</Button>
            )}
          </li>
        ))}
      </ul>
      {open && <AnswerDispute key={open.id} dispute={open} days={days} close={() => setOpen(null)} />}
    </section>
  );
}

/** Corrected as they say, or left as it is; they are told either way. */
function AnswerDispute({ dispute, days, close }: { dispute: Dispute; days: Days; close: () => void }) {
  const { zone } = useSaying();
  const whole: TypedStay = {
    fromLocal: days[0] ? wallOf(days[0].from, zone) : '',
    untilLocal: days[0] ? wallOf(days[0].until, zone) : '',
  };
  const form = useForm({
    values: {
      outcome: 'corrected',
      stays: dispute.says === 'did not come' ? [] : [whole],
      answer: '',
    },
    request: (v) =>
      prepare(attendanceContract, 'POST /api/attendance-disputes/:id', {
        params: { id: dispute.id },
        body: { stays: v.outcome === 'corrected' ? staysSent(v.stays) : null, answer: v.answer },
      }),
    after: () => {
      say(phrase('event.disputeAnswered', { name: dispute.name }));
      close();
    },
  });
  return (
    <FormDialog
      form={form}
      close={close}
      title={phrase('event.answerTo', { name: dispute.name })}
      submit={phrase('event.sendAnswer')}
      wide
    >
      <chakra.p marginBottom="14px">
        {sayClaim(dispute.says)}
        {dispute.words && `: “${dispute.words}”`}
      </chakra.p>
      <OneOf
        form={form}
        name="outcome"
        label={phrase('event.whatBecomes')}
        choices={[
          { value: 'corrected', label: phrase('event.correctIt') },
          { value: 'kept', label: phrase('event.leaveIt') },
        ]}
      />
      {form.values.outcome === 'corrected' && (
        <StaysFields
          stays={form.values.stays}
          set={(stays) => form.set({ stays })}
          begins={whole}
          wrongAt={form.wrongAt}
        />
      )}
      <LongText
        form={form}
        name="answer"
        label={phrase('event.answerWords')}
        help={phrase('event.answerWordsHelp')}
      />
    </FormDialog>
  );
}
