import './holdingWords.ts';
import { useTranslation } from 'react-i18next';
import type { SigningWords } from '#web/signing/hand.ts';

/** What a form to sign says on the pages of the public. */
export function useSigningWords(): SigningWords {
  const { t } = useTranslation();
  return {
    choose: t('choose'),
    yes: t('yes'),
    no: t('no'),
    chooseFile: t('chooseFile'),
    remove: t('remove'),
    initials: t('signInitials'),
    about: (name) => t('signAbout', { name }),
    declared: t('signDeclared'),
    draw: t('signDraw'),
    drawAgain: t('signDrawAgain'),
  };
}
