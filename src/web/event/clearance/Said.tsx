import { chakra } from '@chakra-ui/react';
import { type Clearance, type ClearanceWord, clearanceContract } from '#contract/clearance.ts';
import { inAList, phrase, term } from '#web/words/phrase.ts';
import { Form } from '../../kit/form/Form.tsx';
import { LongText, SeveralOf } from '../../kit/form/fields.tsx';
import { prepare } from '../../kit/form/request.ts';
import { useForm } from '../../kit/form/useForm.ts';
import { say } from '../../kit/toast.tsx';
import { useMe } from '../../parts/ask.ts';
import { useSaying } from '../../parts/saying.ts';

/** Everything that was said about a clearance, in order; questions are answered where they stand. */
export function SaidThere({
  eventId,
  clearance: c,
  mayPlan,
}: {
  eventId: string;
  clearance: Clearance;
  mayPlan: boolean;
}) {
  if (!c.said.length && !c.mayWrite) return null;
  return (
    <section aria-label={phrase('clearance.said')}>
      <chakra.h3 marginTop="18px">{phrase('clearance.said')}</chakra.h3>
      <ul className="lines">
        {c.said.map((word) => (
          <Word key={word.id} word={word} mayAnswer={mayPlan} />
        ))}
      </ul>
      {c.mayWrite && <Write eventId={eventId} people={c.people} />}
    </section>
  );
}

/** What somebody did, in a few words. */
function didOf(word: ClearanceWord): string {
  switch (word.kind) {
    case 'sent':
      return word.body ? phrase('clearance.wasSentLate', { reason: word.body }) : phrase('clearance.wasSent');
    case 'granted':
      return phrase('clearance.wasGranted');
    case 'not granted':
      return phrase('clearance.wasNotGranted');
    case 'question':
      return phrase('clearance.askedOf');
    case 'decision':
      return phrase('clearance.decisionOf', {
        decision: word.decision ? term(word.decision) : '',
        step: word.step ?? '',
      });
    default:
      return word.mentions.length ? phrase('clearance.to', { names: inAList(word.mentions) }) : '';
  }
}

function Word({ word, mayAnswer }: { word: ClearanceWord; mayAnswer: boolean }) {
  const { day } = useSaying();
  const did = didOf(word);
  return (
    <li>
      <chakra.p fontSize="14px" className="soft">
        <b>{word.author}</b>, {day(word.at)}
        {did && <> · {did}</>}
      </chakra.p>
      {word.body && word.kind !== 'sent' && <chakra.p whiteSpace="pre-line">{word.body}</chakra.p>}
      {word.kind === 'question' &&
        (word.answer ? (
          <chakra.div borderLeft="2px solid" borderColor="line" paddingLeft="12px" marginTop="4px">
            <chakra.p fontSize="14px" className="soft">
              <b>{word.answer.author}</b>, {day(word.answer.at)}
            </chakra.p>
            <chakra.p whiteSpace="pre-line">{word.answer.body}</chakra.p>
          </chakra.div>
        ) : mayAnswer ? (
          <Answer questionId={word.id} question={word.body} />
        ) : (
          <chakra.p fontSize="14px" color="ochre">
            {phrase('clearance.open')}
          </chakra.p>
        ))}
    </li>
  );
}

function Answer({ questionId, question }: { questionId: string; question: string }) {
  const form = useForm({
    values: { words: '' },
    request: (body) =>
      prepare(clearanceContract, 'POST /api/clearance-questions/:id/answer', {
        params: { id: questionId },
        body,
      }),
    after: () => say(phrase('clearance.answered')),
  });
  return (
    <Form form={form} submit={phrase('clearance.answer')}>
      <LongText form={form} name="words" label={question} headed rows={2} required />
    </Form>
  );
}

function Write({ eventId, people }: { eventId: string; people: Clearance['people'] }) {
  const me = useMe().data?.staff.id;
  const form = useForm({
    values: { words: '', mentions: [] as string[] },
    request: (body) =>
      prepare(clearanceContract, 'POST /api/events/:id/clearance/words', { params: { id: eventId }, body }),
    again: true,
  });
  const others = people.filter((p) => p.id !== me);
  return (
    <Form form={form} submit={phrase('clearance.sendWords')}>
      <LongText form={form} name="words" label={phrase('clearance.write')} rows={2} />
      {form.values.words.trim() && others.length > 0 && (
        <SeveralOf
          form={form}
          name="mentions"
          label={phrase('clearance.mentions')}
          choices={others.map((p) => ({ value: p.id, label: p.name }))}
        />
      )}
    </Form>
  );
}
