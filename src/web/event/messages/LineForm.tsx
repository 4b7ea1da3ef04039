import { useEffect, useRef } from 'react';
import { changesContract } from '#contract/changes.ts';
import type { EventPage } from '#contract/events.ts';
import type { MessageLinePlan } from '#contract/plan.ts';
import { sayConsequences } from '#core/events/consequences.ts';
import { audiences, type EventAudience, sayAudience } from '#core/messages/audiences.ts';
import { lateRules } from '#core/messages/lines.ts';
import { momentRule, moments } from '#core/messages/moments.ts';
import type { Condition } from '#core/seats/narrowing.ts';
import { Choose } from '../../kit/form/fields.tsx';
import { prepare } from '../../kit/form/request.ts';
import { useForm } from '../../kit/form/useForm.ts';
import { say } from '../../kit/toast.tsx';
import { LineDialog } from '../../parts/lines/LineDialog.tsx';
import { firstWords, lineField, saysFirst } from '../../parts/lines/values.ts';
import { phrase } from '../../words/phrase.ts';
import { DraftPreview } from './DraftPreview.tsx';
import { lineOf, valuesOf, withLine } from './lines.ts';
import { OnlySeats, OnlyShifts } from './OnlySome.tsx';

const narrowsShifts = (audience: EventAudience): boolean => audiences[audience].narrowedBy === 'shifts';

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
    fieldOf: (path) => lineField(path.replace(`change.messages.${place}.`, '')),
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
  const narrowing = audiences[audience].narrowedBy;
  const only = {
    page,
    narrowed: values.narrowed,
    set: (narrowed: Condition[]) => form.set({ narrowed }),
    wrong: form.wrongAt('narrowed'),
  };
  return (
    <LineDialog
      form={form}
      line={line}
      audience={audience}
      moments={moments}
      late={lateRules}
      whom={
        <Choose
          form={form}
          name="audience"
          label={phrase('messages.audience')}
          choices={rule.audiences.map((value) => ({ value, label: sayAudience(value) }))}
        />
      }
      some={narrowing === 'shifts' ? <OnlyShifts {...only} /> : narrowing && <OnlySeats {...only} />}
      preview={<DraftPreview eventId={page.id} line={lineOf(values, id, line)} />}
      close={close}
    />
  );
}
