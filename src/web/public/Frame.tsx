import type { ReactNode } from 'react';
import { useTranslation } from 'react-i18next';
import { Link, useLocation } from 'react-router';
import { useFrame } from './asking.ts';
import { language, setLanguage } from './language.ts';

/** The public frame: the organization's name, the other language, nothing of the coordinator's. */
export function Frame({ children }: { children: ReactNode }) {
  const { t } = useTranslation();
  const frame = useFrame();
  const { pathname } = useLocation();
  return (
    <div className="pub">
      <a className="skip" href="#content">
        {t('skip')}
      </a>
      <header className="top">
        <Link to="/" className="org">
          {frame.data?.organization.name ?? ' '}
        </Link>
        <button
          type="button"
          className="btn plain"
          lang={language() === 'en' ? 'fr' : 'en'}
          onClick={() => setLanguage(language() === 'en' ? 'fr' : 'en')}
        >
          {t('other')}
        </button>
      </header>
      <main id="content" key={pathname}>
        {children}
      </main>
      <footer className="foot">
        {frame.data?.organization.about} <a href="/desk">{t('staff')}</a>
      </footer>
    </div>
  );
}
