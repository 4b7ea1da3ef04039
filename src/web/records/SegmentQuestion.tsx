import {
  type Bound,
  freshQuestion,
  type OfEvents,
  type Question,
  questionKinds,
  type Window,
} from '#core/records/segment.ts';
import { useAsk } from '../parts/ask.ts';
import { useSaying } from '../parts/saying.ts';

const kindWords: Record<Question['ask'], string> = {
  tag: 'has the tag',
  reach: 'has',
  age: 'is of age',
  'postal code': 'has a postal code that begins',
  language: 'reads',
  newsletter: 'about the newsletter said',
  'not to be contacted': 'asked not to be contacted',
  member: 'is a member',
  registered: 'registered',
  attended: 'came',
  missed: 'registered and did not come',
  donated: 'gave',
  served: 'served',
  signed: 'has signed',
  'last seen': 'was last seen',
  'answered a survey': 'answered a survey',
  'in the household of': 'lives in the household of somebody who …',
};

/** One question of a segment, in the words it is read back in. */
export function SegmentQuestion({
  question: q,
  change,
  label,
}: {
  question: Question;
  change: (question: Question) => void;
  label: string;
}) {
  return (
    <>
      <select
        aria-label={`${label}: what is asked`}
        value={q.ask}
        onChange={(e) => change(freshQuestion(e.target.value as Question['ask']))}
      >
        {questionKinds.map((kind) => (
          <option key={kind} value={kind}>
            {kindWords[kind]}
          </option>
        ))}
      </select>
      <Fields question={q} change={change} label={label} />
    </>
  );
}

function Fields({
  question: q,
  change,
  label,
}: {
  question: Question;
  change: (question: Question) => void;
  label: string;
}) {
  const choices = useAsk('GET /api/choices').data;
  const tags = useAsk('GET /api/tags', { enabled: q.ask === 'tag' }).data ?? [];
  const text = (value: string, set: (v: string) => void, what: string, width = 130) => (
    <input
      aria-label={`${label}: ${what}`}
      placeholder={what}
      value={value}
      style={{ width }}
      onChange={(e) => set(e.target.value)}
    />
  );
  const pick = (
    value: string,
    set: (v: string) => void,
    options: readonly (readonly [string, string])[],
    what: string,
  ) => (
    <select aria-label={`${label}: ${what}`} value={value} onChange={(e) => set(e.target.value)}>
      {options.map(([v, words]) => (
        <option key={v} value={v}>
          {words}
        </option>
      ))}
    </select>
  );
  switch (q.ask) {
    case 'tag':
      return pick(
        q.tag,
        (tag) => change({ ...q, tag }),
        [['', 'choose a tag'], ...tags.map((t) => [t.tag, t.tag] as const)],
        'tag',
      );
    case 'reach':
      return pick(
        q.by,
        (by) => change({ ...q, by: by as 'email' }),
        [
          ['email', 'an email'],
          ['phone', 'a telephone'],
          ['address', 'an address'],
        ],
        'by',
      );
    case 'age':
      return (
        <>
          <NumberField
            label={`${label}: from`}
            value={q.from}
            set={(from) => change(without({ ...q, from }))}
          />
          <span>to</span>
          <NumberField label={`${label}: to`} value={q.to} set={(to) => change(without({ ...q, to }))} />
        </>
      );
    case 'postal code':
      return text(q.begins, (begins) => change({ ...q, begins }), 'B3', 80);
    case 'language':
      return pick(
        q.language,
        (language) => change({ ...q, language }),
        [
          ['en', 'English'],
          ['fr', 'French'],
        ],
        'language',
      );
    case 'newsletter':
      return pick(
        q.said,
        (said) => change({ ...q, said: said as 'yes' }),
        [
          ['yes', 'yes'],
          ['no', 'no'],
          ['nothing', 'nothing yet'],
        ],
        'said',
      );
    case 'not to be contacted':
      return null;
    case 'member':
      return text(
        q.level ?? '',
        (level) => change(without({ ...q, level: level || undefined })),
        'any level',
      );
    case 'registered':
    case 'attended':
    case 'missed':
      return (
        <>
          <BoundField
            label={label}
            bound={q.times}
            unit="times"
            change={(times) => change({ ...q, times })}
          />
          <EventsField
            label={label}
            of={q.of}
            units={choices?.units ?? []}
            change={(of) => change({ ...q, of })}
          />
          <WindowField label={label} window={q.within} change={(within) => change({ ...q, within })} />
        </>
      );
    case 'donated':
      return (
        <>
          <BoundField
            label={label}
            bound={q.amount}
            unit="money"
            change={(amount) => change({ ...q, amount })}
          />
          {pick(
            q.fundId ?? '',
            (fundId) => change(without({ ...q, fundId: fundId || undefined })),
            [['', 'to any fund'], ...(choices?.funds ?? []).map((f) => [f.id, `to ${f.name}`] as const)],
            'fund',
          )}
          <WindowField label={label} window={q.within} change={(within) => change({ ...q, within })} />
        </>
      );
    case 'served':
      return (
        <>
          <BoundField
            label={label}
            bound={q.hours}
            unit="hours"
            change={(hours) => change({ ...q, hours })}
          />
          {text(q.role ?? '', (role) => change(without({ ...q, role: role || undefined })), 'in any role')}
          <WindowField label={label} window={q.within} change={(within) => change({ ...q, within })} />
        </>
      );
    case 'signed':
      return (
        <>
          {pick(
            q.waiverId ?? '',
            (waiverId) => change(without({ ...q, waiverId: waiverId || undefined })),
            [
              ['', 'any waiver that is valid'],
              ...(choices?.waivers ?? []).map((w) => [w.id, w.title] as const),
            ],
            'waiver',
          )}
          <WindowField label={label} window={q.within} change={(within) => change({ ...q, within })} />
        </>
      );
    case 'last seen':
    case 'answered a survey':
      return <WindowField label={label} window={q.within} change={(within) => change({ ...q, within })} />;
    case 'in the household of':
      return null;
  }
}

