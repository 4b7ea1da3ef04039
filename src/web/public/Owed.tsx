import { useMutation, useQueryClient } from '@tanstack/react-query';
import { type ReactNode, useState } from 'react';
import { useTranslation } from 'react-i18next';
import { sayRange } from '#core/time/say.ts';
import { ApiProblem, call } from '#web/api.ts';
import { Button } from '#web/kit/Button.tsx';
import { OneOf } from '#web/kit/Choosing.tsx';
import { Problems } from '#web/kit/notices.tsx';
import { useAsk } from './asking.ts';
import { language } from './language.ts';
import { Say } from './parts.tsx';
import { sayMoment, useMoney } from './saying.ts';

type Way = 'return' | 'gift' | 'move';

/** What was paid for an event that was called off: what becomes of it, and where it is theirs to say, the choice. */
export function Owed({
  token,
  zone,
  children,
}: {
  token: string;
  zone: string;
  /** What is said where nothing of it is settled by itself. */
  children: ReactNode;
}) {
  const { t } = useTranslation();
  const money = useMoney();
  const client = useQueryClient();
  const [become, setBecome] = useState<Way | null>(null);
  const [done, setDone] = useState<Way | null>(null);
  const owed = useAsk('GET /api/public/orders/:token/money', { token }).data;
  const choose = useMutation({
    mutationFn: (way: Way) =>
      call('POST /api/public/orders/:token/money', { params: { token }, body: { become: way } }),
    onSuccess: async (_, way) => {
      setDone(way);
      await client.invalidateQueries();
    },
  });
  if (done)
    return (
      <Say tone="good" role="status">
        {t(done === 'move' ? 'seatsMoved' : done === 'gift' ? 'leftAsGift' : 'isReturned')}
      </Say>
    );
  if (!owed) return children;
  const amount = money(owed.amount);
  if (owed.ways.length < 2) return <Say>{t('goesBack', { amount })}</Say>;
  return (
    <Say tone="need">
      <p>{t('chooseMoney', { amount, time: sayMoment(owed.until, zone) })}</p>
      <OneOf
        label={t('chooseMoneyLabel')}
        value={become}
        set={(way) => setBecome(way as Way)}
        choices={owed.ways.map((way) => ({
          value: way,
          label:
            way === 'move'
              ? t('moveSeats', {
                  title: owed.to?.title ?? '',
                  when: owed.to?.startsLocal ? sayRange(owed.to.startsLocal, null, language()) : '',
                })
              : t(way === 'gift' ? 'leaveAsGift' : 'haveItBack'),
        }))}
      />
      <Problems of={choose.error instanceof ApiProblem ? choose.error : null} />
      <Button
        look="main"
        size="go"
        disabled={become === null || choose.isPending}
        onClick={() => become && choose.mutate(become)}
      >
        {become === 'gift'
          ? t('giveAmount', { amount })
          : become === 'return'
            ? t('returnAmount', { amount })
            : t(become === 'move' ? 'moveThem' : 'chooseIt')}
      </Button>
    </Say>
  );
}
