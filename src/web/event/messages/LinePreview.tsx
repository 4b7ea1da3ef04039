import { Asking } from '../../kit/Asking.tsx';
import { Button } from '../../kit/Button.tsx';
import { Loaded, Problems } from '../../kit/notices.tsx';
import { say } from '../../kit/toast.tsx';
import { useAction, useAsk } from '../../parts/ask.ts';
import { AsSent } from '../../tray/AsSent.tsx';
import { phrase } from '../../words/phrase.ts';

/** A line as somebody would get it; it can be sent to oneself. */
export function LinePreview({
  eventId,
  lineId,
  name,
  to,
  mayTest,
  close,
}: {
  eventId: string;
  lineId: string;
  name: string;
  to: { key: string; name: string };
  mayTest: boolean;
  close: () => void;
}) {
  const params = { id: eventId, lineId };
  const preview = useAsk('GET /api/events/:id/lines/:lineId/preview', { params, query: { key: to.key } });
  const test = useAction('POST /api/events/:id/lines/:lineId/test', ({ address }) =>
    say(phrase('messages.testOn', { address })),
  );
  return (
    <Asking
      open
      wide
      close={close}
      title={phrase('messages.previewTitle', { name, person: to.name })}
      actions={
        mayTest && (
          <Button disabled={test.isPending} onClick={() => test.mutate({ params, body: { key: to.key } })}>
            {phrase('messages.test')}
          </Button>
        )
      }
    >
      <Problems of={test.problem} />
      <Loaded of={preview}>
        {(p) => (
          <>
            <p className="soft num">
              {phrase('messages.wouldGo', {
                address: p.address ?? phrase('messages.noAddress'),
                language: phrase(p.language === 'fr' ? 'messages.languageFr' : 'messages.languageEn'),
              })}
            </p>
            <AsSent message={{ ...p, body: p.text }} width="390px" />
          </>
        )}
      </Loaded>
    </Asking>
  );
}
