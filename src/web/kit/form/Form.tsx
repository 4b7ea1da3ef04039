import { chakra } from '@chakra-ui/react';
import type { ReactNode } from 'react';
import type { FieldValues } from 'react-hook-form';
import { Button } from '../Button.tsx';
import { Leaving } from '../Leaving.tsx';
import { useKitWords } from '../words.ts';
import type { Form as FormState } from './useForm.ts';

/** Everything that is to be corrected, each a link to its field. */
export function Summary<V extends FieldValues>({ form }: { form: FormState<V> }) {
  const words = useKitWords();
  const { problems } = form;
  if (!problems.length) return null;
  return (
    <chakra.div
      id={`${form.idOf('problems')}`}
      tabIndex={-1}
      role="alert"
      borderLeft="2px solid"
      borderColor="madder"
      padding="2px 0 2px 11px"
      marginBottom="14px"
      fontSize="medium"
      outline="none"
    >
      {problems.length > 1 && <chakra.p fontWeight={500}>{words.toCorrect(problems.length)}</chakra.p>}
      <chakra.ul listStyleType="none" margin="0" padding="0">
        {problems.map((p) => (
          <li key={`${p.fieldId} ${p.message}`}>
            {p.fieldId ? (
              <chakra.a
                href={`#${p.fieldId}`}
                color="madder"
                textDecoration="underline"
                onClick={(e) => {
                  e.preventDefault();
                  document.getElementById(p.fieldId!)?.focus();
                }}
              >
                {p.label ? `${p.label}: ` : ''}
                {p.message}
              </chakra.a>
            ) : (
              <chakra.span color="madder">{p.message}</chakra.span>
            )}
          </li>
        ))}
      </chakra.ul>
    </chakra.div>
  );
}

/** Said where what was typed earlier was found again, with a way to begin anew. */
export function Restored<V extends FieldValues>({ form }: { form: FormState<V> }) {
  const words = useKitWords();
  if (!form.restored) return null;
  return (
    <chakra.p role="status" fontSize="medium" color="soft" marginBottom="10px">
      {words.restored}{' '}
      <Button look="plain" onClick={form.startOver}>
        {words.startOver}
      </Button>
    </chakra.p>
  );
}

/** A form on a page: what is wrong, summed up; its fields; what sends it. */
export function Form<V extends FieldValues>({
  form,
  submit,
  look = 'main',
  size = 'normal',
  disabled = false,
  beside,
  children,
  label,
}: {
  form: FormState<V>;
  /** What the button says that sends it; none where it is sent by one elsewhere, as in a dialog. */
  submit?: ReactNode;
  look?: 'main' | 'normal' | 'stop';
  size?: 'normal' | 'touch' | 'go';
  disabled?: boolean;
  /** What stands beside the button. */
  beside?: ReactNode;
  children: ReactNode;
  label?: string;
}) {
  return (
    <chakra.form
      noValidate
      aria-label={label}
      onSubmit={(e) => {
        e.preventDefault();
        form.submit();
      }}
    >
      <Leaving loses={form.loses} />
      <Restored form={form} />
      <Summary form={form} />
      {children}
      {submit !== undefined && (
        <chakra.div display="flex" gap="8px" flexWrap="wrap" alignItems="center" marginTop="4px">
          <Button type="submit" look={look} size={size} disabled={disabled || form.sending}>
            {submit}
          </Button>
          {beside}
        </chakra.div>
      )}
    </chakra.form>
  );
}
