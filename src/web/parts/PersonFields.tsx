import type { FieldPathByValue, FieldValues } from 'react-hook-form';
import { Text } from '../kit/form/fields.tsx';
import type { Form } from '../kit/form/useForm.ts';

export interface PersonForm {
  given: string;
  family: string;
  email: string;
  phone: string;
}

export const nobody: PersonForm = { given: '', family: '', email: '', phone: '' };

/** Name, email and telephone of one person; `path` is where they stand in the form. */
export function PersonFields<V extends FieldValues>({
  form,
  path = '',
  emailHelp,
  organization = false,
  required = true,
}: {
  form: Form<V>;
  path?: string;
  emailHelp?: string;
  /** It has one name. */
  organization?: boolean;
  required?: boolean;
}) {
  const at = (field: keyof PersonForm) => `${path}${field}` as FieldPathByValue<V, string>;
  return (
    <div className="pair">
      {organization ? (
        <Text form={form} name={at('family')} label="Name" required={required} autoFocus />
      ) : (
        <>
          <Text form={form} name={at('given')} label="First name" required={required} autoFocus />
          <Text form={form} name={at('family')} label="Last name" required={required} />
        </>
      )}
      <Text form={form} name={at('email')} label="Email" type="email" help={emailHelp} />
      <Text form={form} name={at('phone')} label="Telephone" type="tel" />
    </div>
  );
}
