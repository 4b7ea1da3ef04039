import { Plus } from 'lucide-react';
import { useState } from 'react';
import type { Speaker, Sponsor } from '#contract/agenda.ts';
import type { PlannedPicture } from '#contract/pictures.ts';
import type { ShownPicture } from '#core/pictures/picture.ts';
import { Button } from '#web/kit/Button.tsx';
import { phrase } from '#web/words/phrase.ts';
import { TextField } from '../../kit/Field.tsx';
import { PersonSearch } from '../../parts/PersonSearch.tsx';
import { PictureField } from '../../parts/PictureField.tsx';
import { BothLanguages, Entries, FoldedEntry } from './entries.tsx';
import type { SectionProps } from './section.ts';

export const newSpeaker = (): Speaker => ({
  id: crypto.randomUUID(),
  contactId: null,
  name: '',
  line: { en: '' },
  pictureId: null,
});
export const newSponsor = (): Sponsor => ({
  id: crypto.randomUUID(),
  contactId: null,
  name: '',
  level: '',
  address: '',
  pictureId: null,
});

/** Who speaks, each with a line, a picture, and the contact it is. */
export function Speakers({ draft: { plan, change, wrong }, page }: SectionProps) {
  const set = (id: string, part: Partial<Speaker>) =>
    change({ speakers: plan.speakers.map((s) => (s.id === id ? { ...s, ...part } : s)) });
  const remove = (id: string) =>
    change({
      speakers: plan.speakers.filter((s) => s.id !== id),
      ...(plan.sessions.some((s) => s.speakerIds.includes(id)) && {
        sessions: plan.sessions.map((s) => ({ ...s, speakerIds: s.speakerIds.filter((x) => x !== id) })),
      }),
    });
  return (
    <>
      <Entries>
        {plan.speakers.map((speaker, at) => (
          <FoldedEntry
            key={speaker.id}
            name={speaker.name}
            line={speaker.line.en}
            remove={() => remove(speaker.id)}
          >
            <div className="pair">
              <TextField
                label={phrase('common.name')}
                value={speaker.name}
                set={(name) => set(speaker.id, { name })}
                error={wrong[`speakers.${at}.name`]}
              />
              <WhoItIs of={speaker} set={(part) => set(speaker.id, part)} />
            </div>
            <BothLanguages
              label={phrase('event.speakerLine')}
              value={speaker.line}
              set={(line) => set(speaker.id, { line })}
            />
            <OwnPicture
              id={speaker.pictureId}
              known={page.pictures}
              name={speaker.name}
              set={(pictureId) => set(speaker.id, { pictureId })}
            />
          </FoldedEntry>
        ))}
      </Entries>
      <Button look="plain" onClick={() => change({ speakers: [...plan.speakers, newSpeaker()] })}>
        <Plus size={14} aria-hidden /> {phrase('event.addSpeaker')}
      </Button>
    </>
  );
}

/** Who pays for it, by level: organizations of the contacts, with their mark. */
export function Sponsors({ draft: { plan, change, wrong }, page }: SectionProps) {
  const set = (id: string, part: Partial<Sponsor>) =>
    change({ sponsors: plan.sponsors.map((s) => (s.id === id ? { ...s, ...part } : s)) });
  const levels = [...new Set(plan.sponsors.map((s) => s.level).filter(Boolean))];
  return (
    <>
      <datalist id="sponsor-levels">
        {levels.map((level) => (
          <option key={level} value={level} />
        ))}
      </datalist>
      <Entries>
        {plan.sponsors.map((sponsor, at) => (
          <FoldedEntry
            key={sponsor.id}
            name={sponsor.name}
            line={sponsor.level}
            remove={() => change({ sponsors: plan.sponsors.filter((s) => s.id !== sponsor.id) })}
          >
            <div className="pair">
              <TextField
                label={phrase('common.name')}
                value={sponsor.name}
                set={(name) => set(sponsor.id, { name })}
                error={wrong[`sponsors.${at}.name`]}
              />
              <WhoItIs of={sponsor} set={(part) => set(sponsor.id, part)} />
              <TextField
                label={phrase('event.sponsorLevel')}
                list="sponsor-levels"
                value={sponsor.level}
                set={(level) => set(sponsor.id, { level })}
              />
              <TextField
                label={phrase('event.sponsorAddress')}
                inputMode="url"
                value={sponsor.address}
                set={(address) => set(sponsor.id, { address })}
                error={wrong[`sponsors.${at}.address`]}
              />
            </div>
            <OwnPicture
              id={sponsor.pictureId}
              known={page.pictures}
              name={sponsor.name}
              set={(pictureId) => set(sponsor.id, { pictureId })}
            />
          </FoldedEntry>
        ))}
      </Entries>
      <Button look="plain" onClick={() => change({ sponsors: [...plan.sponsors, newSponsor()] })}>
        <Plus size={14} aria-hidden /> {phrase('event.addSponsor')}
      </Button>
    </>
  );
}

/** Which contact somebody on the page is; what they are called there stays as it was typed. */
function WhoItIs({
  of,
  set,
}: {
  of: { name: string; contactId: string | null };
  set: (part: { contactId: string | null; name?: string }) => void;
}) {
  return (
    <PersonSearch
      label={phrase('event.whichContact')}
      chosen={of.contactId ? of.name || phrase('event.aContact') : ''}
      pick={(person) =>
        set({ contactId: person?.id ?? null, ...(person && !of.name.trim() && { name: person.name }) })
      }
      placeholder={phrase('event.findAContact')}
    />
  );
}

/** The picture of one person or organization. */
function OwnPicture({
  id,
  known,
  name,
  set,
}: {
  id: string | null;
  known: readonly PlannedPicture[];
  name: string;
  set: (id: string | null) => void;
}) {
  // One that was just chosen is known before the page is asked again.
  const [fresh, setFresh] = useState<ShownPicture | null>(null);
  const picture = id ? (known.find((p) => p.id === id) ?? (fresh?.id === id ? fresh : null)) : null;
  return (
    <PictureField
      name={name}
      picture={picture}
      known={id !== null}
      set={(taken) => {
        setFresh(taken);
        set(taken?.id ?? null);
      }}
    />
  );
}
