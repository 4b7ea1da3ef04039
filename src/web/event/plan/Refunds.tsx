import { chakra } from '@chakra-ui/react';
import { Plus, Trash2 } from 'lucide-react';
import type { EventPlan } from '#contract/plan.ts';
import { shiftDate } from '#core/time/dates.ts';
import { Button } from '#web/kit/Button.tsx';
import { TextField } from '#web/kit/Field.tsx';
import { useSaying } from '#web/parts/saying.ts';
import { phrase } from '#web/words/phrase.ts';
import type { SectionProps } from './section.ts';

type Step = EventPlan['refunds'][number];

/** What it begins with: everything until two weeks before, half until one. */
export const newRefunds: readonly Step[] = [
  { days: 14, percent: 100 },
  { days: 7, percent: 50 },
];

/** What goes back of a seat that is given up, by days before; said before anybody books. */
export function Refunds({ draft: { plan, change, wrong } }: SectionProps) {
  const { refunds, startsLocal } = plan;
  const { dayAndYear } = useSaying();
  const set = (to: Step[]) => change({ refunds: to });
  return (
    <>
      <p className="soft">{phrase('offers.refundsHelp')}</p>
      {refunds.map((step, at) => {
        const put = (part: Partial<Step>) => set(refunds.map((s, n) => (n === at ? { ...s, ...part } : s)));
        return (
          <chakra.div
            key={at}
            display="grid"
            gridTemplateColumns={{ base: '1fr 1fr', lg: '1fr 1fr auto' }}
            gap="0 10px"
            alignItems="start"
            maxWidth="560px"
          >
            <TextField
              label={phrase('offers.refundDays')}
              type="number"
              value={String(step.days)}
              set={(v) => put({ days: Math.trunc(Number(v)) })}
              error={wrong[`refunds.${at}.days`]}
              consequence={
                startsLocal
                  ? phrase('offers.refundUntil', {
                      day: dayAndYear(`${shiftDate(startsLocal.slice(0, 10), -step.days)}T12:00:00Z`),
                    })
                  : undefined
              }
            />
            <TextField
              label={phrase('offers.refundPercent')}
              type="number"
              value={String(step.percent)}
              set={(v) => put({ percent: Math.trunc(Number(v)) })}
              error={wrong[`refunds.${at}.percent`]}
            />
            <Button
              look="plain"
              marginTop={{ lg: '22px' }}
              aria-label={phrase('event.removeNamed', {
                name: phrase('offers.refundStep', { days: step.days, percent: step.percent }),
              })}
              onClick={() => set(refunds.filter((_, n) => n !== at))}
            >
              <Trash2 size={15} aria-hidden /> {phrase('common.remove')}
            </Button>
          </chakra.div>
        );
      })}
      <p className="soft">{phrase(refunds.length ? 'offers.refundsAfter' : 'offers.refundsNone')}</p>
      {refunds.length < 6 && (
        <Button
          look="plain"
          alignSelf="start"
          onClick={() =>
            set([...refunds, { days: refunds.length ? 0 : 14, percent: refunds.length ? 0 : 100 }])
          }
        >
          <Plus size={14} aria-hidden /> {phrase('offers.addRefund')}
        </Button>
      )}
    </>
  );
}
