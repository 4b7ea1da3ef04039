import { chakra } from '@chakra-ui/react';
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { useTranslation } from 'react-i18next';
import type { PublicOrder } from '#contract/registration.ts';
import { ApiProblem, call } from '#web/api.ts';
import { Button } from '#web/kit/Button.tsx';
import { SeveralOf } from '#web/kit/Choosing.tsx';
import { Problems } from '#web/kit/notices.tsx';
import { askAnewAfter } from '#web/topics.ts';
import { Acts, Say } from '../parts.tsx';
import { useMoney } from '../saying.ts';
import { Terms } from '../Terms.tsx';
import type { Seat } from './booking.ts';

/** Gives seats up: what goes back and what is kept is said before. */
export function Withdraw({
  seats,
  token,
  offered,
  paid,
  refunds,
  close,
}: {
  seats: Seat[];
  token: string;
  offered: boolean;
  /** Whether anything could go back. */
  paid: boolean;
  refunds: PublicOrder['refunds'];
  /** Closes it, where it was opened elsewhere. */
  close?: () => void;
}) {
  const { t } = useTranslation();
  const money = useMoney();
  const client = useQueryClient();
  const [open, setOpen] = useState(close !== undefined);
  const all = offered || seats.length === 1 ? seats.map((s) => s.id) : [];
  const [chosen, setChosen] = useState<string[]>(all);
  // What would go back is worked out by doing it and taking it back.
  const told = useQuery({
    queryKey: ['withdraw', token, chosen],
    queryFn: () =>
      call('POST /api/public/orders/:token/withdraw/what-if', { params: { token }, body: { seats: chosen } }),
    enabled: open && paid && chosen.length > 0,
    gcTime: 0,
    retry: false,
  });
  const withdraw = useMutation({
    mutationFn: () =>
      call('POST /api/public/orders/:token/withdraw', { params: { token }, body: { seats: chosen } }),
    onSuccess: async () => {
      // The booking, and whatever else shows what somebody holds.
      await askAnewAfter(client, 'POST /api/public/orders/:token/withdraw');
      setOpen(false);
      close?.();
    },
  });
  if (!open)
    return (
      <chakra.p marginTop="22px">
        <Button
          look="stop"
          onClick={() => {
            setOpen(true);
            setChosen(all);
          }}
        >
          {offered ? t('leaveSeats') : t('withdraw')}
        </Button>
      </chakra.p>
    );
  return (
    <Say tone="stop">
      <SeveralOf
        label={offered ? t('leaveSeats') : t('withdraw')}
        help={t('withdrawText')}
        value={chosen}
        set={setChosen}
        choices={seats.map((s) => ({
          value: s.id,
          label: `${`${s.given} ${s.family}`.trim() || t('unnamed')}, ${s.offer}`,
        }))}
      />
      {paid && <Terms refunds={refunds} />}
      {paid && chosen.length > 0 && told.data && (
        <p role="status">
          {told.data.owed > 0 && t('goesBackNow', { amount: money(told.data.owed) })}{' '}
          {told.data.kept > 0 && t('keptNow', { amount: money(told.data.kept) })}
        </p>
      )}
      <Problems of={withdraw.error instanceof ApiProblem ? withdraw.error : null} />
      <Acts>
        <Button
          look="stop"
          disabled={chosen.length === 0 || withdraw.isPending || told.isFetching}
          onClick={() => withdraw.mutate()}
        >
          {t('withdrawDo', { count: chosen.length })}
        </Button>
        <Button
          onClick={() => {
            setOpen(false);
            close?.();
          }}
        >
          {t('cancel')}
        </Button>
      </Acts>
    </Say>
  );
}
