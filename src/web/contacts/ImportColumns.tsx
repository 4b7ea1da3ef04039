import { chakra, type SystemStyleObject } from '@chakra-ui/react';
import type { ImportSummary } from '#contract/imports.ts';
import { textsOf } from '#core/contacts/attributes.ts';
import { type ImportField, type Policy, several, usualPolicy } from '#core/imports/importing.ts';
import { type ColumnMeaning, columnMeanings, fieldIdOf } from '#core/imports/mapping.ts';
import { Tick } from '#web/kit/Choosing.tsx';
import { InlineChoice } from '#web/kit/Inline.tsx';
import { phrase, term } from '#web/words/phrase.ts';
import { useAsk } from '../parts/ask.ts';

/** On a phone a column of the file is a block: its heading with what it means, and beneath it what is in it. */
const columnsLook: SystemStyleObject = {
  mdDown: {
    '& thead': { display: 'none' },
    '& tr': {
      display: 'grid',
      gridTemplateColumns: 'minmax(0, 1fr) auto',
      alignItems: 'center',
      gap: '2px 10px',
      padding: '8px 0',
      borderBottom: '1px solid var(--line)',
    },
    '& td': { border: 0, padding: 0, maxWidth: 'none' },
    '& td:nth-of-type(2), & td:nth-of-type(4)': { gridColumn: '1 / -1', order: 1 },
    '& td:empty': { display: 'none' },
  },
};

export type NewMapping = ImportSummary['mapping'] & { choices: ImportSummary['choices'] };

const sureness = (confidence: number): string =>
  phrase(confidence >= 0.85 ? 'contacts.sure' : confidence >= 0.6 ? 'contacts.likely' : 'contacts.unsure');

/** What every column means, line by line: its heading, first values, meaning and how sure the proposal is. */
export function ImportColumns({
  summary,
  save,
  busy,
}: {
  summary: ImportSummary;
  save: (mapping: NewMapping) => void;
  busy: boolean;
}) {
  const { mapping, headings, sample, confidence, choices } = summary;
  const change = (part: Partial<NewMapping>) => save({ ...mapping, choices, ...part });
  const own = useAsk('GET /api/fields').data ?? [];
  const used = mapping.columns.filter((c) => c !== 'leave').length;
  return (
    <chakra.details open={summary.state === 'checked'} margin="10px 0">
      <chakra.summary className="name" cursor="pointer" fontSize="16px">
        {phrase('contacts.whatTheColumnsMean')}{' '}
        <small className="soft">
          {[
            phrase('contacts.ofAreBroughtIn', { used, headings: headings.length }),
            summary.mappingFrom && phrase('contacts.asFor', { fileName: summary.mappingFrom.fileName }),
          ]
            .filter(Boolean)
            .join(', ')}
        </small>
      </chakra.summary>
      <chakra.div className="table" maxHeight={{ md: '38vh' }} marginTop="6px" css={columnsLook}>
        <table>
          <thead>
            <tr>
              <chakra.th width="19%">{phrase('contacts.headingInTheFile')}</chakra.th>
              <th>{phrase('contacts.firstValues')}</th>
              <chakra.th width="190px">{phrase('contacts.means')}</chakra.th>
              <chakra.th width="150px">{phrase('contacts.howSure')}</chakra.th>
            </tr>
          </thead>
          <tbody>
            {headings.map((heading, n) => {
              const meaning = mapping.columns[n]!;
              const order = mapping.dateOrders[n];
              return (
                <tr key={heading}>
                  <td>{heading}</td>
                  <chakra.td className="soft clip" maxWidth="0">
                    {sample
                      .map((cells) => cells[n])
                      .filter(Boolean)
                      .slice(0, 3)
                      .join(' · ')}
                  </chakra.td>
                  <td>
                    <InlineChoice
                      label={phrase('contacts.meaningOf', { heading })}
                      look={meaning === 'leave' ? 'quiet' : 'cell'}
                      value={meaning}
                      disabled={busy}
                      set={(to) =>
                        change({
                          columns: mapping.columns.map((c, x) => (x === n ? (to as ColumnMeaning) : c)),
                        })
                      }
                      choices={[
                        ...columnMeanings.map((m) => ({
                          value: m,
                          label: m === 'leave' ? phrase('contacts.leaveOut') : (meaningWords[m] ?? term(m)),
                        })),
                        ...own.map((f) => ({ value: `field ${f.id}`, label: f.name })),
                      ]}
                    />
                  </td>
                  <td>
                    {order ? (
                      <InlineChoice
                        label={phrase('contacts.orderOfDatesIn', { heading })}
                        look={order === 'ask' ? 'asks' : 'cell'}
                        value={order}
                        disabled={busy}
                        set={(to) =>
                          change({
                            dateOrders: mapping.dateOrders.map((o, x) => (x === n ? (to as 'day first') : o)),
                          })
                        }
                        choices={[
                          ...(order === 'ask'
                            ? [{ value: 'ask', label: phrase('contacts.dayOrMonthFirst') }]
                            : []),
                          { value: 'day first', label: phrase('contacts.dayFirst') },
                          { value: 'month first', label: phrase('contacts.monthFirst') },
                        ]}
                      />
                    ) : (
                      meaning !== 'leave' && <span className="soft">{sureness(confidence[n] ?? 1)}</span>
                    )}
                  </td>
                </tr>
              );
            })}
          </tbody>
        </table>
      </chakra.div>
      <Whose summary={summary} change={change} busy={busy} />
    </chakra.details>
  );
}

