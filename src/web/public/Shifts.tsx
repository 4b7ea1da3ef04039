import './holdingWords.ts';
import './helping/words.ts';
import { chakra } from '@chakra-ui/react';
import { useTranslation } from 'react-i18next';
import { Link, useParams } from 'react-router';
import type { Answer } from '#web/api.ts';
import { useAddress } from '#web/kit/useAddress.ts';
import { useAsk } from './asking.ts';
import { narrowed, ShiftFilters, usualShifts } from './helping/ShiftFilters.tsx';
import { ShiftList } from './helping/ShiftList.tsx';
import { Loaded } from './notices.tsx';
import { Soft, Title } from './parts.tsx';

type Page = Answer<'GET /api/public/events/:slug/shifts'>;

/** Open shifts of an event that anybody may take. */
export default function Shifts() {
  const { slug = '' } = useParams();
  return (
    <Loaded of={useAsk('GET /api/public/events/:slug/shifts', { slug }, { everyMs: 15_000 })}>
      {(page) => <Shown page={page} />}
    </Loaded>
  );
}

function Shown({ page }: { page: Page }) {
  const { t } = useTranslation();
  const [address, put] = useAddress(usualShifts);
  const shifts = narrowed(page.shifts, address);
  return (
    <>
      <chakra.p marginTop="8px" display="flex" flexWrap="wrap" justifyContent="space-between" gap="0 16px">
        <Link to={`/e/${page.slug}`}>{page.title}</Link>
        <Link to="/shifts">{t('allShifts')}</Link>
      </chakra.p>
      <Title>{t('shiftsTitle')}</Title>
      <Soft>{page.shifts.some((s) => s.filled < s.wished) ? t('shiftsText') : t('noShifts')}</Soft>
      <ShiftFilters shifts={page.shifts} address={address} put={put} />
      {page.shifts.length > 0 && shifts.length === 0 && <Soft role="status">{t('noShiftsLikeThat')}</Soft>}
      <ShiftList
        shifts={shifts}
        ofOne
        chosen={address.shift}
        choose={(shift) => put({ shift }, { typed: true })}
      />
    </>
  );
}
