import { chakra } from '@chakra-ui/react';
import type { CrewShift } from '#contract/crew.ts';
import { servingContract } from '#contract/serving.ts';
import { sayTime } from '#core/time/say.ts';
import { wallOf } from '#core/time/wallTime.ts';
import { FormDialog } from '#web/kit/form/FormDialog.tsx';
import { Count, Text } from '#web/kit/form/fields.tsx';
import { prepare } from '#web/kit/form/request.ts';
import { useForm } from '#web/kit/form/useForm.ts';
import { say } from '#web/kit/toast.tsx';
import { phrase, term } from '#web/words/phrase.ts';

type Assignment = CrewShift['assignments'][number];

/** What became of somebody on a shift: when they came and left, how long they served, and how that was put right. */
export function Served({ of: a, zone }: { of: Assignment; zone: string }) {
  const time = (instant: string) => sayTime(wallOf(instant, zone));
  const said = [
    a.state !== 'agreed' && term(a.state),
    a.hours !== null && phrase('event.h', { hours: a.hours }),
    a.inAt &&
      (a.outAt
        ? phrase('door.crewFromTo', { from: time(a.inAt), until: time(a.outAt) })
        : phrase('door.crewSince', { time: time(a.inAt) })),
  ].filter(Boolean);
  return (
    <>
      {said.length > 0 && <small className="soft num"> {said.join(', ')}</small>}
      {a.corrections.map((c) => (
        <chakra.small key={c.at} className="soft num" display="block">
          {phrase('crew.corrected', { before: c.before, after: c.after, by: c.by, why: c.why })}
        </chakra.small>
      ))}
    </>
  );
}

/** Puts the hours of somebody right, with why. */
export function CorrectHours({ of: a, close }: { of: Assignment; close: () => void }) {
  const form = useForm({
    values: { hours: String(a.hours ?? ''), why: '' },
    request: (v) =>
      prepare(servingContract, 'POST /api/assignments/:id/hours', {
        params: { id: a.id },
        body: { hours: v.hours.trim() ? Number(v.hours.replace(',', '.')) : Number.NaN, why: v.why },
      }),
    after: () => {
      say(phrase('common.saved'));
      close();
    },
  });
  return (
    <FormDialog
      form={form}
      close={close}
      title={phrase('crew.correctTitle', { name: a.name })}
      submit={phrase('common.save')}
    >
      <Count form={form} name="hours" label={phrase('crew.hoursServed')} required />
      <Text
        form={form}
        name="why"
        label={phrase('crew.correctWhy')}
        help={phrase('crew.correctHelp')}
        required
      />
    </FormDialog>
  );
}
