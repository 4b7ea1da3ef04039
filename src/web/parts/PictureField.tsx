import { chakra } from '@chakra-ui/react';
import { useState } from 'react';
import type { ShownPicture } from '#core/pictures/picture.ts';
import { phrase } from '#web/words/phrase.ts';
import { Button } from '../kit/Button.tsx';
import { Picture } from './Picture.tsx';
import { PicturePicker } from './PicturePicker.tsx';

/** The one picture that something has: it is seen, another is chosen, or it is taken away. */
export function PictureField({
  name,
  picture,
  set,
  ratio = '1 / 1',
  width = '64px',
  known = picture !== null,
}: {
  /** Whose picture it is, for those who cannot see it. */
  name: string;
  picture: ShownPicture | null;
  set: (picture: ShownPicture | null) => void;
  /** The shape it is shown in, as CSS says it; uncut where it is empty. */
  ratio?: string;
  width?: string;
  /** Whether there is one, seen or not. */
  known?: boolean;
}) {
  const [choosing, setChoosing] = useState(false);
  return (
    <chakra.div display="flex" gap="12px" alignItems="center" marginBottom="6px">
      {picture && (
        <chakra.div width={width} flex="none">
          <Picture of={picture} sizes={width} {...(ratio ? { ratio } : {})} />
        </chakra.div>
      )}
      <Button
        look="link"
        color="verdigris"
        aria-label={name ? phrase('event.pictureOf', { name }) : undefined}
        onClick={() => setChoosing(true)}
      >
        {phrase(picture ? 'event.anotherPicture' : 'event.choosePicture')}
      </Button>
      {known && (
        <Button
          look="link"
          color="soft"
          aria-label={phrase('event.noPictureOf', { name })}
          onClick={() => set(null)}
        >
          {phrase('event.withoutPicture')}
        </Button>
      )}
      {choosing && (
        <PicturePicker
          take={(taken) => {
            set(taken);
            setChoosing(false);
          }}
          close={() => setChoosing(false)}
        />
      )}
    </chakra.div>
  );
}
