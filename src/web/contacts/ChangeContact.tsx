import { useState } from 'react';
import type { ContactRecord } from '#contract/contacts.ts';
import { attributes, type TextKey, textKeys, textsOf } from '#core/contacts/attributes.ts';
import { Button } from '#web/kit/Button.tsx';
import { Asking } from '../kit/Asking.tsx';
import { ChoiceField, TextField } from '../kit/Field.tsx';
import { Problems } from '../kit/notices.tsx';
import { say } from '../kit/toast.tsx';
import { useAction } from '../parts/ask.ts';
import { ReachFields, type ReachLine } from './ReachFields.tsx';

/** Changes what is known of a contact. */
export function ChangeContact({ contact, close }: { contact: ContactRecord; close: () => void }) {
  const [form, setForm] = useState({
    given: contact.given,
    family: contact.family,
    birthDate: contact.birthDate ?? '',
    street: contact.street ?? '',
    postalCode: contact.postalCode ?? '',
    ...textsOf((key) => contact[key] ?? ''),
    language: contact.language,
    deceasedOn: contact.deceasedOn ?? '',
    movedOn: contact.movedOn ?? '',
    languages: contact.languages.join(' '),
    fields: Object.fromEntries(contact.fields.map((f) => [f.id, f.value ?? ''])),
    doNotContact: contact.doNotContact,
    emails: contact.emails.map((e): ReachLine => ({ value: e.email, kind: e.kind, endedOn: e.endedOn })),
    phones: contact.phones.map((p): ReachLine => ({ value: p.phone, kind: p.kind, endedOn: p.endedOn })),
  });
  const person = contact.kind === 'person';
  const save = useAction('PATCH /api/contacts/:id', () => {
    say('Saved');
    close();
  });
  const wrong = Object.fromEntries(
    Object.entries(save.problem?.fields ?? {}).map(([path, message]) => [
      path.startsWith('languages.') ? 'languages' : path,
      message,
    ]),
  );
  const text = (
    key:
      | 'given'
      | 'family'
      | 'street'
      | 'postalCode'
      | TextKey
      | 'birthDate'
      | 'deceasedOn'
      | 'movedOn'
      | 'languages',
    label: string,
    type = 'text',
    help?: string,
  ) => (
    <TextField
      key={key}
      label={label}
      type={type}
      help={help}
      value={form[key]}
      set={(v) => setForm({ ...form, [key]: v })}
      error={wrong[key]}
    />
  );
  const submit = () =>
    save.mutate({
      params: { id: contact.id },
      body: {
        given: form.given,
        family: form.family,
        birthDate: form.birthDate || null,
        street: form.street || null,
        postalCode: form.postalCode || null,
        ...textsOf((key) => form[key] || null),
        language: form.language as 'en',
        deceasedOn: form.deceasedOn || null,
        movedOn: form.movedOn || null,
        languages: form.languages
          .toLowerCase()
          .split(/[\s,;]+/u)
          .filter(Boolean),
        fields: Object.fromEntries(
          contact.fields
            .filter((f) => (form.fields[f.id] ?? '') !== (f.value ?? ''))
            .map((f) => [f.id, form.fields[f.id] ?? '']),
        ),
        doNotContact: form.doNotContact,
        emails: form.emails.map((e) => ({ email: e.value, kind: e.kind as 'home', endedOn: e.endedOn })),
        phones: form.phones.map((p) => ({ phone: p.value, kind: p.kind as 'home', endedOn: p.endedOn })),
      },
    });
  return (
    <Asking
      open
      wide
      close={close}
      title="Change this contact"
      actions={
        <Button look="main" disabled={save.isPending} onClick={submit}>
          Save
        </Button>
      }
    >
      <Problems of={save.problem} />
      {person ? (
        <div className="pair">
          {text('given', 'First name')}
          {text('family', 'Last name')}
        </div>
      ) : (
        text('family', 'Name')
      )}
      <ReachFields
        label="Email"
        type="email"
        kinds={['', 'home', 'work', 'other']}
        lines={form.emails}
        set={(emails) => setForm({ ...form, emails })}
        wrong={(at) => wrong[`emails.${at}.email`] ?? wrong[`emails.${at}.endedOn`]}
      />
      <ReachFields
        label="Telephone"
        type="tel"
        kinds={['', 'mobile', 'home', 'work', 'other']}
        lines={form.phones}
        set={(phones) => setForm({ ...form, phones })}
        wrong={(at) => wrong[`phones.${at}.phone`] ?? wrong[`phones.${at}.endedOn`]}
      />
      <div className="pair">
        {text('street', 'Street')}
        {text('postalCode', 'Postal code')}
        {text('movedOn', 'Moved away on', 'date')}
        {person && text('birthDate', 'Birth date', 'date')}
        <ChoiceField
          label="Written to in"
          value={form.language}
          set={(language) => setForm({ ...form, language })}
          choices={[
            { value: 'en', label: 'English' },
            { value: 'fr', label: 'French' },
          ]}
        />
        {person && text('languages', 'Reads too', 'text', 'Letters of the languages: de, mi, uk')}
        {person && textKeys.map((key) => text(key, attributes[key].text.label))}
        {person && text('deceasedOn', 'Died on', 'date')}
        {contact.fields.map((f) => (
          <OwnField
            key={f.id}
            field={f}
            value={form.fields[f.id] ?? ''}
            set={(v) => setForm({ ...form, fields: { ...form.fields, [f.id]: v } })}
            error={wrong[`fields.${f.id}`]}
          />
        ))}
      </div>
      <label className="tick">
        <input
          type="checkbox"
          checked={form.doNotContact}
          onChange={(e) => setForm({ ...form, doNotContact: e.target.checked })}
        />
        Asked not to be contacted. Nothing is sent, planned reminders are held back.
      </label>
    </Asking>
  );
}

/** A field of one's own, as its kind asks. */
function OwnField({
  field,
  value,
  set,
  error,
}: {
  field: ContactRecord['fields'][number];
  value: string;
  set: (value: string) => void;
  error: string | undefined;
}) {
  const choices = field.kind === 'yes or no' ? ['yes', 'no'] : field.kind === 'one of' ? field.choices : null;
  if (!choices)
    return (
      <TextField
        label={field.name}
        type={field.kind === 'date' ? 'date' : 'text'}
        value={value}
        set={set}
        error={error}
      />
    );
  // A choice that is no longer offered stays where it was made.
  const offered = value && !choices.includes(value) ? [value, ...choices] : choices;
  return (
    <ChoiceField
      label={field.name}
      value={value}
      set={set}
      empty=""
      choices={offered.map((c) => ({ value: c, label: c }))}
      error={error}
    />
  );
}
