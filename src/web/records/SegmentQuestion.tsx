import { attributes, textKeys } from '#core/contacts/attributes.ts';
import { consentChannels, consentTopics } from '#core/contacts/consent.ts';
import {
  fieldTests,
  freshQuestion,
  neverKindOf,
  neverKinds,
  neverQuestion,
  type Question,
  questionKinds,
  textTests,
} from '#core/records/segment.ts';
import { useAsk } from '../parts/ask.ts';
import {
  BoundField,
  EventsField,
  NumberField,
  OnDayField,
  Pick,
  WindowField,
  Words,
  without,
} from './questionFields.tsx';

const kindWords: Record<Question['ask'], string> = {
  tag: 'has the tag',
  reach: 'has',
  age: 'is of age',
  'postal code': 'has a postal code that begins',
  language: 'reads',
  consent: 'about messages said',
  'not to be contacted': 'wants no contact',
  'moved away': 'has moved away',
  organization: 'is an organization',
  'custom field': 'has in a field of our own',
  detail: 'has on record',
  member: 'is a member',
  'in a unit': 'is in the unit',
  'works for': 'is with an organization',
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
        value={neverKindOf(q) ?? q.ask}
        onChange={(e) => {
          const kind = e.target.value;
          const never = neverKinds.find((k) => k === kind);
          change(never ? neverQuestion(never) : freshQuestion(kind as Question['ask']));
        }}
      >
        {questionKinds.map((kind) => (
          <option key={kind} value={kind}>
            {kindWords[kind]}
          </option>
        ))}
        {neverKinds.map((kind) => (
          <option key={kind} value={kind}>
            {kind}
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
  const choices = useAsk('GET /api/segments/choices').data;
  const tags = useAsk('GET /api/tags', { enabled: q.ask === 'tag' }).data ?? [];
  const pick = (
    what: string,
    value: string,
    set: (v: string) => void,
    options: readonly (readonly [string, string])[],
  ) => <Pick label={`${label}: ${what}`} value={value} set={set} options={options} />;
  const named = (list: readonly { id: string; name: string }[] | undefined, lead = '') =>
    (list ?? []).map((x) => [x.id, lead + x.name] as const);
  const plain = (list: readonly string[]) => list.map((x) => [x, x] as const);
  const within = 'within' in q && (
    <WindowField label={label} window={q.within} change={(w) => change({ ...q, within: w })} />
  );
  const events = 'of' in q && (
    <EventsField label={label} of={q.of} choices={choices} change={(of) => change({ ...q, of })} />
  );
  const on = 'on' in q && <OnDayField label={label} on={q.on} set={(day) => change({ ...q, on: day })} />;
  switch (q.ask) {
    case 'tag':
      return pick('tag', q.tag, (tag) => change({ ...q, tag }), [
        ['', 'choose a tag'],
        ...plain(tags.map((t) => t.tag)),
      ]);
    case 'reach':
      return pick('by', q.by, (by) => change({ ...q, by: by as 'email' }), [
        ['email', 'an email'],
        ['phone', 'a telephone'],
        ['address', 'an address'],
      ]);
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
      return (
        <Words
          label={label}
          value={q.begins}
          set={(begins) => change({ ...q, begins })}
          what="B3"
          width={80}
        />
      );
    case 'language':
      return pick('language', q.language, (language) => change({ ...q, language }), [
        ['en', 'English'],
        ['fr', 'French'],
        ...plain(choices?.languages.filter((l) => !['en', 'fr'].includes(l)) ?? []),
      ]);
    case 'consent':
      return (
        <>
          {pick('said', q.said, (said) => change({ ...q, said: said as 'yes' }), [
            ['yes', 'yes'],
            ['no', 'no'],
            ['nothing', 'nothing yet'],
          ])}
          <span>to</span>
          {pick(
            'topic',
            q.topic,
            (topic) => change({ ...q, topic: topic as typeof q.topic }),
            plain(consentTopics),
          )}
          <span>by</span>
          {pick(
            'channel',
            q.channel,
            (channel) => change({ ...q, channel: channel as typeof q.channel }),
            plain(consentChannels),
          )}
        </>
      );
    case 'custom field':
      return (
        <>
          {pick('field', q.fieldId, (fieldId) => change({ ...q, fieldId }), [
            ['', choices?.fields.length === 0 ? 'no fields yet' : 'choose a field'],
            ...named(choices?.fields),
          ])}
          <Comparison
            question={q}
            tests={fieldTests}
            set={(is, value) => change(without({ ...q, is, value }))}
            label={label}
          />
        </>
      );
    case 'detail':
      return (
        <>
          {pick(
            'what',
            q.detail,
            (detail) => change({ ...q, detail: detail as typeof q.detail }),
            textKeys.map((key) => [key, attributes[key].text.many] as const),
          )}
          <Comparison
            question={q}
            tests={textTests}
            set={(is, value) => change(without({ ...q, is, value }))}
            label={label}
          />
        </>
      );
    case 'member':
      return (
        <>
          {pick('level', q.level ?? '', (level) => change(without({ ...q, level: level || undefined })), [
            ['', 'of any level'],
            ...plain(choices?.levels ?? []),
          ])}
          {on}
        </>
      );
    case 'in a unit':
      return (
        <>
          {pick('unit', q.unitId, (unitId) => change({ ...q, unitId }), [
            ['', 'choose a unit'],
            ...named(choices?.units),
          ])}
          {pick('role', q.role ?? '', (role) => change(without({ ...q, role: role || undefined })), [
            ['', 'in any role'],
            ...plain(choices?.unitRoles ?? []),
          ])}
          {on}
        </>
      );
    case 'works for':
      return (
        <>
          {pick(
            'organization',
            q.organizationId ?? '',
            (id) => change(without({ ...q, organizationId: id || undefined })),
            [['', 'any organization'], ...named(choices?.organizations)],
          )}
          {on}
        </>
      );
    case 'registered':
    case 'attended':
    case 'missed':
      return (
        <>
          {!neverKindOf(q) && (
            <BoundField
              label={label}
              bound={q.times}
              unit="times"
              change={(times) => change({ ...q, times })}
            />
          )}
          {events}
          {within}
        </>
      );
    case 'donated':
      return (
        <>
          {!neverKindOf(q) && (
            <BoundField
              label={label}
              bound={q.amount}
              unit="money"
              change={(amount) => change({ ...q, amount })}
            />
          )}
          {pick('fund', q.fundId ?? '', (fundId) => change(without({ ...q, fundId: fundId || undefined })), [
            ['', 'to any fund'],
            ...named(choices?.funds, 'to '),
          ])}
          {within}
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
          <Words
            label={label}
            value={q.role ?? ''}
            set={(role) => change(without({ ...q, role: role || undefined }))}
            what="in any role"
          />
          {within}
        </>
      );
    case 'signed':
      return (
        <>
          {pick(
            'waiver',
            q.waiverId ?? '',
            (waiverId) => change(without({ ...q, waiverId: waiverId || undefined })),
            [['', 'any waiver that is valid'], ...named(choices?.waivers)],
          )}
          {within}
        </>
      );
    case 'last seen':
      return within;
    case 'answered a survey':
      return (
        <>
          {events}
          {within}
          <Words
            label={label}
            value={q.question ?? ''}
            set={(question) => change(without({ ...q, question: question || undefined }))}
            what="to any question"
          />
          <Words
            label={label}
            value={q.said ?? ''}
            set={(said) => change(without({ ...q, said: said || undefined }))}
            what="saying anything"
          />
        </>
      );
    case 'not to be contacted':
    case 'moved away':
    case 'organization':
    case 'in the household of':
      return null;
  }
}

/** How a text is compared, and with which word; nothing is compared where it only has to be there. */
function Comparison<Test extends string>({
  question: { is, value = '' },
  tests,
  set,
  label,
}: {
  question: { is: Test; value?: string | undefined };
  tests: readonly Test[];
  set: (is: Test, value: string | undefined) => void;
  label: string;
}) {
  return (
    <>
      <Pick
        label={`${label}: how it is compared`}
        value={is}
        set={(test) => set(test as Test, test === 'filled' ? undefined : value)}
        options={tests.map((test) => [test, test] as const)}
      />
      {is !== 'filled' && <Words label={label} value={value} set={(word) => set(is, word)} what="value" />}
    </>
  );
}
