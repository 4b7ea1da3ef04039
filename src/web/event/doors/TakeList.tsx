import { chakra, FileUpload } from '@chakra-ui/react';
import { useState } from 'react';
import type { Answer } from '#web/api.ts';
import { base64Of } from '#web/base64.ts';
import { Asking } from '#web/kit/Asking.tsx';
import { Button } from '#web/kit/Button.tsx';
import { ChoiceField } from '#web/kit/Field.tsx';
import { InlineChoice } from '#web/kit/Inline.tsx';
import { Problems } from '#web/kit/notices.tsx';
import { say } from '#web/kit/toast.tsx';
import { useAction } from '#web/parts/ask.ts';
import { useSaying } from '#web/parts/saying.ts';
import { phrase } from '#web/words/phrase.ts';

type Checked = Answer<'POST /api/events/:id/attendance/check'>;
type Row = Checked['rows'][number];

/** A list of who was there, or the log of a room online: looked at first, taken once it is clear whom its rows mean. */
export function TakeList({
  eventId,
  sessions,
  close,
}: {
  eventId: string;
  sessions: Answer<'GET /api/events/:id/attendance'>['sessions'];
  close: () => void;
}) {
  const [file, setFile] = useState<{ fileName: string; content: string } | null>(null);
  const [sessionId, setSessionId] = useState('');
  const [chosen, setChosen] = useState<Record<string, string | null>>({});
  const params = { id: eventId };
  const check = useAction('POST /api/events/:id/attendance/check');
  const take = useAction('POST /api/events/:id/attendance/lists', ({ people }) => {
    say(phrase('event.listTaken', { people }));
    close();
  });
  const look = (sent: { fileName: string; content: string }, session: string) => {
    setChosen({});
    check.mutate({ params, body: { ...sent, sessionId: session || null } });
  };
  const rows = check.data?.rows ?? [];
  const whoOf = (r: Row): string | null => {
    const said = chosen[String(r.line)];
    return said === undefined ? r.registrationId : said;
  };
  const ready = new Set(rows.filter((r) => r.from !== null).flatMap((r) => whoOf(r) ?? []));
  const open = rows.filter((r) => r.from !== null && !r.registrationId && r.maybe.length > 0);
  return (
    <Asking
      open
      wide
      close={close}
      title={phrase('event.takeList')}
      dirty={Object.keys(chosen).length > 0}
      actions={
        <Button
          look="main"
          disabled={!file || ready.size === 0 || take.isPending}
          onClick={() =>
            file && take.mutate({ params, body: { ...file, sessionId: sessionId || null, chosen } })
          }
        >
          {phrase('event.takeThese', { people: ready.size })}
        </Button>
      }
    >
      <p className="soft">{phrase('event.takeListSays')}</p>
      {sessions.length > 0 && (
        <ChoiceField
          label={phrase('event.correctsWhat')}
          value={sessionId}
          set={(to) => {
            setSessionId(to);
            if (file) look(file, to);
          }}
          empty={phrase('event.wholeEvent')}
          choices={sessions.map((s) => ({ value: s.id, label: s.title }))}
        />
      )}
      <FileUpload.Root
        accept={['text/csv', 'text/plain', 'text/tab-separated-values', '.csv', '.tsv', '.txt']}
        maxFiles={1}
        onFileAccept={async ({ files: [chosenFile] }) => {
          if (!chosenFile) return;
          const sent = { fileName: chosenFile.name, content: await base64Of(chosenFile) };
          setFile(sent);
          look(sent, sessionId);
        }}
      >
        <FileUpload.HiddenInput aria-label={phrase('event.chooseList')} />
        <FileUpload.Trigger asChild>
          <Button>{phrase('event.chooseList')}</Button>
        </FileUpload.Trigger>
        {file && (
          <chakra.span color="soft" marginLeft="10px">
            {file.fileName}
          </chakra.span>
        )}
      </FileUpload.Root>
      <Problems of={check.problem ?? take.problem} />
      {check.data && (
        <>
          <chakra.p role="status" margin="12px 0 6px">
            {phrase('event.listFound', { rows: rows.length, people: ready.size, open: open.length })}
          </chakra.p>
          <div className="table still">
            <table>
              <thead>
                <tr>
                  <th>{phrase('event.rowSays')}</th>
                  <th>{phrase('event.rowTimes')}</th>
                  <th>{phrase('event.rowMeans')}</th>
                </tr>
              </thead>
              <tbody>
                {rows.slice(0, 300).map((r) => (
                  <Line
                    key={r.line}
                    row={r}
                    who={whoOf(r)}
                    choose={(to) => setChosen({ ...chosen, [String(r.line)]: to })}
                  />
                ))}
              </tbody>
            </table>
          </div>
          {rows.length > 300 && (
            <p className="soft">{phrase('event.moreRows', { rows: rows.length - 300 })}</p>
          )}
        </>
      )}
    </Asking>
  );
}

/** One row of the list: what it says, when they were there, whom it means. */
function Line({ row, who, choose }: { row: Row; who: string | null; choose: (to: string | null) => void }) {
  const { at, timeOfDay } = useSaying();
  return (
    <tr>
      <td>{row.said}</td>
      <td className="num">
        {row.from &&
          (row.until
            ? phrase('event.fromTo', { from: at(row.from), until: timeOfDay(row.until) })
            : phrase('event.fromOn', { from: at(row.from) }))}
      </td>
      <td>
        {row.problem ? (
          <span className="late">{row.problem}</span>
        ) : row.absent ? (
          <span className="soft">{phrase('event.rowAbsent')}</span>
        ) : row.maybe.length === 0 ? (
          <span className="soft">{phrase('event.rowNobody')}</span>
        ) : (
          <InlineChoice
            label={phrase('event.rowMeansOf', { who: row.said })}
            look={who ? 'cell' : 'asks'}
            value={who ?? ''}
            set={(to) => choose(to || null)}
            empty={phrase('event.rowLeaveOut')}
            choices={row.maybe.map((m) => ({ value: m.registrationId, label: m.name }))}
          />
        )}
      </td>
    </tr>
  );
}
