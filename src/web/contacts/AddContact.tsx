import { useNavigate } from 'react-router';
import { contactsContract } from '#contract/contacts.ts';
import { phrase } from '#web/words/phrase.ts';
import { FormDialog } from '../kit/form/FormDialog.tsx';
import { OneOf } from '../kit/form/fields.tsx';
import { prepare } from '../kit/form/request.ts';
import { useForm } from '../kit/form/useForm.ts';
import { say } from '../kit/toast.tsx';
import { nobody, PersonFields } from '../parts/PersonFields.tsx';

/** Adds a person or an organization; whoever is known already is opened instead. */
export function AddContact({ close }: { close: () => void }) {
  const navigate = useNavigate();
  const form = useForm({
    values: { ...nobody, kind: 'person' as 'person' | 'organization' },
    request: (v) =>
      prepare(contactsContract, 'POST /api/contacts', {
        body: { ...v, given: v.kind === 'person' ? v.given : '' },
      }),
    // An organization has one name.
    fieldOf: (path, { kind }) => (path === 'given' && kind === 'organization' ? 'family' : path),
    after: ({ id, existed }, { kind }) => {
      say(
        phrase(
          !existed
            ? 'common.added'
            : kind === 'person'
              ? 'contacts.thisIsKnownAlready'
              : 'contacts.thisOrganizationIsKnown',
        ),
      );
      navigate(`/contacts/${id}`);
    },
  });
  return (
    <FormDialog
      form={form}
      title={phrase('contacts.addSomebody')}
      submit={phrase('common.add')}
      close={close}
    >
      <OneOf
        form={form}
        name="kind"
        label={phrase('common.kind')}
        choices={[
          { value: 'person', label: phrase('contacts.aPerson') },
          { value: 'organization', label: phrase('contacts.anOrganization') },
        ]}
      />
      <PersonFields
        form={form}
        organization={form.values.kind === 'organization'}
        required={form.values.kind === 'organization'}
      />
    </FormDialog>
  );
}
