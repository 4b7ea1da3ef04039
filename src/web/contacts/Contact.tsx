import { useState } from 'react';
import { Link, useParams } from 'react-router';
import type { ContactRecord } from '#contract/contacts.ts';
import { Asking } from '../parts/Asking.tsx';
import { useAsk, useDo, useMayChangeContacts, useMe } from '../parts/ask.ts';
import { ChoiceField, TextField } from '../parts/Field.tsx';
import { Asked, Problems } from '../parts/notices.tsx';
import { say } from '../parts/toast.tsx';
import { Care } from './Care.tsx';
import { PersonRecord } from './PersonRecord.tsx';
import { ReachFields, type ReachLine } from './ReachFields.tsx';

export default function Contact() {
  const { id = '' } = useParams();
  const contact = useAsk('GET /api/contacts/:id', { params: { id } });
  const [editing, setEditing] = useState(false);
  const may = useMayChangeContacts();
  const coordinator = useMe().data?.staff.roles.includes('coordinator') ?? false;
  return (
    <div className="page" style={{ maxWidth: 760 }}>
      <div className="spread">
        <Link to="/contacts">Contacts</Link>
        {may && (
          <button type="button" className="btn" onClick={() => setEditing(true)}>
            Change
          </button>
        )}
      </div>
      <PersonRecord id={id} />
      <Asked of={contact}>
        {(c) => (
          <>
            {coordinator && <Care contact={c} />}
            {editing && <Change contact={c} close={() => setEditing(false)} />}
          </>
        )}
      </Asked>
    </div>
  );
}

function Change({ contact, close }: { contact: ContactRecord; close: () => void }) {
  const [form, setForm] = useState({
    given: contact.given,
    family: contact.family,
    birthDate: contact.birthDate ?? '',
    street: contact.street ?? '',
    postalCode: contact.postalCode ?? '',
    dietary: contact.dietary ?? '',
    language: contact.language,
    deceasedOn: contact.deceasedOn ?? '',
    doNotContact: contact.doNotContact,
    emails: contact.emails.map((e): ReachLine => ({ value: e.email, kind: e.kind })),
    phones: contact.phones.map((p): ReachLine => ({ value: p.phone, kind: p.kind })),
  });
  const save = useDo('PATCH /api/contacts/:id', () => {
    say('Saved');
    close();
  });
  const wrong = save.problem?.fields ?? {};
  const text = (
    key: 'given' | 'family' | 'street' | 'postalCode' | 'dietary' | 'birthDate' | 'deceasedOn',
    label: string,
    type = 'text',
  ) => (
    <TextField
      label={label}
      type={type}
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
        dietary: form.dietary || null,
        language: form.language as 'en',
        deceasedOn: form.deceasedOn || null,
        doNotContact: form.doNotContact,
        emails: form.emails.map((e) => ({ email: e.value, kind: e.kind as 'home' })),
        phones: form.phones.map((p) => ({ phone: p.value, kind: p.kind as 'home' })),
      },
    });
  return (
    <Asking
      open
      wide
      close={close}
      title="Change this contact"
      actions={
        <button type="button" className="btn primary" disabled={save.isPending} onClick={submit}>
          Save
        </button>
      }
    >
      <Problems of={save.problem} />
      <div className="pair">
        {text('given', 'First name')}
        {text('family', 'Last name')}
      </div>
      <ReachFields
        label="Email"
        type="email"
        kinds={['', 'home', 'work', 'other']}
        lines={form.emails}
        set={(emails) => setForm({ ...form, emails })}
        wrong={(at) => wrong[`emails.${at}.email`]}
      />
      <ReachFields
        label="Telephone"
        type="tel"
        kinds={['', 'mobile', 'home', 'work', 'other']}
        lines={form.phones}
        set={(phones) => setForm({ ...form, phones })}
        wrong={(at) => wrong[`phones.${at}.phone`]}
      />
      <div className="pair">
        {text('street', 'Street')}
        {text('postalCode', 'Postal code')}
        {text('birthDate', 'Birth date', 'date')}
        <ChoiceField
          label="Language"
          value={form.language}
          set={(language) => setForm({ ...form, language })}
          choices={[
            { value: 'en', label: 'English' },
            { value: 'fr', label: 'French' },
          ]}
        />
        {text('dietary', 'Allergies and needs')}
        {text('deceasedOn', 'Died on', 'date')}
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
