import { chakra } from '@chakra-ui/react';
import type { ReactNode } from 'react';
import { channels } from '#core/messages/channels.ts';
import type { LateRule } from '#core/messages/lines.ts';
import { type Moment, momentRule, sayMoment, sayMomentAlone } from '#core/messages/moments.ts';
import { Choose, Count, Text, Tick } from '../../kit/form/fields.tsx';
import type { Form } from '../../kit/form/useForm.ts';
import { phrase, term } from '../../words/phrase.ts';
import { type LineValues, offsetOf } from './values.ts';

const lateWords = {
  skip: phrase('messages.lateSkip'),
  now: phrase('messages.lateNow'),
  last: phrase('messages.lateLast'),
};

/** When a line goes out, by which way, and for how long it is of use. */
export function LineFields({
  form,
  moments,
  late,
  isNew,
  whom,
  some,
}: {
  form: Form<LineValues>;
  moments: readonly Moment[];
  late: readonly LateRule[];
  isNew: boolean;
  /** For whom it is. */
  whom: ReactNode;
  /** Who of them. */
  some?: ReactNode;
}) {
  const { moment, side } = form.values;
  const rule = momentRule(moment);
  const alone = { moment: sayMomentAlone(moment) };
  return (
    <>
      <div className="pair">
        <Text
          form={form}
          name="name"
          label={phrase('messages.name')}
          help={phrase('messages.nameHelp')}
          required
          autoFocus={isNew}
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
            consequence={sayMoment({ moment, offset: offsetOf(form.values) })}
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
        {whom}
        {!rule.answers && (
          <Choose
            form={form}
            name="late"
            label={phrase('messages.late')}
            choices={late.map((value) => ({ value, label: lateWords[value] }))}
          />
        )}
        <Count
          form={form}
          name="useful"
          label={phrase('messages.useful')}
          help={phrase(rule.ahead && side === 'before' ? 'messages.usefulHelp' : 'messages.usefulHelpAfter')}
        />
      </div>
      {some}
      <Tick form={form} name="household" label={phrase('messages.household')} />
      <Tick form={form} name="workingDays" label={phrase('messages.workingDays')} />
    </>
  );
}
