import { chakra } from '@chakra-ui/react';
import { useState } from 'react';
import type { SegmentChoices } from '#contract/records.ts';
import type { Bound, OfEvents, OnDay, Question, Window } from '#core/records/segment.ts';
import { placed } from '#web/kit/placed.ts';
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
    <chakra.input
      type="number"
      min={0}
      aria-label={label}
      width="76px"
      value={value ?? ''}
      onChange={(e) => set(e.target.value === '' ? undefined : Math.max(0, Number(e.target.value)))}
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
  const scale = unit === 'money' ? 100 : 1;
  return (
    <>
      <select
        aria-label={`${label}: how many`}
        value={bound.is}
        onChange={(e) => change({ ...bound, is: e.target.value as Bound['is'] })}
      >
        <option>at least</option>
        <option>at most</option>
        <option>exactly</option>
      </select>
      {unit === 'money' && <span>$</span>}
      <NumberField
        label={`${label}: number`}
        value={bound.n / scale}
        set={(n) => change({ ...bound, n: Math.round((n ?? 0) * scale) })}
      />
      {unit !== 'money' && <span>{unit}</span>}
    </>
  );
}

const eventKeys = ['unitId', 'category', 'seriesId', 'title'] as const;
const narrowing: Record<keyof OfEvents, string> = {
  unitId: 'with a unit',
  category: 'of a kind',
  seriesId: 'in a series',
  title: 'with words in the title',
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
      ['', 'with any unit'],
      ...(choices?.units ?? []).map((u): [string, string] => [u.id, `with ${u.name}`]),
    ],
    category: [
      ['', 'of any kind'],
      ...(choices?.categories ?? []).map((c): [string, string] => [c, `of the kind ${c}`]),
    ],
    seriesId: [
      ['', 'in any series'],
      ...(choices?.series ?? []).map((s): [string, string] => [s.id, `in the series ${s.title}`]),
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
            what="event title"
            placeholder="words in the title"
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
          label={`${label}: which events`}
          value=""
          set={(key) => key && setBegun([...begun, key as keyof OfEvents])}
          options={[
            ['', shown.length ? 'and …' : 'any event'],
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
    <select aria-label={label} value={value} onChange={(e) => set(e.target.value)}>
      {options.map(([v, words]) => (
        <option key={v} value={v}>
          {words}
        </option>
      ))}
    </select>
  );
}

/** Words inside a question. */
export function Words({
  label,
  value,
  set,
  what,
  placeholder = what,
  width = 130,
}: {
  label: string;
  value: string;
  set: (value: string) => void;
  what: string;
  placeholder?: string;
  width?: number;
}) {
  return (
    <input
      aria-label={`${label}: ${what}`}
      placeholder={placeholder}
      value={value}
      style={placed({ width })}
      onChange={(e) => set(e.target.value)}
    />
  );
}

/** The day something has to hold on: today whenever it is asked, or one day for good. */
export function OnDayField({ label, on, set }: { label: string; on: OnDay; set: (on: OnDay) => void }) {
  const { today } = useSaying();
  return (
    <>
      <Pick
        label={`${label}: on which day`}
        value={on === 'today' ? on : 'day'}
        set={(v) => set(v === 'today' ? v : today)}
        options={[
          ['today', 'today'],
          ['day', 'on a day'],
        ]}
      />
      {on !== 'today' && (
        <input
          type="date"
          aria-label={`${label}: the day`}
          value={on}
          onChange={(e) => e.target.value && set(e.target.value)}
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
      <select
        aria-label={`${label}: when`}
        value={w.when}
        onChange={(e) => {
          const when = e.target.value as Window['when'];
          change(
            when === 'days'
              ? { when, days: 365 }
              : when === 'between'
                ? { when, from: `${year - 1}-01-01`, to: `${year - 1}-12-31` }
                : { when },
          );
        }}
      >
        <option value="ever">at any time</option>
        <option value="this year">this year</option>
        <option value="last year">last year</option>
        <option value="days">in the last days</option>
        <option value="between">from a day to a day</option>
      </select>
      {w.when === 'days' && (
        <NumberField
          label={`${label}: days`}
          value={w.days}
          set={(days) => change({ ...w, days: days ?? 0 })}
        />
      )}
      {w.when === 'between' &&
        (['from', 'to'] as const).map((side) => (
          <input
            key={side}
            type="date"
            aria-label={`${label}: ${side} day`}
            value={w[side] ?? ''}
            onChange={(e) => change({ ...w, [side]: e.target.value })}
          />
        ))}
    </>
  );
}
