import { lazy, type ReactNode, Suspense } from 'react';
import { Navigate, Route, Routes, useLocation } from 'react-router';
import { ApiProblem } from '#web/api.ts';
import { Boundary } from '#web/kit/Boundary.tsx';
import { Loaded, Loading } from '../kit/notices.tsx';
import { useMe } from '../parts/ask.ts';
import { Forgotten, Reset } from './Forgotten.tsx';
import { Frame } from './Frame.tsx';
import { faceOf } from './face.ts';
import { Invitation } from './Invitation.tsx';
import { placeLoads } from './places.ts';
import { Setup } from './Setup.tsx';
import { SignIn } from './SignIn.tsx';
import { useTopOfPage } from './useTopOfPage.ts';

const Desk = lazy(placeLoads.Desk);
const Season = lazy(placeLoads.Season);
const Series = lazy(() => import('../season/Series.tsx'));
const EventPage = lazy(() => import('../event/EventPage.tsx'));
const Contacts = lazy(placeLoads.Contacts);
const Contact = lazy(() => import('../contacts/Contact.tsx'));
const Changes = lazy(() => import('../contacts/Changes.tsx'));
const Review = lazy(() => import('../contacts/Review.tsx'));
const Imports = lazy(() => import('../contacts/Imports.tsx'));
const Import = lazy(() => import('../contacts/Import.tsx'));
const Ledger = lazy(placeLoads.Ledger);
const Records = lazy(placeLoads.Records);
const Segments = lazy(() => import('../records/Segments.tsx'));
const Segment = lazy(() => import('../records/Segment.tsx'));
const Tray = lazy(placeLoads.Tray);
const Organization = lazy(() => import('../team/Organization.tsx'));
const Team = lazy(() => import('../team/Team.tsx'));
const Trail = lazy(() => import('../team/Trail.tsx'));
const Account = lazy(() => import('../account/Account.tsx'));
const Waiting = lazy(placeLoads.Clearance);
const Rules = lazy(() => import('../clearance/Rules.tsx'));
const Calls = lazy(() => import('../crew/Calls.tsx'));
const Applications = lazy(() => import('../crew/Applications.tsx'));
const Hours = lazy(() => import('../crew/Hours.tsx'));
const Registers = lazy(() => import('../team/Registers.tsx'));
const Waivers = lazy(() => import('../waivers/Waivers.tsx'));
const WaiverPage = lazy(() => import('../waivers/WaiverPage.tsx'));
const Door = lazy(() => import('../door/Door.tsx'));
const Today = lazy(() => import('../door/Today.tsx'));

/** Every place of the coordinator's application. */
export function Places() {
  useTopOfPage();
  return (
    <Boundary>
      <Routes>
        <Route path="/sign-in" element={<SignIn />} />
        <Route path="/setup" element={<Setup />} />
        <Route path="/invitation/:token" element={<Invitation />} />
        <Route path="/forgotten" element={<Forgotten />} />
        <Route path="/reset/:token" element={<Reset />} />
        <Route
          path="/doors"
          element={
            <SignedIn>
              <Today />
            </SignedIn>
          }
        />
        <Route
          path="/doors/:id"
          element={
            <SignedIn>
              <Door />
            </SignedIn>
          }
        />
        <Route
          path="*"
          element={
            <SignedIn>
              <Frame>
                <Boundary>
                  <Suspense fallback={<Loading />}>
                    <Routes>
                      <Route path="/desk" element={<Home />} />
                      <Route path="/season" element={<Season />} />
                      <Route path="/season/series/:id" element={<Series />} />
                      <Route path="/events/:id" element={<Navigate to="plan" replace />} />
                      <Route path="/events/:id/:stage" element={<EventPage />} />
                      <Route path="/contacts" element={<Contacts />} />
                      <Route path="/contacts/changes" element={<Changes />} />
                      <Route path="/contacts/review" element={<Review />} />
                      <Route path="/contacts/:id" element={<Contact />} />
                      <Route path="/import" element={<Imports />} />
                      <Route path="/import/:id" element={<Import />} />
                      <Route path="/volunteers" element={<Calls />} />
                      <Route path="/volunteers/hours" element={<Hours />} />
                      <Route path="/volunteers/:id" element={<Applications />} />
                      <Route path="/ledger" element={<Ledger />} />
                      <Route path="/records" element={<Records />} />
                      <Route path="/records/segments" element={<Segments />} />
                      <Route path="/records/segments/:id" element={<Segment />} />
                      <Route path="/tray" element={<Tray />} />
                      <Route path="/team/organization" element={<Organization />} />
                      <Route path="/team" element={<Team />} />
                      <Route path="/team/trail" element={<Trail />} />
                      <Route path="/account" element={<Account />} />
                      <Route path="/clearance" element={<Waiting />} />
                      <Route path="/team/clearance" element={<Rules />} />
                      <Route path="/team/registers" element={<Registers />} />
                      <Route path="/team/waivers" element={<Waivers />} />
                      <Route path="/team/waivers/:id" element={<WaiverPage />} />
                      <Route path="*" element={<Navigate to="/desk" replace />} />
                    </Routes>
                  </Suspense>
                </Boundary>
              </Frame>
            </SignedIn>
          }
        />
      </Routes>
    </Boundary>
  );
}

/** Where somebody begins: the door team at its doors, everybody else at the Desk. */
function Home() {
  const roles = useMe().data?.staff.roles ?? [];
  return roles.length > 0 && roles.every((r) => r === 'door') ? <Navigate to="/doors" replace /> : <Desk />;
}

/** Lets in who is signed in; everybody else signs in first and comes back. */
function SignedIn({ children }: { children: ReactNode }) {
  const me = useMe();
  const location = useLocation();
  if (me.error instanceof ApiProblem && me.error.body.status === 401)
    return <Navigate to={`/sign-in?back=${encodeURIComponent(location.pathname)}`} replace />;
  return (
    <Loaded of={me}>
      {(known) => {
        faceOf(known);
        const { staff } = known;
        // Before anything else the second step is set up.
        return staff.enrolling && location.pathname !== '/account' ? (
          <Navigate to="/account" replace />
        ) : (
          <Suspense fallback={null}>{children}</Suspense>
        );
      }}
    </Loaded>
  );
}
