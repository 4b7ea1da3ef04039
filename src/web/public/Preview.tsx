import { useTranslation } from 'react-i18next';
import { useParams } from 'react-router';
import { useAsk } from './asking.ts';
import { Shown } from './EventView.tsx';
import { Loaded } from './notices.tsx';
import { Say } from './parts.tsx';

/** The page of an event as it would be public, for whoever its team gave the link. */
export default function Preview() {
  const { token = '' } = useParams();
  const { t } = useTranslation();
  return (
    <Loaded of={useAsk('GET /api/public/previews/:token', { token }, { everyMs: 10_000 })}>
      {(event) => (
        <>
          <Say tone="need" role="note">
            {t('thisIsAPreview')}
          </Say>
          <Shown event={event} preview />
        </>
      )}
    </Loaded>
  );
}
