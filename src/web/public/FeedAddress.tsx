import { chakra } from '@chakra-ui/react';
import { useTranslation } from 'react-i18next';
import { Copied } from './Copied.tsx';

/** The address of a calendar: to copy, or to open in the reader's own. */
export function FeedAddress({ feed }: { feed: string }) {
  const { t } = useTranslation();
  return (
    <Copied label={t('feedAddress')} copy={t('copyAddress')} text={feed}>
      <chakra.a
        href={feed.replace(/^https?:/u, 'webcal:')}
        color="verdigris"
        textDecoration="underline"
        padding="9px 0"
      >
        {t('openCalendar')}
      </chakra.a>
    </Copied>
  );
}
