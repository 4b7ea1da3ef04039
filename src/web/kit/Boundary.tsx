import { chakra } from '@chakra-ui/react';
import { Component, type ReactNode, useEffect, useState } from 'react';
import { useLocation } from 'react-router';
import { Button } from './Button.tsx';
import { Loading } from './notices.tsx';
import { useKitWords } from './words.ts';

/** What came of a part of the product that the page asked for and did not get. */
const missing = new WeakSet<object>();
addEventListener('vite:preloadError', ({ payload }) => missing.add(payload));

/** When the page was last loaded anew by itself, so that it is not done over and over. */
const loadedAnew = 'loaded anew at';
const atMostEveryMs = 60_000;

/**
 * Whether loading the page anew helps: a part of it is gone, since the product was renewed while the page was open, and the server
 * answers. Where it did not help a moment ago it does not.
 */
async function isRenewed(error: object): Promise<boolean> {
  if (!missing.has(error) || Date.now() - Number(sessionStorage.getItem(loadedAnew) ?? 0) < atMostEveryMs)
    return false;
  return fetch(location.href, { method: 'HEAD' }).then(
    ({ ok }) => ok,
    () => false,
  );
}

function Failed({ error }: { error: object }) {
  const words = useKitWords();
  const [looking, setLooking] = useState(missing.has(error));
  useEffect(() => {
    isRenewed(error).then((renewed) => {
      if (!renewed) return setLooking(false);
      sessionStorage.setItem(loadedAnew, String(Date.now()));
      location.reload();
    });
  }, [error]);
  if (looking) return <Loading />;
  return (
    <chakra.div padding="20px 16px" maxWidth="640px">
      <chakra.div role="alert" borderLeft="2px solid" borderColor="madder" padding="2px 0 2px 12px">
        <chakra.h1 fontFamily="title" fontSize="18px" margin="0 0 6px">
          {words.pageFailed}
        </chakra.h1>
        <p>{missing.has(error) ? words.partMissing : words.pageFailedText}</p>
        <Button marginTop="8px" onClick={() => location.reload()}>
          {words.tryAgain}
        </Button>
      </chakra.div>
    </chakra.div>
  );
}

class Catching extends Component<{ page: string; children: ReactNode }, { error: object | null }> {
  override state = { error: null };
  static getDerivedStateFromError(error: unknown) {
    return { error: error instanceof Object ? error : new Error(String(error)) };
  }
  override componentDidUpdate({ page }: { page: string }) {
    if (page !== this.props.page && this.state.error) this.setState({ error: null });
  }
  override render() {
    return this.state.error ? <Failed error={this.state.error} /> : this.props.children;
  }
}

/** What goes wrong while a page is drawn stays within it: it says so, and every other page can be gone to. */
export function Boundary({ children }: { children: ReactNode }) {
  return <Catching page={useLocation().pathname}>{children}</Catching>;
}
