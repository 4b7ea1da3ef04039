import { useNavigate } from 'react-router';
import { contactsContract } from '#contract/contacts.ts';
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
      say(existed ? `This ${kind} is known already` : 'Added');
      navigate(`/contacts/${id}`);
    },
  });
  return (
    <FormDialog form={form} title="Add somebody" submit="Add" close={close}>
      <OneOf
        form={form}
        name="kind"
        label="Kind"
        choices={[
          { value: 'person', label: 'A person' },
          { value: 'organization', label: 'An organization' },
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
