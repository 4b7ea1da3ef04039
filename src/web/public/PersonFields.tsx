import { useTranslation } from 'react-i18next';
import { Text } from '#web/kit/form/fields.tsx';
import type { Form } from '#web/kit/form/useForm.ts';
import { Two } from './parts.tsx';

export type PersonValues = {
  given: string;
  family: string;
  email: string;
  phone: string;
};

/** Who somebody is and how they are reached, as a device may fill it in. */
export function PersonFields({ form }: { form: Form<PersonValues> }) {
  const { t } = useTranslation();
  return (
    <>
      <Two>
        <Text form={form} name="given" label={t('given')} autoComplete="given-name" required />
        <Text form={form} name="family" label={t('family')} autoComplete="family-name" required />
      </Two>
      <Text form={form} name="email" label={t('email')} type="email" autoComplete="email" required />
      <Text form={form} name="phone" label={t('phone')} type="tel" autoComplete="tel" />
    </>
  );
}
