import { chakra } from '@chakra-ui/react';
import { useState } from 'react';
import type { ContactRecord } from '#contract/contacts.ts';
import type { NewTie, Tie, TieKind } from '#contract/ties.ts';
import { Button } from '#web/kit/Button.tsx';
import { Asking } from '../kit/Asking.tsx';
import { ChoiceField, TextField } from '../kit/Field.tsx';
import { Problems } from '../kit/notices.tsx';
import { say } from '../kit/toast.tsx';
import { useAction, useAsk } from '../parts/ask.ts';

/** Adds a tie of a contact, or changes one. */
export function TieForm({
  contact,
  tie,
  close,
}: {
  contact: ContactRecord;
  tie: Tie | null;
  close: () => void;
}) {
  const [kind, setKind] = useState<TieKind>(tie?.kind ?? 'membership');
  const [form, setForm] = useState({
    level: (tie?.kind === 'membership' && tie.level) || '',
    number: (tie?.kind === 'membership' && tie.number) || '',
    unitId: tie?.kind === 'unit' ? tie.unitId : '',
    name: tie?.kind === 'organization' ? tie.name : '',
    role: tie && tie.kind !== 'membership' ? tie.role : '',
    from: tie?.from ?? '',
    until: tie?.until ?? '',
  });
  const choices = useAsk('GET /api/segments/choices').data;
  const done = () => {
    say('Saved');
    close();
  };
  const add = useAction('POST /api/contacts/:id/ties', done);
  const change = useAction('PATCH /api/ties/:kind/:id', done);
  const wrong = (add.problem ?? change.problem)?.fields ?? {};
  const text = (key: keyof typeof form, label: string, more: { type?: string; list?: string } = {}) => (
    <TextField
      label={label}
      type={more.type ?? 'text'}
      list={more.list}
      value={form[key]}
      set={(v) => setForm({ ...form, [key]: v })}
      error={wrong[key]}
    />
  );
  const submit = () => {
    const span = { from: form.from || null, until: form.until || null };
    const membership = { level: form.level || null, number: form.number || null };
    if (tie)
      change.mutate({
        params: { kind: tie.kind, id: tie.id },
        body: { ...span, ...(kind === 'membership' ? membership : { role: form.role }) },
      });
    else {
      const body: NewTie =
        kind === 'membership'
          ? { kind, ...membership, ...span }
          : kind === 'unit'
            ? { kind, unitId: form.unitId, role: form.role, ...span }
            : { kind, name: form.name, role: form.role, ...span };
      add.mutate({ params: { id: contact.id }, body });
    }
  };
  const lists: [string, readonly string[]][] = [
    ['tie-levels', choices?.levels ?? []],
    ['tie-roles', choices?.unitRoles ?? []],
    ['tie-organizations', choices?.organizations.map((o) => o.name) ?? []],
  ];
  return (
    <Asking
      open
      close={close}
      title={tie ? 'Change what they belong to' : 'What do they belong to?'}
      actions={
        <Button look="main" disabled={add.isPending || change.isPending} onClick={submit}>
          {tie ? 'Save' : 'Add'}
        </Button>
      }
    >
      <Problems of={add.problem ?? change.problem} />
      {lists.map(([id, words]) => (
        <datalist key={id} id={id}>
          {words.map((w) => (
            <option key={w} value={w} />
          ))}
        </datalist>
      ))}
      {!tie && contact.kind === 'person' && (
        <ChoiceField
          label="Kind"
          value={kind}
          set={(v) => setKind(v as TieKind)}
          choices={[
            { value: 'membership', label: 'Membership' },
            { value: 'unit', label: 'Role in a unit' },
            { value: 'organization', label: 'Works for, or stands for, an organization' },
          ]}
        />
      )}
      <div className="pair">
        {kind === 'membership' && (
          <>
            {text('level', 'Level', { list: 'tie-levels' })}
            {text('number', 'Number')}
          </>
        )}
        {kind === 'unit' && (
          <>
            {tie ? (
              <p>{'name' in tie && tie.name}</p>
            ) : (
              <ChoiceField
                label="Unit"
                value={form.unitId}
                set={(unitId) => setForm({ ...form, unitId })}
                empty="choose a unit"
                choices={(choices?.units ?? []).map((u) => ({ value: u.id, label: u.name }))}
                error={wrong.unitId}
              />
            )}
            {text('role', 'What they do there', { list: 'tie-roles' })}
          </>
        )}
        {kind === 'organization' && (
          <>
            {tie ? (
              <p>{'name' in tie && tie.name}</p>
            ) : (
              text('name', 'Organization', { list: 'tie-organizations' })
            )}
            {text('role', 'What they do there')}
          </>
        )}
        {text('from', 'From', { type: 'date' })}
        {text('until', 'Last day', { type: 'date' })}
      </div>
      <chakra.p className="soft" fontSize="13.5px">
        {form.until ? 'On the last day it still holds.' : 'Without a last day it goes on.'}
      </chakra.p>
    </Asking>
  );
}
