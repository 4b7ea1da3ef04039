import { chakra } from '@chakra-ui/react';
import type { WaiverToSign } from '#contract/waivers.ts';
import { OneOf, Tick } from '../kit/Choosing.tsx';
import { TextField } from '../kit/Field.tsx';
import type { Form } from '../kit/form/useForm.ts';
import { QuestionControl } from '../questions/QuestionControl.tsx';
import type { HandTyped, SigningWords } from './hand.ts';
import { SignaturePad } from './SignaturePad.tsx';

/** What of a form is needed here: what was typed, and where what is wrong with it is said. */
type Typing = Pick<Form<HandTyped>, 'values' | 'set' | 'idOf' | 'wrongAt'>;

/** A waiver from its first clause to its last, each with what is done with it. Nothing is folded away: who signs has had it before them. */
export function Clauses({
  form,
  waiver,
  words,
}: {
  form: Typing;
  waiver: WaiverToSign;
  words: SigningWords;
}) {
  return (
    <chakra.ol listStyleType="none" margin="0 0 14px" padding="0">
      {waiver.clauses.map((clause, at) => (
        <chakra.li key={clause.id} padding="10px 0 2px" borderTop="1px solid" borderColor="line">
          {clause.heading && (
            <chakra.h3 margin="0 0 2px" fontSize="17px">
              {clause.heading}
            </chakra.h3>
          )}
          <Clause form={form} clause={clause} at={at} words={words} />
        </chakra.li>
      ))}
    </chakra.ol>
  );
}

function Clause({
  form,
  clause,
  at,
  words,
}: {
  form: Typing;
  clause: WaiverToSign['clauses'][number];
  at: number;
  words: SigningWords;
}) {
  const path = `clauses.${at}`;
  const { ticked, initials, chosen } = form.values;
  const error = form.wrongAt(path);
  const name = clause.heading || clause.text;
  switch (clause.kind) {
    case 'read':
      return <chakra.p whiteSpace="pre-line">{clause.text}</chakra.p>;
    case 'agree':
      return (
        <Tick
          id={form.idOf(path)}
          error={error}
          checked={ticked.includes(clause.id)}
          set={(on) =>
            form.set({
              ticked: on ? [...ticked, clause.id] : ticked.filter((id: string) => id !== clause.id),
            })
          }
        >
          {clause.text}
        </Tick>
      );
    case 'initials':
      return (
        <>
          <chakra.p whiteSpace="pre-line" marginBottom="4px">
            {clause.text}
          </chakra.p>
          <chakra.div maxWidth="160px">
            <TextField
              id={form.idOf(path)}
              label={words.initials}
              value={initials[clause.id] ?? ''}
              set={(typed) => form.set({ initials: { ...initials, [clause.id]: typed } })}
              error={error}
              autoComplete="off"
            />
          </chakra.div>
        </>
      );
    case 'choice':
      return (
        <>
          <chakra.p whiteSpace="pre-line" marginBottom="2px">
            {clause.text}
          </chakra.p>
          <OneOf
            id={form.idOf(path)}
            label={name}
            headed
            error={error}
            value={chosen[clause.id] === undefined ? null : String(chosen[clause.id])}
            set={(v) => form.set({ chosen: { ...chosen, [clause.id]: v === 'true' } })}
            choices={[
              { value: 'true', label: words.yes },
              { value: 'false', label: words.no },
            ]}
          />
        </>
      );
  }
}

/** What is asked about one participant beside the clauses. */
export function AboutOne({
  form,
  waiver,
  at,
  path,
  name,
  words,
}: {
  form: Typing;
  waiver: WaiverToSign;
  /** Their place among those who are signed for. */
  at: number;
  /** Where what is wrong with an answer is said. */
  path: string;
  /** Empty where it is clear who is meant. */
  name: string;
  words: SigningWords;
}) {
  if (!waiver.questions.length) return null;
  const given = form.values.answers[at] ?? {};
  return (
    <chakra.div role="group" aria-label={name || waiver.title} marginBottom="8px">
      {name && (
        <chakra.h3 margin="8px 0 4px" fontSize="17px">
          {words.about(name)}
        </chakra.h3>
      )}
      {waiver.questions.map((q, n) => (
        <QuestionControl
          key={q.id}
          id={form.idOf(`${path}.${n}`)}
          question={{ ...q, keeps: null, label: q.prompt }}
          value={given[q.id]}
          set={(value) =>
            form.set({
              answers: form.values.answers.map((all, m) =>
                m === at ? ({ ...all, [q.id]: value } as HandTyped['answers'][number]) : all,
              ),
            })
          }
          error={form.wrongAt(`${path}.${n}`)}
          words={words}
        />
      ))}
    </chakra.div>
  );
}

/** That a guardian may sign, and a signature drawn by hand for whoever likes to. */
export function HandMore({
  form,
  guardian,
  words,
}: {
  form: Typing;
  guardian: boolean;
  words: SigningWords;
}) {
  return (
    <>
      {guardian && <chakra.div marginTop="14px" />}
      {guardian && (
        <Tick
          id={form.idOf('declared')}
          error={form.wrongAt('declared')}
          checked={form.values.declared}
          set={(declared) => form.set({ declared })}
        >
          {words.declared}
        </Tick>
      )}
      <SignaturePad
        label={words.draw}
        again={words.drawAgain}
        value={form.values.drawn}
        set={(drawn) => form.set({ drawn })}
        error={form.wrongAt('drawn')}
      />
    </>
  );
}
