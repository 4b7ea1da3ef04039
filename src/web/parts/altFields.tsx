import { phrase } from '#web/words/phrase.ts';
import { Text } from '../kit/form/fields.tsx';
import type { Form } from '../kit/form/useForm.ts';

interface Alt {
  en: string;
  fr: string;
}

/** What is on a picture, as it is sent. */
export const altOf = ({ en, fr }: Alt) => ({ en, ...(fr ? { fr } : {}) });

/** What is on a picture, in both languages. */
export function AltFields<V extends Alt>({ form }: { form: Form<V> }) {
  const alt = form as unknown as Form<Alt>;
  return (
    <>
      <Text form={alt} name="en" label={phrase('event.whatIsOnIt')} required help={phrase('event.altHelp')} />
      <Text form={alt} name="fr" label={phrase('event.whatIsOnItInFrench')} />
    </>
  );
}
