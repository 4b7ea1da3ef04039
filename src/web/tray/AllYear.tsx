import { chakra } from '@chakra-ui/react';
import { useState } from 'react';
import type { YearLinePlan } from '#contract/yearRound.ts';
import { sayAudience } from '#core/messages/audiences.ts';
import { frenchLags } from '#core/messages/lagging.ts';
import type { Answer } from '#web/api.ts';
import { Button } from '../kit/Button.tsx';
import { Empty } from '../kit/Note.tsx';
import { Loaded, Problems } from '../kit/notices.tsx';
import { say } from '../kit/toast.tsx';
import { useAction, useAsk } from '../parts/ask.ts';
import { LineShown } from '../parts/lines/LineShown.tsx';
import { SeenBy } from '../parts/lines/SeenBy.tsx';
import { useSaying } from '../parts/saying.ts';
import { phrase } from '../words/phrase.ts';
import { YearLineForm } from './YearLineForm.tsx';

type Kept = Answer<'GET /api/year-round'>[number];
type To = { key: string; name: string };

/** What is open above the lines. */
type Open = { what: 'form'; of: Kept | null } | { what: 'seen'; line: YearLinePlan; to: To };

/** The lines of the organization: they hang on no event, but on what each person has with it. */
export function AllYear({ openMessage }: { openMessage: (id: string) => void }) {
  const lines = useAsk('GET /api/year-round');
  const [open, setOpen] = useState<Open | null>(null);
  const close = () => setOpen(null);
  const { at } = useSaying();
  const put = useAction('PUT /api/year-round/:id');
  const remove = useAction('POST /api/year-round/:id/remove');
  const busy = put.isPending || remove.isPending;
  const save = ({ id, ...line }: YearLinePlan, version: number) =>
    put.mutate({ params: { id }, body: { line, version } });
  const drop = ({ line, version }: Kept) =>
    remove.mutate(
      { params: { id: line.id }, body: { version } },
      {
        onSuccess: (answer) =>
          say(phrase('messages.removed', { name: line.name }), {
            label: phrase('messages.undo'),
            run: () => save(line, answer.version),
          }),
      },
    );
  const subOf = ({ line, shown }: Kept): string[] =>
    [
      phrase(line.channel === 'email' ? 'messages.to' : 'messages.toByText', {
        when: shown.when,
        words: sayAudience(shown.audience),
      }),
      frenchLags(line) && phrase('messages.lags'),
      shown.firstAt && phrase('messages.first', { firstAt: at(shown.firstAt) }),
    ].filter((words): words is string => Boolean(words));
  return (
    <Loaded of={lines}>
      {(list) => (
        <>
          <div className="spread">
            <p className="soft">{phrase('tray.allYearAbout')}</p>
            <Button onClick={() => setOpen({ what: 'form', of: null })}>{phrase('messages.addALine')}</Button>
          </div>
          <Problems of={put.problem ?? remove.problem} />
          {list.length === 0 && <Empty>{phrase('tray.allYearEmpty')}</Empty>}
          <chakra.ul className="lines" marginTop="8px">
            {list.map((kept) => (
              <LineShown
                key={kept.line.id}
                line={kept.shown}
                sub={subOf(kept)}
                elsewhere={phrase('tray.lookInComing')}
                acts={{
                  busy,
                  turn: (on) => save({ ...kept.line, off: !on }, kept.version),
                  entries: [
                    { label: phrase('messages.change'), run: () => setOpen({ what: 'form', of: kept }) },
                    {
                      label: phrase('messages.copy'),
                      run: () =>
                        save(
                          {
                            ...kept.line,
                            id: crypto.randomUUID(),
                            name: phrase('messages.copyOf', { name: kept.line.name }).slice(0, 80),
                            // Nobody gets it before it was looked at.
                            off: true,
                          },
                          0,
                        ),
                    },
                    { label: phrase('messages.remove'), run: () => drop(kept) },
                  ],
                }}
                preview={(to) => setOpen({ what: 'seen', line: kept.line, to })}
                read={openMessage}
              />
            ))}
          </chakra.ul>
          {open?.what === 'form' && <YearLineForm kept={open.of} close={close} />}
          {open?.what === 'seen' && <YearSeen line={open.line} to={open.to} close={close} />}
        </>
      )}
    </Loaded>
  );
}

/** A line as somebody would get it. */
function YearSeen({ line, to, close }: { line: YearLinePlan; to: To; close: () => void }) {
  const params = { id: line.id };
  const seen = useAsk('GET /api/year-round/:id/preview', { params, query: { key: to.key } });
  const test = useAction('POST /api/year-round/:id/test', ({ address }) =>
    say(phrase('messages.testOn', { address })),
  );
  const run = () => test.mutate({ params, body: { key: to.key } });
  return <SeenBy name={line.name} person={to.name} seen={seen} test={{ ...test, run }} close={close} />;
}
