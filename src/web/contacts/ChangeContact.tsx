import { chakra } from '@chakra-ui/react';
import { type ContactRecord, contactsContract, emailKinds, phoneKinds } from '#contract/contacts.ts';
import { textKeys, textsOf } from '#core/contacts/attributes.ts';
import { sayText } from '#core/words/attributes.ts';
import { phrase } from '#web/words/phrase.ts';
import { FormDialog } from '../kit/form/FormDialog.tsx';
import { Choose, DateField, Text, Tick, ZoneField } from '../kit/form/fields.tsx';
import { prepare } from '../kit/form/request.ts';
import { type Form, useForm } from '../kit/form/useForm.ts';
import { say } from '../kit/toast.tsx';
import { type ContactForm, valuesOf } from './contactForm.ts';
import { ReachFields } from './ReachFields.tsx';

/** Changes what is known of a contact. */
export function ChangeContact({ contact, close }: { contact: ContactRecord; close: () => void }) {
  const person = contact.kind === 'person';
  const form = useForm({
    values: valuesOf(contact),
    request: (v) =>
      prepare(contactsContract, 'PATCH /api/contacts/:id', {
        params: { id: contact.id },
        body: {
          given: v.given,
          family: v.family,
          birthDate: v.birthDate || null,
          street: v.street || null,
          postalCode: v.postalCode || null,
          ...textsOf((key) => v.texts[key] || null),
          language: v.language as 'en',
          deceasedOn: v.deceasedOn || null,
          movedOn: v.movedOn || null,
          languages: v.languages
            .toLowerCase()
            .split(/[\s,;]+/u)
            .filter(Boolean),
          fields: Object.fromEntries(
            contact.fields
              .filter((f) => (v.fields[f.id] ?? '') !== (f.value ?? ''))
              .map((f) => [f.id, v.fields[f.id] ?? '']),
          ),
          zone: v.zone || null,
          doNotContact: v.doNotContact,
          emails: v.emails.map((e) => ({ email: e.value, kind: e.kind as 'home', endedOn: e.endedOn })),
          phones: v.phones.map((p) => ({ phone: p.value, kind: p.kind as 'home', endedOn: p.endedOn })),
        },
      }),
    fieldOf: (path) =>
      path.startsWith('languages.')
        ? 'languages'
        : (textKeys as readonly string[]).includes(path)
          ? `texts.${path}`
          : path.replace(/^(emails|phones)\.(\d+)\.(?:email|phone|kind)$/u, '$1.$2.value'),
    after: () => {
      say(phrase('common.saved'));
      close();
    },
  });
  return (
    <FormDialog
      form={form}
      wide
      title={phrase('contacts.changeThisContact')}
      submit={phrase('common.save')}
      close={close}
    >
      {person ? (
        <div className="pair">
          <Text form={form} name="given" label={phrase('common.firstName')} />
          <Text form={form} name="family" label={phrase('common.lastName')} />
        </div>
      ) : (
        <Text form={form} name="family" label={phrase('common.name')} />
      )}
      <ReachFields form={form} name="emails" label={phrase('common.email')} type="email" kinds={emailKinds} />
      <ReachFields
        form={form}
        name="phones"
        label={phrase('common.telephone')}
        type="tel"
        kinds={phoneKinds}
      />
      <div className="pair">
        <Text form={form} name="street" label={phrase('contacts.street')} />
        <Text form={form} name="postalCode" label={phrase('contacts.postalCode')} />
        <DateField form={form} name="movedOn" label={phrase('contacts.movedAwayOn')} />
        {person && <DateField form={form} name="birthDate" label={phrase('common.birthDate')} />}
        <Choose
          form={form}
          name="language"
          label={phrase('contacts.writtenToIn')}
          choices={[
            { value: 'en', label: phrase('common.english') },
            { value: 'fr', label: phrase('common.french') },
          ]}
        />
        {person && (
          <Text
            form={form}
            name="languages"
            label={phrase('contacts.readsToo')}
            help={phrase('contacts.lettersOfTheLanguages')}
          />
        )}
        <ZoneField
          form={form}
          name="zone"
          label={phrase('contacts.timeZone')}
          help={phrase('contacts.timeZoneHelp')}
        />
        {person &&
          textKeys.map((key) => (
            <Text key={key} form={form} name={`texts.${key}`} label={sayText(key, 'label')} />
          ))}
        {person && <DateField form={form} name="deceasedOn" label={phrase('contacts.diedOn')} />}
        {contact.fields.map((f) => (
          <OwnField key={f.id} form={form} field={f} />
        ))}
      </div>
      <Tick form={form} name="doNotContact" label={phrase('contacts.doNotContact')}>
        {phrase('contacts.askedNotToBe')}{' '}
        <chakra.span color="soft">{phrase('contacts.nothingIsSentPlanned')}</chakra.span>
      </Tick>
    </FormDialog>
  );
}

/** A field of one's own, as its kind asks. */
function OwnField({ form, field }: { form: Form<ContactForm>; field: ContactRecord['fields'][number] }) {
  const name = `fields.${field.id}` as const;
  const choices = field.kind === 'yes or no' ? ['yes', 'no'] : field.kind === 'one of' ? field.choices : null;
  if (field.kind === 'date') return <DateField form={form} name={name} label={field.name} />;
  if (!choices) return <Text form={form} name={name} label={field.name} />;
  // A choice that is no longer offered stays where it was made.
  const offered = field.value && !choices.includes(field.value) ? [field.value, ...choices] : choices;
  return (
    <Choose
      form={form}
      name={name}
      label={field.name}
      empty=""
      choices={offered.map((c) => ({ value: c, label: c }))}
    />
  );
}
