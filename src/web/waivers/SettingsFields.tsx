import { chakra } from '@chakra-ui/react';
import type { Holds } from '#core/waivers/holding.ts';
import { Choose, Count, DateField, Tick } from '#web/kit/form/fields.tsx';
import type { Form } from '#web/kit/form/useForm.ts';
import { phrase } from '#web/words/phrase.ts';

/** How a waiver is asked, as it is typed. */
export interface SettingsTyped {
  audience: 'everyone' | 'minors' | 'adults';
  guardians: '1' | '2';
  holdsFor: Holds['for'];
  /** A date of which month and day count. */
  ends: string;
  date: string;
  forgetDays: string;
  standing: boolean;
}

export interface Settings {
  audience: SettingsTyped['audience'];
  guardians: 1 | 2;
  holds: Holds;
  forgetDays: number;
  standing: boolean;
}

export const typedSettings = (s: Settings, year: string): SettingsTyped => ({
  audience: s.audience,
  guardians: s.guardians === 2 ? '2' : '1',
  holdsFor: s.holds.for,
  ends: s.holds.for === 'season' ? `${year}-${s.holds.ends}` : `${year}-10-31`,
  date: s.holds.for === 'until' ? s.holds.date : '',
  forgetDays: String(s.forgetDays),
  standing: s.standing,
});

export const settingsSent = (v: SettingsTyped): Settings => ({
  audience: v.audience,
  guardians: v.guardians === '2' && v.audience !== 'adults' ? 2 : 1,
  holds:
    v.holdsFor === 'season'
      ? { for: 'season', ends: v.ends.slice(5) }
      : v.holdsFor === 'until'
        ? { for: 'until', date: v.date }
        : { for: v.holdsFor },
  forgetDays: /^\d+$/u.test(v.forgetDays.trim()) ? Number(v.forgetDays) : Number.NaN,
  standing: v.standing,
});

/** Where what the contract finds stands in the form. */
export const settingsField = (path: string): string =>
  path === 'holds.ends' ? 'ends' : path === 'holds.date' ? 'date' : path;

/** Whom a waiver is for, for how long it holds, whether it stands by itself. */
export function SettingsFields<V extends SettingsTyped>({ form: given }: { form: Form<V> }) {
  const form = given as unknown as Form<SettingsTyped>;
  const { values } = form;
  return (
    <chakra.div maxWidth="520px">
      <Choose
        form={form}
        name="audience"
        label={phrase('waivers.forWhom')}
        choices={[
          { value: 'everyone', label: phrase('waivers.audienceEveryone') },
          { value: 'minors', label: phrase('waivers.audienceMinors') },
          { value: 'adults', label: phrase('waivers.audienceAdults') },
        ]}
      />
      {values.audience !== 'adults' && (
        <Choose
          form={form}
          name="guardians"
          label={phrase('waivers.guardians')}
          choices={[
            { value: '1', label: phrase('waivers.guardiansOne') },
            { value: '2', label: phrase('waivers.guardiansTwo') },
          ]}
        />
      )}
      <Choose
        form={form}
        name="holdsFor"
        label={phrase('waivers.holdsHow')}
        help={phrase('waivers.holdsHowHelp')}
        choices={[
          { value: 'event', label: phrase('waivers.forEvent') },
          { value: 'year', label: phrase('waivers.forYear') },
          { value: 'season', label: phrase('waivers.forSeason') },
          { value: 'until', label: phrase('waivers.forDate') },
        ]}
      />
      {values.holdsFor === 'season' && (
        <DateField form={form} name="ends" label={phrase('waivers.seasonEnds')} required />
      )}
      {values.holdsFor === 'until' && (
        <DateField form={form} name="date" label={phrase('waivers.untilDate')} required />
      )}
      <Count
        form={form}
        name="forgetDays"
        label={phrase('waivers.forgetDays')}
        help={phrase('waivers.forgetHelp')}
      />
      <Tick form={form} name="standing" label={phrase('waivers.standing')} />
    </chakra.div>
  );
}
