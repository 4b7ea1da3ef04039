import { useState } from 'react';
import type { SegmentChoices } from '#contract/records.ts';
import { digitsOf } from '#core/money/amount.ts';
import type { Bound, OfEvents, OnDay, Question, Window } from '#core/records/segment.ts';
import { InlineChoice, InlineText } from '#web/kit/Inline.tsx';
import { phrase, term } from '#web/words/phrase.ts';
import { useSaying } from '../parts/saying.ts';

/** A question without the parts that are not said. */
export const without = <Q extends Question>(q: { [K in keyof Q]: Q[K] | undefined }): Q =>
  Object.fromEntries(Object.entries(q).filter(([, v]) => v !== undefined)) as unknown as Q;

export function NumberField({
  label,
  value,
  set,
}: {
  label: string;
  value: number | undefined;
  set: (value: number | undefined) => void;
}) {
  return (
    <InlineText
      type="number"
      min={0}
      label={label}
      width="76px"
      value={value === undefined ? '' : String(value)}
      set={(v) => set(v === '' ? undefined : Math.max(0, Number(v)))}
    />
  );
}

/** At least, at most or exactly so many. */
export function BoundField({
  label,
  bound,
  unit,
  change,
}: {
  label: string;
  bound: Bound;
  unit: 'times' | 'hours' | 'money';
  change: (bound: Bound) => void;
}) {
  const { currency } = useSaying();
  const scale = unit === 'money' ? 10 ** digitsOf(currency) : 1;
  return (
    <>
      <InlineChoice
        label={phrase('records.howMany', { label })}
        value={bound.is}
        set={(is) => change({ ...bound, is: is as Bound['is'] })}
        choices={[
          { value: 'at least', label: phrase('records.atLeast') },
          { value: 'at most', label: phrase('records.atMost') },
          { value: 'exactly', label: phrase('records.exactly') },
        ]}
      />
      {unit === 'money' && <span>{currency}</span>}
      <NumberField
        label={phrase('records.number', { label })}
        value={bound.n / scale}
        set={(n) => change({ ...bound, n: Math.round((n ?? 0) * scale) })}
      />
      {unit !== 'money' && <span>{term(unit)}</span>}
    </>
  );
}

const eventKeys = ['unitId', 'category', 'seriesId', 'title'] as const;
const narrowing: Record<keyof OfEvents, string> = {
  unitId: phrase('records.withAUnit'),
  category: phrase('records.ofAKind'),
  seriesId: phrase('records.inASeries'),
  title: phrase('records.withWordsInThe'),
};

/** Which events count: any, or narrowed by unit, kind, series and words in the title. */
export function EventsField({
  label,
  of,
  choices,
  change,
}: {
  label: string;
  of: OfEvents;
  choices: SegmentChoices | undefined;
  change: (of: OfEvents) => void;
}) {
  // What is being narrowed and has nothing chosen yet.
  const [begun, setBegun] = useState<readonly (keyof OfEvents)[]>([]);
  const shown = eventKeys.filter((k) => of[k] || begun.includes(k));
  const rest = eventKeys.filter((k) => !shown.includes(k));
  const put = (key: keyof OfEvents, value: string) => {
    if (!value) setBegun(begun.filter((k) => k !== key));
    change(Object.fromEntries(Object.entries({ ...of, [key]: value }).filter(([, v]) => v)) as OfEvents);
  };
  const options: Record<Exclude<keyof OfEvents, 'title'>, [string, string][]> = {
    unitId: [
      ['', phrase('records.withAnyUnit')],
      ...(choices?.units ?? []).map((u): [string, string] => [
        u.id,
        phrase('records.withUnit', { name: u.name }),
      ]),
    ],
    category: [
      ['', phrase('records.ofAnyKind')],
      ...(choices?.categories ?? []).map((c): [string, string] => [c, phrase('records.ofTheKind', { c })]),
    ],
    seriesId: [
      ['', phrase('records.inAnySeries')],
      ...(choices?.series ?? []).map((s): [string, string] => [
        s.id,
        phrase('records.inTheSeries', { title: s.title }),
      ]),
    ],
  };
  return (
    <>
      {shown.map((key) =>
        key === 'title' ? (
          <Words
            key={key}
            label={label}
            value={of.title ?? ''}
            set={(title) => put('title', title)}
            what={phrase('records.eventTitle')}
            placeholder={phrase('records.wordsInTheTitle')}
          />
        ) : (
          <Pick
            key={key}
            label={`${label}: ${narrowing[key]}`}
            value={of[key] ?? ''}
            set={(v) => put(key, v)}
            options={options[key]}
          />
        ),
      )}
      {rest.length > 0 && (
        <Pick
          label={phrase('records.whichEvents', { label })}
          value=""
          set={(key) => key && setBegun([...begun, key as keyof OfEvents])}
          options={[
            ['', shown.length ? phrase('records.andMore') : phrase('records.anyEvent')],
            ...rest.map((k) => [k, narrowing[k]] as const),
          ]}
        />
      )}
    </>
  );
}

