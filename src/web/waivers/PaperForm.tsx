import { chakra, FileUpload } from '@chakra-ui/react';
import { useState } from 'react';
import { waiversContract } from '#contract/waivers.ts';
import { shownIn } from '#core/waivers/form.ts';
import type { Answer } from '#web/api.ts';
import { base64Of } from '#web/base64.ts';
import { Button } from '#web/kit/Button.tsx';
import { OneOf } from '#web/kit/Choosing.tsx';
import { Group } from '#web/kit/Field.tsx';
import { FormDialog } from '#web/kit/form/FormDialog.tsx';
import { Choose, DateField, Text, Tick } from '#web/kit/form/fields.tsx';
import { prepare } from '#web/kit/form/request.ts';
import { useForm } from '#web/kit/form/useForm.ts';
import { say } from '#web/kit/toast.tsx';
import { PersonSearch } from '#web/parts/PersonSearch.tsx';
import { useSaying } from '#web/parts/saying.ts';
import { phrase, term } from '#web/words/phrase.ts';
import type { Text as WaiverText } from './TextEditor.tsx';

/** Enters what somebody signed on paper, with its scan. */
export function PaperForm({ waiver, close }: { waiver: Answer<'GET /api/waivers/:id'>; close: () => void }) {
  const { today } = useSaying();
  const [person, setPerson] = useState<{ id: string; name: string } | null>(null);
  const form = useForm({
    values: {
      contactId: '',
      eventId: '',
      guardian: false,
      typedName: '',
      signedOn: today,
      chosen: {} as Record<string, boolean>,
      scan: { name: '', content: '' },
    },
    request: ({ guardian, eventId, ...v }) =>
      prepare(waiversContract, 'POST /api/waivers/:id/paper', {
        params: { id: waiver.id },
        body: { ...v, eventId: eventId || null, relation: guardian ? 'guardian' : 'self' },
      }),
    fieldOf: (path) => (path.startsWith('scan') || path === 'content' ? 'scan' : path),
    after: () => {
      say(phrase('waivers.paperEntered'));
      close();
    },
  });
  const { scan, chosen } = form.values;
  const choices = shownIn(waiver.text as WaiverText, 'en').clauses;
  return (
    <FormDialog
      form={form}
      wide
      title={phrase('waivers.paper')}
      submit={phrase('waivers.enter')}
      close={close}
    >
      <chakra.p className="soft" marginBottom="14px">
        {phrase('waivers.paperSays')}
      </chakra.p>
      <PersonSearch
        id={form.idOf('contactId')}
        label={phrase('waivers.whoFor')}
        chosen={person?.name ?? ''}
        pick={(picked) => {
          setPerson(picked);
          form.set({ contactId: picked?.id ?? '' });
        }}
        error={form.wrongAt('contactId')}
        required
      />
      {waiver.events.length > 0 && (
        <Choose
          form={form}
          name="eventId"
          label={phrase('waivers.forEventOf')}
          required={waiver.holds.for === 'event'}
          empty={waiver.holds.for === 'event' ? phrase('waivers.chooseWaiver') : ''}
          choices={waiver.events.map((e) => ({ value: e.id, label: e.title }))}
        />
      )}
      <div className="pair">
        <Text form={form} name="typedName" label={phrase('waivers.typedName')} required />
        <DateField form={form} name="signedOn" label={phrase('waivers.signedOn')} max={today} required />
      </div>
      <Tick form={form} name="guardian" label={phrase('waivers.byGuardian')} />
      {choices.map(
        (clause, at) =>
          clause.kind === 'choice' && (
            <OneOf
              key={clause.id}
              id={form.idOf(`clauses.${at}`)}
              label={clause.heading || clause.text}
              error={form.wrongAt(`clauses.${at}`)}
              value={chosen[clause.id] === undefined ? null : String(chosen[clause.id])}
              set={(v) => form.set({ chosen: { ...chosen, [clause.id]: v === 'true' } })}
              choices={[
                { value: 'true', label: term('yes') },
                { value: 'false', label: term('no') },
              ]}
            />
          ),
      )}
      <Group label={phrase('waivers.scanFile')} error={form.wrongAt('scan')}>
        <FileUpload.Root
          accept={['application/pdf', 'image/jpeg', 'image/png']}
          maxFiles={1}
          onFileAccept={async ({ files: [file] }) => {
            if (file) form.set({ scan: { name: file.name, content: await base64Of(file) } });
          }}
        >
          <FileUpload.HiddenInput aria-label={phrase('waivers.scanFile')} />
          <FileUpload.Trigger asChild>
            <Button>{phrase('waivers.chooseScan')}</Button>
          </FileUpload.Trigger>
          {scan.name && <span className="soft">{scan.name}</span>}
        </FileUpload.Root>
      </Group>
    </FormDialog>
  );
}
