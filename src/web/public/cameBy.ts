import { useEffect } from 'react';
import { useSearchParams } from 'react-router';
import { call } from '#web/api.ts';

/** How somebody came to the pages of an event: through a link that was given out, by an invitation. */
export interface CameBy {
  from: string;
  invited: string;
}

const nothing: CameBy = { from: '', invited: '' };
const read = (slug: string): CameBy => {
  try {
    return { ...nothing, ...(JSON.parse(sessionStorage.getItem(`came ${slug}`) ?? '{}') as Partial<CameBy>) };
  } catch {
    return nothing;
  }
};

/** What stands in the address of a page of an event, kept for its other pages as long as the tab is open. */
export function useCameBy(slug: string): CameBy {
  const [search] = useSearchParams();
  const before = read(slug);
  const now = {
    from: search.get('from') ?? before.from,
    invited: search.get('invited') ?? before.invited,
  };
  if (now.from !== before.from || now.invited !== before.invited)
    try {
      sessionStorage.setItem(`came ${slug}`, JSON.stringify(now));
    } catch {
      // A browser that keeps nothing forgets it with the page.
    }
  return now;
}

/** Counts a look at the page, or a booking that is begun: once for each tab, and nothing of whoever it is. */
export function useCounted(slug: string, step: 'seen' | 'begun'): void {
  const { from } = useCameBy(slug);
  useEffect(() => {
    const key = `counted ${step} ${slug}`;
    if (sessionStorage.getItem(key)) return;
    sessionStorage.setItem(key, '1');
    // Whether it is counted is nothing to whoever reads the page.
    call('POST /api/public/events/:slug/seen', { params: { slug }, body: { step, from } }).catch(() => {});
  }, [slug, step, from]);
}