/** A choice inside a question. */
export function Pick({
  label,
  value,
  set,
  options,
}: {
  label: string;
  value: string;
  set: (value: string) => void;
  options: readonly (readonly [string, string])[];
}) {
  return (
    <InlineChoice
      label={label}
      value={value}
      set={set}
      choices={options.map(([v, words]) => ({ value: v, label: words }))}
      maxWidth="260px"
    />
  );
}

/** Words inside a question. */
export function Words({
  label,
  value,
  set,
  what,
  placeholder = what,
  width = '130px',
}: {
  label: string;
  value: string;
  set: (value: string) => void;
  what: string;
  placeholder?: string;
  width?: string;
}) {
  return (
    <InlineText label={`${label}: ${what}`} placeholder={placeholder} value={value} width={width} set={set} />
  );
}

/** The day something has to hold on: today whenever it is asked, or one day for good. */
export function OnDayField({ label, on, set }: { label: string; on: OnDay; set: (on: OnDay) => void }) {
  const { today } = useSaying();
  return (
    <>
      <Pick
        label={phrase('records.onWhichDay', { label })}
        value={on === 'today' ? on : 'day'}
        set={(v) => set(v === 'today' ? v : today)}
        options={[
          ['today', phrase('records.today')],
          ['day', phrase('records.onADay')],
        ]}
      />
      {on !== 'today' && (
        <InlineText
          type="date"
          width="auto"
          label={phrase('records.theDay', { label })}
          value={on}
          set={(day) => day && set(day)}
        />
      )}
    </>
  );
}

/** When something has to have happened. */
export function WindowField({
  label,
  window: w,
  change,
}: {
  label: string;
  window: Window;
  change: (window: Window) => void;
}) {
  const year = Number(useSaying().today.slice(0, 4));
  return (
    <>
      <InlineChoice
        label={phrase('records.when', { label })}
        value={w.when}
        set={(value) => {
          const when = value as Window['when'];
          change(
            when === 'days'
              ? { when, days: 365 }
              : when === 'between'
                ? { when, from: `${year - 1}-01-01`, to: `${year - 1}-12-31` }
                : { when },
          );
        }}
        choices={[
          { value: 'ever', label: phrase('records.atAnyTime') },
          { value: 'this year', label: phrase('records.thisYear') },
          { value: 'last year', label: phrase('records.lastYear') },
          { value: 'days', label: phrase('records.inTheLastDays') },
          { value: 'between', label: phrase('records.fromADayTo') },
        ]}
      />
      {w.when === 'days' && (
        <NumberField
          label={phrase('records.days', { label })}
          value={w.days}
          set={(days) => change({ ...w, days: days ?? 0 })}
        />
      )}
      {w.when === 'between' &&
        (['from', 'to'] as const).map((side) => (
          <InlineText
            key={side}
            type="date"
            width="auto"
            label={phrase(side === 'from' ? 'records.firstDay' : 'records.lastDay', { label })}
            value={w[side] ?? ''}
            set={(day) => change({ ...w, [side]: day })}
          />
        ))}
    </>
  );
}
