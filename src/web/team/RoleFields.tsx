import { roles } from '#core/staff/roles.ts';
import { Chips, Choose, SeveralOf } from '../kit/form/fields.tsx';
import type { Form } from '../kit/form/useForm.ts';

/** What somebody may do, as it is filled in. */
export interface RoleForm {
  roles: string[];
  /** What they approve for. */
  approves: string[];
  unitId: string;
}

/** What somebody may do: roles, what they approve for, and the unit they belong to. */
export function RoleFields<V extends RoleForm>({
  form: given,
  units,
}: {
  form: Form<V>;
  units: readonly { id: string; name: string }[];
}) {
  const form = given as unknown as Form<RoleForm>;
  const has = (role: string) => form.values.roles.includes(role);
  return (
    <>
      <SeveralOf
        form={form}
        name="roles"
        label="Roles"
        required
        choices={roles.map((r) => ({ value: r, label: r }))}
      />
      {has('approver') && (
        <Chips form={form} name="approves" label="Approves for" help="For example: safety, finance" />
      )}
      <Choose
        form={form}
        name="unitId"
        label="Unit"
        choices={units.map((u) => ({ value: u.id, label: u.name }))}
        empty={has('unit lead') ? 'choose one' : 'the whole organization'}
        help="Somebody with a unit reaches its events only."
      />
    </>
  );
}
