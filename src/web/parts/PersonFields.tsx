import { TextField } from '../kit/Field.tsx';

export interface PersonForm {
  given: string;
  family: string;
  email: string;
  phone: string;
}

export const nobody: PersonForm = { given: '', family: '', email: '', phone: '' };

/** Name, email and telephone of one person, with what is wrong with each; `path` is where they stand in the request. */
export function PersonFields({
  value,
  set,
  wrong,
  path = '',
  emailHelp,
  organization = false,
}: {
  value: PersonForm;
  set: (part: Partial<PersonForm>) => void;
  wrong: Record<string, string>;
  path?: string;
  emailHelp?: string;
  /** It has one name. */
  organization?: boolean;
}) {
  const at = (field: keyof PersonForm) => ({ value: value[field], error: wrong[`${path}${field}`] });
  return (
    <div className="pair">
      {organization ? (
        <TextField
          label="Name"
          value={value.family}
          error={wrong[`${path}given`] ?? wrong[`${path}family`]}
          set={(family) => set({ family })}
          autoFocus
        />
      ) : (
        <>
          <TextField label="First name" {...at('given')} set={(given) => set({ given })} autoFocus />
          <TextField label="Last name" {...at('family')} set={(family) => set({ family })} />
        </>
      )}
      <TextField
        label="Email"
        type="email"
        {...at('email')}
        set={(email) => set({ email })}
        help={emailHelp}
      />
      <TextField label="Telephone" type="tel" {...at('phone')} set={(phone) => set({ phone })} />
    </div>
  );
}
