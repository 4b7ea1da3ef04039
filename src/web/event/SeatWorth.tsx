import { receiptsContract } from '#contract/receipts.ts';
import { plainAmount, readAmount } from '#core/money/amount.ts';
import type { Answer } from '#web/api.ts';
import { FormDialog } from '#web/kit/form/FormDialog.tsx';
import { Money, Text } from '#web/kit/form/fields.tsx';
import { prepare } from '#web/kit/form/request.ts';
import { useForm } from '#web/kit/form/useForm.ts';
import { say } from '#web/kit/toast.tsx';
import { phrase } from '#web/words/phrase.ts';
import { Loaded } from '../kit/notices.tsx';
import { useAsk } from '../parts/ask.ts';
import { useSaying } from '../parts/saying.ts';

interface Of {
  eventId: string;
  close: () => void;
}

/** What a seat is worth, for receipts: what the event is, and what is shared out beside it. */
export function SeatWorth({ eventId, close }: Of) {
  return (
    <Loaded of={useAsk('GET /api/events/:id/favours', { params: { id: eventId } })}>
      {(favours) => <Fields favours={favours} eventId={eventId} close={close} />}
    </Loaded>
  );
}

function Fields({ favours, eventId, close }: Of & { favours: Answer<'GET /api/events/:id/favours'> }) {
  const { money } = useSaying();
  const { currency, offers } = favours;
  const said = (amount: number) => money(amount, currency);
  const typed = (amount: number) => (amount ? plainAmount(amount, currency) : '');
  const read = (text: string) => (text.trim() ? (readAmount(text, currency) ?? -1) : 0);
  const form = useForm({
    values: {
      itselfWhat: favours.itselfWhat,
      besideWhat: favours.besideWhat,
      beside: typed(favours.beside),
      nearCash: typed(favours.nearCash),
    },
    request: (v) =>
      prepare(receiptsContract, 'PUT /api/events/:id/favours', {
        params: { id: eventId },
        body: { ...v, beside: read(v.beside), nearCash: read(v.nearCash) },
      }),
    after: () => {
      say(phrase('common.saved'));
      close();
    },
  });
  return (
    <FormDialog form={form} close={close} title={phrase('event.seatWorth')} submit={phrase('common.save')}>
      <p className="soft">{phrase('event.seatWorthHelp')}</p>
      {offers.length > 0 && (
        <ul>
          {offers.map((o) => (
            <li key={o.name}>
              {o.valueReceived > 0
                ? phrase('event.seatWorthOf', {
                    name: o.name,
                    price: said(o.price),
                    worth: said(o.valueReceived),
                  })
                : phrase('event.seatWorthUnknown', { name: o.name, price: said(o.price) })}
            </li>
          ))}
        </ul>
      )}
      <Text
        form={form}
        name="itselfWhat"
        label={phrase('event.seatItself')}
        help={phrase('event.seatItselfHelp')}
      />
      <Text
        form={form}
        name="besideWhat"
        label={phrase('event.seatBeside')}
        help={phrase('event.seatBesideHelp')}
      />
      <Money
        form={form}
        name="beside"
        label={phrase('event.seatBesideWorth')}
        currency={currency}
        sayAmount={said}
      />
      <Money
        form={form}
        name="nearCash"
        label={phrase('event.seatNearCash')}
        help={phrase('event.seatNearCashHelp')}
        currency={currency}
        sayAmount={said}
      />
    </FormDialog>
  );
}
