import { type CrewShift, crewContract } from '#contract/crew.ts';
import { cut, mostParts } from '#core/crew/cutting.ts';
import { sayTime } from '#core/time/say.ts';
import { wallOf } from '#core/time/wallTime.ts';
import { FormDialog } from '#web/kit/form/FormDialog.tsx';
import { Choose, Count, Tick } from '#web/kit/form/fields.tsx';
import { prepare } from '#web/kit/form/request.ts';
import { useForm } from '#web/kit/form/useForm.ts';
import { say } from '#web/kit/toast.tsx';
import { phrase } from '#web/words/phrase.ts';

/** Cuts a long shift into several that follow each other. What comes of it is seen while it is typed. */
export function CutShift({ shift, zone, close }: { shift: CrewShift; zone: string; close: () => void }) {
  const most = mostParts(shift.startsAt, shift.endsAt);
  const people = shift.assignments.length;
  const form = useForm({
    values: { parts: '2', handover: '0', tell: true },
    request: (v) =>
      prepare(crewContract, 'POST /api/shifts/:id/cut', {
        params: { id: shift.id },
        body: {
          version: shift.version,
          parts: Number(v.parts) || 0,
          handover: Number(v.handover),
          tell: v.tell,
        },
      }),
    after: ({ ids }) => {
      say(phrase('crew.isCut', { n: ids.length }));
      close();
    },
  });
  const parts = Number(form.values.parts);
  const pieces =
    Number.isInteger(parts) && parts >= 2 && parts <= most
      ? cut(shift, parts, Number(form.values.handover)).map(
          (p) => `${sayTime(wallOf(p.startsAt, zone))}–${sayTime(wallOf(p.endsAt, zone))}`,
        )
      : null;
  return (
    <FormDialog form={form} close={close} title={phrase('crew.cutShift')} submit={phrase('crew.cutNow')}>
      <div className="pair">
        <Count
          form={form}
          name="parts"
          label={phrase('crew.parts')}
          required
          consequence={pieces ? pieces.join(' · ') : phrase('crew.partsMost', { n: most })}
        />
        <Choose
          form={form}
          name="handover"
          label={phrase('crew.handover')}
          help={phrase('crew.handoverHelp')}
          choices={['0', '5', '10', '15', '30'].map((value) => ({
            value,
            label: phrase('crew.minutes', { n: Number(value) }),
          }))}
        />
      </div>
      {people > 0 && (
        <>
          <p className="soft">{phrase('crew.stayOnFirst', { n: people })}</p>
          <Tick form={form} name="tell" label={phrase('crew.tellThem', { n: people })} />
        </>
      )}
    </FormDialog>
  );
}
