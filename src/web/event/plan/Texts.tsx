import { chakra } from '@chakra-ui/react';
import { Plus } from 'lucide-react';
import { lazy, Suspense, useState } from 'react';
import type { PageTextField } from '#core/events/french.ts';
import { phrase } from '#web/words/phrase.ts';
import { Button } from '../../kit/Button.tsx';
import { LongField, TextField } from '../../kit/Field.tsx';
import { Chip } from '../../kit/ListViews.tsx';
import { Loading } from '../../kit/notices.tsx';
import { useAsk } from '../../parts/ask.ts';
import { PicturePicker } from '../../parts/PicturePicker.tsx';
import type { SectionProps } from './section.ts';

const RichText = lazy(async () => ({ default: (await import('../../kit/RichText.tsx')).RichText }));

/** Puts a picture into a text. */
function PictureTool({ choose }: { choose: (picture: { id: string; alt: string }) => void }) {
  const [open, setOpen] = useState(false);
  return (
    <>
      <Chip onMouseDown={(e) => e.preventDefault()} onClick={() => setOpen(true)}>
        {phrase('event.picture')}
      </Chip>
      {open && (
        <PicturePicker
          close={() => setOpen(false)}
          take={(picture) => {
            setOpen(false);
            choose({ id: picture.id, alt: picture.alt.en });
          }}
        />
      )}
    </>
  );
}

/** What people read about it. */
export function Description({ draft: { plan, change } }: SectionProps) {
  return (
    <Suspense fallback={<Loading />}>
      <RichText
        label={phrase('event.description')}
        headed
        value={plan.description}
        set={(description) => change({ description })}
        picture={(choose) => <PictureTool choose={choose} />}
      />
    </Suspense>
  );
}

/** The same in French, text beside text; where the English changed since, that is said. */
export function French({ draft: { plan, change }, page }: SectionProps) {
  const { french } = plan;
  const set = (part: Partial<typeof french>) => change({ french: { ...french, ...part } });
  const standing = (field: PageTextField) => {
    const how = page.french[field];
    return how === 'lags'
      ? phrase('event.englishChangedSince')
      : how === 'missing'
        ? phrase('event.frenchMissing')
        : undefined;
  };
  return (
    <>
      <div className="pair">
        <TextField
          label={phrase('event.titleInFrench')}
          value={french.publicTitle}
          set={(publicTitle) => set({ publicTitle })}
          consequence={standing('publicTitle')}
        />
        <TextField
          label={phrase('event.subtitleInFrench')}
          value={french.subtitle}
          set={(subtitle) => set({ subtitle })}
          consequence={standing('subtitle')}
        />
      </div>
      <TextField
        label={phrase('event.summaryInFrench')}
        value={french.summary}
        set={(summary) => set({ summary })}
        consequence={standing('summary')}
      />
      <Suspense fallback={<Loading />}>
        <RichText
          label={phrase('event.descriptionInFrench')}
          lang="fr"
          value={french.description}
          set={(description) => set({ description })}
          picture={(choose) => <PictureTool choose={choose} />}
          help={standing('description')}
        />
      </Suspense>
    </>
  );
}

/** What attracts people, and listings filter by. */
export function Draws({ draft: { plan, change } }: SectionProps) {
  const known = (useAsk('GET /api/kinds').data ?? []).filter((k) => k.sort === 'draw').map((k) => k.name);
  const others = known.filter((name) => !plan.draws.includes(name));
  return (
    <>
      <TextField
        label={phrase('event.draws')}
        headed
        value={plan.draws.join(', ')}
        set={(v) =>
          change({
            draws: v
              .split(',')
              .map((d) => d.trimStart())
              .filter((d, at, all) => d || at === all.length - 1),
          })
        }
        help={phrase('event.whatAttractsPeopleSeparated')}
      />
      {others.length > 0 && (
        <chakra.div className="acts" flexWrap="wrap">
          {others.map((name) => (
            <Button
              key={name}
              look="link"
              color="verdigris"
              onClick={() => change({ draws: [...plan.draws.filter((d) => d.trim()), name] })}
            >
              <Plus size={13} aria-hidden /> {name}
            </Button>
          ))}
        </chakra.div>
      )}
    </>
  );
}

/** What only the team reads. */
export function TeamNotes({ draft: { plan, change, wrong } }: SectionProps) {
  return (
    <LongField
      label={phrase('event.teamNotes')}
      headed
      rows={4}
      value={plan.notes}
      set={(notes) => change({ notes })}
      error={wrong.notes}
      help={<chakra.span>{phrase('event.neverPublic')}</chakra.span>}
    />
  );
}
