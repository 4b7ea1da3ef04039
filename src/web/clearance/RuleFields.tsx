import { chakra } from '@chakra-ui/react';
import type { RuleBook } from '#contract/clearance.ts';
import { factCodes, headcount } from '#core/clearance/facts.ts';
import { sayFact } from '#core/clearance/rules.ts';
import { inAList, phrase } from '#web/words/phrase.ts';
import { Button } from '../kit/Button.tsx';
import { Choose, Count, LongText, OneOf, SeveralOf, Text, Tick } from '../kit/form/fields.tsx';
import type { Form as FormOf } from '../kit/form/useForm.ts';
import { noTest, type TypedBook, type TypedRule, type TypedTest } from './typed.ts';

interface Props {
  form: FormOf<TypedBook>;
  at: number;
  book: RuleBook;
  facts: RuleBook['facts'];
  /** Steps by the id of their rule. */
  names: ReadonlyMap<string, string>;
  open: boolean;
  toggle: () => void;
  move: (by: 1 | -1) => void;
  remove: () => void;
}

/** One rule: in a line, and all of it where it is opened. */
export function RuleFields({ form, at, book, facts, names, open, toggle, move, remove }: Props) {
  const rule = form.values.rules[at]!;
  const wrong = form.problems.some((p) => p.fieldId?.startsWith(`${form.idOf(`rules.${at}`)}-`));
  const shown = open || wrong;
  const name = `rules.${at}` as const;
  const set = (part: Partial<TypedRule>) =>
    form.set({ rules: form.values.rules.map((r, n) => (n === at ? { ...r, ...part } : r)) });
  return (
    <chakra.li borderBottom="1px solid" borderColor="line" padding="10px 0">
      <div className="spread">
        <span>
          <Button look="link" onClick={toggle} aria-expanded={shown}>
            <chakra.span className="name" fontSize="16px">
              {rule.step || phrase('clearance.step')}
            </chakra.span>
          </Button>{' '}
          <span className="soft">{sayWhen(rule, book, facts)}</span>
        </span>
        <chakra.span className="soft" fontSize="14px" flexShrink={0}>
          {at > 0 && (
            <Button look="link" whiteSpace="nowrap" onClick={() => move(-1)}>
              {phrase('clearance.moveUp')}
            </Button>
          )}
        </chakra.span>
      </div>
      {!shown && (
        <chakra.p className="soft" fontSize="14px">
          {[
            sayDecider(rule, book),
            `${rule.workingDays} ${phrase('clearance.workingDays').toLowerCase()}`,
            rule.after.length > 0 &&
              phrase('clearance.afterSteps', {
                steps: inAList(rule.after.map((id) => names.get(id) ?? '')),
              }),
          ]
            .filter(Boolean)
            .join(' · ')}
        </chakra.p>
      )}
      {shown && (
        <chakra.div paddingTop="8px">
          <div className="pair">
            <Text form={form} name={`${name}.step`} label={phrase('clearance.step')} required />
            <Count form={form} name={`${name}.workingDays`} label={phrase('clearance.workingDays')} />
          </div>
          <When form={form} at={at} book={book} facts={facts} />
          <Choose
            form={form}
            name={`${name}.decider`}
            label={phrase('clearance.decider')}
            empty=""
            choices={[
              ...book.words.map((word) => ({
                value: `word:${word}`,
                label: phrase('clearance.allFor', { word }),
              })),
              ...book.people.map((p) => ({ value: p.id, label: p.name })),
            ]}
          />
          {names.size > 1 && (
            <SeveralOf
              form={form}
              name={`${name}.after`}
              label={phrase('clearance.afterWhich')}
              help={phrase('clearance.besides')}
              choices={[...names]
                .filter(([id, step]) => id !== rule.id && step)
                .map(([value, label]) => ({ value, label }))}
            />
          )}
          <LongText form={form} name={`${name}.asks`} label={phrase('clearance.asks')} rows={2} />
          <chakra.p fontWeight={500}>{phrase('clearance.documents')}</chakra.p>
          <p className="soft">{phrase('clearance.documentsHelp')}</p>
          {rule.documents.map((d, n) => (
            <Line
              key={d.id}
              remove={() => set({ documents: rule.documents.filter((x) => x.id !== d.id) })}
              what={d.name}
            >
              <Text
                form={form}
                name={`${name}.documents.${n}.name`}
                label={phrase('clearance.documents')}
                headed
              />
            </Line>
          ))}
          <Button
            look="plain"
            onClick={() => set({ documents: [...rule.documents, { id: crypto.randomUUID(), name: '' }] })}
          >
            {phrase('clearance.wantPaper')}
          </Button>
          <chakra.p fontWeight={500} marginTop="12px">
            {phrase('clearance.questions')}
          </chakra.p>
          {rule.questions.map((q, n) => (
            <Line
              key={q.id}
              remove={() => set({ questions: rule.questions.filter((x) => x.id !== q.id) })}
              what={q.prompt}
            >
              <Text
                form={form}
                name={`${name}.questions.${n}.prompt`}
                label={phrase('clearance.question', { n: n + 1 })}
                headed
              />
              <Tick form={form} name={`${name}.questions.${n}.required`} label={phrase('clearance.required')}>
                {phrase('clearance.required')}
              </Tick>
            </Line>
          ))}
          <Button
            look="plain"
            onClick={() =>
              set({
                questions: [...rule.questions, { id: crypto.randomUUID(), prompt: '', required: true }],
              })
            }
          >
            {phrase('clearance.addQuestion')}
          </Button>
          <chakra.div marginTop="12px">
            <OneOf
              form={form}
              name={`${name}.meanwhile`}
              label={phrase('clearance.meanwhile')}
              choices={[
                { value: 'stays open', label: phrase('clearance.staysOpen') },
                { value: 'closes', label: phrase('clearance.closes') },
              ]}
            />
          </chakra.div>
          <Button look="link" color="madder" onClick={remove}>
            {phrase('clearance.removeStep', { step: rule.step })}
          </Button>
        </chakra.div>
      )}
    </chakra.li>
  );
}

