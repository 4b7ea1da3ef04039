import { useTranslation } from 'react-i18next';
import { Small } from './parts.tsx';
import { ownTime } from './saying.ts';

/** By whose clock times are said, and what that is where the reader is; nothing where it is the same. */
export function WhereYouAre({
  of: { startsAt, endsAt, zone },
}: {
  of: { startsAt: string; endsAt: string; zone: string };
}) {
  const { t } = useTranslation();
  const own = ownTime(startsAt, endsAt, zone);
  return own && <Small>{t('whereYouAre', own)}</Small>;
}
