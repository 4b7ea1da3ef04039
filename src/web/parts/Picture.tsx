import { chakra } from '@chakra-ui/react';
import type { ShownPicture } from '#core/pictures/picture.ts';
import { widthsOf } from '#core/pictures/picture.ts';
import { addressOf } from '../api.ts';

const sizeOf = (id: string, width: number, kind: 'webp' | 'jpg'): string =>
  addressOf('GET /api/public/pictures/:id/:size', { id, size: `${width}.${kind}` });

/** A picture in the size its place needs; cut to a shape, its focus stays in view. */
export function Picture({
  of,
  language = 'en',
  sizes = '(max-width: 700px) 100vw, 660px',
  ratio,
  eager = false,
}: {
  of: ShownPicture;
  language?: string;
  /** How wide it is shown, as `sizes` of HTML says it. */
  sizes?: string;
  /** The shape it is cut to, as CSS says it: "2 / 1". */
  ratio?: string;
  /** Whether it is seen at once, and should not wait. */
  eager?: boolean;
}) {
  const set = (kind: 'webp' | 'jpg') =>
    widthsOf(of.width)
      .map((width) => `${sizeOf(of.id, width, kind)} ${width}w`)
      .join(', ');
  return (
    <picture>
      <source type="image/webp" srcSet={set('webp')} sizes={sizes} />
      <chakra.img
        src={sizeOf(of.id, 800, 'jpg')}
        srcSet={set('jpg')}
        sizes={sizes}
        alt={(language === 'fr' && of.alt.fr) || of.alt.en}
        htmlWidth={of.width}
        htmlHeight={of.height}
        loading={eager ? 'eager' : 'lazy'}
        fetchPriority={eager ? 'high' : 'auto'}
        decoding="async"
        display="block"
        maxWidth="100%"
        height="auto"
        {...(ratio
          ? {
              width: '100%',
              aspectRatio: ratio,
              objectFit: 'cover',
              objectPosition: `${of.focusX * 100}% ${of.focusY * 100}%`,
            }
          : {})}
      />
    </picture>
  );
}
