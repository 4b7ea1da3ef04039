import { chakra } from '@chakra-ui/react';
import { ButtonLink } from '#web/kit/Button.tsx';
import { ListViews } from '#web/kit/ListViews.tsx';
import { useAddress } from '#web/kit/useAddress.ts';
import { useMe } from '#web/parts/ask.ts';
import { phrase } from '#web/words/phrase.ts';
import { PastEvents } from './events/PastEvents.tsx';
import { Initiatives } from './initiatives/Initiatives.tsx';

const usual = { show: '', id: '' };

const initiativesFor = ['coordinator', 'treasurer', 'unit lead', 'crew lead'];
const segmentsFor = ['coordinator', 'treasurer', 'crew lead'];

/** What the history shows: one view at a time, in the address. */
export default function Records() {
  const [{ show, id }, put] = useAddress(usual);
  const roles = useMe().data?.staff.roles ?? [];
  const may = (of: readonly string[]) => roles.some((r) => of.includes(r));
  const views = [
    { value: '', label: phrase('records.events') },
    ...(may(initiativesFor) ? [{ value: 'initiatives', label: phrase('initiatives.title') }] : []),
  ];
  const view = views.some((v) => v.value === show) ? show : '';
  return (
    <div className="page">
      <div className="spread">
        <h1>{phrase('common.records')}</h1>
        <chakra.div display="flex" flexWrap="wrap" gap="6px" alignItems="center">
          <ListViews
            label={phrase('common.show')}
            value={view}
            set={(to) => put({ ...usual, show: to })}
            views={views}
          />
          {may(segmentsFor) && <ButtonLink to="/records/segments">{phrase('records.segments')}</ButtonLink>}
        </chakra.div>
      </div>
      {view === '' && <PastEvents />}
      {view === 'initiatives' && <Initiatives id={id} />}
    </div>
  );
}
