import { chakra, type SystemStyleObject } from '@chakra-ui/react';
import { useQueryClient } from '@tanstack/react-query';
import { Menu as MenuIcon } from 'lucide-react';
import type { ReactNode } from 'react';
import { NavLink, useLocation, useNavigate } from 'react-router';
import { Button, TextLink } from '#web/kit/Button.tsx';
import { Menu } from '#web/kit/Menu.tsx';
import { phrase, term } from '#web/words/phrase.ts';
import { Toasts } from '../kit/toast.tsx';
import { useMe } from '../parts/ask.ts';
import { useSignOut } from '../parts/SignOut.tsx';
import { ClockMenu } from './ClockMenu.tsx';
import { Keys } from './Keys.tsx';
import { PersonSlide } from './PersonSlide.tsx';
import { askAhead, needs, type Place, placeNames, places } from './places.ts';
import { SearchBox } from './SearchBox.tsx';
import { useInterface, useLooks } from './state.ts';

const barLook: SystemStyleObject = {
  display: 'flex',
  alignItems: 'center',
  gap: '22px',
  height: '46px',
  padding: '0 18px',
  borderBottom: '1px solid var(--line)',
  fontSize: '14px',
  flex: 'none',
  '& .org': {
    fontFamily: 'var(--title)',
    fontSize: '16px',
    fontWeight: 600,
    letterSpacing: '-0.01em',
    color: 'var(--ink)',
    whiteSpace: 'nowrap',
  },
  '& nav': {
    gap: '18px',
    alignSelf: 'stretch',
  },
  '& nav a': {
    color: 'var(--ink)',
    display: 'flex',
    alignItems: 'center',
    borderBottom: '2px solid transparent',
    borderTop: '2px solid transparent',
  },
  '& nav a[aria-current="page"]': {
    borderBottomColor: 'var(--verdigris)',
  },
  '& nav a:hover': {
    textDecoration: 'none',
    color: 'var(--verdigris)',
  },
  '@media (max-width: 900px)': {
    gap: '12px',
    padding: '0 12px',
  },
  '@media print': {
    display: 'none',
  },
};

const pathOf = (place: Place): string => `/${place.toLowerCase()}`;

/** The places folded into one button, where the bar is too narrow for all of them. */
function PlacesMenu({ places: mine, organization }: { places: readonly Place[]; organization: string }) {
  const navigate = useNavigate();
  const { pathname } = useLocation();
  const here = mine.find((p) => pathname.startsWith(pathOf(p)));
  return (
    <Menu
      heading={organization}
      entries={mine.map((p) => ({ label: placeNames[p], run: () => navigate(pathOf(p)) }))}
      trigger={
        <Button
          look="plain"
          hideFrom="lg"
          fontFamily="title"
          fontSize="sub"
          color="ink"
          aria-label={phrase('common.places')}
        >
          <MenuIcon size={16} aria-hidden /> {here ? placeNames[here] : phrase('common.places')}
        </Button>
      }
    />
  );
}

/** The frame of the coordinator's application: where one is, what can be found, whose clock it is. */
export function Frame({ children }: { children: ReactNode }) {
  const me = useMe().data!;
  const client = useQueryClient();
  // What somebody points at stands there when they come.
  const ahead = (place: Place) => askAhead(client, place);
  const mine = places.filter((p) => !needs[p] || me.staff.roles.some((r) => needs[p]!.includes(r)));
  return (
    <>
      <a className="skip" href="#contents">
        {phrase('shell.skipToContent')}
      </a>
      <chakra.header css={barLook}>
        <TextLink to="/desk" className="org" hideBelow="lg">
          {me.organization.name}
        </TextLink>
        <PlacesMenu places={mine} organization={me.organization.name} />
        <chakra.nav aria-label={phrase('common.places')} display={{ base: 'none', lg: 'flex' }}>
          {mine.map((p) => (
            <NavLink key={p} to={pathOf(p)} onPointerEnter={() => ahead(p)} onFocus={() => ahead(p)}>
              {placeNames[p]}
            </NavLink>
          ))}
        </chakra.nav>
        <SearchBox />
        <ClockMenu />
        <PersonMenu name={me.staff.name} coordinator={me.staff.roles.includes('coordinator')} />
      </chakra.header>
      <chakra.main id="contents" display="contents">
        {children}
      </chakra.main>
      <PersonSlide />
      <Keys />
      <Toasts />
    </>
  );
}

function PersonMenu({ name, coordinator }: { name: string; coordinator: boolean }) {
  const navigate = useNavigate();
  const { light, setLight } = useLooks();
  const showKeys = useInterface((s) => s.showKeys);
  const signOut = useSignOut();
  const [first, ...rest] = name.split(' ');
  return (
    <Menu
      end
      entries={[
        ...(coordinator
          ? [
              { label: phrase('organization.title'), run: () => navigate('/team/organization') },
              { label: phrase('common.teamAndRoles'), run: () => navigate('/team') },
              { label: phrase('team.placesUnitsFundsAnd'), run: () => navigate('/team/registers') },
              { label: phrase('waivers.title'), run: () => navigate('/team/waivers') },
              { label: phrase('clearance.rules'), run: () => navigate('/team/clearance') },
              { label: phrase('common.importContacts'), run: () => navigate('/import') },
            ]
          : []),
        { label: phrase('common.yourAccount'), run: () => navigate('/account') },
        { label: phrase('shell.publicPages'), run: () => window.open('/', '_blank', 'noopener') },
        {
          label: phrase('shell.theme', {
            light: light === 'system' ? phrase('shell.asThisDevice') : term(light),
          }),
          run: () => setLight(light === 'system' ? 'dark' : light === 'dark' ? 'light' : 'system'),
          stays: true,
        },
        { label: phrase('shell.keys'), run: () => showKeys(true), shortcut: '?' },
        { label: phrase('common.signOut'), run: signOut },
      ]}
      trigger={
        <Button look="link" color="inherit" whiteSpace="nowrap">
          <chakra.span hideBelow="sm">
            {first?.[0]}. {rest.join(' ')}
          </chakra.span>
          <chakra.span hideFrom="sm" aria-label={name}>
            {first?.[0]}
            {rest.at(-1)?.[0]}
          </chakra.span>
        </Button>
      }
    />
  );
}
