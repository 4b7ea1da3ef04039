import { chakra, Menu, Portal } from '@chakra-ui/react';
import { useQueryClient } from '@tanstack/react-query';
import { Menu as MenuIcon } from 'lucide-react';
import type { ReactNode } from 'react';
import { NavLink, useLocation, useNavigate } from 'react-router';
import { Button, TextLink } from '#web/kit/Button.tsx';
import { Toasts } from '../kit/toast.tsx';
import { useMe } from '../parts/ask.ts';
import { useSignOut } from '../parts/SignOut.tsx';
import { ClockMenu } from './ClockMenu.tsx';
import { Keys } from './Keys.tsx';
import { PersonSlide } from './PersonSlide.tsx';
import { askAhead, needs, type Place, places } from './places.ts';
import { SearchBox } from './SearchBox.tsx';
import { useInterface, useLooks } from './state.ts';

const pathOf = (place: Place): string => `/${place.toLowerCase()}`;

/** The places folded into one button, where the bar is too narrow for all of them. */
function PlacesMenu({ places: mine, organization }: { places: readonly Place[]; organization: string }) {
  const navigate = useNavigate();
  const { pathname } = useLocation();
  const here = mine.find((p) => pathname.startsWith(pathOf(p)));
  return (
    <Menu.Root positioning={{ placement: 'bottom-start' }}>
      <Menu.Trigger asChild>
        <Button look="plain" hideFrom="lg" fontFamily="title" fontSize="sub" color="ink" aria-label="Places">
          <MenuIcon size={16} aria-hidden /> {here ?? 'Places'}
        </Button>
      </Menu.Trigger>
      <Portal>
        <Menu.Positioner>
          <Menu.Content>
            <Menu.ItemGroup>
              <Menu.ItemGroupLabel>{organization}</Menu.ItemGroupLabel>
              {mine.map((p) => (
                <Menu.Item key={p} value={p} onClick={() => navigate(pathOf(p))}>
                  {p}
                </Menu.Item>
              ))}
            </Menu.ItemGroup>
          </Menu.Content>
        </Menu.Positioner>
      </Portal>
    </Menu.Root>
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
        Skip to content
      </a>
      <header className="bar">
        <TextLink to="/desk" className="org" hideBelow="lg">
          {me.organization.name}
        </TextLink>
        <PlacesMenu places={mine} organization={me.organization.name} />
        <chakra.nav aria-label="Places" hideBelow="lg">
          {mine.map((p) => (
            <NavLink key={p} to={pathOf(p)} onPointerEnter={() => ahead(p)} onFocus={() => ahead(p)}>
              {p}
            </NavLink>
          ))}
        </chakra.nav>
        <SearchBox />
        <ClockMenu />
        <PersonMenu name={me.staff.name} coordinator={me.staff.roles.includes('coordinator')} />
      </header>
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
    <Menu.Root positioning={{ placement: 'bottom-end' }}>
      <Menu.Trigger asChild>
        <Button look="link" color="inherit" whiteSpace="nowrap">
          <chakra.span hideBelow="sm">
            {first?.[0]}. {rest.join(' ')}
          </chakra.span>
          <chakra.span hideFrom="sm" aria-label={name}>
            {first?.[0]}
            {rest.at(-1)?.[0]}
          </chakra.span>
        </Button>
      </Menu.Trigger>
      <Portal>
        <Menu.Positioner>
          <Menu.Content>
            {coordinator && (
              <>
                <Menu.Item value="team" onClick={() => navigate('/team')}>
                  Team and roles
                </Menu.Item>
                <Menu.Item value="registers" onClick={() => navigate('/team/registers')}>
                  Places, units, waivers
                </Menu.Item>
                <Menu.Item value="import" onClick={() => navigate('/import')}>
                  Bring people in
                </Menu.Item>
              </>
            )}
            <Menu.Item value="account" onClick={() => navigate('/account')}>
              Your account
            </Menu.Item>
            <Menu.Item value="public" onClick={() => window.open('/', '_blank', 'noopener')}>
              Public pages
            </Menu.Item>
            <Menu.Item
              value="light"
              closeOnSelect={false}
              onClick={() => setLight(light === 'system' ? 'dark' : light === 'dark' ? 'light' : 'system')}
            >
              Theme: {light === 'system' ? 'as this device' : light}
            </Menu.Item>
            <Menu.Item value="keys" onClick={() => showKeys(true)}>
              Keys <chakra.kbd marginLeft="8px">?</chakra.kbd>
            </Menu.Item>
            <Menu.Item value="out" onClick={signOut}>
              Sign out
            </Menu.Item>
          </Menu.Content>
        </Menu.Positioner>
      </Portal>
    </Menu.Root>
  );
}
