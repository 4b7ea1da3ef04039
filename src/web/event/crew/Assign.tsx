import { useState } from 'react';
import { type CrewShift, crewContract } from '#contract/crew.ts';
import { sayFromTo } from '#core/time/fromTo.ts';
import type { Answer } from '#web/api.ts';
import { Button } from '#web/kit/Button.tsx';
import { FormDialog } from '#web/kit/form/FormDialog.tsx';
import { Text } from '#web/kit/form/fields.tsx';
import { prepare } from '#web/kit/form/request.ts';
import { useForm } from '#web/kit/form/useForm.ts';
import { Note } from '#web/kit/Note.tsx';
import { say } from '#web/kit/toast.tsx';
import { PersonSearch } from '#web/parts/PersonSearch.tsx';
import { phrase } from '#web/words/phrase.ts';
import { Candidates } from './Candidates.tsx';

type Clash = Answer<'POST /api/shifts/:id/assignments'>['clashes'][number];

/** Puts somebody on a shift by name. A clash is shown and needs a reason to be overridden. */
export function Assign({ shift, close }: { shift: CrewShift; close: () => void }) {
  const [clashes, setClashes] = useState<readonly Clash[]>([]);
  const form = useForm({
    values: { contactId: '', name: '', overrideReason: '' },
    request: ({ contactId, overrideReason }) =>
      prepare(crewContract, 'POST /api/shifts/:id/assignments', {
        params: { id: shift.id },
        body: { contactId, overrideReason },
      }),
    after: (answer, { name }) => {
      if (!answer.assigned) {
        setClashes(answer.clashes);
        return;
      }
      say(phrase('event.isOnTheShift', { name }));
      close();
    },
  });
  const { contactId, name, overrideReason } = form.values;
  const speaks = contactId && clashes.length > 0;
  const never = clashes.some((c) => c.absolute);
  return (
    <FormDialog
      form={form}
      close={close}
      wide
      title={`${shift.role}, ${sayFromTo(shift)}`}
      submit={
        speaks
          ? phrase('event.assignAnyway', { name })
          : name
            ? phrase('event.putOn', { name })
            : phrase('event.assign')
      }
      look={speaks ? 'stop' : 'main'}
      disabled={!contactId || Boolean(speaks && (never || overrideReason.trim().length < 3))}
    >
      {speaks ? (
        <>
          <Note tone="stop" role="alert">
            <p>
              <b>{name}:</b> {clashes.map((c) => c.text).join('; ')}
            </p>
            {never && <p>{phrase('crew.neverOverridden')}</p>}
          </Note>
          {never ? (
            <Button
              onClick={() => {
                setClashes([]);
                form.set({ contactId: '', name: '', overrideReason: '' });
              }}
            >
              {phrase('crew.somebodyElse')}
            </Button>
          ) : (
            <Text
              form={form}
              name="overrideReason"
              label={phrase('event.reasonForOverriding')}
              help={phrase('event.theReasonIsKept')}
              required
            />
          )}
        </>
      ) : (
        <>
          <PersonSearch
            label={phrase('common.who')}
            placeholder={phrase('common.partOfAName')}
            chosen={name}
            autoFocus
            pick={(person) => form.set({ contactId: person?.id ?? '', name: person?.name ?? '' })}
          />
          <Candidates
            shiftId={shift.id}
            role={shift.role}
            chosen={contactId}
            pick={(one) => form.set({ contactId: one.contactId, name: one.name })}
          />
        </>
      )}
    </FormDialog>
  );
}
