import './holdingWords.ts';
import { chakra } from '@chakra-ui/react';
import { useTranslation } from 'react-i18next';
import type { PublicEvent } from '#contract/publicEvent.ts';
import type { WayKind } from '#core/admission/admission.ts';
import { TextLink } from '#web/kit/Button.tsx';
import { Say } from './parts.tsx';
import { sayWall } from './saying.ts';

const words = {
  everyone: 'wayEveryone',
  members: 'wayMembers',
  units: 'wayUnits',
  code: 'wayCode',
  list: 'wayList',
  invited: 'wayInvited',
} as const satisfies Record<WayKind, string>;

/** Who may register, said to somebody who may not; nothing to everybody else. */
export default function WhoMay({ event }: { event: PublicEvent }) {
  const { t } = useTranslation();
  const { may, noReply, ways, signIn } = event.admission;
  if (noReply) return <Say tone="good">{t('noReply')}</Say>;
  if (may) return null;
  return (
    <Say tone="need">
      <p>{t('whoMay')}</p>
      <chakra.ul margin="4px 0 8px" paddingLeft="20px">
        {ways.map((way) => {
          const who = t(words[way.kind], { units: way.units.join(', ') });
          return (
            <li key={`${way.kind}${way.opensLocal}${who}`}>
              {way.opensLocal && event.nowLocal < way.opensLocal
                ? t('wayFrom', { who, at: sayWall(way.opensLocal) })
                : way.why === 'over'
                  ? t('wayOver', { who })
                  : who}
            </li>
          );
        })}
      </chakra.ul>
      {signIn && (
        <TextLink to={`/mine?then=${encodeURIComponent(`/e/${event.slug}/register`)}`}>
          {t('signInToSee')}
        </TextLink>
      )}
    </Say>
  );
}
