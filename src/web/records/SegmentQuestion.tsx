import { textKeys } from '#core/contacts/attributes.ts';
import { consentChannels, consentTopics } from '#core/contacts/consent.ts';
import {
  fieldTests,
  freshQuestion,
  type NeverKind,
  neverKindOf,
  neverKinds,
  neverQuestion,
  type Question,
  questionKinds,
  textTests,
} from '#core/records/segment.ts';
import { sayText } from '#core/words/attributes.ts';
import { InlineChoice } from '#web/kit/Inline.tsx';
import { phrase, term } from '#web/words/phrase.ts';
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
  tag: phrase('records.hasTheTag'),
  reach: phrase('records.has'),
  age: phrase('records.isOfAge'),
  'postal code': phrase('records.hasAPostalCode'),
  language: phrase('records.readsLanguage'),
  consent: phrase('records.aboutMessagesSaid'),
  'not to be contacted': phrase('records.wantsNoContact'),
  'moved away': phrase('records.hasMovedAway'),
  organization: phrase('records.isAnOrganization'),
  'custom field': phrase('records.hasInAField'),
  detail: phrase('records.hasOnRecord'),
  member: phrase('records.isAMember'),
  'in a unit': phrase('records.isInTheUnit'),
  'works for': phrase('records.isWithAnOrganization'),
  registered: phrase('records.registered'),
  attended: phrase('records.came'),
  missed: phrase('records.registeredAndDidNot'),
  donated: phrase('records.gave'),
  served: phrase('records.served'),
  signed: phrase('records.hasSigned'),
  'last seen': phrase('records.wasLastSeen'),
  'answered a survey': phrase('records.answeredASurvey'),
  'in the household of': phrase('records.livesInTheHousehold'),
};

const neverWords: Record<NeverKind, string> = {
  'never came': phrase('records.neverCame'),
  'never gave': phrase('records.neverGave'),
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
      <InlineChoice
        label={phrase('records.whatIsAsked', { label })}
        value={neverKindOf(q) ?? q.ask}
        set={(kind) => {
          const never = neverKinds.find((k) => k === kind);
          change(never ? neverQuestion(never) : freshQuestion(kind as Question['ask']));
        }}
        choices={[
          ...questionKinds.map((kind) => ({ value: kind, label: kindWords[kind] })),
          ...neverKinds.map((kind) => ({ value: kind, label: neverWords[kind] })),
        ]}
        maxWidth="200px"
      />
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
  const named = (list: readonly { id: string; name: string }[] | undefined) =>
    (list ?? []).map((x) => [x.id, x.name] as const);
  const ours = (list: readonly string[]) => list.map((x) => [x, term(x)] as const);
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
        ['', phrase('records.chooseATag')],
        ...plain(tags.map((t) => t.tag)),
      ]);
    case 'reach':
      return pick('by', q.by, (by) => change({ ...q, by: by as 'email' }), [
        ['email', phrase('records.anEmail')],
        ['phone', phrase('records.aTelephone')],
        ['address', phrase('records.anAddress')],
      ]);
    case 'age':
      return (
        <>
          <NumberField
            label={phrase('records.from', { label })}
            value={q.from}
            set={(from) => change(without({ ...q, from }))}
          />
          <span>{phrase('records.to')}</span>
          <NumberField
            label={phrase('records.toLabel', { label })}
            value={q.to}
            set={(to) => change(without({ ...q, to }))}
          />
        </>
      );
    case 'postal code':
      return (
        <Words
          label={label}
          value={q.begins}
          set={(begins) => change({ ...q, begins })}
          what={phrase('records.b3')}
          width="80px"
        />
      );
    case 'language':
      return pick('language', q.language, (language) => change({ ...q, language }), [
        ['en', phrase('common.english')],
        ['fr', phrase('common.french')],
        ...plain(choices?.languages.filter((l) => !['en', 'fr'].includes(l)) ?? []),
      ]);
    case 'consent':
      return (
        <>
          {pick('said', q.said, (said) => change({ ...q, said: said as 'yes' }), [
            ['yes', term('yes')],
            ['no', term('no')],
            ['nothing', phrase('records.nothingYet')],
          ])}
          <span>{phrase('records.to')}</span>
          {pick(
            'topic',
            q.topic,
            (topic) => change({ ...q, topic: topic as typeof q.topic }),
            ours(consentTopics),
          )}
          <span>{phrase('common.by')}</span>
          {pick(
            'channel',
            q.channel,
            (channel) => change({ ...q, channel: channel as typeof q.channel }),
            ours(consentChannels),
          )}
        </>
      );
    case 'custom field':
      return (
        <>
          {pick('field', q.fieldId, (fieldId) => change({ ...q, fieldId }), [
            [
              '',
              choices?.fields.length === 0 ? phrase('records.noFieldsYet') : phrase('records.chooseAField'),
            ],
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
            textKeys.map((key) => [key, sayText(key, 'many')] as const),
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
            ['', phrase('records.ofAnyLevel')],
            ...plain(choices?.levels ?? []),
          ])}
          {on}
        </>
      );
    case 'in a unit':
      return (
        <>
          {pick('unit', q.unitId, (unitId) => change({ ...q, unitId }), [
            ['', phrase('common.chooseAUnit')],
            ...named(choices?.units),
          ])}
          {pick('role', q.role ?? '', (role) => change(without({ ...q, role: role || undefined })), [
            ['', phrase('records.inAnyRole')],
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
            [['', phrase('records.anyOrganization')], ...named(choices?.organizations)],
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
            ['', phrase('records.toAnyFund')],
            ...(choices?.funds ?? []).map(
              (f) => [f.id, phrase('records.toNamed', { name: f.name })] as const,
            ),
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
            what={phrase('records.inAnyRole')}
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
            [['', phrase('records.anyWaiverThatIs')], ...named(choices?.waivers)],
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
            what={phrase('records.toAnyQuestion')}
          />
          <Words
            label={label}
            value={q.said ?? ''}
            set={(said) => change(without({ ...q, said: said || undefined }))}
            what={phrase('records.sayingAnything')}
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
        label={phrase('records.howItIsCompared', { label })}
        value={is}
        set={(test) => set(test as Test, test === 'filled' ? undefined : value)}
        options={tests.map((test) => [test, test] as const)}
      />
      {is !== 'filled' && (
        <Words label={label} value={value} set={(word) => set(is, word)} what={phrase('records.value')} />
      )}
    </>
  );
}
