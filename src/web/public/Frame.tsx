import { chakra } from '@chakra-ui/react';
import type { ReactNode } from 'react';
import { useTranslation } from 'react-i18next';
import { useLocation } from 'react-router';
import { type ClockFace, faceAs } from '#core/time/face.ts';
import { Button, TextLink } from '#web/kit/Button.tsx';
import { kitWordsIn } from '#web/kit/languages.ts';
import { KitLanguage } from '#web/kit/words.ts';
import { Picture } from '../parts/Picture.tsx';
import { useFrame } from './asking.ts';
import { language, setLanguage } from './language.ts';
import { isShared } from './shared.ts';

/** How times of day are said: as the organization does. */
let face: ClockFace = 24;
faceAs(() => face);

/** The public frame: the organization's name, the other language, nothing of the coordinator's. */
export function Frame({ children }: { children: ReactNode }) {
  const { t } = useTranslation();
  const frame = useFrame();
  face = frame.data?.organization.clock ?? face;
  const logo = frame.data?.organization.logo;
  const { pathname, search } = useLocation();
  // On a shared device nothing leads away from what it stands there for.
  const shared = isShared(search);
  const other = language() === 'en' ? 'fr' : 'en';
  return (
    <KitLanguage value={kitWordsIn[language()]}>
      <div className="pub">
        <a className="skip" href="#content">
          {t('skip')}
        </a>
        <chakra.header
          display="flex"
          alignItems="center"
          justifyContent="space-between"
          gap="12px"
          padding="14px 0"
          fontSize="15px"
        >
          <Name shared={shared}>
            {logo && (
              // Its name stands beside it.
              <chakra.span width="40px" aria-hidden="true">
                <Picture of={logo} language={language()} sizes="40px" eager />
              </chakra.span>
            )}
            {frame.data?.organization.name ?? ' '}
          </Name>
          <chakra.span display="inline-flex" alignItems="center" gap="2px" whiteSpace="nowrap" flex="none">
            {!shared && (
              <TextLink to="/mine" padding="7px 8px">
                {t('mine')}
              </TextLink>
            )}
            <Button look="plain" lang={other} onClick={() => setLanguage(other)}>
              {t('other')}
            </Button>
          </chakra.span>
        </chakra.header>
        <main id="content" key={pathname}>
          {children}
        </main>
        <chakra.footer
          marginTop="40px"
          paddingTop="12px"
          borderTop="1px solid"
          borderColor="line"
          fontSize="14px"
          color="soft"
        >
          {frame.data?.organization.about} {!shared && <a href="/desk">{t('staff')}</a>}
        </chakra.footer>
      </div>
    </KitLanguage>
  );
}

const nameLooks = {
  fontFamily: 'title',
  fontWeight: 600,
  color: 'ink',
  display: 'inline-flex',
  alignItems: 'center',
  gap: '10px',
} as const;

/** The name of the organization, and the way to its first page where there is one. */
function Name({ shared, children }: { shared: boolean; children: ReactNode }) {
  return shared ? (
    <chakra.span {...nameLooks}>{children}</chakra.span>
  ) : (
    <TextLink to="/" {...nameLooks}>
      {children}
    </TextLink>
  );
}
