import { chakra } from '@chakra-ui/react';
import { useState } from 'react';
import type { BoardQuestion } from '#contract/board.ts';
import { isUnanswered, type ShownRule } from '#core/messages/board.ts';
import { Button } from '../../kit/Button.tsx';
import { Toggle } from '../../kit/Choosing.tsx';
import { ChoiceField, LongField } from '../../kit/Field.tsx';
import { Empty } from '../../kit/Note.tsx';
import { Loaded, Problems } from '../../kit/notices.tsx';
import { say } from '../../kit/toast.tsx';
import { useAction, useAsk } from '../../parts/ask.ts';
import { useSaying } from '../../parts/saying.ts';
import { phrase } from '../../words/phrase.ts';

/** The board of an event as the team sees it: whether there is one, who answers, and the questions, those that wait first. */
export function Board({ eventId, may }: { eventId: string; may: boolean }) {
  const params = { id: eventId };
  const board = useAsk('GET /api/events/:id/board', { params });
  const set = useAction('PUT /api/events/:id/board');
  return (
    <Loaded of={board}>
      {({ on, shown, answersBy, team, questions }) => {
        const put = (change: { on?: boolean; shown?: ShownRule; answersBy?: string | null }) =>
          set.mutate({ params, body: { on, shown, answersBy, ...change } });
        return (
          <>
            <Problems of={set.problem} />
            <chakra.div margin="10px 0">
              <Toggle checked={on} set={(to) => put({ on: to })} disabled={!may}>
                {phrase('messages.board')}
              </Toggle>
              <p className="soft">{phrase('messages.boardHelp')}</p>
            </chakra.div>
            {on && (
              <div className="pair">
                <ChoiceField
                  label={phrase('messages.boardShown')}
                  value={shown}
                  set={(v) => put({ shown: v as ShownRule })}
                  choices={[
                    { value: 'at once', label: phrase('messages.boardAtOnce') },
                    { value: 'once looked at', label: phrase('messages.boardLookedAt') },
                  ]}
                />
                <ChoiceField
                  label={phrase('messages.boardAnswers')}
                  value={answersBy ?? ''}
                  set={(v) => put({ answersBy: v || null })}
                  choices={team.map((s) => ({ value: s.id, label: s.name }))}
                  empty={phrase('messages.boardNobody')}
                />
              </div>
            )}
            {questions.length === 0 ? (
              on && <Empty>{phrase('messages.boardEmpty')}</Empty>
            ) : (
              <chakra.ul className="lines" marginTop="8px">
                {questions.map((q) => (
                  <Question key={q.id} eventId={eventId} question={q} may={may} />
                ))}
              </chakra.ul>
            )}
          </>
        );
      }}
    </Loaded>
  );
}

/** One question: what was asked by whom and when, the answer, and what can be done with it. */
function Question({ eventId, question: q, may }: { eventId: string; question: BoardQuestion; may: boolean }) {
  const { at } = useSaying();
  const [typed, setTyped] = useState<string | null>(null);
  const open = isUnanswered(q);
  const writing = typed !== null || (open && may);
  const change = useAction('POST /api/events/:id/board/:question');
  const params = { id: eventId, question: q.id };
  const answer = () =>
    change.mutate(
      { params, body: { answer: typed ?? '', ...(q.state === 'waits' && { state: 'shown' as const }) } },
      {
        onSuccess: () => {
          setTyped(null);
          say(phrase('messages.boardAnswered'));
        },
      },
    );
  return (
    <li>
      <chakra.p whiteSpace="pre-line">{q.words}</chakra.p>
      <p className="soft num">
        {[
          q.name,
          q.email,
          at(q.askedAt),
          q.state === 'waits' && phrase('messages.boardWaits'),
          q.state === 'hidden' && phrase('messages.boardHidden'),
        ]
          .filter(Boolean)
          .join(' · ')}
      </p>
      {q.answeredAt && (
        <chakra.div borderLeft="2px solid" borderColor="verdigris" paddingLeft="12px" margin="6px 0">
          <chakra.p whiteSpace="pre-line">{q.answer}</chakra.p>
          <p className="soft">
            {phrase('messages.boardAnsweredBy', { by: q.answeredBy, at: at(q.answeredAt) })}
          </p>
        </chakra.div>
      )}
      {writing && (
        <LongField
          label={phrase('messages.boardTheAnswer', { name: q.name })}
          rows={3}
          value={typed ?? q.answer}
          set={setTyped}
          error={change.problem?.fields.answer}
        />
      )}
      <Problems of={change.problem} />
      {may && (
        <chakra.div className="acts">
          {writing ? (
            <Button disabled={!typed?.trim() || change.isPending} onClick={answer}>
              {phrase('messages.boardAnswer')}
            </Button>
          ) : (
            <Button look="plain" onClick={() => setTyped(q.answer)}>
              {phrase('messages.boardAgain')}
            </Button>
          )}
          {q.state !== 'shown' && (
            <Button look="plain" onClick={() => change.mutate({ params, body: { state: 'shown' } })}>
              {phrase('messages.boardShow')}
            </Button>
          )}
          {q.state !== 'hidden' && (
            <Button look="plain" onClick={() => change.mutate({ params, body: { state: 'hidden' } })}>
              {phrase('messages.boardHide')}
            </Button>
          )}
        </chakra.div>
      )}
    </li>
  );
}
