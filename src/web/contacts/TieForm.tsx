import { chakra } from '@chakra-ui/react';
import type { ContactRecord } from '#contract/contacts.ts';
import { type NewTie, type Tie, type TieKind, tiesContract } from '#contract/ties.ts';
import { phrase } from '#web/words/phrase.ts';
import { FormDialog } from '../kit/form/FormDialog.tsx';
import { Choose, DateField, Text } from '../kit/form/fields.tsx';
import { type Prepared, prepare } from '../kit/form/request.ts';
import { useForm } from '../kit/form/useForm.ts';
import { say } from '../kit/toast.tsx';
import { useAsk } from '../parts/ask.ts';

/** Adds a tie of a contact, or changes one. */
export function TieForm({
  contact,
  tie,
  close,
}: {
  contact: ContactRecord;
  tie: Tie | null;
  close: () => void;
}) {
  const choices = useAsk('GET /api/segments/choices').data;
  const form = useForm({
    values: {
      kind: (tie?.kind ?? (contact.kind === 'person' ? 'membership' : 'organization')) as TieKind,
      level: (tie?.kind === 'membership' && tie.level) || '',
      number: (tie?.kind === 'membership' && tie.number) || '',
      unitId: tie?.kind === 'unit' ? tie.unitId : '',
      name: tie?.kind === 'organization' ? tie.name : '',
      role: tie && tie.kind !== 'membership' ? tie.role : '',
      from: tie?.from ?? '',
      until: tie?.until ?? '',
    },
    request: ({ kind, ...v }): Prepared<unknown> => {
      const span = { from: v.from || null, until: v.until || null };
      const membership = { level: v.level || null, number: v.number || null };
      if (tie)
        return prepare(tiesContract, 'PATCH /api/ties/:kind/:id', {
          params: { kind: tie.kind, id: tie.id },
          body: { ...span, ...(kind === 'membership' ? membership : { role: v.role }) },
        });
      const body: NewTie =
        kind === 'membership'
          ? { kind, ...membership, ...span }
          : kind === 'unit'
            ? { kind, unitId: v.unitId, role: v.role, ...span }
            : { kind, name: v.name, role: v.role, ...span };
      return prepare(tiesContract, 'POST /api/contacts/:id/ties', { params: { id: contact.id }, body });
    },
    after: () => {
      say(phrase('common.saved'));
      close();
    },
  });
  const { kind, until } = form.values;
  const lists: [string, readonly string[]][] = [
    ['tie-levels', choices?.levels ?? []],
    ['tie-roles', choices?.unitRoles ?? []],
    ['tie-organizations', choices?.organizations.map((o) => o.name) ?? []],
  ];
  return (
    <FormDialog
      form={form}
      close={close}
      title={tie ? phrase('contacts.changeWhatTheyBelong') : phrase('contacts.whatDoTheyBelong')}
      submit={tie ? phrase('common.save') : phrase('common.add')}
    >
      {lists.map(([id, words]) => (
        <datalist key={id} id={id}>
          {words.map((w) => (
            <option key={w} value={w} />
          ))}
        </datalist>
      ))}
      {!tie && contact.kind === 'person' && (
        <Choose
          form={form}
          name="kind"
          label={phrase('common.kind')}
          choices={[
            { value: 'membership', label: phrase('contacts.membership') },
            { value: 'unit', label: phrase('contacts.roleInAUnit') },
            { value: 'organization', label: phrase('contacts.worksFor') },
          ]}
        />
      )}
      <div className="pair">
        {kind === 'membership' && (
          <>
            <Text form={form} name="level" label={phrase('contacts.level')} list="tie-levels" />
            <Text form={form} name="number" label={phrase('contacts.number')} />
          </>
        )}
        {kind === 'unit' && (
          <>
            {tie ? (
              <p>{'name' in tie && tie.name}</p>
            ) : (
              <Choose
                form={form}
                name="unitId"
                label={phrase('common.unit')}
                required
                empty={phrase('common.chooseAUnit')}
                choices={(choices?.units ?? []).map((u) => ({ value: u.id, label: u.name }))}
              />
            )}
            <Text form={form} name="role" label={phrase('contacts.whatTheyDoThere')} list="tie-roles" />
          </>
        )}
        {kind === 'organization' && (
          <>
            {tie ? (
              <p>{'name' in tie && tie.name}</p>
            ) : (
              <Text
                form={form}
                name="name"
                label={phrase('common.organization')}
                required
                list="tie-organizations"
              />
            )}
            <Text form={form} name="role" label={phrase('contacts.whatTheyDoThere')} />
          </>
        )}
        <DateField form={form} name="from" label={phrase('common.from')} />
        <DateField form={form} name="until" label={phrase('contacts.lastDay')} />
      </div>
      <chakra.p className="soft" fontSize="13.5px">
        {until ? phrase('contacts.onTheLastDay') : phrase('contacts.withoutALastDay')}
      </chakra.p>
    </FormDialog>
  );
}
