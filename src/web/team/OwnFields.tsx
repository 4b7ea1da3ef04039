import { useState } from 'react';
import { type CustomField, type FieldKind, fieldsContract } from '#contract/fields.ts';
import { linesIn } from '#core/words/text.ts';
import { Button } from '#web/kit/Button.tsx';
import { RegisterSection } from '#web/parts/RegisterSection.tsx';
import { phrase, term } from '#web/words/phrase.ts';
import { FormDialog } from '../kit/form/FormDialog.tsx';
import { Choose, LongText, Text } from '../kit/form/fields.tsx';
import { type Prepared, prepare } from '../kit/form/request.ts';
import { useForm } from '../kit/form/useForm.ts';
import { Loaded } from '../kit/notices.tsx';
import { say } from '../kit/toast.tsx';
import { useAsk } from '../parts/ask.ts';

const kinds: readonly FieldKind[] = ['text', 'number', 'date', 'yes or no', 'one of'];

/** Fields the organization adds to its contacts. */
export function OwnFields() {
  const fields = useAsk('GET /api/fields');
  const [changing, setChanging] = useState<CustomField | 'new' | null>(null);
  return (
    <>
      <Loaded of={fields}>
        {(list) => (
          <RegisterSection
            title={phrase('team.fieldsOfContacts')}
            empty={phrase('team.noneYetWhatYou')}
            add={phrase('team.addAField')}
            act={() => setChanging('new')}
            rows={list.map((f) => (
              <li key={f.id} className="spread">
                <span>
                  <span className="name">{f.name}</span>{' '}
                  <span className="soft">
                    {phrase('team.filledIn', {
                      kind: f.kind === 'one of' ? f.choices.join(', ') : term(f.kind),
                      filled: f.filled,
                    })}
                  </span>
                </span>
                <Button
                  look="link"
                  aria-label={phrase('team.changeTheField', { name: f.name })}
                  onClick={() => setChanging(f)}
                >
                  {phrase('common.change')}
                </Button>
              </li>
            ))}
          />
        )}
      </Loaded>
      {changing && <FieldForm field={changing === 'new' ? null : changing} close={() => setChanging(null)} />}
    </>
  );
}

function FieldForm({ field, close }: { field: CustomField | null; close: () => void }) {
  const [removing, setRemoving] = useState(false);
  const form = useForm({
    values: {
      name: field?.name ?? '',
      kind: (field?.kind ?? 'text') as FieldKind,
      choices: field?.choices.join('\n') ?? '',
    },
    request: ({ name, kind, choices }): Prepared<unknown> => {
      const given = kind === 'one of' ? linesIn(choices) : [];
      return field
        ? prepare(fieldsContract, 'PATCH /api/fields/:id', {
            params: { id: field.id },
            body: { name, ...(kind === 'one of' ? { choices: given } : {}) },
          })
        : prepare(fieldsContract, 'POST /api/fields', { body: { name, kind, choices: given } });
    },
    fieldOf: (path) => (path.startsWith('choices.') ? 'choices' : path),
    after: () => {
      say(field ? phrase('common.saved') : phrase('common.added'));
      close();
    },
  });
  if (field && removing) return <RemoveField field={field} close={close} />;
  return (
    <FormDialog
      form={form}
      close={close}
      title={field ? phrase('team.theField', { name: field.name }) : phrase('team.aNewField')}
      submit={field ? phrase('common.save') : phrase('common.add')}
      beside={
        field && (
          <Button look="stop" onClick={() => setRemoving(true)}>
            {phrase('common.remove')}
          </Button>
        )
      }
    >
      <Text form={form} name="name" label={phrase('common.name')} required autoFocus />
      {!field && (
        <Choose
          form={form}
          name="kind"
          label={phrase('common.kind')}
          choices={kinds.map((k) => ({ value: k, label: term(k) }))}
        />
      )}
      {form.values.kind === 'one of' && (
        <LongText form={form} name="choices" label={phrase('team.choicesOneALine')} required />
      )}
    </FormDialog>
  );
}

/** Removes a field with all that was filled in; its name is typed where something would be lost. */
function RemoveField({ field, close }: { field: CustomField; close: () => void }) {
  const form = useForm({
    values: { name: '' },
    request: (body) => prepare(fieldsContract, 'DELETE /api/fields/:id', { params: { id: field.id }, body }),
    after: () => {
      say(phrase('team.theFieldWasRemoved'));
      close();
    },
  });
  return (
    <FormDialog
      form={form}
      close={close}
      title={phrase('team.theField', { name: field.name })}
      submit={phrase('team.deleteItForGood')}
      look="stop"
      disabled={field.filled > 0 && !form.values.name.trim()}
    >
      {field.filled ? (
        <>
          <p>{phrase('team.contactHasItFilled', { filled: field.filled })}</p>
          <Text form={form} name="name" label={phrase('common.typeTheNameTo', { name: field.name })} />
        </>
      ) : (
        <p>{phrase('team.nobodyHasItFilled')}</p>
      )}
    </FormDialog>
  );
}
