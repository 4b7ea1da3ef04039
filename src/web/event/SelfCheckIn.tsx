import { chakra } from '@chakra-ui/react';
import { addressOf } from '#web/api.ts';
import { Button, ButtonAnchor } from '#web/kit/Button.tsx';
import { Problems } from '#web/kit/notices.tsx';
import { say } from '#web/kit/toast.tsx';
import { useAction } from '#web/parts/ask.ts';
import { phrase } from '#web/words/phrase.ts';

/** Whether people check themselves in at an event: by a poster, or on a shared device. */
export function SelfCheckIn({
  eventId,
  address,
  kiosk,
  may,
}: {
  eventId: string;
  address: string | null;
  /** The page for a shared device, where people can sign as well. */
  kiosk: string | null;
  may: boolean;
}) {
  const set = useAction('PUT /api/events/:id/self-check-in', ({ page }) =>
    say(phrase(page ? 'door.selfOn' : 'door.selfOff')),
  );
  if (!may && !address) return null;
  return (
    <chakra.section marginTop="18px">
      <h3>{phrase('door.selfCheckIn')}</h3>
      <chakra.p className="soft" marginBottom="6px">
        {phrase(address ? 'door.selfIsOn' : 'door.selfSays')}
      </chakra.p>
      <Problems of={set.problem} />
      <div className="acts">
        {address && (
          <>
            <ButtonAnchor href={addressOf('GET /api/events/:id/self-check-in.pdf', { id: eventId })}>
              {phrase('door.selfPoster')}
            </ButtonAnchor>
            <ButtonAnchor href={kiosk ?? ''} target="_blank" rel="noopener">
              {phrase('door.selfKiosk')}
            </ButtonAnchor>
          </>
        )}
        {may && (
          <Button
            look={address ? 'plain' : 'normal'}
            disabled={set.isPending}
            onClick={() => set.mutate({ params: { id: eventId }, body: { on: !address } })}
          >
            {phrase(address ? 'door.selfStop' : 'door.selfStart')}
          </Button>
        )}
      </div>
    </chakra.section>
  );
}
