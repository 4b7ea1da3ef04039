import { chakra } from '@chakra-ui/react';
import { useState } from 'react';
import { Button } from '#web/kit/Button.tsx';
import { Loaded } from '#web/kit/notices.tsx';
import { useAsk } from '#web/parts/ask.ts';
import { phrase } from '#web/words/phrase.ts';

/** Whether every signature is still what was signed; looked through when somebody asks. */
export function Chain() {
  const [asked, setAsked] = useState(false);
  return (
    <chakra.section marginTop="22px">
      <chakra.p className="soft" marginBottom="6px">
        {phrase('waivers.chainSays')}
      </chakra.p>
      {asked ? <Found /> : <Button onClick={() => setAsked(true)}>{phrase('waivers.chain')}</Button>}
    </chakra.section>
  );
}

function Found() {
  return (
    <Loaded of={useAsk('GET /api/signature-chain')}>
      {({ links, breaks }) =>
        breaks.length ? (
          <div role="alert">
            <chakra.p color="madder">{phrase('waivers.chainBad', { count: breaks.length })}</chakra.p>
            <ul className="lines">
              {breaks.map((b, at) => (
                <li key={at}>{phrase('waivers.chainLine', b)}</li>
              ))}
            </ul>
          </div>
        ) : (
          <p role="status">{phrase('waivers.chainGood', { links })}</p>
        )
      }
    </Loaded>
  );
}
