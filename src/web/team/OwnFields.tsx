import { chakra } from '@chakra-ui/react';
import { useState } from 'react';
import type { CustomField, FieldKind } from '#contract/fields.ts';
import { Button } from '#web/kit/Button.tsx';
import { Asking } from '../kit/Asking.tsx';
import { ChoiceField, Field, TextField } from '../kit/Field.tsx';
import { Loaded, Problems } from '../kit/notices.tsx';
import { say } from '../kit/toast.tsx';
import { useAction, useAsk } from '../parts/ask.ts';

const kinds: readonly FieldKind[] = ['text', 'number', 'date', 'yes or no', 'one of'];
const linesOf = (text: string): string[] =>
  text
    .split('\n')
    .map((c) => c.trim())
    .filter(Boolean);

/** Fields the organization adds to its contacts. */
export function OwnFields() {
  const fields = useAsk('GET /api/fields');
  const [changing, setChanging] = useState<CustomField | 'new' | null>(null);
  return (
    <chakra.section className="fields" marginTop="22px">
      <h2>Fields of contacts</h2>
      <Loaded of={fields}>
        {(list) => (
          <>
            {list.length === 0 && (
              <p className="soft">
                None yet. What you want to know of people beside the usual: a boot size, a certificate, a key.
              </p>
            )}
            <ul className="lines">
              {list.map((f) => (
                <li key={f.id} className="spread">
                  <span>
                    <span className="name">{f.name}</span>{' '}
                    <span className="soft">
                      {f.kind === 'one of' ? f.choices.join(', ') : f.kind}, {f.filled} filled in
                    </span>
                  </span>
                  <button
                    type="button"
                    className="link"
                    aria-label={`Change the field ${f.name}`}
                    onClick={() => setChanging(f)}
                  >
                    Change
                  </button>
                </li>
              ))}
            </ul>
          </>
        )}
      </Loaded>
      <button type="button" className="link" onClick={() => setChanging('new')}>
        Add a field
      </button>
      {changing && <FieldForm field={changing === 'new' ? null : changing} close={() => setChanging(null)} />}
    </chakra.section>
  );
}

function FieldForm({ field, close }: { field: CustomField | null; close: () => void }) {
  const [name, setName] = useState(field?.name ?? '');
  const [kind, setKind] = useState<FieldKind>(field?.kind ?? 'text');
  const [choices, setChoices] = useState(field?.choices.join('\n') ?? '');
  const [typed, setTyped] = useState<string | null>(null);
  const done = (words: string) => () => {
    say(words);
    close();
  };
  const add = useAction('POST /api/fields', done('Added'));
  const change = useAction('PATCH /api/fields/:id', done('Saved'));
  const remove = useAction('DELETE /api/fields/:id', done('The field was taken away.'));
  const problem = add.problem ?? change.problem ?? remove.problem;
  const wrong = problem?.fields ?? {};
  const given = kind === 'one of' ? linesOf(choices) : [];
  return (
    <Asking
      open
      close={close}
      title={field ? `The field “${field.name}”` : 'A new field'}
      actions={
        typed === null || !field ? (
          <>
            <Button
              look="main"
              disabled={add.isPending || change.isPending}
              onClick={() =>
                field
                  ? change.mutate({
                      params: { id: field.id },
                      body: { name, ...(kind === 'one of' ? { choices: given } : {}) },
                    })
                  : add.mutate({ body: { name, kind, choices: given } })
              }
            >
              {field ? 'Save' : 'Add'}
            </Button>
            {field && (
              <Button look="stop" onClick={() => setTyped('')}>
                Remove
              </Button>
            )}
          </>
        ) : (
          <Button
            look="stop"
            disabled={remove.isPending}
            onClick={() => remove.mutate({ params: { id: field.id }, body: { name: typed } })}
          >
            Delete it for good
          </Button>
        )
      }
    >
      <Problems of={problem} />
      {typed === null || !field ? (
        <>
          <TextField label="Name" value={name} set={setName} error={wrong.name} autoFocus />
          {!field && (
            <ChoiceField
              label="Kind"
              value={kind}
              set={(v) => setKind(v as FieldKind)}
              choices={kinds.map((k) => ({ value: k, label: k }))}
            />
          )}
          {kind === 'one of' && (
            <Field label="Choices, one a line" error={wrong.choices}>
              {(props) => (
                <textarea {...props} rows={4} value={choices} onChange={(e) => setChoices(e.target.value)} />
              )}
            </Field>
          )}
        </>
      ) : field.filled ? (
        <>
          <p>
            {field.filled} {field.filled === 1 ? 'contact has' : 'contacts have'} it filled in; all of it goes
            with the field. This cannot be undone.
          </p>
          <TextField
            label={`Type the name to go on: ${field.name}`}
            value={typed}
            set={setTyped}
            error={wrong.name}
          />
        </>
      ) : (
        <p>Nobody has it filled in. Delete it?</p>
      )}
    </Asking>
  );
}
