import './holdingWords.ts';
import { useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { useTranslation } from 'react-i18next';
import { useParams } from 'react-router';
import { type GuestPage, guestsContract } from '#contract/guests.ts';
import { fullName } from '#core/contacts/names.ts';
import { addressOf } from '#web/api.ts';
import { Button } from '#web/kit/Button.tsx';
import { prepare } from '#web/kit/form/request.ts';
import { AttendedGuest } from './Attended.tsx';
import { useAsk } from './asking.ts';
import { SeatForm, seatBodyOf } from './booking/SeatForm.tsx';
import { EventInShort } from './EventInShort.tsx';
import { Loaded } from './notices.tsx';
import { Pass } from './Pass.tsx';
import { Say, Soft, Title } from './parts.tsx';
import { SignOne } from './Sign.tsx';
import { sayMoment } from './saying.ts';

/** A seat that somebody else booked, as whoever sits there fills it in: name, what is asked, the waiver; and their pass. */
export default function Guest() {
  const { token = '' } = useParams();
  return (
    <Loaded of={useAsk('GET /api/public/guests/:token', { token }, { everyMs: 15_000 })}>
      {(seat) => <Shown seat={seat} token={token} />}
    </Loaded>
  );
}

function Shown({ seat, token }: { seat: GuestPage; token: string }) {
  const { t } = useTranslation();
  const client = useQueryClient();
  const [changing, setChanging] = useState(false);
  const { event } = seat;
  const gone = ['withdrawn', 'lapsed', 'declined'].includes(seat.state);
  const off = event.state === 'called off';
  const open = !gone && seat.until !== null && (!seat.filled || changing);
  return (
    <>
      <Title>{off ? t('calledOff') : gone ? t('seatGone') : t('yourSeat')}</Title>
      <EventInShort event={event} />
      {!gone && !off && <Soft>{t('seatFrom', { name: seat.by, offer: seat.offer })}</Soft>}
      {seat.state === 'confirmed' && !off && (
        <AttendedGuest token={token} zone={event.zone} name={fullName(seat)} />
      )}
      {seat.pass && !off && <Pass pass={seat.pass} name={fullName(seat)} about={seat.offer} />}
      {open && (
        <>
          <Soft marginBottom="10px">{t('fillIn', { time: sayMoment(seat.until!, event.zone) })}</Soft>
          <SeatForm
            seat={{ ...seat, offerId: '' }}
            // Which of them are asked of this seat was decided; what hangs on an answer comes and goes.
            questions={seat.questions.map((q) => ({ ...q, offerId: null }))}
            order={{ offerIds: [], answers: {} }}
            asksAge={seat.needsBirthDate}
            slug={event.slug}
            draft={`seat ${token.slice(0, 12)}`}
            request={(typed) =>
              prepare(guestsContract, 'PUT /api/public/guests/:token', {
                params: { token },
                body: seatBodyOf(typed),
              })
            }
            after={() => {
              setChanging(false);
              void client.invalidateQueries({
                queryKey: [addressOf('GET /api/public/guests/:token', { token })],
              });
            }}
            {...(seat.filled && { close: () => setChanging(false) })}
          />
        </>
      )}
      {seat.filled && !changing && !gone && (
        <Say tone="good" role="status">
          {t('seatFilled', { name: fullName(seat) })}{' '}
          {seat.until && (
            <Button look="link" onClick={() => setChanging(true)}>
              {t('changeName')}
            </Button>
          )}
        </Say>
      )}
      {(seat.waiver === 'self' || seat.waiver === 'guardian') &&
        seat.given &&
        !changing &&
        seat.waivers.map((w) => (
          <SignOne
            key={w.id}
            waiver={w}
            name={fullName(seat)}
            relation={seat.waiver === 'guardian' ? 'guardian' : 'self'}
            partly={seat.partly.includes(w.id)}
            token={token}
          />
        ))}
      {seat.waiver === 'signed' && <Soft>{t('waiverSigned')}</Soft>}
      {!open && !seat.filled && !gone && !off && <Say tone="need">{t('namesOver')}</Say>}
    </>
  );
}
