import { Menu, Portal } from '@chakra-ui/react';
import type { ReactNode } from 'react';
import { Link, NavLink, useNavigate } from 'react-router';
import { useMe } from '../parts/ask.ts';
import { useSignOut } from '../parts/SignOut.tsx';
import { Toasts } from '../parts/toast.tsx';
import { ClockMenu } from './ClockMenu.tsx';
import { Keys } from './Keys.tsx';
import { PersonSlide } from './PersonSlide.tsx';
import { SearchBox } from './SearchBox.tsx';
import { useInterface, useLooks } from './state.ts';

const places = ['Desk', 'Season', 'Contacts', 'Ledger', 'Records', 'Tray'] as const;
/** Places only some roles have use for. */
const needs: Partial<Record<(typeof places)[number], readonly string[]>> = {
  Contacts: ['coordinator', 'treasurer', 'crew lead'],
  Ledger: ['coordinator', 'treasurer'],
  Tray: ['coordinator', 'unit lead', 'crew lead'],
};

/** The frame of the coordinator's application: where one is, what can be found, whose clock it is. */
export function Frame({ children }: { children: ReactNode }) {
  const me = useMe().data!;
  const mine = places.filter((p) => !needs[p] || me.staff.roles.some((r) => needs[p]!.includes(r)));
  return (
    <>
      <a className="skip" href="#contents">
        To the contents
      </a>
      <header className="bar">
        <Link to="/desk" className="org">
          {me.organization.name}
        </Link>
        <nav aria-label="Places">
          {mine.map((p) => (
            <NavLink key={p} to={`/${p.toLowerCase()}`}>
              {p}
            </NavLink>
          ))}
        </nav>
        <SearchBox />
        <ClockMenu />
        <PersonMenu name={me.staff.name} coordinator={me.staff.roles.includes('coordinator')} />
      </header>
      <main id="contents" style={{ display: 'contents' }}>
        {children}
      </main>
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
  const row = { padding: '6px 12px', fontSize: 14, cursor: 'pointer', color: 'var(--ink)' };
  return (
    <Menu.Root positioning={{ placement: 'bottom-end' }}>
      <Menu.Trigger asChild>
        <button type="button" className="link" style={{ whiteSpace: 'nowrap' }}>
          {first?.[0]}. {rest.join(' ')}
        </button>
      </Menu.Trigger>
      <Portal>
        <Menu.Positioner>
          <Menu.Content
            style={{
              background: 'var(--sheet)',
              border: '1px solid var(--rule)',
              borderRadius: 3,
              padding: '4px 0',
              boxShadow: 'none',
              minWidth: 200,
            }}
          >
            {coordinator && (
              <>
                <Menu.Item value="team" style={row} onClick={() => navigate('/team')}>
                  Team and roles
                </Menu.Item>
                <Menu.Item value="registers" style={row} onClick={() => navigate('/team/registers')}>
                  Places, units, waivers
                </Menu.Item>
                <Menu.Item value="import" style={row} onClick={() => navigate('/import')}>
                  Bring people in
                </Menu.Item>
              </>
            )}
            <Menu.Item value="account" style={row} onClick={() => navigate('/account')}>
              Your account
            </Menu.Item>
            <Menu.Item value="public" style={row} onClick={() => window.open('/', '_blank', 'noopener')}>
              Public pages
            </Menu.Item>
            <Menu.Item
              value="light"
              style={row}
              closeOnSelect={false}
              onClick={() => setLight(light === 'system' ? 'dark' : light === 'dark' ? 'light' : 'system')}
            >
              Light: {light === 'system' ? 'as this device' : light === 'dark' ? 'dark paper' : 'light paper'}
            </Menu.Item>
            <Menu.Item value="keys" style={row} onClick={() => showKeys(true)}>
              Keys <kbd style={{ marginLeft: 8 }}>?</kbd>
            </Menu.Item>
            <Menu.Item value="out" style={row} onClick={signOut}>
              Sign out
            </Menu.Item>
          </Menu.Content>
        </Menu.Positioner>
      </Portal>
    </Menu.Root>
  );
}
