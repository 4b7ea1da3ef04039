import { chakra } from '@chakra-ui/react';
import { useState } from 'react';
import { useSearchParams } from 'react-router';
import type { EventPage } from '#contract/events.ts';
import type { LineOfPlan } from '#contract/messages.ts';
import type { MessageLinePlan } from '#contract/plan.ts';
import { MailingForm } from '../../contacts/MailingForm.tsx';
import { Button } from '../../kit/Button.tsx';
import { ListViews } from '../../kit/ListViews.tsx';
import { Empty } from '../../kit/Note.tsx';
import { Loaded, Problems } from '../../kit/notices.tsx';
import { useAsk, useMe } from '../../parts/ask.ts';
import { Sending } from '../../tray/Sending.tsx';
import { Message } from '../../tray/Tray.tsx';
import { phrase } from '../../words/phrase.ts';
import { Board } from './Board.tsx';
import { ByPerson } from './ByPerson.tsx';
import { LineForm } from './LineForm.tsx';
import { LinePreview } from './LinePreview.tsx';
import { LineRow } from './LineRow.tsx';
import { SendNow } from './SendNow.tsx';
import { useInherited } from './useInherited.ts';
import { useLines } from './useLines.ts';

/** What is open above the plan. */
type Open =
  | { what: 'change'; line: MessageLinePlan | null }
  | { what: 'send'; line: LineOfPlan }
  | { what: 'preview'; line: LineOfPlan; to: { key: string; name: string } }
  | { what: 'message'; id: string }
  | { what: 'write' };

/** States in which the plan of messages can be another. */
const changeable = ['draft', 'in clearance', 'cleared', 'open', 'closed'];

/** The message plan: line by line who gets it and when, and who does not and why; or all of that of one person. */
export default function MessagesSheet({ page }: { page: EventPage }) {
  const shown = useAsk('GET /api/events/:id/messages', { params: { id: page.id } });
  const [search, setSearch] = useSearchParams();
  const shows = search.get('show');
  const by = shows === 'person' || shows === 'questions' ? shows : 'line';
  const setBy = (show: string) => setSearch(show === 'line' ? {} : { show }, { replace: true });
  const [open, setOpen] = useState<Open | null>(null);
  const close = () => setOpen(null);
  const lines = useLines(page);
  const from = useInherited(page);
  const may = changeable.includes(page.state) && page.may.change.includes('plan');
  const coordinator = useMe().data?.staff.roles.includes('coordinator') ?? false;
  const preview = (line: LineOfPlan, to: { key: string; name: string }) =>
    setOpen({ what: 'preview', line, to });
  return (
    <Loaded of={shown}>
      {(list) => (
        <>
          <div className="spread">
            <h2>{phrase('common.messages')}</h2>
            <span className="acts">
              {coordinator && (
                <Button look="plain" onClick={() => setOpen({ what: 'write' })}>
                  {phrase('common.writeToThem')}
                </Button>
              )}
              {may && (
                <Button onClick={() => setOpen({ what: 'change', line: null })}>
                  {phrase('messages.addALine')}
                </Button>
              )}
            </span>
          </div>
          <p className="soft">{phrase('messages.theyFollowTheMoments')}</p>
          <chakra.div marginBlock="10px">
            <ListViews
              label={phrase('messages.views')}
              value={by}
              set={setBy}
              views={[
                { value: 'line', label: phrase('messages.byLine'), count: list.length },
                { value: 'person', label: phrase('messages.byPerson') },
                { value: 'questions', label: phrase('messages.questions') },
              ]}
            />
          </chakra.div>
          <Sending eventId={page.id} may={page.may.change.includes('messages')} />
          <Problems of={lines.problem ?? from.problem} />
          {by === 'questions' ? (
            <Board eventId={page.id} may={page.may.change.includes('messages')} />
          ) : by === 'person' ? (
            <ByPerson
              eventId={page.id}
              lines={list}
              read={(id) => setOpen({ what: 'message', id })}
              preview={preview}
            />
          ) : (
            <chakra.ul className="lines" marginTop="8px">
              {list.map((line, at) => (
                <LineRow
                  key={line.lineId}
                  line={line}
                  plan={lines.lines.find((l) => l.id === line.lineId) ?? null}
                  lines={lines}
                  may={may}
                  first={at === 0}
                  last={at === list.length - 1}
                  from={from}
                  change={(of) => setOpen({ what: 'change', line: of })}
                  send={() => setOpen({ what: 'send', line })}
                  preview={(to) => preview(line, to)}
                  read={(id) => setOpen({ what: 'message', id })}
                />
              ))}
            </chakra.ul>
          )}
          {by === 'line' && from.missing.length > 0 && (
            <chakra.div marginTop="14px">
              <p className="soft">{from.words.missing}</p>
              <ul className="lines">
                {from.missing.map((m) => (
                  <li key={m.id} className="spread">
                    <chakra.span className="soft">{m.name}</chakra.span>
                    {may && (
                      <Button look="plain" disabled={from.busy} onClick={() => from.takeBack(m.id)}>
                        {phrase('messages.addAsSeries')}
                      </Button>
                    )}
                  </li>
                ))}
              </ul>
            </chakra.div>
          )}
          {list.length === 0 && by === 'line' && <Empty>{phrase('messages.noMessageIsPlanned')}</Empty>}
          {open?.what === 'write' && <MailingForm to={{ eventId: page.id }} close={close} />}
          {open?.what === 'message' && <Message id={open.id} close={close} />}
          {open?.what === 'change' && <LineForm page={page} line={open.line} close={close} />}
          {open?.what === 'send' && <SendNow eventId={page.id} {...open.line} close={close} />}
          {open?.what === 'preview' && (
            <LinePreview
              eventId={page.id}
              lineId={open.line.lineId}
              name={open.line.name}
              to={open.to}
              mayTest={may}
              close={close}
            />
          )}
        </>
      )}
    </Loaded>
  );
}
