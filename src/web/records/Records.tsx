import { chakra } from '@chakra-ui/react';
import { lazy, Suspense } from 'react';
import { ButtonLink } from '#web/kit/Button.tsx';
import { ListViews } from '#web/kit/ListViews.tsx';
import { Loading } from '#web/kit/notices.tsx';
import { useAddress } from '#web/kit/useAddress.ts';
import { useMe } from '#web/parts/ask.ts';
import { phrase } from '#web/words/phrase.ts';
import { PastEvents } from './events/PastEvents.tsx';

const Compare = lazy(() => import('./compare/Compare.tsx').then((m) => ({ default: m.Compare })));
const SeriesMultiples = lazy(() =>
  import('./series/SeriesMultiples.tsx').then((m) => ({ default: m.SeriesMultiples })),
);
const Returns = lazy(() => import('./returns/Returns.tsx').then((m) => ({ default: m.Returns })));
const Audiences = lazy(() => import('./audiences/Audiences.tsx').then((m) => ({ default: m.Audiences })));
const DriftingAway = lazy(() =>
  import('./drifting/DriftingAway.tsx').then((m) => ({ default: m.DriftingAway })),
);
const Timing = lazy(() => import('./timing/Timing.tsx').then((m) => ({ default: m.Timing })));
const Units = lazy(() => import('./units/Units.tsx').then((m) => ({ default: m.Units })));
const Initiatives = lazy(() =>
  import('./initiatives/Initiatives.tsx').then((m) => ({ default: m.Initiatives })),
);

const Reports = lazy(() => import('./reports/Reports.tsx').then((m) => ({ default: m.Reports })));

const usual = { show: '', id: '', of: '', year: '' };

/** The views, and which roles see each; the coordinator sees all. */
const views = [
  { value: '', label: phrase('records.events'), roles: null },
  { value: 'series', label: phrase('archive.series'), roles: ['treasurer', 'crew lead'] },
  { value: 'returns', label: phrase('archive.returns'), roles: ['treasurer', 'crew lead'] },
  { value: 'audiences', label: phrase('archive.audiences'), roles: ['treasurer', 'crew lead'] },
  { value: 'drifting', label: phrase('archive.drifting'), roles: ['crew lead'] },
  { value: 'timing', label: phrase('archive.timing'), roles: ['treasurer', 'crew lead'] },
  { value: 'units', label: phrase('archive.units'), roles: ['treasurer', 'unit lead'] },
  {
    value: 'initiatives',
    label: phrase('initiatives.title'),
    roles: ['treasurer', 'unit lead', 'crew lead'],
  },
  { value: 'reports', label: phrase('reports.title'), roles: ['treasurer'] },
] as const;
const segmentsFor = ['coordinator', 'treasurer', 'crew lead'];

/** What the history shows: one view at a time, in the address. */
export default function Records() {
  const [{ show, id, of, year }, put] = useAddress(usual);
  const roles: readonly string[] = useMe().data?.staff.roles ?? [];
  const theirs = views.filter(
    (v) => v.roles === null || roles.includes('coordinator') || v.roles.some((r) => roles.includes(r)),
  );
  // A comparison belongs to the events it was chosen among.
  const known = show === 'compare' ? show : (theirs.find((v) => v.value === show)?.value ?? '');
  return (
    <div className="page">
      <div className="spread">
        <h1>{phrase('common.records')}</h1>
        <chakra.div display="flex" flexWrap="wrap" gap="6px" alignItems="center">
          <ListViews
            label={phrase('common.show')}
            value={known === 'compare' ? '' : known}
            set={(to) => put({ ...usual, show: to })}
            views={theirs.map(({ value, label }) => ({ value: value as string, label }))}
          />
          {roles.some((r) => segmentsFor.includes(r)) && (
            <ButtonLink to="/records/segments">{phrase('records.segments')}</ButtonLink>
          )}
        </chakra.div>
      </div>
      <chakra.div marginTop="10px">
        <Suspense fallback={<Loading />}>
          {known === '' && (
            <PastEvents compare={(ids) => put({ ...usual, show: 'compare', of: ids.join(',') })} />
          )}
          {known === 'compare' && <Compare of={of} />}
          {known === 'series' && <SeriesMultiples />}
          {known === 'returns' && <Returns />}
          {known === 'audiences' && <Audiences />}
          {known === 'drifting' && <DriftingAway />}
          {known === 'timing' && <Timing />}
          {known === 'units' && <Units year={year} setYear={(to) => put({ year: to })} />}
          {known === 'initiatives' && <Initiatives id={id} />}
          {known === 'reports' && <Reports id={id} />}
        </Suspense>
      </chakra.div>
    </div>
  );
}
