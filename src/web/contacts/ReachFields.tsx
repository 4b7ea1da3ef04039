import { chakra, Input, NativeSelect, type SystemStyleObject } from '@chakra-ui/react';
import { useEffect } from 'react';
import { useFieldArray } from 'react-hook-form';
import { phrase } from '#web/words/phrase.ts';
import { Button } from '../kit/Button.tsx';
import type { Form } from '../kit/form/useForm.ts';
import { useSaying } from '../parts/saying.ts';
import type { ContactForm } from './contactForm.ts';

const reachLook: SystemStyleObject = {
  border: 0,
  margin: '8px 0',
  padding: 0,
  fontSize: '14px',
  '& legend': {
    padding: 0,
    color: 'var(--soft)',
  },
  '& > div': {
    display: 'flex',
    flexWrap: 'wrap',
    gap: '6px 10px',
    alignItems: 'center',
    marginBottom: '5px',
  },
  '& > div input': {
    flex: 1,
    minWidth: '180px',
  },
  '& > div select': {
    width: 'auto',
  },
  '& .error': {
    flexBasis: '100%',
  },
  '@media (max-width: 480px)': {
    '& > div > input': {
      flex: '1 1 100%',
    },
  },
};

/** A list of emails or telephones: the first one is written to; any can be changed, taken away or put first. */
export function ReachFields({
  form,
  name,
  label,
  type,
  kinds,
}: {
  form: Form<ContactForm>;
  name: 'emails' | 'phones';
  label: string;
  type: 'email' | 'tel';
  kinds: readonly string[];
}) {
  const { today } = useSaying();
  const { fields, append, remove, move } = useFieldArray({ control: form.hook.control, name });
  const lines = form.values[name];
  const errors = form.hook.formState.errors[name];
  const { named } = form;
  useEffect(() => {
    for (const at of lines.keys()) {
      named(`${name}.${at}.value`, `${label} ${at + 1}`);
      named(`${name}.${at}.endedOn`, `${label} ${at + 1}`);
    }
  });
  const put = (at: number, part: Partial<ContactForm['emails'][number]>) => {
    for (const [key, value] of Object.entries(part))
      form.hook.setValue(`${name}.${at}.${key as 'value'}`, value as string, {
        shouldDirty: true,
        shouldValidate: form.hook.formState.isSubmitted,
      });
  };
  return (
    <chakra.fieldset css={reachLook}>
      <legend>{phrase(type === 'email' ? 'contacts.emails' : 'contacts.telephones')}</legend>
      {fields.map((field, at) => {
        const line = lines[at]!;
        const wrong = errors?.[at]?.value?.message ?? errors?.[at]?.endedOn?.message;
        return (
          <div key={field.id}>
            <Input
              id={form.idOf(`${name}.${at}.value`)}
              type={type}
              inputMode={type}
              aria-label={`${label} ${at + 1}`}
              aria-invalid={Boolean(wrong)}
              value={line.value}
              onChange={(e) => put(at, { value: e.target.value })}
            />
            <NativeSelect.Root width="auto">
              <NativeSelect.Field
                aria-label={phrase('contacts.kind', { label, at: at + 1 })}
                value={line.kind}
                onChange={(e) => put(at, { kind: e.target.value })}
              >
                {kinds.map((k) => (
                  <option key={k} value={k}>
                    {k || phrase('contacts.noKind')}
                  </option>
                ))}
              </NativeSelect.Field>
            </NativeSelect.Root>
            {line.endedOn === null ? (
              line.value && (
                <Button look="link" onClick={() => put(at, { endedOn: today })}>
                  {phrase('contacts.noLongerTheirs')}
                </Button>
              )
            ) : (
              <label className="soft" htmlFor={form.idOf(`${name}.${at}.endedOn`)}>
                {phrase('contacts.notTheirsSince')}{' '}
                <Input
                  id={form.idOf(`${name}.${at}.endedOn`)}
                  type="date"
                  value={line.endedOn}
                  width="150px"
                  onChange={(e) => put(at, { endedOn: e.target.value || null })}
                />
              </label>
            )}
            {at > 0 && (
              <Button look="link" onClick={() => move(at, 0)}>
                {phrase('contacts.putFirst')}
              </Button>
            )}
            <Button
              look="link"
              aria-label={phrase('contacts.removeNumbered', { label, at: at + 1 })}
              onClick={() => remove(at)}
            >
              {phrase('common.remove')}
            </Button>
            {wrong && (
              <chakra.div color="madder" fontSize="13.5px" width="100%">
                {wrong}
              </chakra.div>
            )}
          </div>
        );
      })}
      <Button look="link" onClick={() => append({ value: '', kind: '', endedOn: null })}>
        {phrase(type === 'email' ? 'contacts.addAnEmail' : 'contacts.addATelephone')}
      </Button>
    </chakra.fieldset>
  );
}
