import { Drawer, Portal } from '@chakra-ui/react';
import { Link } from 'react-router';
import { PersonRecord } from '../contacts/PersonRecord.tsx';
import { useInterface } from './state.ts';

/** The slide-over of one person, from wherever a name was clicked. */
export function PersonSlide() {
  const { person, showPerson } = useInterface();
  return (
    <Drawer.Root
      open={person !== null}
      onOpenChange={(d) => !d.open && showPerson(null)}
      placement="end"
      lazyMount
      unmountOnExit
    >
      <Portal>
        <Drawer.Backdrop style={{ background: 'rgb(0 0 0 / 0.18)' }} />
        <Drawer.Positioner>
          <Drawer.Content
            style={{
              background: 'var(--sheet)',
              color: 'var(--ink)',
              borderLeft: '1px solid var(--rule)',
              boxShadow: 'none',
              maxWidth: 480,
              padding: '18px 22px',
              overflow: 'auto',
              borderRadius: 0,
            }}
            aria-label="Person"
          >
            {person && (
              <>
                <PersonRecord id={person} />
                <div className="acts" style={{ marginTop: 14 }}>
                  <Link className="btn" to={`/contacts/${person}`} onClick={() => showPerson(null)}>
                    Open the page
                  </Link>
                  <button type="button" className="btn plain" onClick={() => showPerson(null)}>
                    Close
                  </button>
                </div>
              </>
            )}
          </Drawer.Content>
        </Drawer.Positioner>
      </Portal>
    </Drawer.Root>
  );
}
