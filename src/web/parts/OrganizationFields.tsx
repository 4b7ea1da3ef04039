import { getCountries } from 'libphonenumber-js/min';
import type { FieldPathByValue, FieldValues } from 'react-hook-form';
import { phrase, spokenLanguage } from '#web/words/phrase.ts';
import type { Choice } from '../kit/Field.tsx';
import { Choose, Text, ZoneField } from '../kit/form/fields.tsx';
import type { Form } from '../kit/form/useForm.ts';

/** Codes with their names in the language that is spoken, in the order of the names. */
function namedCodes(
  type: 'currency' | 'region',
  codes: readonly string[],
  label: (code: string, name: string) => string,
): Choice[] {
  const names = new Intl.DisplayNames(`${spokenLanguage()}-CA`, { type });
  return codes
    .map((value) => ({ value, name: names.of(value) ?? value }))
    .sort((a, b) => a.name.localeCompare(b.name, spokenLanguage()))
    .map(({ value, name }) => ({ value, label: label(value, name) }));
}

/** Currencies in use, as one finds them: by name, with their code. */
export const currencyChoices = (): Choice[] =>
  namedCodes('currency', Intl.supportedValuesOf('currency'), (code, name) => `${name} (${code})`);

/** What an organization says of itself, when it is set up and later. `at` is where the fields stand in the form. */
export function OrganizationFields<V extends FieldValues>({
  form,
  at,
  currencyFixed = false,
}: {
  form: Form<V>;
  at: (field: 'name' | 'zone' | 'currency' | 'country' | 'sender') => FieldPathByValue<V, string>;
  /** Whether its currency cannot be another any more. */
  currencyFixed?: boolean;
}) {
  return (
    <>
      <Text
        form={form}
        name={at('name')}
        label={phrase('common.organization')}
        autoComplete="organization"
        required
      />
      <ZoneField
        form={form}
        name={at('zone')}
        label={phrase('common.timeZone')}
        required
        help={phrase('organization.zoneHelp')}
      />
      <Choose
        form={form}
        name={at('country')}
        label={phrase('organization.country')}
        required
        help={phrase('organization.countryHelp')}
        choices={namedCodes('region', getCountries(), (_, name) => name)}
      />
      <Choose
        form={form}
        name={at('currency')}
        label={phrase('organization.currency')}
        required
        disabled={currencyFixed}
        help={currencyFixed ? phrase('organization.currencyFixed') : undefined}
        choices={currencyChoices()}
      />
      <Text
        form={form}
        name={at('sender')}
        label={phrase('organization.sender')}
        type="email"
        required
        help={phrase('organization.senderHelp')}
      />
    </>
  );
}
