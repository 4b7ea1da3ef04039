import { chakra } from '@chakra-ui/react';
import { useState } from 'react';
import type { WhatIf } from '#contract/changes.ts';
import { Button } from '#web/kit/Button.tsx';
import { Tick } from '#web/kit/Choosing.tsx';
import { LongText, Text } from '#web/kit/form/fields.tsx';
import type { Form } from '#web/kit/form/useForm.ts';
import { phrase } from '#web/words/phrase.ts';
import { tellWords } from './changeWords.ts';
import { Part } from './Part.tsx';
import type { Settled } from './settling.ts';

type Of = WhatIf['letters'][number];

/** Whom it is told: each letter can be read, written differently, and taken off, with why. */
export function Letters({
  told,
  form,
  words,
  several = false,
}: {
  told: Pick<WhatIf, 'letters' | 'settlesAt'>;
  form: Form<Settled>;
  /** Whether there is a field for what is said of it in every letter. */
  words: boolean;
  /** Whether several events have letters of their own. */
  several?: boolean;
}) {
  if (!told.letters.length)
    return told.settlesAt ? (
      <Part title={phrase('changes.letters')}>
        <p className="soft">{phrase('changes.nobodyToTell')}</p>
      </Part>
    ) : null;
  return (
    <Part title={phrase('changes.letters')}>
      {words && told.letters.some((l) => l.told) && (
        <LongText
          form={form}
          name="words"
          label={phrase('changes.words')}
          rows={2}
          help={phrase('changes.wordsHelp')}
        />
      )}
      {several && <p className="soft">{phrase('changes.aLetterEach')}</p>}
      {told.letters.map((letter) => (
        <Letter key={letter.to} letter={letter} form={form} />
      ))}
    </Part>
  );
}

function Letter({ letter, form }: { letter: Of; form: Form<Settled> }) {
  const { to, count, bySelf, leftOut } = letter;
  const [reading, setReading] = useState(false);
  const settled = form.values.letters[to];
  const on = settled.told ?? bySelf;
  const set = (part: Partial<typeof settled>) =>
    form.set({ letters: { ...form.values.letters, [to]: { ...settled, ...part } } });
  const write = () =>
    set({
      own: true,
      subject: { en: letter.draft.subject.en, fr: letter.draft.subject.fr ?? '' },
      body: { en: letter.draft.body.en, fr: letter.draft.body.fr ?? '' },
    });
  return (
    <chakra.div padding="4px 0 6px">
      <chakra.div display="flex" flexWrap="wrap" gap="2px 12px" alignItems="baseline">
        <Tick checked={on} set={(told) => set({ told: told === bySelf ? null : told })}>
          {phrase(tellWords[to], { count })}
        </Tick>
        {on && letter.calendar && (
          <span className="soft">
            {phrase(letter.calendar === 'moves' ? 'changes.calendarMoves' : 'changes.calendarStrikesOut')}
          </span>
        )}
        {on && letter.sample && (
          <Button look="link" aria-expanded={reading} onClick={() => setReading(!reading)}>
            {phrase('changes.read')}
          </Button>
        )}
        {on && !settled.own && (
          <Button look="link" onClick={write}>
            {phrase('changes.write')}
          </Button>
        )}
      </chakra.div>
      {!on && bySelf && (
        <Text
          form={form}
          name={`letters.${to}.why`}
          label={phrase('changes.whyUntold')}
          help={phrase('changes.whyUntoldHelp')}
          required
        />
      )}
      {on && settled.own && <Writing to={to} form={form} drafted={() => set({ own: false })} />}
      {on && reading && letter.sample && (
        <chakra.div
          margin="6px 0 4px"
          padding="8px 12px"
          borderLeft="2px solid"
          borderColor="rule"
          background="paper"
        >
          <chakra.p color="soft" marginBottom="4px">
            {phrase('changes.asGetsIt', { name: letter.sample.name })}
          </chakra.p>
          <b>{letter.sample.subject}</b>
          <chakra.div whiteSpace="pre-wrap" overflowWrap="anywhere">
            {letter.sample.body}
          </chakra.div>
        </chakra.div>
      )}
      {leftOut.length > 0 && (
        <chakra.details fontSize="13.5px" color="soft">
          <chakra.summary cursor="pointer">
            {phrase('changes.leftOut', { count: leftOut.length })}
          </chakra.summary>
          <chakra.ul margin="2px 0" paddingLeft="18px">
            {leftOut.map((l, at) => (
              <li key={`${l.name}${at}`}>
                {l.name}: {l.why}
              </li>
            ))}
          </chakra.ul>
        </chakra.details>
      )}
    </chakra.div>
  );
}

/** A letter as somebody writes it in place of the draft. */
function Writing({ to, form, drafted }: { to: Of['to']; form: Form<Settled>; drafted: () => void }) {
  return (
    <chakra.div margin="6px 0">
      <Text form={form} name={`letters.${to}.subject.en`} label={phrase('changes.subject')} />
      <LongText
        form={form}
        name={`letters.${to}.body.en`}
        label={phrase('changes.text')}
        rows={9}
        help={phrase('changes.fieldsHelp')}
      />
      <Text form={form} name={`letters.${to}.subject.fr`} label={phrase('changes.subjectFr')} />
      <LongText form={form} name={`letters.${to}.body.fr`} label={phrase('changes.textFr')} rows={5} />
      <Button look="link" onClick={drafted}>
        {phrase('changes.asDrafted')}
      </Button>
    </chakra.div>
  );
}
