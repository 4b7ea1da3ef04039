import { roles } from '#core/staff/roles.ts';
import { phrase, term } from '#web/words/phrase.ts';
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
        label={phrase('team.roles')}
        required
        choices={roles.map((r) => ({ value: r, label: term(r) }))}
      />
      {has('approver') && (
        <Chips
          form={form}
          name="approves"
          label={phrase('team.approvesFor')}
          help={phrase('team.forExampleSafetyFinance')}
        />
      )}
      <Choose
        form={form}
        name="unitId"
        label={phrase('common.unit')}
        choices={units.map((u) => ({ value: u.id, label: u.name }))}
        empty={has('unit lead') ? phrase('team.chooseOne') : phrase('team.theWholeOrganization')}
        help={phrase('team.somebodyWithAUnit')}
      />
    </>
  );
}
