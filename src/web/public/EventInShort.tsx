import './holdingWords.ts';
import { chakra } from '@chakra-ui/react';
import { useTranslation } from 'react-i18next';
import type { EventInShort as Short } from '#contract/registration.ts';
import { sayRange } from '#core/time/say.ts';
import { TextLink } from '#web/kit/Button.tsx';
import { language } from './language.ts';

/** Which event it is, when and where, above what somebody holds of it. */
export function EventInShort({ event, query = '' }: { event: Short; query?: string }) {
  const { t } = useTranslation();
  return (
    <p>
      <TextLink to={`/e/${event.slug}${query}`} fontFamily="title">
        {event.title}
      </TextLink>
      <br />
      {event.startsLocal && sayRange(event.startsLocal, event.endsLocal, language())}
      <br />
      <chakra.span color="soft">{event.place ?? t('placeLater')}</chakra.span>
    </p>
  );
}
