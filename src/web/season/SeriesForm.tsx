import { chakra } from '@chakra-ui/react';
import { Plus } from 'lucide-react';
import type { SeriesDate } from '#contract/series.ts';
import { type BuiltRule, units } from '#core/series/building.ts';
import { weekdays } from '#core/series/rule.ts';
import { sayMonthOf, sayWeekdayOf } from '#core/series/saying.ts';
import { sayShortDate } from '#core/time/say.ts';
import { Button } from '#web/kit/Button.tsx';
import { phrase } from '#web/words/phrase.ts';
import { Group } from '../kit/Field.tsx';
import { Choose, Count, DateField, OneOf, Text, Tick, TimeField } from '../kit/form/fields.tsx';
import type { Form } from '../kit/form/useForm.ts';
import { Chip } from '../kit/ListViews.tsx';
import { monthOf, type SeriesValues } from './seriesValues.ts';

const unitNames = {
  DAILY: phrase('series.DAILY'),
  WEEKLY: phrase('series.WEEKLY'),
  MONTHLY: phrase('series.MONTHLY'),
  YEARLY: phrase('series.YEARLY'),
} as const;
const howNames = {
  every: phrase('series.every'),
  dates: phrase('series.dates'),
  written: phrase('series.written'),
} as const;
const endNames = {
  never: phrase('series.never'),
  until: phrase('series.until'),
  times: phrase('series.times'),
} as const;
const nths = {
  '1': phrase('series.1'),
  '2': phrase('series.2'),
  '3': phrase('series.3'),
  '4': phrase('series.4'),
  '-1': phrase('series.-1'),
} as const;
const twelve = Array.from({ length: 12 }, (_, at) => String(at + 1));
const short = (name: string): string => name.slice(0, 3);

interface Props {
  form: Form<SeriesValues>;
}

/** Several of a few, in a row. */
function Several({
  label,
  help,
  error,
  value,
  set,
  choices,
}: {
  label: string;
  help?: string;
  error?: string | undefined;
  value: readonly string[];
  set: (value: string[]) => void;
  choices: readonly { value: string; label: string; full?: string }[];
}) {
  return (
    <Group label={label} help={help} error={error}>
      <chakra.div display="flex" flexWrap="wrap" gap="6px">
        {choices.map((c) => (
          <Chip
            key={c.value}
            aria-pressed={value.includes(c.value)}
            aria-label={c.full}
            onClick={() =>
              set(value.includes(c.value) ? value.filter((v) => v !== c.value) : [...value, c.value])
            }
          >
            {c.label}
          </Chip>
        ))}
      </chakra.div>
    </Group>
  );
}

/** When a series takes place: a rule put together in words, dates beside it, how far ahead they are made. */
export function SeriesFields({ form, dates }: Props & { dates: readonly SeriesDate[] }) {
  const { values } = form;
  const coming = dates.filter((d) => d.coming && d.startsLocal);
  return (
    <>
      <OneOf
        form={form}
        name="how"
        label={phrase('series.how')}
        choices={Object.entries(howNames).map(([value, label]) => ({ value, label }))}
      />
      {values.how === 'every' && <Rule form={form} />}
      {values.how === 'written' && (
        <Text form={form} name="written" label={phrase('series.rule')} help={phrase('series.ruleHelp')} />
      )}
      {values.how !== 'dates' && (
        <div className="pair">
          <DateField form={form} name="start" label={phrase('series.start')} />
          <TimeField form={form} name="startTime" label={phrase('series.startTime')} />
        </div>
      )}
      <ExtraDates form={form} />
      <div className="pair">
        <Choose
          form={form}
          name="horizon"
          label={phrase('series.horizon')}
          choices={[1, 2, 3, 6, 9, 12, 18, 24, 36].map((n) => ({
            value: String(n),
            label: phrase('series.horizonMonths', { n }),
          }))}
        />
        {coming.length > 1 && (
          <Choose
            form={form}
            name="from"
            label={phrase('series.holdsFrom')}
            empty={phrase('series.holdsForAll')}
            choices={coming.slice(1).map((d) => ({
              value: d.slot,
              label: phrase('series.holdsOn', { date: sayDay(d.startsLocal!) }),
            }))}
          />
        )}
      </div>
      <chakra.div marginBottom="12px">
        <Tick form={form} name="opens" label={phrase('series.opens')} />
        <chakra.p color="soft" fontSize="13.5px">
          {phrase('series.opensHelp')}
        </chakra.p>
      </chakra.div>
    </>
  );
}

/** "Wed 2 Sep 2026". */
export const sayDay = (wall: string): string => `${sayShortDate(wall, true)} ${wall.slice(0, 4)}`;

