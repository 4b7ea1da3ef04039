import './calendarWords.ts';
import { chakra } from '@chakra-ui/react';
import { useState } from 'react';
import { useTranslation } from 'react-i18next';
import { addressOf } from '#web/api.ts';
import { TextField } from '#web/kit/Field.tsx';
import { Copied } from './Copied.tsx';
import { FeedAddress } from './FeedAddress.tsx';
import { filterIn, type ListingAddress } from './listingAddress.ts';
import { Soft } from './parts.tsx';

/** What links in the frame look like, unless somebody chooses the colour of their own pages. */
const usualAccent = '#1c665f';

/** Ways to have the calendar elsewhere, narrowed as it is shown: in one's own, and in a page of one's own. */
export function Subscribe({ address }: { address: ListingAddress }) {
  const { t } = useTranslation();
  const filter = filterIn(address);
  const feed = `${location.origin}${addressOf('GET /api/public/calendar.ics', {}, filter)}`;
  const [accent, setAccent] = useState('');
  const search = new URLSearchParams(filter).toString();
  const framed = new URLSearchParams({
    ...filter,
    ...(accent ? { accent: accent.slice(1) } : {}),
  }).toString();
  const frame = `<iframe src="${location.origin}/embed${framed ? `?${framed.replaceAll('&', '&amp;')}` : ''}" width="100%" height="480" style="border:0" title="${document.title.replaceAll('"', '&quot;')}"></iframe>`;
  return (
    <chakra.details marginTop="30px">
      <chakra.summary cursor="pointer" color="verdigris" padding="6px 0">
        {t('subscribe')}
      </chakra.summary>
      <Soft>{t('subscribeText')}</Soft>
      <FeedAddress feed={feed} />
      <chakra.h2 fontSize="18px" marginTop="18px">
        {t('inYourPage')}
      </chakra.h2>
      <Soft>{t('inYourPageText')}</Soft>
      <chakra.div maxWidth="200px" marginTop="8px">
        <TextField label={t('accent')} type="color" value={accent || usualAccent} set={setAccent} />
      </chakra.div>
      <Copied label={t('frameCode')} copy={t('copyCode')} text={frame} />
      <Copied
        label={t('linkAddress')}
        copy={t('copyAddress')}
        text={`${location.origin}/${search && `?${search}`}`}
      />
    </chakra.details>
  );
}