/** A question without the parts that are not said. */
const without = <Q extends Question>(q: { [K in keyof Q]: Q[K] | undefined }): Q =>
  Object.fromEntries(Object.entries(q).filter(([, v]) => v !== undefined)) as unknown as Q;

function NumberField({
  label,
  value,
  set,
}: {
  label: string;
  value: number | undefined;
  set: (value: number | undefined) => void;
}) {
  return (
    <input
      type="number"
      min={0}
      aria-label={label}
      style={{ width: 76 }}
      value={value ?? ''}
      onChange={(e) => set(e.target.value === '' ? undefined : Math.max(0, Number(e.target.value)))}
    />
  );
}

function BoundField({
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

function EventsField({
  label,
  of,
  units,
  change,
}: {
  label: string;
  of: OfEvents;
  units: readonly { id: string; name: string }[];
  change: (of: OfEvents) => void;
}) {
  const put = (part: Partial<Record<keyof OfEvents, string | undefined>>) =>
    change(Object.fromEntries(Object.entries({ ...of, ...part }).filter(([, v]) => v)) as OfEvents);
  return (
    <>
      <select
        aria-label={`${label}: unit`}
        value={of.unitId ?? ''}
        onChange={(e) => put({ unitId: e.target.value })}
      >
        <option value="">with any unit</option>
        {units.map((u) => (
          <option key={u.id} value={u.id}>
            with {u.name}
          </option>
        ))}
      </select>
      <input
        aria-label={`${label}: event title`}
        placeholder="to any event"
        style={{ width: 120 }}
        value={of.title ?? ''}
        onChange={(e) => put({ title: e.target.value })}
      />
    </>
  );
}

function WindowField({
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
