import { chakra } from '@chakra-ui/react';
import { useState } from 'react';
import type { EventPage } from '#contract/events.ts';
import type { Tenths } from '#contract/registration.ts';
import { seatsContract } from '#contract/seats.ts';
import type { Answer } from '#web/api.ts';
import { Button } from '#web/kit/Button.tsx';
import { FormDialog } from '#web/kit/form/FormDialog.tsx';
import { Text } from '#web/kit/form/fields.tsx';
import { prepare } from '#web/kit/form/request.ts';
import { useForm } from '#web/kit/form/useForm.ts';
import { Problems } from '#web/kit/notices.tsx';
import { say } from '#web/kit/toast.tsx';
import { useAction } from '#web/parts/ask.ts';
import { useSaying } from '#web/parts/saying.ts';
import { phrase } from '#web/words/phrase.ts';

type Party = Answer<'GET /api/events/:id/registrations'>['waiting'][number];

const told = () => say(phrase('event.offeredTheMessageIs'));
const sayOdds = ({ from, to }: Tenths): string =>
  from === to ? phrase('event.oddsOf', { n: from }) : phrase('event.oddsBetween', { from, to });

/** Who waits, in their order, with why nothing is free for them and how likely it is that something comes free; seats are offered by hand. */
export function Waiting({ waiting, page }: { waiting: readonly Party[]; page: EventPage }) {
  const { day } = useSaying();
  const change = page.may.change.includes('registration');
  const offer = useAction('POST /api/orders/:id/offer', told);
  const [outOfTurn, setOutOfTurn] = useState<Party | null>(null);
  const first = waiting.find((p) => p.fits === 'fits') === waiting[0] ? waiting[0] : null;
  return (
    <>
      <Problems of={offer.problem} />
      <chakra.ul className="lines" marginBottom="8px">
        {waiting.map((p, at) => (
          <li key={p.orderId} className="spread">
            <span>
              <span className="num soft">{at + 1}</span> <span className="name">{p.name}</span>,{' '}
              {phrase('event.seatSince', { seats: p.seats, since: day(p.since) })}{' '}
              <span className="soft">{p.fits}</span>
              {p.odds && p.fits !== 'fits' && <span className="soft"> · {sayOdds(p.odds)}</span>}
            </span>
            {p.fits === 'fits' && change && (
              <Button
                disabled={offer.isPending}
                onClick={() =>
                  p === first ? offer.mutate({ params: { id: p.orderId }, body: {} }) : setOutOfTurn(p)
                }
              >
                {phrase(p === first ? 'event.offerTheSeats' : 'event.offerOutOfTurn')}
              </Button>
            )}
          </li>
        ))}
      </chakra.ul>
      {outOfTurn && <OutOfTurn party={outOfTurn} close={() => setOutOfTurn(null)} />}
    </>
  );
}

/** Somebody is offered seats before others who have waited longer: why, is written down. */
function OutOfTurn({ party, close }: { party: Party; close: () => void }) {
  const form = useForm({
    values: { reason: '' },
    request: (body) =>
      prepare(seatsContract, 'POST /api/orders/:id/offer', { params: { id: party.orderId }, body }),
    after: () => {
      close();
      told();
    },
  });
  return (
    <FormDialog
      form={form}
      title={phrase('event.offerOutOfTurnTo', { name: party.name })}
      close={close}
      submit={phrase('event.offerTheSeats')}
    >
      <Text form={form} name="reason" label={phrase('event.whyOutOfTurn')} required autoFocus />
    </FormDialog>
  );
}
