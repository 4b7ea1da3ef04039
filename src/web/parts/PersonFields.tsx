import type { FieldPathByValue, FieldValues } from 'react-hook-form';
import { phrase } from '#web/words/phrase.ts';
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
  autoFocus = true,
}: {
  form: Form<V>;
  path?: string;
  emailHelp?: string;
  /** It has one name. */
  organization?: boolean;
  required?: boolean;
  autoFocus?: boolean;
}) {
  const at = (field: keyof PersonForm) => `${path}${field}` as FieldPathByValue<V, string>;
  return (
    <div className="pair">
      {organization ? (
        <Text form={form} name={at('family')} label={phrase('common.name')} required={required} autoFocus />
      ) : (
        <>
          <Text
            form={form}
            name={at('given')}
            label={phrase('common.firstName')}
            required={required}
            autoFocus={autoFocus}
          />
          <Text form={form} name={at('family')} label={phrase('common.lastName')} required={required} />
        </>
      )}
      <Text form={form} name={at('email')} label={phrase('common.email')} type="email" help={emailHelp} />
      <Text form={form} name={at('phone')} label={phrase('common.telephone')} type="tel" />
    </div>
  );
}
