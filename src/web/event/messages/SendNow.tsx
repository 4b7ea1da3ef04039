import { Asking } from '../../kit/Asking.tsx';
import { Button } from '../../kit/Button.tsx';
import { Loaded, Problems } from '../../kit/notices.tsx';
import { say } from '../../kit/toast.tsx';
import { useAction, useAsk } from '../../parts/ask.ts';
import { phrase } from '../../words/phrase.ts';

/** Says to whom a line would go, and sends it. */
export function SendNow({
  eventId,
  lineId,
  name,
  when,
  close,
}: {
  eventId: string;
  lineId: string;
  name: string;
  /** When it goes by itself. */
  when: string;
  close: () => void;
}) {
  const params = { id: eventId, lineId };
  const who = useAsk('GET /api/events/:id/lines/:lineId/now', { params });
  const send = useAction('POST /api/events/:id/lines/:lineId/send', ({ sent }) => {
    say(phrase('messages.sentNow', { count: sent }));
    close();
  });
  const count = who.data?.count ?? 0;
  return (
    <Asking
      open
      close={close}
      title={phrase('messages.sendNowTitle', { name })}
      actions={
        count > 0 && (
          <Button
            look="main"
            disabled={send.isPending}
            onClick={() => send.mutate({ params, body: { expect: count } })}
          >
            {phrase('messages.sendTo', { count })}
          </Button>
        )
      }
    >
      <Problems of={send.problem} />
      <Loaded of={who}>
        {({ names }) => (
          <>
            <p>
              {!count
                ? phrase('messages.wouldGetNone')
                : count > names.length
                  ? phrase('messages.wouldGetMore', {
                      count,
                      names: names.join(', '),
                      more: count - names.length,
                    })
                  : phrase('messages.wouldGet', { count, names: names.join(', ') })}
            </p>
            {count > 0 && <p className="soft">{phrase('messages.comesLater', { when })}</p>}
          </>
        )}
      </Loaded>
    </Asking>
  );
}
