import { chakra } from '@chakra-ui/react';
import { useEffect, useRef } from 'react';
import { changesContract } from '#contract/changes.ts';
import type { EventPage } from '#contract/events.ts';
import type { MessageLinePlan } from '#contract/plan.ts';
import { sayConsequences } from '#core/events/consequences.ts';
import { type Audience, audiences, sayAudience } from '#core/messages/audiences.ts';
import { channels } from '#core/messages/channels.ts';
import { lateRules } from '#core/messages/lines.ts';
import { fieldsOfLine, problemsInLine } from '#core/messages/merge.ts';
import { momentRule, moments, sayMoment, sayMomentAlone } from '#core/messages/moments.ts';
import type { Condition } from '#core/seats/narrowing.ts';
import { FormDialog } from '../../kit/form/FormDialog.tsx';
import { Choose, Count, Text, Tick } from '../../kit/form/fields.tsx';
import { prepare } from '../../kit/form/request.ts';
import { useForm } from '../../kit/form/useForm.ts';
import { say } from '../../kit/toast.tsx';
import { MessageTexts, textsOf } from '../../parts/MessageTexts.tsx';
import { phrase, term } from '../../words/phrase.ts';
import { DraftPreview } from './DraftPreview.tsx';
import { firstWords, lineOf, offsetOf, saysFirst, valuesOf, withLine } from './lines.ts';
import { OnlySeats, OnlyShifts } from './OnlySome.tsx';

const lateWords = {
  skip: phrase('messages.lateSkip'),
  now: phrase('messages.lateNow'),
  last: phrase('messages.lateLast'),
};

const narrowsShifts = (audience: Audience): boolean => audiences[audience].narrowedBy === 'shifts';

/** When a line goes out, by which way, to whom, and what it says. */
export function LineForm({
  page,
  line,
  close,
}: {
  page: EventPage;
  /** The line; a new one without it. */
  line: MessageLinePlan | null;
  close: () => void;
}) {
  const id = useRef(line?.id ?? crypto.randomUUID()).current;
  const lines = page.plan.messages;
  const place = line ? lines.findIndex((l) => l.id === line.id) : lines.length;
  const form = useForm({
    values: valuesOf(line),
    request: (v) =>
      prepare(changesContract, 'PATCH /api/events/:id', {
        params: { id: page.id },
        body: {
          version: page.version,
          change: { messages: withLine(lines, lineOf(v, id, line)) },
        },
      }),
    fieldOf: (path) =>
      path
        .replace(`change.messages.${place}.`, '')
        .replace('offsetDays', 'days')
        .replace('offsetMinutes', 'minutes')
        .replace('usefulMinutes', 'useful'),
    after: ({ followed }) => {
      say([phrase('common.saved'), ...sayConsequences(followed, true)].join('; '));
      close();
    },
  });
  const { values } = form;
  const { moment, channel, audience } = values;
  const rule = momentRule(moment);
  // Another moment or way brings its own words, where nobody wrote any, and people who have such a moment.
  const was = useRef({ moment, channel, audience });
  useEffect(() => {
    const before = was.current;
    if (before.moment === moment && before.channel === channel && before.audience === audience) return;
    const to = rule.audiences.includes(audience) ? audience : rule.audiences[0];
    was.current = { moment, channel, audience: to };
    form.set({
      ...(saysFirst(values, before.moment, before.channel, before.audience) &&
        firstWords(moment, channel, to)),
      audience: to,
      // What is asked of seats means nothing of shifts.
      ...(narrowsShifts(before.audience) !== narrowsShifts(to) && { narrowed: [] }),
    });
  });
  const alone = { moment: sayMomentAlone(moment) };
  const narrowing = audiences[audience].narrowedBy;
  const only = {
    page,
    narrowed: values.narrowed,
    set: (narrowed: Condition[]) => form.set({ narrowed }),
    wrong: form.wrongAt('narrowed'),
  };
  const ahead = rule.ahead && values.side === 'before';
  return (
    <FormDialog
      form={form}
      wide
      title={line?.name ?? phrase('messages.newLine')}
      submit={phrase(line ? 'common.save' : 'messages.addIt')}
      close={close}
    >
      <div className="pair">
        <Text
          form={form}
          name="name"
          label={phrase('messages.name')}
          help={phrase('messages.nameHelp')}
          required
          autoFocus={!line}
        />
        <Choose
          form={form}
          name="moment"
          label={phrase('messages.moment')}
          choices={moments.map((value) => ({ value, label: sayMomentAlone(value) }))}
        />
      </div>
      <chakra.div
        display="grid"
        gridTemplateColumns={{ base: '1fr 1fr 1fr', md: '1fr 1fr 1fr 3fr' }}
        gap="12px"
      >
        <Count form={form} name="days" label={phrase('messages.days')} />
        <Count form={form} name="hours" label={phrase('messages.hours')} />
        <Count form={form} name="minutes" label={phrase('messages.minutes')} />
        <chakra.div gridColumn={{ base: '1 / -1', md: 'auto' }}>
          <Choose
            form={form}
            name="side"
            label={phrase('messages.beforeOrAfter')}
            choices={[
              { value: 'before', label: phrase('messages.beforeMoment', alone) },
              { value: 'after', label: phrase('messages.afterMoment', alone) },
            ]}
            consequence={sayMoment({ moment, offset: offsetOf(values) })}
          />
        </chakra.div>
      </chakra.div>
      <div className="pair">
        <Choose
          form={form}
          name="channel"
          label={phrase('messages.channel')}
          choices={channels.map((value) => ({ value, label: term(value) }))}
        />
        <Choose
          form={form}
          name="audience"
          label={phrase('messages.audience')}
          choices={rule.audiences.map((value) => ({ value, label: sayAudience(value) }))}
        />
        {!rule.answers && (
          <Choose
            form={form}
            name="late"
            label={phrase('messages.late')}
            choices={lateRules.map((value) => ({ value, label: lateWords[value] }))}
          />
        )}
        <Count
          form={form}
          name="useful"
          label={phrase('messages.useful')}
          help={phrase(ahead ? 'messages.usefulHelp' : 'messages.usefulHelpAfter')}
        />
      </div>
      {narrowing === 'shifts' ? <OnlyShifts {...only} /> : narrowing && <OnlySeats {...only} />}
      <Tick form={form} name="household" label={phrase('messages.household')} />
      <Tick form={form} name="workingDays" label={phrase('messages.workingDays')} />
      <MessageTexts
        form={textsOf(form)}
        frenchOf={line?.frenchOf ?? ''}
        fields={fieldsOfLine(audience)}
        problemsOf={(text) => problemsInLine(text, audience)}
        byText={channel === 'text message'}
      />
      <DraftPreview eventId={page.id} line={lineOf(values, id, line)} />
    </FormDialog>
  );
}
