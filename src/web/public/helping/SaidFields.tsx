import { chakra } from '@chakra-ui/react';
import { useTranslation } from 'react-i18next';
import type { PublicCall } from '#contract/applying.ts';
import { shirtSizes } from '#core/crew/applying.ts';
import { sayShortDate } from '#core/time/say.ts';
import { call as ask } from '#web/api.ts';
import { base64Of } from '#web/base64.ts';
import { Tick } from '#web/kit/Choosing.tsx';
import { Group } from '#web/kit/Field.tsx';
import { Choose, Count, DateField, LongText, Text, TimeField, useBound } from '#web/kit/form/fields.tsx';
import type { Form } from '#web/kit/form/useForm.ts';
import { InlineChoice } from '#web/kit/Inline.tsx';
import { PaintGrid } from '#web/kit/PaintGrid.tsx';
import { FileAnswer } from '#web/questions/QuestionControl.tsx';
import { language } from '../language.ts';
import { Ends, Head, Rows, Small, Two } from '../parts.tsx';
import type { SaidValues } from './saidValues.ts';

interface Props {
  form: Form<SaidValues>;
  call: PublicCall;
  /** Names of files that were brought before. */
  files?: readonly { id: string; name: string }[];
}

/** What somebody offers: roles, hours, skills, limits, and whatever else the call asks. */
export function SaidFields({ form, call, files = [] }: Props) {
  const { t } = useTranslation();
  const asks = (what: PublicCall['asks'][number]) => call.asks.includes(what);
  return (
    <>
      <Wishes form={form} call={call} />
      {asks('availability') && <Hours form={form} call={call} />}
      {asks('skills') && call.skills.length > 0 && <Skills form={form} call={call} files={files} />}
      {asks('limits') && (
        <>
          <Head>{t('helpLimits')}</Head>
          <Two>
            <Count form={form} name="shifts" label={t('helpShifts')} />
            <Count form={form} name="hours" label={t('helpHours')} />
            {(call.grid.kind === 'week' || call.grid.days.length > 1) && (
              <Count form={form} name="inARow" label={t('helpInARow')} />
            )}
            <TimeField form={form} name="latest" label={t('helpLatest')} />
          </Two>
          <Small>{t('helpLimitsHelp')}</Small>
        </>
      )}
      {(asks('company') || asks('shirt') || asks('birth date') || asks('experience')) && (
        <chakra.div marginTop="26px">
          {asks('company') && (
            <Text form={form} name="company" label={t('helpCompany')} help={t('helpCompanyHelp')} />
          )}
          <Two>
            {asks('shirt') && (
              <Choose
                form={form}
                name="shirt"
                label={t('helpShirt')}
                empty={t('helpShirtNone')}
                choices={shirtSizes.filter(Boolean).map((value) => ({ value, label: value }))}
              />
            )}
            {asks('birth date') && (
              <DateField
                form={form}
                name="birthDate"
                label={t('helpBirthDate')}
                help={t('helpBirthDateHelp')}
                autoComplete="bday"
              />
            )}
          </Two>
          {asks('experience') && (
            <LongText form={form} name="experience" label={t('helpExperience')} rows={3} />
          )}
        </chakra.div>
      )}
    </>
  );
}

function Wishes({ form, call }: Props) {
  const { t } = useTranslation();
  const { id, value, set, error } = useBound(form, 'wishes', t('helpRoles'));
  const wishes = value as SaidValues['wishes'];
  const choices = [
    { value: '1', label: t('helpRoleCould') },
    { value: '2', label: t('helpRoleGladly') },
    { value: '3', label: t('helpRoleMost') },
  ];
  return (
    <Group id={id} label={t('helpRoles')} error={error} required>
      <Rows>
        {call.roles.map((r) => (
          <li key={r.id}>
            <Ends alignItems="center">
              <span>
                <span className="name">{r.name}</span>
                {r.brief && <Small>{r.brief}</Small>}
                {(r.needs.length > 0 || r.fromAge !== null) && (
                  <Small>
                    {t('helpRoleNeeds', {
                      needs: [
                        ...r.needs,
                        ...(r.fromAge === null ? [] : [t('helpFromAge', { age: r.fromAge })]),
                      ].join(', '),
                    })}
                  </Small>
                )}
              </span>
              <InlineChoice
                label={r.name}
                value={wishes[r.id] ?? ''}
                set={(to) => set({ ...wishes, [r.id]: to })}
                choices={choices}
                empty={t('helpRoleNo')}
              />
            </Ends>
          </li>
        ))}
      </Rows>
    </Group>
  );
}

