import { say } from '../../kit/toast.tsx';
import { useAction, useAsk } from '../../parts/ask.ts';
import { SeenBy } from '../../parts/lines/SeenBy.tsx';
import { phrase } from '../../words/phrase.ts';

/** A line of an event as somebody would get it. */
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
  const seen = useAsk('GET /api/events/:id/lines/:lineId/preview', { params, query: { key: to.key } });
  const test = useAction('POST /api/events/:id/lines/:lineId/test', ({ address }) =>
    say(phrase('messages.testOn', { address })),
  );
  const run = () => test.mutate({ params, body: { key: to.key } });
  return (
    <SeenBy name={name} person={to.name} seen={seen} test={mayTest ? { ...test, run } : null} close={close} />
  );
}