function Rule({ form }: Props) {
  const { values, set } = form;
  const months = values.unit === 'MONTHLY' || values.unit === 'YEARLY';
  const put = (part: Partial<BuiltRule>) => set(part as Partial<SeriesValues>);
  return (
    <>
      <div className="pair">
        <Count form={form} name="interval" label={phrase('series.unit')} />
        <Choose
          form={form}
          name="unit"
          label={phrase('series.intervalOf')}
          choices={units.map((value) => ({ value, label: unitNames[value] }))}
        />
      </div>
      {values.unit === 'WEEKLY' && (
        <Several
          label={phrase('series.onWeekdays')}
          value={values.weekdays}
          set={(to) => put({ weekdays: to as BuiltRule['weekdays'] })}
          choices={weekdays.map((value) => ({
            value,
            label: short(sayWeekdayOf(value)),
            full: sayWeekdayOf(value),
          }))}
        />
      )}
      {months && (
        <>
          <OneOf
            form={form}
            name="by"
            label={phrase('series.by')}
            choices={[
              { value: 'weekday', label: phrase('series.byWeekday') },
              { value: 'day', label: phrase('series.byDay') },
            ]}
          />
          {values.by === 'weekday' ? (
            <div className="pair">
              <Several
                label={phrase('series.which')}
                value={values.nth}
                set={(nth) => put({ nth })}
                choices={Object.entries(nths)
                  .sort(([a], [b]) => ((Number(a) + 9) % 9) - ((Number(b) + 9) % 9))
                  .map(([value, label]) => ({ value, label }))}
              />
              <Choose
                form={form}
                name="weekday"
                label={phrase('series.weekday')}
                choices={weekdays.map((value) => ({ value, label: sayWeekdayOf(value) }))}
              />
            </div>
          ) : (
            <Choose
              form={form}
              name="day"
              label={phrase('series.day')}
              choices={[
                ...Array.from({ length: 31 }, (_, at) => ({ value: String(at + 1), label: String(at + 1) })),
                { value: '-1', label: phrase('series.lastDay') },
              ]}
            />
          )}
        </>
      )}
      <Several
        label={phrase(values.unit === 'YEARLY' ? 'series.monthsOfYear' : 'series.months')}
        help={values.unit === 'YEARLY' ? '' : phrase('series.monthsHelp')}
        value={values.unit === 'YEARLY' && !values.months.length ? [monthOf(values.start)] : values.months}
        set={(to) => put({ months: to })}
        choices={twelve.map((value) => ({
          value,
          label: short(sayMonthOf(Number(value))),
          full: sayMonthOf(Number(value)),
        }))}
      />
      <div className="pair">
        <Choose
          form={form}
          name="ends"
          label={phrase('series.ends')}
          choices={Object.entries(endNames).map(([value, label]) => ({ value, label }))}
        />
        {values.ends === 'until' && <DateField form={form} name="until" label={phrase('series.untilDate')} />}
        {values.ends === 'times' && <Count form={form} name="times" label={phrase('series.howOften')} />}
      </div>
    </>
  );
}

/** Dates beside the rule, each with its own times. */
function ExtraDates({ form }: Props) {
  const { values, set } = form;
  const put = (extra: SeriesValues['extra']) => set({ extra });
  return (
    <Group
      label={phrase(values.how === 'dates' ? 'series.chosenDates' : 'series.extraDates')}
      error={form.wrongAt('extra')}
    >
      {values.extra.map((row, at) => (
        <chakra.div
          key={at}
          display="grid"
          gridTemplateColumns={{ base: '1fr 1fr', md: '1.3fr 1fr 1fr auto' }}
          gap="0 10px"
          alignItems="end"
        >
          <DateField form={form} name={`extra.${at}.date` as 'start'} label={phrase('series.date')} />
          <TimeField form={form} name={`extra.${at}.from` as 'start'} label={phrase('series.from')} />
          <TimeField form={form} name={`extra.${at}.to` as 'start'} label={phrase('series.to')} />
          <chakra.div marginBottom="16px">
            <Button
              look="link"
              color="soft"
              aria-label={phrase('series.removeDate', { date: row.date ? sayDay(row.date) : '' })}
              onClick={() => put(values.extra.filter((_, n) => n !== at))}
            >
              {phrase('common.remove')}
            </Button>
          </chakra.div>
        </chakra.div>
      ))}
      <Button
        look="link"
        color="verdigris"
        onClick={() => put([...values.extra, { date: '', from: values.startTime, to: '' }])}
      >
        <Plus size={13} aria-hidden /> {phrase('series.addDate')}
      </Button>
    </Group>
  );
}
