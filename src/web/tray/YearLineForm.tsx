import { keepPreviousData, useQuery } from '@tanstack/react-query';
import { useCallback, useDeferredValue, useEffect, useRef } from 'react';
import { type YearLinePlan, yearRoundContract } from '#contract/yearRound.ts';
import { type MailingTopic, mailingTopics } from '#core/messages/mailing.ts';
import { momentRule, type YearMoment, yearMoments } from '#core/messages/moments.ts';
import { audienceOn } from '#core/messages/yearRound.ts';
import { type Answer, call } from '#web/api.ts';
import { Choose } from '../kit/form/fields.tsx';
import { prepare } from '../kit/form/request.ts';
import { useForm } from '../kit/form/useForm.ts';
import { say } from '../kit/toast.tsx';
import { useAction } from '../parts/ask.ts';
import { DraftSeen } from '../parts/lines/DraftSeen.tsx';
import { LineDialog } from '../parts/lines/LineDialog.tsx';
import {
  firstWords,
  type LineValues,
  lineBy,
  lineField,
  newValues,
  saysFirst,
  valuesOfLine,
} from '../parts/lines/values.ts';
import { topicWords } from '../parts/topicWords.ts';
import { WhoGets } from '../parts/WhoGets.tsx';
import { phrase } from '../words/phrase.ts';

interface Values extends LineValues {
  moment: YearMoment;
  topic: MailingTopic;
}

const valuesOf = (line: YearLinePlan | null): Values =>
  line
    ? { ...valuesOfLine(line), topic: line.topic }
    : {
        ...newValues('membership ends', 'members', { days: '30', side: 'before' }),
        topic: 'notice',
      };

const noWords = {
  subject: { en: '' },
  preview: { en: '' },
  body: { en: '' },
  formatted: { en: null, fr: null },
};

/** When a line of the organization goes out, to whom, and what it says. */
export function YearLineForm({
  kept,
  close,
}: {
  /** The line; a new one without it. */
  kept: Answer<'GET /api/year-round'>[number] | null;
  close: () => void;
}) {
  const line = kept?.line ?? null;
  const id = useRef(line?.id ?? crypto.randomUUID()).current;
  const lineOf = (v: Values): Omit<YearLinePlan, 'id'> => ({
    ...lineBy(v, line),
    moment: v.moment,
    late: v.late === 'last' ? 'now' : v.late,
    topic: v.topic,
  });
  const form = useForm({
    values: valuesOf(line),
    request: (v) =>
      prepare(yearRoundContract, 'PUT /api/year-round/:id', {
        params: { id },
        body: { line: lineOf(v), version: kept?.version ?? 0 },
      }),
    fieldOf: (path) => lineField(path.replace('line.', '')),
    after: () => {
      say(phrase('common.saved'));
      close();
    },
  });
  const { values } = form;
  const { moment, channel } = values;
  const audience = audienceOn(moment);
  // Another moment or way brings its own words, where nobody wrote any.
  const was = useRef({ moment, channel });
  useEffect(() => {
    const before = was.current;
    if (before.moment === moment && before.channel === channel) return;
    was.current = { moment, channel };
    if (saysFirst(values, before.moment, before.channel, audienceOn(before.moment)))
      form.set({
        ...firstWords(moment, channel, audience),
        // Nobody prepares for a gift, or for a card that fails.
        ...(!momentRule(moment).ahead && { side: 'after' as const }),
      });
  });
  // Who gets it hangs on when and what it is about, not on its words.
  const asked = useDeferredValue(
    JSON.stringify({ ...lineOf(values), ...noWords, id, name: values.name || phrase('messages.newLine') }),
  );
  const counting = useQuery({
    queryKey: ['year-round', asked],
    queryFn: () => call('POST /api/year-round/count', { body: { line: JSON.parse(asked) as YearLinePlan } }),
    placeholderData: keepPreviousData,
    retry: false,
  });
  const counted = counting.data;
  const { mutate, ...drawn } = useAction('POST /api/year-round/preview');
  const draw = useCallback(
    (of: YearLinePlan, key: string | null) => mutate({ body: { line: of, ...(key && { key }) } }),
    [mutate],
  );
  return (
    <LineDialog
      form={form}
      line={line}
      audience={audience}
      moments={yearMoments}
      late={['skip', 'now']}
      whom={
        <Choose
          form={form}
          name="topic"
          label={phrase('contacts.whatItIsAbout')}
          choices={mailingTopics.map((value) => ({ value, label: topicWords[value] }))}
        />
      }
      counted={
        counted && (
          <>
            <WhoGets planned={counted.planned} leftOut={counted.leftOut} sample={null} />
            {counted.atOnce > 0 && <p className="late">{phrase('tray.atOnce', { count: counted.atOnce })}</p>}
          </>
        )
      }
      preview={<DraftSeen line={{ ...lineOf(values), id }} draw={draw} drawn={drawn} />}
      close={close}
    />
  );
}
