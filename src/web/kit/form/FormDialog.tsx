import { chakra } from '@chakra-ui/react';
import { type ReactNode, useId } from 'react';
import type { FieldValues } from 'react-hook-form';
import { Asking } from '../Asking.tsx';
import { Button } from '../Button.tsx';
import { Leaving } from '../Leaving.tsx';
import { Restored, Summary } from './Form.tsx';
import type { Form } from './useForm.ts';

/** A form in a dialog. Enter sends it; closing it asks first where something was typed. */
export function FormDialog<V extends FieldValues>({
  form,
  title,
  close,
  submit,
  look = 'main',
  disabled = false,
  wide = false,
  beside,
  children,
}: {
  form: Form<V>;
  title: string;
  close: () => void;
  /** What the button says that sends it. */
  submit: ReactNode;
  look?: 'main' | 'normal' | 'stop';
  disabled?: boolean;
  wide?: boolean;
  beside?: ReactNode;
  children: ReactNode;
}) {
  const id = useId();
  return (
    <Asking
      open
      wide={wide}
      title={title}
      close={close}
      dirty={form.dirty}
      discard={form.startOver}
      actions={
        <>
          <Button type="submit" form={id} look={look} disabled={disabled || form.sending}>
            {submit}
          </Button>
          {beside}
        </>
      }
    >
      <chakra.form
        id={id}
        noValidate
        onSubmit={(e) => {
          e.preventDefault();
          // A dialog may stand within a form of the page.
          e.stopPropagation();
          form.submit();
        }}
      >
        <Leaving loses={form.loses} />
        <Restored form={form} />
        <Summary form={form} />
        {children}
      </chakra.form>
    </Asking>
  );
}
