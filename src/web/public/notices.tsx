import type { ComponentProps } from 'react';
import { useTranslation } from 'react-i18next';
import { Link } from 'react-router';
import { Loaded as AnyLoaded } from '#web/kit/notices.tsx';
import { Soft, Title } from './parts.tsx';

export function NotHere() {
  const { t } = useTranslation();
  return (
    <>
      <Title>{t('notHere')}</Title>
      <Soft>{t('notHereText')}</Soft>
      <Soft>
        {t('forOthers')} <Link to="/mine">{t('signIn')}</Link>
      </Soft>
      <Soft marginTop="16px">
        <Link to="/">{t('comingEvents')}</Link>
      </Soft>
    </>
  );
}

/** Shows a page's data, or what stands in its way. */
export function Loaded<T>(props: Omit<ComponentProps<typeof AnyLoaded<T>>, 'missing'>) {
  return <AnyLoaded {...props} missing={<NotHere />} />;
}
