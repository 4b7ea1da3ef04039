import { chakra } from '@chakra-ui/react';
import { useState } from 'react';
import { outcomesContract } from '#contract/outcomes.ts';
import { readEntries } from '#core/outcomes/entering.ts';
import { wallOf } from '#core/time/wallTime.ts';
import { readTexts } from '#core/words/texts.ts';
import { call } from '#web/api.ts';
import { Button } from '#web/kit/Button.tsx';
import { Form } from '#web/kit/form/Form.tsx';
import { SuggestedText, Text } from '#web/kit/form/fields.tsx';
import { prepare } from '#web/kit/form/request.ts';
import { useForm } from '#web/kit/form/useForm.ts';
import { say } from '#web/kit/toast.tsx';
import { EvidenceField } from '#web/outcomes/EvidenceField.tsx';
import { entriesOf, fieldOfEntry } from '#web/outcomes/entries.ts';
import { useSaying } from '#web/parts/saying.ts';
import { phrase } from '#web/words/phrase.ts';
import type { Shown } from './tallies.ts';

/** The team enters what was counted: several measures at once, at one time and place. */
export function EnterTallies({ of, eventId }: { of: Shown; eventId: string }) {
  const [open, setOpen] = useState(false);
  return (
    <chakra.section marginTop="18px">
      {open ? (
        <>
          <h3>{phrase('outcomes.enter')}</h3>
          <Enter of={of} eventId={eventId} />
        </>
      ) : (
        <Button look={of.tallies.length ? 'normal' : 'main'} onClick={() => setOpen(true)}>
          {phrase('outcomes.enter')}
        </Button>
      )}
    </chakra.section>
  );
}

function Enter({ of, eventId }: { of: Shown; eventId: string }) {
  const { now } = useSaying();
  // What was counted at an event that is over was counted by its end.
  const { from, until } = of.counting;
  const last = until && until < now ? until : now;
  const at = from && last < from ? from : last;
  const form = useForm({
    values: {
      said: {} as Record<string, string>,
      countedLocal: wallOf(at, of.zone),
      place: '',
      note: '',
      pictureId: null as string | null,
    },
    request: ({ said, ...rest }) =>
      prepare(outcomesContract, 'POST /api/events/:id/tallies', {
        params: { id: eventId },
        body: { ...rest, entries: entriesOf(of.measures, said) },
      }),
    check: ({ said }) => readEntries(of.measures, entriesOf(of.measures, said)).wrong,
    fieldOf: (path, { said }) => fieldOfEntry(of.measures, said, path),
    after: ({ ids }) => say(phrase('outcomes.entered', { n: ids.length })),
    again: true,
  });
  return (
    <Form form={form} submit={phrase('outcomes.enterDo')}>
      <div className="pair">
        {of.measures.map((m) => {
          const label = `${readTexts(m.name, 'en')}${m.unit.en ? `, ${m.unit.en}` : ''}`;
          return m.kind === 'distinct' ? (
            <SuggestedText
              key={m.id}
              form={form}
              name={`said.${m.id}`}
              label={label}
              suggestions={[...new Set(of.tallies.filter((t) => t.measureId === m.id).map((t) => t.thing))]}
            />
          ) : (
            <Text key={m.id} form={form} name={`said.${m.id}`} label={label} inputMode="decimal" />
          );
        })}
      </div>
      <div className="pair">
        <Text form={form} name="countedLocal" label={phrase('outcomes.countedAt')} type="datetime-local" />
        <Text form={form} name="place" label={phrase('outcomes.place')} />
      </div>
      <Text form={form} name="note" label={phrase('outcomes.note')} />
      <EvidenceField
        label={phrase('outcomes.picture')}
        value={form.values.pictureId}
        set={(pictureId) => form.set({ pictureId })}
        keep={(content) =>
          call('POST /api/events/:id/tallies/pictures', { params: { id: eventId }, body: { content } })
        }
        words={{
          choose: phrase('outcomes.choosePicture'),
          kept: phrase('outcomes.pictureKept'),
          remove: phrase('common.remove'),
          failed: phrase('outcomes.pictureUnread'),
        }}
      />
    </Form>
  );
}
