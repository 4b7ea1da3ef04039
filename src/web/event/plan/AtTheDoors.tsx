import { daysOf } from '#core/agenda/session.ts';
import { Tick } from '#web/kit/Choosing.tsx';
import { ChoiceField, TextField } from '#web/kit/Field.tsx';
import { phrase } from '#web/words/phrase.ts';
import { numberIn, typedAs } from './entries.tsx';
import type { SectionProps } from './section.ts';

/** The share that a certificate usually asks for, in per cent. */
const usualShare = 80;

/** How the doors of an event are kept: how many may be inside, how children leave, who gets a certificate. */
export function AtTheDoors({ draft: { plan, change, wrong } }: SectionProps) {
  const { doors } = plan;
  const { certificate } = doors;
  const set = (part: Partial<typeof doors>) => change({ doors: { ...doors, ...part } });
  return (
    <>
      <TextField
        label={phrase('event.mostInside')}
        help={phrase('event.mostInsideHelp')}
        inputMode="numeric"
        value={typedAs(doors.most)}
        set={(v) => set({ most: numberIn(v) })}
        error={wrong['doors.most']}
      />
      {plan.startsLocal && daysOf({ ...plan, startsLocal: plan.startsLocal }) > 1 && (
        <Tick checked={doors.goHome} set={(goHome) => set({ goHome })}>
          {phrase('event.goesHome')}
          <br />
          <small className="soft">{phrase('event.goesHomeHelp')}</small>
        </Tick>
      )}
      <Tick checked={doors.handover} set={(handover) => set({ handover })}>
        {phrase('event.handsOver')}
        <br />
        <small className="soft">{phrase('event.handsOverHelp')}</small>
      </Tick>
      <Tick
        checked={certificate !== null}
        set={(so) => set({ certificate: so ? { share: usualShare, of: 'event' } : null })}
      >
        {phrase('event.givesCertificates')}
      </Tick>
      {certificate && (
        <>
          <TextField
            label={phrase('event.certificateShare')}
            help={phrase('event.certificateHelp')}
            inputMode="numeric"
            value={typedAs(certificate.share)}
            set={(v) => set({ certificate: { ...certificate, share: numberIn(v) ?? Number.NaN } })}
            error={wrong['doors.certificate.share']}
          />
          {plan.sessions.length > 0 && (
            <ChoiceField
              label={phrase('event.certificateOf')}
              value={certificate.of}
              set={(of) => set({ certificate: { ...certificate, of: of as typeof certificate.of } })}
              choices={[
                { value: 'event', label: phrase('event.ofTheEvent') },
                { value: 'sessions', label: phrase('event.ofTheSessions') },
              ]}
            />
          )}
        </>
      )}
    </>
  );
}
