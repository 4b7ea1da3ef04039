import type { Answer } from '#web/api.ts';
import { Asking } from '../../kit/Asking.tsx';
import { Button } from '../../kit/Button.tsx';
import { Loaded, Problems } from '../../kit/notices.tsx';
import { phrase } from '../../words/phrase.ts';
import { AsSent } from '../AsSent.tsx';

type Seen = Answer<'GET /api/events/:id/lines/:lineId/preview'>;

/** A line as somebody would get it; it can be sent to oneself. */
export function SeenBy({
  name,
  person,
  seen,
  test,
  close,
}: {
  name: string;
  person: string;
  seen: Parameters<typeof Loaded<Seen>>[0]['of'];
  /** Sends it to oneself; null of whoever may not. */
  test: { run: () => void; isPending: boolean; problem: Parameters<typeof Problems>[0]['of'] } | null;
  close: () => void;
}) {
  return (
    <Asking
      open
      wide
      close={close}
      title={phrase('messages.previewTitle', { name, person })}
      actions={
        test && (
          <Button disabled={test.isPending} onClick={test.run}>
            {phrase('messages.test')}
          </Button>
        )
      }
    >
      <Problems of={test?.problem ?? null} />
      <Loaded of={seen}>
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
