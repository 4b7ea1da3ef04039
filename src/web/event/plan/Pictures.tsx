import { chakra } from '@chakra-ui/react';
import { Plus } from 'lucide-react';
import { useState } from 'react';
import { type KeptPicture, type PlannedPicture, picturesContract } from '#contract/pictures.ts';
import { addressOf } from '#web/api.ts';
import { phrase } from '#web/words/phrase.ts';
import { Button } from '../../kit/Button.tsx';
import { Group } from '../../kit/Field.tsx';
import { FormDialog } from '../../kit/form/FormDialog.tsx';
import { prepare } from '../../kit/form/request.ts';
import { useForm } from '../../kit/form/useForm.ts';
import { say } from '../../kit/toast.tsx';
import { AltFields, altOf } from '../../parts/altFields.tsx';
import { FocusPoint } from '../../parts/FocusPoint.tsx';
import { Picture } from '../../parts/Picture.tsx';
import { PicturePicker } from '../../parts/PicturePicker.tsx';
import type { SectionProps } from './section.ts';

/** The picture over the page, and more of them beneath its text. */
export function Pictures({ draft: { plan, change, wrong }, page }: SectionProps) {
  const [choosing, setChoosing] = useState<'banner' | 'gallery' | null>(null);
  const [changing, setChanging] = useState<PlannedPicture | null>(null);
  // Those that were just chosen are known before the page is asked again.
  const [fresh, setFresh] = useState<readonly KeptPicture[]>([]);
  const find = (id: string): PlannedPicture | undefined =>
    page.pictures.find((p) => p.id === id) ?? fresh.find((p) => p.id === id);
  const banner = plan.bannerId ? find(plan.bannerId) : undefined;
  const gallery = plan.gallery.flatMap((id) => find(id) ?? []);
  const move = (at: number, by: -1 | 1) => {
    const order = [...plan.gallery];
    const [id] = order.splice(at, 1);
    order.splice(at + by, 0, id!);
    change({ gallery: order });
  };
  return (
    <>
      <Group label={phrase('event.banner')} error={wrong.bannerId}>
        {banner ? (
          <chakra.div maxWidth="420px">
            <Picture of={banner} ratio="2 / 1" sizes="420px" />
            <chakra.div className="acts" marginTop="4px">
              {banner.mayDescribe && (
                <Button look="link" color="verdigris" onClick={() => setChanging(banner)}>
                  {phrase('event.describeIt')}
                </Button>
              )}
              <Button look="link" color="verdigris" onClick={() => setChoosing('banner')}>
                {phrase('event.anotherPicture')}
              </Button>
              <Button look="link" color="soft" onClick={() => change({ bannerId: null })}>
                {phrase('common.remove')}
              </Button>
            </chakra.div>
          </chakra.div>
        ) : (
          <>
            <chakra.p color="soft" fontSize="medium">
              {phrase('event.drawnInstead')}
            </chakra.p>
            <Button onClick={() => setChoosing('banner')}>{phrase('event.choosePicture')}</Button>
          </>
        )}
      </Group>
      <Group label={phrase('event.gallery')} error={wrong.gallery}>
        <chakra.ul
          listStyleType="none"
          padding="0"
          margin="0 0 8px"
          display="grid"
          gridTemplateColumns="repeat(auto-fill, minmax(150px, 1fr))"
          gap="12px"
        >
          {gallery.map((p, at) => (
            <li key={p.id}>
              <Picture of={p} ratio="3 / 2" sizes="180px" />
              <chakra.div display="flex" gap="8px" flexWrap="wrap" fontSize="small" marginTop="3px">
                {at > 0 && (
                  <Button
                    look="link"
                    aria-label={phrase('event.earlierPicture', { alt: p.alt.en })}
                    onClick={() => move(at, -1)}
                  >
                    ←
                  </Button>
                )}
                {at < gallery.length - 1 && (
                  <Button
                    look="link"
                    aria-label={phrase('event.laterPicture', { alt: p.alt.en })}
                    onClick={() => move(at, 1)}
                  >
                    →
                  </Button>
                )}
                {p.mayDescribe && (
                  <Button look="link" color="verdigris" onClick={() => setChanging(p)}>
                    {phrase('event.describeIt')}
                  </Button>
                )}
                <Button
                  look="link"
                  color="soft"
                  aria-label={phrase('event.removeNamed', { name: p.alt.en })}
                  onClick={() => change({ gallery: plan.gallery.filter((id) => id !== p.id) })}
                >
                  {phrase('common.remove')}
                </Button>
              </chakra.div>
            </li>
          ))}
        </chakra.ul>
        <Button look="plain" onClick={() => setChoosing('gallery')}>
          <Plus size={14} aria-hidden /> {phrase('event.addPicture')}
        </Button>
      </Group>
      {choosing && (
        <PicturePicker
          close={() => setChoosing(null)}
          take={(picture) => {
            setFresh((all) => [...all, picture]);
            if (choosing === 'banner') change({ bannerId: picture.id });
            else if (!plan.gallery.includes(picture.id)) change({ gallery: [...plan.gallery, picture.id] });
            setChoosing(null);
          }}
        />
      )}
      {changing && <Describe picture={changing} close={() => setChanging(null)} />}
    </>
  );
}

/** What is on a picture, and where its matter is: the same wherever it is shown. */
function Describe({ picture, close }: { picture: PlannedPicture; close: () => void }) {
  const [focus, setFocus] = useState({ x: picture.focusX, y: picture.focusY });
  const form = useForm({
    values: { en: picture.alt.en, fr: picture.alt.fr ?? '' },
    request: (v) =>
      prepare(picturesContract, 'PATCH /api/pictures/:id', {
        params: { id: picture.id },
        body: { alt: altOf(v), focus },
      }),
    fieldOf: (path) => path.replace('alt.', ''),
    after: () => {
      say(phrase('common.saved'));
      close();
    },
  });
  return (
    <FormDialog
      form={form}
      wide
      title={phrase('event.describeIt')}
      submit={phrase('common.save')}
      close={close}
    >
      <FocusPoint
        src={addressOf('GET /api/public/pictures/:id/:size', { id: picture.id, size: '800.webp' })}
        alt={picture.alt.en}
        focus={focus}
        set={setFocus}
      />
      <AltFields form={form} />
    </FormDialog>
  );
}
