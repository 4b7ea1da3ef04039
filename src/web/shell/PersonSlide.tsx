import { chakra } from '@chakra-ui/react';
import { Button, ButtonLink } from '#web/kit/Button.tsx';
import { SlideOver } from '#web/kit/SlideOver.tsx';
import { phrase } from '#web/words/phrase.ts';
import { PersonRecord } from '../contacts/PersonRecord.tsx';
import { useInterface } from './state.ts';

/** The slide-over of one person, from wherever a name was clicked. */
export function PersonSlide() {
  const { person, showPerson } = useInterface();
  return (
    <SlideOver open={person !== null} close={() => showPerson(null)} label={phrase('shell.person')}>
      {person && (
        <>
          <PersonRecord id={person} />
          <chakra.div className="acts" marginTop="14px">
            <ButtonLink to={`/contacts/${person}`} onClick={() => showPerson(null)}>
              {phrase('shell.openThePage')}
            </ButtonLink>
            <Button look="plain" onClick={() => showPerson(null)}>
              {phrase('common.close')}
            </Button>
          </chakra.div>
        </>
      )}
    </SlideOver>
  );
}