const time = (hour: number): string => `${String(hour).padStart(2, '0')}:00`;
/** 4 January 2026 is a Sunday. */
const weekdayDate = (weekday: string): string => `2026-01-${String(4 + Number(weekday)).padStart(2, '0')}`;

function Hours({ form, call }: Props) {
  const { t } = useTranslation();
  const { id, value, set, error } = useBound(form, 'cells', t('helpWhen'));
  const painted = new Set(value as string[]);
  const { kind, days, from, to } = call.grid;
  const said = new Intl.DateTimeFormat(`${language()}-CA`, { weekday: 'long', timeZone: 'UTC' });
  const short = new Intl.DateTimeFormat(`${language()}-CA`, { weekday: 'short', timeZone: 'UTC' });
  const columns = days.map((day) => {
    if (kind === 'dates') {
      const label = sayShortDate(day, true, language());
      return { key: day, label, full: label };
    }
    const date = new Date(`${weekdayDate(day)}T00:00Z`);
    return { key: day, label: short.format(date), full: said.format(date) };
  });
  return (
    <chakra.div marginTop="26px">
      <PaintGrid
        id={id}
        label={t('helpWhen')}
        help={t('helpWhenHelp')}
        error={error}
        columns={columns}
        rows={Array.from({ length: to - from }, (_, n) => ({
          key: String(from + n),
          label: time(from + n),
          full: t('helpHour', { from: time(from + n), to: time(from + n + 1) }),
        }))}
        painted={painted}
        paint={(keys, on) => {
          const after = new Set(painted);
          for (const key of keys)
            if (on) after.add(key);
            else after.delete(key);
          set([...after]);
        }}
      />
    </chakra.div>
  );
}

function Skills({ form, call, files = [] }: Props) {
  const { t } = useTranslation();
  return (
    <>
      <Head>{t('helpSkills')}</Head>
      <Rows>
        {call.skills.map((s) => (
          <Skill key={s.id} form={form} call={call} skill={s} files={files} />
        ))}
      </Rows>
    </>
  );
}

function Skill({ form, call, skill: s, files = [] }: Props & { skill: PublicCall['skills'][number] }) {
  const { t } = useTranslation();
  const own = form.values.skills[s.id]!;
  const put = (part: Partial<typeof own>) =>
    form.set({ skills: { ...form.values.skills, [s.id]: { ...own, ...part } } });
  const file = useBound(form, `skills.${s.id}.fileId`, t('helpFile'));
  return (
    <li>
      <Tick checked={own.has} set={(has) => put({ has })}>
        {s.name}
      </Tick>
      {own.has && s.certificate && (
        <chakra.div marginTop="8px">
          <Two>
            <Text form={form} name={`skills.${s.id}.number` as 'company'} label={t('helpNumber')} />
            <DateField form={form} name={`skills.${s.id}.until` as 'birthDate'} label={t('helpUntil')} />
          </Two>
          <FileAnswer
            field={{ label: t('helpFile'), help: '', required: false, error: file.error, id: file.id }}
            value={own.fileId}
            called={files.find((f) => f.id === own.fileId)?.name ?? ''}
            set={(to) => put({ fileId: typeof to === 'string' ? to : '' })}
            words={{ chooseFile: t('chooseFile'), remove: t('remove') }}
            upload={async (chosen) =>
              ask('POST /api/public/calls/:slug/files', {
                params: { slug: call.slug },
                body: { name: chosen.name, content: await base64Of(chosen) },
              })
            }
          />
        </chakra.div>
      )}
    </li>
  );
}
