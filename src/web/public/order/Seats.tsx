import { chakra } from '@chakra-ui/react';
import { useState } from 'react';
import { useTranslation } from 'react-i18next';
import { guestsContract } from '#contract/guests.ts';
import { type PublicOrder, registrationContract } from '#contract/registration.ts';
import { Button } from '#web/kit/Button.tsx';
import { Form } from '#web/kit/form/Form.tsx';
import { Text } from '#web/kit/form/fields.tsx';
import { prepare } from '#web/kit/form/request.ts';
import { useForm } from '#web/kit/form/useForm.ts';
import { SeatForm, seatBodyOf } from '../booking/SeatForm.tsx';
import { Within } from '../fields.tsx';
import { Pass } from '../Pass.tsx';
import { Acts, Ends, Rows, Small } from '../parts.tsx';
import { isToSign, Waivers } from '../Sign.tsx';
import { isBuyer, isGone, offersOf, type Seat } from './booking.ts';

/** The seats of a booking: passes, names, guests who fill theirs in, waivers. */
export function Seats({
  order,
  token,
  apart,
}: {
  order: PublicOrder;
  token: string;
  /** Seats whose holders sign by themselves. */
  apart: ReadonlySet<string>;
}) {
  const { t } = useTranslation();
  const [signing, setSigning] = useState<string | null>(null);
  const [naming, setNaming] = useState<string | null>(null);
  const [asking, setAsking] = useState<string | null>(null);
  return (
    <Rows marginTop="18px">
      {order.seats.map((seat) => {
        const name = `${seat.given} ${seat.family}`.trim();
        const gone = isGone(seat);
        const mayChange = order.namesUntil !== null && !gone;
        const more = (
          <>
            {(seat.waiver === 'self' || seat.waiver === 'guardian') && (
              <Small color="madder">
                {seat.waiver === 'guardian' ? t('waiverGuardian') : t('waiverNeeded')}
              </Small>
            )}
            {seat.waiver === 'signed' && <Small>{t('waiverSigned')}</Small>}
            {seat.guest && !gone && (
              <Small>
                {t(seat.guest.filled ? 'guestFilled' : 'guestAsked', { email: seat.guest.email })}
              </Small>
            )}
            {!gone && (
              <Acts marginTop="6px">
                {apart.has(seat.id) && (
                  <Button
                    look="main"
                    onClick={() => setSigning(signing === seat.id ? null : seat.id)}
                    aria-expanded={signing === seat.id}
                  >
                    {t('signsThemselves', { name: seat.given })}
                  </Button>
                )}
                {mayChange && (
                  <Button
                    onClick={() => setNaming(naming === seat.id ? null : seat.id)}
                    aria-expanded={naming === seat.id}
                  >
                    {name ? t('changeName') : t('nameGuest')}
                  </Button>
                )}
                {mayChange && seat.state === 'confirmed' && !seat.guest?.filled && !isBuyer(seat, order) && (
                  <Button
                    look="plain"
                    onClick={() => setAsking(asking === seat.id ? null : seat.id)}
                    aria-expanded={asking === seat.id}
                  >
                    {t(seat.guest ? 'sendAgain' : 'sendLink')}
                  </Button>
                )}
              </Acts>
            )}
          </>
        );
        return (
          <li key={seat.id}>
            {seat.pass && (
              <Pass pass={seat.pass} name={name || t('unnamed')} about={seat.offer}>
                {more}
              </Pass>
            )}
            {!seat.pass && (
              <>
                <Ends>
                  <chakra.span
                    fontFamily="title"
                    fontWeight={500}
                    fontSize="18px"
                    textDecoration={gone ? 'line-through' : 'none'}
                  >
                    {name || t('unnamed')}
                  </chakra.span>
                  {gone && <chakra.span color="soft">{t('withdrawn')}</chakra.span>}
                </Ends>
                <Small>{seat.offer}</Small>
                {more}
              </>
            )}
            {naming === seat.id && (
              <Within>
                <SeatForm
                  seat={seat}
                  questions={order.form.questions}
                  order={{ offerIds: offersOf(order), answers: order.form.answers }}
                  asksAge={seat.needsBirthDate}
                  slug={order.event.slug}
                  request={(typed) =>
                    prepare(registrationContract, 'PATCH /api/public/orders/:token/seats/:seat', {
                      params: { token, seat: seat.id },
                      // What a guest said of themselves stays theirs.
                      body: seat.guest?.filled
                        ? { ...seatBodyOf(typed), answers: undefined }
                        : seatBodyOf(typed),
                    })
                  }
                  after={() => setNaming(null)}
                  close={() => setNaming(null)}
                />
              </Within>
            )}
            {asking === seat.id && <AskGuest seat={seat} token={token} done={() => setAsking(null)} />}
            {signing === seat.id && isToSign(seat) && (
              <Waivers order={order} seats={[seat]} token={token} done={() => setSigning(null)} />
            )}
          </li>
        );
      })}
    </Rows>
  );
}

/** Writes to whoever sits there: they fill the seat in themselves. */
function AskGuest({ seat, token, done }: { seat: Seat; token: string; done: () => void }) {
  const { t } = useTranslation();
  const form = useForm({
    values: { email: seat.guest?.email ?? '' },
    request: (body) =>
      prepare(guestsContract, 'POST /api/public/orders/:token/seats/:seat/guest', {
        params: { token, seat: seat.id },
        body,
      }),
    after: done,
  });
  return (
    <Within>
      <Form form={form} submit={t('send')} beside={<Button onClick={done}>{t('cancel')}</Button>}>
        <Text
          form={form}
          name="email"
          label={t('guestEmail')}
          help={t('guestEmailHelp')}
          type="email"
          required
        />
      </Form>
    </Within>
  );
}
