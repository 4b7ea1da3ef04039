import { chakra } from '@chakra-ui/react';
import { useQueryClient } from '@tanstack/react-query';
import { useEffect, useId, useRef, useState } from 'react';
import { Link } from 'react-router';
import { type Incoming, incomingContract } from '#contract/incoming.ts';
import { askAnewAfter } from '#web/topics.ts';
import { Button } from '../kit/Button.tsx';
import { Form } from '../kit/form/Form.tsx';
import { LongText } from '../kit/form/fields.tsx';
import { prepare } from '../kit/form/request.ts';
import { useForm } from '../kit/form/useForm.ts';
import { Empty, Note } from '../kit/Note.tsx';
import { Loaded, Problems } from '../kit/notices.tsx';
import { Paging } from '../kit/Paging.tsx';
import { say } from '../kit/toast.tsx';
import { useAction, useAsk } from '../parts/ask.ts';
import { Person } from '../parts/Person.tsx';
import { useSaying } from '../parts/saying.ts';
import { phrase } from '../words/phrase.ts';

/** Rows of a page. */
const page = 100;

/** What people wrote back and asked on pages, what waits for an answer first. */
export function CameIn({ openMessage }: { openMessage: (id: string) => void }) {
  const [offset, setOffset] = useState(0);
  const came = useAsk('GET /api/incoming', { query: { offset }, everyMs: 10_000 });
  return (
    <Loaded of={came}>
      {({ rows, more }) =>
        rows.length === 0 ? (
          <Empty>{phrase('tray.nothingCameIn')}</Empty>
        ) : (
          <>
            <ul className="lines">
              {rows.map((one) => (
                <One key={one.id} one={one} openMessage={openMessage} />
              ))}
            </ul>
            <Paging offset={offset} size={page} shown={rows.length} more={more} set={setOffset} />
          </>
        )
      }
    </Loaded>
  );
}

/** One reply or question: who, when and to what, what they said, and the answer. */
function One({ one, openMessage }: { one: Incoming; openMessage: (id: string) => void }) {
  const { at } = useSaying();
  const [answering, setAnswering] = useState(false);
  const settle = useAction('PUT /api/incoming/:id');
  const open = one.settledAt === null;
  const put = (settled: boolean) => settle.mutate({ params: { id: one.id }, body: { settled } });
  return (
    <li>
      <div className="spread">
        <span>
          <Person id={one.contactId} name={one.name} />{' '}
          <span className="soft num">
            {[
              (one.elsewhere || one.what === 'question') && one.address,
              at(one.cameAt),
              one.automatic && phrase('tray.byMachine'),
            ]
              .filter(Boolean)
              .join(' · ')}
          </span>
        </span>
        <span className="soft">
          {one.event ? <Link to={`/events/${one.eventId}/messages`}>{one.event}</Link> : one.subject}
        </span>
      </div>
      {one.elsewhere && <p className="soft">{phrase('tray.fromElsewhere')}</p>}
      <chakra.p whiteSpace="pre-line" margin="6px 0" overflowWrap="anywhere">
        {one.words}
      </chakra.p>
      {one.answer && (
        <chakra.div borderLeft="2px solid" borderColor="verdigris" paddingLeft="12px" margin="6px 0">
          <chakra.p whiteSpace="pre-line">{one.answer}</chakra.p>
        </chakra.div>
      )}
      {!open && one.settledBy && (
        <p className="soft">
          {phrase(one.answer ? 'tray.answeredBy' : 'tray.settledBy', {
            by: one.settledBy,
            at: at(one.settledAt),
          })}
        </p>
      )}
      <Problems of={settle.problem} />
      {answering ? (
        <Answer one={one} done={() => setAnswering(false)} />
      ) : (
        <div className="acts">
          {!one.automatic && (
            <Button look={open ? 'normal' : 'plain'} onClick={() => setAnswering(true)}>
              {phrase(one.answer ? 'tray.answerAgain' : 'tray.answer')}
            </Button>
          )}
          {open ? (
            <Button look="plain" disabled={settle.isPending} onClick={() => put(true)}>
              {phrase('tray.needsNone')}
            </Button>
          ) : (
            !one.automatic && (
              <Button look="plain" disabled={settle.isPending} onClick={() => put(false)}>
                {phrase('tray.needsOne')}
              </Button>
            )
          )}
          {one.messageId && (
            <Button look="plain" onClick={() => openMessage(one.messageId!)}>
              {phrase('tray.repliedTo')}
            </Button>
          )}
        </div>
      )}
    </li>
  );
}

function Answer({ one, done }: { one: Incoming; done: () => void }) {
  const typed = useId();
  const client = useQueryClient();
  useEffect(() => document.getElementById(typed)?.querySelector('textarea')?.focus(), [typed]);
  // What was answered before this one was begun; what somebody answers meanwhile is said.
  const seen = useRef(one.answer);
  const [meanwhile, setMeanwhile] = useState(false);
  useEffect(() => {
    if (seen.current === one.answer) return;
    seen.current = one.answer;
    setMeanwhile(true);
    // What was answered stands further down: whoever is writing stays where they write.
    requestAnimationFrame(() => document.getElementById(typed)?.scrollIntoView({ block: 'center' }));
  }, [one.answer, typed]);
  const form = useForm({
    values: { words: '' },
    request: ({ words }) =>
      prepare(incomingContract, 'POST /api/incoming/:id/answer', {
        params: { id: one.id },
        body: { words, seen: seen.current },
      }),
    after: () => {
      say(phrase('tray.answerGoes'));
      done();
    },
  });
  // Refused because of what somebody answered: that is read at once.
  const refused = form.problems.length > 0;
  useEffect(() => {
    if (refused) void askAnewAfter(client, 'POST /api/incoming/:id/answer');
  }, [refused, client]);
  return (
    <div className="form" id={typed}>
      <Form
        form={form}
        submit={phrase('tray.sendAnswer')}
        look="normal"
        beside={
          <Button look="plain" onClick={done}>
            {phrase('common.cancel')}
          </Button>
        }
      >
        {meanwhile && (
          <Note as="div" tone="need">
            {phrase('tray.answeredMeanwhile', { by: one.settledBy })}
          </Note>
        )}
        <LongText form={form} name="words" label={phrase('tray.answerTo', { name: one.name })} rows={4} />
      </Form>
    </div>
  );
}

/** For trying things out: what whoever got a message might write back, handed in by the mail stand-in. */
export function ReplyInPlace({ id, name }: { id: string; name: string }) {
  const form = useForm({
    values: { words: '' },
    request: (body) => prepare(incomingContract, 'POST /api/messages/:id/reply', { params: { id }, body }),
    after: () => say(phrase('tray.replyCame')),
    again: true,
  });
  return (
    <chakra.details marginTop="10px">
      <chakra.summary cursor="pointer" color="verdigris">
        {phrase('tray.replyInPlace', { name })}
      </chakra.summary>
      <div className="form">
        <Form form={form} submit={phrase('tray.handIn')} look="normal">
          <LongText form={form} name="words" label={phrase('tray.theirWords')} rows={3} />
        </Form>
      </div>
    </chakra.details>
  );
}
