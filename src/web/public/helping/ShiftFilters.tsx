import { chakra } from '@chakra-ui/react';
import { useTranslation } from 'react-i18next';
import { sayShortDate } from '#core/time/say.ts';
import { Tick } from '#web/kit/Choosing.tsx';
import { InlineChoice } from '#web/kit/Inline.tsx';
import { language } from '../language.ts';

/** What open shifts are narrowed by, as it stands in the address; `shift` is the one whose form is open. */
export const usualShifts = { day: '', role: '', skill: '', room: '', shift: '' };
type Address = typeof usualShifts;

interface Narrowed {
  id: string;
  startsLocal: string;
  role: string;
  needs: readonly string[];
  filled: number;
  wished: number;
}

/** Stands for shifts that ask for nothing. */
const nothing = '-';

/** The shifts that somebody looks for; the one whose form is open stays, whatever they choose meanwhile. */
export const narrowed = <S extends Narrowed>(
  shifts: readonly S[],
  { day, role, skill, room, shift }: Address,
): S[] =>
  shifts.filter(
    (s) =>
      s.id === shift ||
      ((!day || s.startsLocal.startsWith(day)) &&
        (!role || s.role === role) &&
        (!skill || (skill === nothing ? s.needs.length === 0 : s.needs.includes(skill))) &&
        (!room || s.filled < s.wished)),
  );

const some = (values: readonly string[]): string[] => [...new Set(values)].sort();

/** What open shifts can be narrowed by: only what there is something to choose of. */
export function ShiftFilters({
  shifts,
  address,
  put,
}: {
  shifts: readonly Narrowed[];
  address: Address;
  put: (part: Partial<Address>) => void;
}) {
  const { t } = useTranslation();
  const days = some(shifts.map((s) => s.startsLocal.slice(0, 10)));
  const roles = some(shifts.map((s) => s.role));
  const skills = some(shifts.flatMap((s) => s.needs));
  return (
    <chakra.div display="flex" flexWrap="wrap" gap="8px 12px" alignItems="center" margin="8px 0 0">
      {days.length > 1 && (
        <InlineChoice
          label={t('dayOnly')}
          value={address.day}
          set={(day) => put({ day, shift: '' })}
          choices={days.map((value) => ({ value, label: sayShortDate(value, true, language()) }))}
          empty={t('everyDay')}
        />
      )}
      {roles.length > 2 && (
        <InlineChoice
          label={t('roleOnly')}
          value={address.role}
          set={(role) => put({ role, shift: '' })}
          choices={roles.map((value) => ({ value, label: value }))}
          empty={t('everyRole')}
        />
      )}
      {skills.length > 0 && (
        <InlineChoice
          label={t('skillOnly')}
          value={address.skill}
          set={(skill) => put({ skill, shift: '' })}
          choices={[
            { value: nothing, label: t('nothingAsked') },
            ...skills.map((value) => ({ value, label: value })),
          ]}
          empty={t('everySkill')}
        />
      )}
      {shifts.some((s) => s.filled >= s.wished) && shifts.some((s) => s.filled < s.wished) && (
        <Tick checked={address.room !== ''} set={(is) => put({ room: is ? 'yes' : '', shift: '' })}>
          {t('roomOnly')}
        </Tick>
      )}
    </chakra.div>
  );
}
