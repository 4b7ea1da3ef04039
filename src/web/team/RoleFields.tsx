import { type Role, roles } from '#core/staff/roles.ts';
import { ChoiceField, TextField } from '../kit/Field.tsx';

export interface RoleForm {
  roles: Role[];
  /** What they approve for, separated by commas. */
  approves: string;
  unitId: string;
}

export const approvesOf = (form: RoleForm): string[] =>
  form.approves
    .split(',')
    .map((a) => a.trim())
    .filter(Boolean);

/** What somebody may do: roles, what they approve for, and the unit they belong to. */
export function RoleFields({
  form,
  set,
  units,
  wrong,
}: {
  form: RoleForm;
  set: (part: Partial<RoleForm>) => void;
  units: readonly { id: string; name: string }[];
  wrong: Record<string, string>;
}) {
  return (
    <>
      <fieldset className="roles">
        <legend>Roles</legend>
        {roles.map((r) => (
          <label key={r} className="tick">
            <input
              type="checkbox"
              checked={form.roles.includes(r)}
              onChange={(e) =>
                set({ roles: e.target.checked ? [...form.roles, r] : form.roles.filter((x) => x !== r) })
              }
            />
            {r}
          </label>
        ))}
        {wrong.roles && <div className="error">{wrong.roles}</div>}
      </fieldset>
      {form.roles.includes('approver') && (
        <TextField
          label="Approves for"
          value={form.approves}
          set={(approves) => set({ approves })}
          help="For example: safety, finance"
          error={wrong.approves}
        />
      )}
      <ChoiceField
        label="Unit"
        value={form.unitId}
        set={(unitId) => set({ unitId })}
        choices={units.map((u) => ({ value: u.id, label: u.name }))}
        empty={form.roles.includes('unit lead') ? 'choose one' : 'the whole organization'}
        help="Somebody with a unit reaches its events only."
        error={wrong.unitId}
      />
    </>
  );
}
