import { chakra } from '@chakra-ui/react';
import type { ImportSummary } from '#contract/imports.ts';
import { textsOf } from '#core/contacts/attributes.ts';
import { type ImportField, type Policy, several, usualPolicy } from '#core/imports/importing.ts';
import { type ColumnMeaning, columnMeanings, fieldIdOf } from '#core/imports/mapping.ts';
import { useAsk } from '../parts/ask.ts';

export type NewMapping = ImportSummary['mapping'] & { choices: ImportSummary['choices'] };

const sureness = (confidence: number): string =>
  confidence >= 0.85 ? 'sure' : confidence >= 0.6 ? 'likely' : 'unsure';

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
        What the columns mean{' '}
        <small className="soft">
          {used} of {headings.length} are brought in
          {summary.mappingFrom && `, as for ${summary.mappingFrom.fileName}`}
        </small>
      </chakra.summary>
      <chakra.div className="table" maxHeight="38vh" marginTop="6px">
        <table>
          <thead>
            <tr>
              <chakra.th width="19%">Heading in the file</chakra.th>
              <th>First values</th>
              <chakra.th width="190px">Means</chakra.th>
              <chakra.th width="150px">How sure</chakra.th>
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
                    <select
                      aria-label={`Meaning of ${heading}`}
                      className={meaning === 'leave' ? 'quiet small' : 'small'}
                      value={meaning}
                      disabled={busy}
                      onChange={(e) =>
                        change({
                          columns: mapping.columns.map((c, x) =>
                            x === n ? (e.target.value as ColumnMeaning) : c,
                          ),
                        })
                      }
                    >
                      {columnMeanings.map((m) => (
                        <option key={m} value={m}>
                          {m === 'leave' ? 'leave out' : (meaningWords[m] ?? m)}
                        </option>
                      ))}
                      {own.map((f) => (
                        <option key={f.id} value={`field ${f.id}`}>
                          {f.name}
                        </option>
                      ))}
                    </select>
                  </td>
                  <td>
                    {order ? (
                      <select
                        aria-label={`Order of dates in ${heading}`}
                        className={order === 'ask' ? 'small asks' : 'small'}
                        value={order}
                        disabled={busy}
                        onChange={(e) =>
                          change({
                            dateOrders: mapping.dateOrders.map((o, x) =>
                              x === n ? (e.target.value as 'day first') : o,
                            ),
                          })
                        }
                      >
                        {order === 'ask' && <option value="ask">day or month first?</option>}
                        <option value="day first">day first</option>
                        <option value="month first">month first</option>
                      </select>
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
  newsletter: 'newsletter: yes or no',
  'newsletter refused': 'newsletter: yes means no',
  town: 'town or province',
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
        For people who are known already
      </chakra.legend>
      <chakra.div display="flex" flexWrap="wrap" gap="6px 18px" marginTop="4px">
        {fields.map((field) => (
          <chakra.label key={field} fontSize="14px" display="inline-flex" gap="6px" alignItems="center">
            {field}
            <chakra.select
              className="small"
              width="auto"
              value={choices.policies[field] ?? usualPolicy(field)}
              onChange={(e) =>
                change({
                  choices: {
                    ...choices,
                    policies: { ...choices.policies, [field]: e.target.value as Policy },
                  },
                })
              }
            >
              <option value="fill blanks">fill blanks</option>
              <option value="take theirs">{several.has(field) ? 'add theirs' : 'take theirs'}</option>
              <option value="keep ours">keep ours</option>
            </chakra.select>
          </chakra.label>
        ))}
        {consent && (
          <chakra.label fontSize="14px" display="inline-flex" gap="6px" alignItems="center">
            <input
              type="checkbox"
              checked={choices.widenConsent}
              onChange={(e) => change({ choices: { ...choices, widenConsent: e.target.checked } })}
            />
            A yes in this file counts as consent (a no always counts)
          </chakra.label>
        )}
      </chakra.div>
    </chakra.fieldset>
  );
}
