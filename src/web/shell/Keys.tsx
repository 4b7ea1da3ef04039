import { chakra } from '@chakra-ui/react';
import { useEffect } from 'react';
import { useLocation, useNavigate } from 'react-router';
import { stages } from '#core/events/states.ts';
import { phrase } from '#web/words/phrase.ts';
import { Asking } from '../kit/Asking.tsx';
import { useInterface } from './state.ts';

const map = [
  ['/', phrase('shell.searchIt')],
  ['?', phrase('shell.thisList')],
  ['n', phrase('shell.newHere')],
  ['1 – 7', phrase('shell.theStagesOfAn')],
  ['j k', phrase('shell.alongTheRowsOf')],
  ['x', phrase('shell.chooseTheRow')],
  ['Enter', phrase('shell.openIt')],
  ['s d h', phrase('shell.onePersonTwoPeople')],
  ['Esc', phrase('shell.backOutOneLevel')],
] as const;

/** Listens to the keys of the whole application, and shows their list. */
export function Keys() {
  const navigate = useNavigate();
  const { pathname } = useLocation();
  const { keysShown, showKeys } = useInterface();
  useEffect(() => {
    const onKey = (e: KeyboardEvent) => {
      const typing = (e.target as HTMLElement).closest(
        'input, textarea, select, [contenteditable], [role="dialog"]',
      );
      if (typing || e.metaKey || e.ctrlKey || e.altKey) return;
      const event = /^\/events\/([\w-]+)/u.exec(pathname)?.[1];
      if (e.key === '?') showKeys(true);
      else if (e.key === '/') {
        e.preventDefault();
        document.getElementById('search')?.focus();
      } else if (e.key === 'n') {
        e.preventDefault();
        document.querySelector<HTMLElement>('[data-new]')?.click();
      } else if (event && e.key >= '1' && e.key <= '7')
        navigate(`/events/${event}/${stages[Number(e.key) - 1]}`);
    };
    addEventListener('keydown', onKey);
    return () => removeEventListener('keydown', onKey);
  }, [navigate, pathname, showKeys]);
  return (
    <Asking open={keysShown} close={() => showKeys(false)} title={phrase('shell.keys')} actions={null}>
      <chakra.dl display="grid" gridTemplateColumns="90px 1fr" gap="6px 12px" margin="0">
        {map.map(([key, does]) => (
          <chakra.div key={key} display="contents">
            <dt>
              <kbd>{key}</kbd>
            </dt>
            <chakra.dd margin="0">{does}</chakra.dd>
          </chakra.div>
        ))}
      </chakra.dl>
    </Asking>
  );
}