/** A line of several fields with a way to take it off. */
function Line({ children, remove, what }: { children: React.ReactNode; remove: () => void; what: string }) {
  return (
    <chakra.div display="flex" gap="12px" alignItems="center" flexWrap="wrap">
      <chakra.div flex="1 1 240px">{children}</chakra.div>
      <Button look="link" onClick={remove} aria-label={`${phrase('clearance.remove')}: ${what}`}>
        {phrase('clearance.remove')}
      </Button>
    </chakra.div>
  );
}

/** Groups of tests: all of one, or all of another. */
function When({ form, at, book, facts }: Pick<Props, 'form' | 'at' | 'book' | 'facts'>) {
  const { when } = form.values.rules[at]!;
  const put = (next: TypedTest[][]) =>
    form.set({ rules: form.values.rules.map((r, n) => (n === at ? { ...r, when: next } : r)) });
  return (
    <chakra.fieldset border="0" margin="0 0 14px" padding="0">
      <chakra.legend fontWeight={500}>{phrase('clearance.stepNeeded')}</chakra.legend>
      {when.map((group, g) => (
        // Groups and tests have no identity but their place.
        <chakra.div
          key={g}
          borderLeft="2px solid"
          borderColor="line"
          padding="2px 0 2px 12px"
          marginBottom="6px"
        >
          {g > 0 && <chakra.p className="soft">{phrase('clearance.orWhere')}</chakra.p>}
          {group.length === 0 && <p>{phrase('clearance.always')}</p>}
          {group.map((test, t) => (
            <OneTest
              key={t}
              form={form}
              path={`rules.${at}.when.${g}.${t}`}
              test={test}
              book={book}
              facts={facts}
              and={t > 0}
              put={(next) => put(when.map((x, n) => (n === g ? x.map((y, m) => (m === t ? next : y)) : x)))}
              remove={() => put(when.map((x, n) => (n === g ? x.filter((_, m) => m !== t) : x)))}
            />
          ))}
          <Button look="link" onClick={() => put(when.map((x, n) => (n === g ? [...x, noTest()] : x)))}>
            {phrase('clearance.addTest')}
          </Button>{' '}
          {group.length === 0 && (
            <Button look="link" onClick={() => put(when.filter((_, n) => n !== g))}>
              {phrase('clearance.remove')}
            </Button>
          )}
        </chakra.div>
      ))}
      {when.length === 0 && <p className="soft">{phrase('clearance.never')}</p>}
      <Button look="plain" onClick={() => put([...when, [noTest()]])}>
        {phrase('clearance.addGroup')}
      </Button>
    </chakra.fieldset>
  );
}

