import { chakra } from '@chakra-ui/react';
import { useState } from 'react';
import { HtmlFrame } from '../kit/HtmlFrame.tsx';
import { ListViews } from '../kit/ListViews.tsx';
import { phrase } from '../words/phrase.ts';

/** A message as whoever gets it reads it: a mail drawn or as plain text, a text message as it is. */
export function AsSent({
  message: { subject, html, body },
  width = '100%',
  titled = false,
}: {
  message: { subject: string; html: string | null; body: string };
  width?: string;
  /** Its subject stands above it already. */
  titled?: boolean;
}) {
  const [plain, setPlain] = useState(false);
  if (html === null)
    return (
      <>
        {subject && !titled && <p className="name">{subject}</p>}
        <Letter>{body}</Letter>
      </>
    );
  return (
    <>
      <chakra.div className="spread" gap="10px" margin="8px 0">
        <span className="name">{titled ? '' : subject}</span>
        <ListViews
          label={phrase('tray.shownAs')}
          value={plain ? 'plain' : 'drawn'}
          set={(v) => setPlain(v === 'plain')}
          views={[
            { value: 'drawn', label: phrase('tray.drawn') },
            { value: 'plain', label: phrase('tray.plainText') },
          ]}
        />
      </chakra.div>
      {plain ? (
        <Letter>{body}</Letter>
      ) : (
        <HtmlFrame html={html} title={subject || phrase('tray.message')} width={width} />
      )}
    </>
  );
}

/** A message as it is written. */
export const Letter = chakra('pre', {
  base: {
    whiteSpace: 'pre-wrap',
    font: 'inherit',
    background: 'paper',
    padding: '12px 14px',
    border: '1px solid var(--line)',
    marginTop: '10px',
  },
});