/** Meanings that say more in other words. */
const meaningWords: Partial<Record<ColumnMeaning, string>> = {
  newsletter: phrase('contacts.newsletterYesOrNo'),
  'newsletter refused': phrase('contacts.newsletterYesMeansNo'),
  town: phrase('contacts.townOrProvince'),
};

const fieldsOf: Partial<Record<ColumnMeaning, ImportField>> = {
  'given name': 'name',
  'family name': 'name',
  'whole name': 'name',
  email: 'email',
  phone: 'phone',
  street: 'address',
  town: 'address',
  'postal code': 'address',
  'birth date': 'birth date',
  language: 'language',
  ...textsOf((key) => key),
  tags: 'tags',
  note: 'note',
  'member number': 'membership',
  'member since': 'membership',
  'member level': 'membership',
  'member until': 'member until',
  organization: 'organization',
  'died on': 'died on',
  'emergency name': 'emergency',
  'emergency phone': 'emergency',
  'guardian name': 'guardian of',
  'other guardian name': 'guardian of',
};

/** Whose values count for people who are known already. */
function Whose({
  summary,
  change,
  busy,
}: {
  summary: ImportSummary;
  change: (part: Partial<NewMapping>) => void;
  busy: boolean;
}) {
  const { columns } = summary.mapping;
  const fields = [
    ...new Set(
      columns.flatMap((c) => {
        if (c === 'email or phone') return ['email', 'phone'] as ImportField[];
        const field = fieldIdOf(c) ? 'own field' : fieldsOf[c];
        return field ? [field] : [];
      }),
    ),
  ];
  const { choices } = summary;
  const consent =
    columns.some((c) => c === 'newsletter' || c === 'newsletter refused') ||
    columns.includes('do not contact');
  return (
    <chakra.fieldset border="0" padding="0" margin="10px 0 0" disabled={busy}>
      <chakra.legend className="soft" fontSize="14px" padding="0">
        {phrase('contacts.forPeopleWhoAre')}
      </chakra.legend>
      <chakra.div display="flex" flexWrap="wrap" gap="6px 18px" marginTop="4px">
        {fields.map((field) => (
          <chakra.span key={field} fontSize="14px" display="inline-flex" gap="6px" alignItems="center">
            {term(field)}
            <InlineChoice
              label={term(field)}
              look="cell"
              value={choices.policies[field] ?? usualPolicy(field)}
              disabled={busy}
              set={(policy) =>
                change({
                  choices: { ...choices, policies: { ...choices.policies, [field]: policy as Policy } },
                })
              }
              choices={[
                { value: 'fill blanks', label: phrase('contacts.fillBlanks') },
                {
                  value: 'take theirs',
                  label: several.has(field) ? phrase('contacts.addTheirs') : term('take theirs'),
                },
                { value: 'keep ours', label: phrase('contacts.keepOurs') },
              ]}
            />
          </chakra.span>
        ))}
        {consent && (
          <Tick
            checked={choices.widenConsent}
            set={(widenConsent) => change({ choices: { ...choices, widenConsent } })}
          >
            {phrase('contacts.aYesInThis')}
          </Tick>
        )}
      </chakra.div>
    </chakra.fieldset>
  );
}