const isNumber = (what: string, facts: RuleBook['facts']): boolean =>
  what === `fact:${headcount}` || facts.some((f) => what === `fact:${f.id}` && f.kind === 'number');

function OneTest({
  form,
  path,
  test,
  book,
  facts,
  and,
  put,
  remove,
}: Pick<Props, 'form' | 'book' | 'facts'> & {
  path: `rules.${number}.when.${number}.${number}`;
  test: TypedTest;
  and: boolean;
  put: (test: TypedTest) => void;
  remove: () => void;
}) {
  const looks = [
    ...factCodes.map((code) => ({ value: `fact:${code}`, label: sayFact({ code }) })),
    { value: `fact:${headcount}`, label: phrase('clearance.headcount') },
    ...facts.filter((f) => f.name).map((f) => ({ value: `fact:${f.id}`, label: f.name })),
    { value: 'unit', label: phrase('clearance.unit') },
    { value: 'venue', label: phrase('clearance.venue') },
  ];
  const number = isNumber(test.what, facts);
  const among = test.what === 'unit' ? book.units : test.what === 'venue' ? book.venues : null;
  return (
    <chakra.div
      display="flex"
      gap="10px"
      alignItems="center"
      flexWrap="wrap"
      css={{ '& [data-part="root"]': { marginBottom: 0 } }}
      marginBottom="4px"
    >
      {and && <span className="soft">{phrase('clearance.and')}</span>}
      <chakra.div flex="1 1 200px">
        <Choose
          form={form}
          name={`${path}.what`}
          label={phrase('clearance.looksAt')}
          headed
          empty=""
          choices={looks}
        />
      </chakra.div>
      {number && <span className="soft">{phrase('clearance.atLeast')}</span>}
      <chakra.div flex="0 1 150px">
        {number ? (
          <Count form={form} name={`${path}.is`} label={phrase('clearance.atLeast')} headed />
        ) : (
          <Choose
            form={form}
            name={`${path}.is`}
            label={phrase('clearance.howItIs')}
            headed
            empty=""
            choices={
              among
                ? among.map((x) => ({ value: x.id, label: x.name }))
                : [
                    { value: 'yes', label: phrase('clearance.isSo') },
                    { value: 'no', label: phrase('clearance.isNotSo') },
                  ]
            }
          />
        )}
      </chakra.div>
      <span>
        <Button
          look="link"
          onClick={() => (test.what || test.is ? remove() : put(noTest()))}
          aria-label={`${phrase('clearance.remove')}: ${looks.find((l) => l.value === test.what)?.label ?? ''}`}
        >
          {phrase('clearance.remove')}
        </Button>
      </span>
    </chakra.div>
  );
}

const sayDecider = (rule: TypedRule, book: RuleBook): string =>
  rule.decider.startsWith('word:')
    ? phrase('clearance.allFor', { word: rule.decider.slice(5) })
    : (book.people.find((p) => p.id === rule.decider)?.name ?? '');

/** Where a rule holds, in a line. */
function sayWhen(rule: TypedRule, book: RuleBook, facts: RuleBook['facts']): string {
  const sayTest = ({ what, is }: TypedTest): string => {
    if (what === 'unit')
      return `${phrase('clearance.unit')} ${book.units.find((u) => u.id === is)?.name ?? ''}`;
    if (what === 'venue')
      return `${phrase('clearance.venue')} ${book.venues.find((v) => v.id === is)?.name ?? ''}`;
    const key = what.replace(/^fact:/u, '');
    if (key === headcount) return `${phrase('clearance.headcount')} ${phrase('clearance.atLeast')} ${is}`;
    const code = factCodes.find((c) => c === key);
    const name = code ? sayFact({ code }) : (facts.find((f) => f.id === key)?.name ?? '');
    if (is === 'no')
      return code ? sayFact({ code: `no ${code}` }) : sayFact({ code: 'own not', params: { name } });
    return is === 'yes' ? name : `${name} ${phrase('clearance.atLeast')} ${is}`;
  };
  if (!rule.when.length) return phrase('clearance.never');
  if (rule.when.some((group) => !group.length)) return phrase('clearance.always');
  return rule.when
    .map((group) => group.map(sayTest).join(` ${phrase('clearance.and')} `))
    .join(`; ${phrase('clearance.orWhere')} `);
}
