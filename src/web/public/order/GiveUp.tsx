import '../holdingWords.ts';
import { useAsk } from '../asking.ts';
import { Loaded } from '../notices.tsx';
import { PaidIn } from '../saying.ts';
import { isGone } from './booking.ts';
import { Withdraw } from './Withdraw.tsx';

/** Gives seats of a booking up from the page of whoever holds it. */
export default function GiveUp({ token, close }: { token: string; close: () => void }) {
  return (
    <Loaded of={useAsk('GET /api/public/orders/:token', { token })}>
      {(order) => (
        <PaidIn value={order.currency}>
          <Withdraw
            seats={order.seats.filter((s) => !isGone(s))}
            token={token}
            offered={order.standing === 'offered'}
            paid={order.received > 0}
            refunds={order.refunds}
            close={close}
          />
        </PaidIn>
      )}
    </Loaded>
  );
}
