import { chakra } from '@chakra-ui/react';
import { useState } from 'react';
import { useTranslation } from 'react-i18next';
import { sayFromTo } from '#core/time/fromTo.ts';
import { sayShortDate } from '#core/time/say.ts';
import type { Answer } from '#web/api.ts';
import { Button } from '#web/kit/Button.tsx';
import { Tick } from '#web/kit/Choosing.tsx';
import { Problems } from '#web/kit/notices.tsx';
import { language } from '../language.ts';
import { Acts, Head, Rows, Small, Soft } from '../parts.tsx';
import { ElsewhereLines } from './OwnAsks.tsx';
import { useOwnAct } from './useOwnAct.ts';

type Page = Answer<'GET /api/public/crew/:token'>;
/** As many as can be wished for in the place of one. */
const most = 8;

const shortly = (s: { name: string; role: string; place: string; startsLocal: string; endsLocal: string }) =>
  `${sayShortDate(s.startsLocal, true, language())} ${sayFromTo(s, language())} ${[s.name, s.role, s.place].filter(Boolean).join(', ')}`;

/** Which other shifts somebody would have in the place of one of theirs. */
export function Swap({
  shift,
  page,
  token,
  close,
}: {
  shift: Page['shifts'][number];
  page: Page;
  token: string;
  close: () => void;
}) {
  const { t } = useTranslation();
  const [wants, setWants] = useState<readonly string[]>(shift.wants);
  const wish = useOwnAct('POST /api/public/crew/:token/swap', token);
  const others = page.others.filter((o) => o.eventId === shift.eventId);
  return (
    <chakra.div margin="8px 0">
      <Soft>{t('swapText')}</Soft>
      <Problems of={wish.problem} />
      <chakra.ul listStyleType="none" padding={0} margin="6px 0" display="grid" gap="6px">
        {others.map((o) => (
          <li key={o.shiftId}>
            <Tick
              checked={wants.includes(o.shiftId)}
              disabled={!wants.includes(o.shiftId) && wants.length >= most}
              set={(is) => setWants(is ? [...wants, o.shiftId] : wants.filter((id) => id !== o.shiftId))}
            >
              <span className="num">{shortly(o)}</span>
              {o.room && <Small>{t('swapRoom')}</Small>}
            </Tick>
          </li>
        ))}
      </chakra.ul>
      <Acts>
        <Button
          look="main"
          disabled={wish.isPending}
          onClick={() =>
            wish.mutate(
              {
                assignmentId: shift.assignmentId,
                wants: wants.filter((id) => others.some((o) => o.shiftId === id)),
              },
              { onSuccess: close },
            )
          }
        >
          {t('swapSend')}
        </Button>
        <Button onClick={close}>{t('cancel')}</Button>
      </Acts>
    </chakra.div>
  );
}

/** What somebody wished for in the place of a shift, in words. */
export function Wished({ shift, page }: { shift: Page['shifts'][number]; page: Page }) {
  const { t } = useTranslation();
  const wanted = page.others.filter((o) => shift.wants.includes(o.shiftId));
  return wanted.length > 0 && <Small>{t('swapWished', { shifts: wanted.map(shortly).join(' · ') })}</Small>;
}

/** What others would give for a shift of somebody's; saying yes is wishing for it as well. */
export function WishedOfYou({ page, token }: { page: Page; token: string }) {
  const { t } = useTranslation();
  const wish = useOwnAct('POST /api/public/crew/:token/swap', token);
  if (!page.wished.length) return null;
  return (
    <>
      <Head>{t('swapAsked')}</Head>
      <Soft>{t('swapAskedText')}</Soft>
      <Problems of={wish.problem} />
      <Rows>
        {page.wished.map((o) => {
          const own = page.shifts.find((s) => s.assignmentId === o.assignmentId);
          if (!own) return null;
          return (
            <li key={`${o.shiftId} ${o.assignmentId}`}>
              <ElsewhereLines of={o} />
              <Small>{t('swapFor', { shift: shortly(own) })}</Small>
              <Acts>
                <Button
                  disabled={wish.isPending}
                  onClick={() =>
                    wish.mutate({ assignmentId: own.assignmentId, wants: [...own.wants, o.shiftId] })
                  }
                >
                  {t('swapYes')}
                </Button>
              </Acts>
            </li>
          );
        })}
      </Rows>
    </>
  );
}
