import { chakra, type SystemStyleObject } from '@chakra-ui/react';
import { useRef, useState } from 'react';
import type { ContactRecord } from '#contract/contacts.ts';
import { fullName } from '#core/contacts/names.ts';
import { addressOf } from '#web/api.ts';
import { phrase } from '#web/words/phrase.ts';
import { Button } from '../kit/Button.tsx';
import { say } from '../kit/toast.tsx';
import { useAction, useMayChangeContacts } from '../parts/ask.ts';

const photoLook: SystemStyleObject = {
  float: 'right',
  textAlign: 'right',
  fontSize: '13px',
  margin: '0 0 6px 12px',
  '& img': {
    display: 'block',
    width: '96px',
    height: '96px',
    objectFit: 'cover',
    border: '1px solid var(--line)',
    borderRadius: '3px',
  },
};

/** Longest side of a photo as it is kept, in pixels. */
const side = 400;

/** Cuts a picture to a square and makes it small, as base64 of a JPEG. Throws when it cannot be read. */
async function squareOf(file: File): Promise<string> {
  const picture = await createImageBitmap(file);
  const from = Math.min(picture.width, picture.height);
  const to = Math.min(side, from);
  const canvas = document.createElement('canvas');
  canvas.width = to;
  canvas.height = to;
  canvas
    .getContext('2d')!
    .drawImage(picture, (picture.width - from) / 2, (picture.height - from) / 2, from, from, 0, 0, to, to);
  picture.close();
  return canvas.toDataURL('image/jpeg', 0.86).split(',')[1]!;
}

/** The photo of a contact, with putting one there and taking it away. */
export function Photo({ contact }: { contact: ContactRecord }) {
  const may = useMayChangeContacts();
  const input = useRef<HTMLInputElement>(null);
  const [wrong, setWrong] = useState<string | null>(null);
  const params = { id: contact.id };
  const put = useAction('PUT /api/contacts/:id/photo', () => say(phrase('contacts.thePhotoWasKept')));
  const remove = useAction('DELETE /api/contacts/:id/photo', () =>
    say(phrase('contacts.thePhotoWasRemoved')),
  );
  if (contact.erasedAt) return null;
  return (
    <chakra.div css={photoLook}>
      {contact.photoAt && (
        <img
          src={addressOf('GET /api/contacts/:id/photo', params, { at: contact.photoAt })}
          alt={fullName(contact)}
        />
      )}
      {may && (
        <span className="acts">
          <Button look="link" onClick={() => input.current?.click()}>
            {contact.photoAt ? phrase('contacts.anotherPhoto') : phrase('contacts.addAPhoto')}
          </Button>
          {contact.photoAt && (
            <Button look="link" onClick={() => remove.mutate({ params })}>
              {phrase('common.remove')}
            </Button>
          )}
        </span>
      )}
      <input
        ref={input}
        type="file"
        accept="image/*"
        hidden
        aria-label={phrase('contacts.photo')}
        onChange={async (e) => {
          const file = e.target.files?.[0];
          e.target.value = '';
          if (!file) return;
          setWrong(null);
          try {
            put.mutate({ params, body: { content: await squareOf(file) } });
          } catch {
            setWrong(phrase('contacts.isNotAPicture', { name: file.name }));
          }
        }}
      />
      {(wrong || put.problem) && <p className="error">{wrong ?? put.problem?.message}</p>}
    </chakra.div>
  );
}
