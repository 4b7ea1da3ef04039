import { chakra } from '@chakra-ui/react';
import { addressOf } from '#web/api.ts';
import { Button, ButtonAnchor } from '#web/kit/Button.tsx';
import { Empty } from '#web/kit/Note.tsx';
import { Loaded } from '#web/kit/notices.tsx';
import { useAsk } from '#web/parts/ask.ts';
import { useSaying } from '#web/parts/saying.ts';
import { phrase } from '#web/words/phrase.ts';

/** Everybody who is inside, for when all have to be found: children first, with whom to call. To be printed at once. */
export function Inside({
  eventId,
  show,
}: {
  eventId: string;
  /** Deals with somebody who has a seat, as where a child is handed over. */
  show: (registrationId: string) => void;
}) {
  const { timeOfDay } = useSaying();
  const inside = useAsk('GET /api/events/:id/inside', { params: { id: eventId } });
  return (
    <Loaded of={inside}>
      {({ rows }) =>
        rows.length === 0 ? (
          <Empty>{phrase('door.nobodyInside')}</Empty>
        ) : (
          <>
            <div className="spread">
              <chakra.h2 className="num" margin="6px 0">
                {phrase('door.insideNow', {
                  count: rows.length,
                  children: rows.filter((r) => r.minor).length,
                })}
              </chakra.h2>
              <ButtonAnchor
                href={addressOf('GET /api/events/:id/inside.pdf', { id: eventId })}
                target="_blank"
                rel="noopener"
              >
                {phrase('door.print')}
              </ButtonAnchor>
            </div>
            <ul className="plainlist">
              {rows.map((r) => (
                <li key={r.key}>
                  {r.part === 'seat' ? (
                    <Button look="link" color="inherit" onClick={() => show(r.key.replace('seat ', ''))}>
                      <span className="name">{r.name || phrase('common.guestToBeNamed')}</span>
                    </Button>
                  ) : (
                    <span className="name">{r.name}</span>
                  )}{' '}
                  {r.minor && <span className="late">{phrase('door.underAge')}</span>}
                  {r.part === 'crew' && <span className="soft">{phrase('door.crew')}</span>}
                  <br />
                  <small className="num">
                    {[
                      r.since && phrase('door.inSince', { arrivedAt: timeOfDay(r.since) }),
                      r.call && phrase('door.callThem', { call: r.call }),
                      r.collect.length > 0 && phrase('door.collectedBy', { names: r.collect.join(', ') }),
                    ]
                      .filter(Boolean)
                      .join(' · ')}
                  </small>
                </li>
              ))}
            </ul>
          </>
        )
      }
    </Loaded>
  );
}
