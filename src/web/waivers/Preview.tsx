import { chakra } from '@chakra-ui/react';
import { useState } from 'react';
import { shownIn } from '#core/waivers/form.ts';
import { phrase } from '#web/words/phrase.ts';
import { PhonePreview } from '../event/plan/PhonePreview.tsx';
import { AboutOne, Clauses } from '../signing/Clauses.tsx';
import { nothingTyped } from '../signing/hand.ts';
import { signingWords } from '../signing/words.ts';
import type { Text } from './TextEditor.tsx';

/** A waiver as somebody with a phone signs it, while it is written. */
export function Preview({ text }: { text: Text }) {
  const [values, setValues] = useState(() => nothingTyped(1));
  const shown = shownIn(text, 'en');
  const waiver = {
    id: '',
    version: 0,
    holdsFor: 'event' as const,
    ...shown,
    clauses: shown.clauses.filter((c) => c.text.trim() || c.heading.trim()),
    questions: shown.questions.filter((q) => q.prompt.trim()),
  };
  const form = {
    values,
    set: (part: Partial<typeof values>) => setValues((before) => ({ ...before, ...part })),
    idOf: (path: string) => `preview-${path.replaceAll('.', '-')}`,
    wrongAt: () => undefined,
  };
  return (
    <PhonePreview label={phrase('waivers.preview')}>
      <chakra.p className="soft" fontSize="13px" margin="0 0 8px">
        {phrase('waivers.preview')}
      </chakra.p>
      {waiver.title && <chakra.h2 marginBottom="8px">{waiver.title}</chakra.h2>}
      {waiver.clauses.length === 0 && <p className="soft">{phrase('waivers.previewEmpty')}</p>}
      <Clauses form={form} waiver={waiver} words={signingWords} />
      <AboutOne form={form} waiver={waiver} at={0} path="preview" name="" words={signingWords} />
    </PhonePreview>
  );
}
