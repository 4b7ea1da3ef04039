import { chakra, FileUpload } from '@chakra-ui/react';
import { useEffect, useState } from 'react';
import { type KeptPicture, picturesContract } from '#contract/pictures.ts';
import { type Shape, shapes } from '#core/pictures/picture.ts';
import { base64Of } from '#web/base64.ts';
import { phrase } from '#web/words/phrase.ts';
import { Asking } from '../kit/Asking.tsx';
import { Button } from '../kit/Button.tsx';
import { FormDialog } from '../kit/form/FormDialog.tsx';
import { Choose } from '../kit/form/fields.tsx';
import { prepare } from '../kit/form/request.ts';
import { useForm } from '../kit/form/useForm.ts';
import { Empty } from '../kit/Note.tsx';
import { Loaded } from '../kit/notices.tsx';
import { Paging } from '../kit/Paging.tsx';
import { AltFields, altOf } from './altFields.tsx';
import { useAsk } from './ask.ts';
import { FocusPoint } from './FocusPoint.tsx';
import { Picture } from './Picture.tsx';

/** Bytes a picture may have, as the server says too; asked here so that nobody waits for what is refused. */
const mostBytes = 20_000_000;
const atOnce = 24;

/** Chooses a picture that was used before, or brings a new one in. */
export function PicturePicker({ take, close }: { take: (picture: KeptPicture) => void; close: () => void }) {
  const [offset, setOffset] = useState(0);
  const [file, setFile] = useState<File | null>(null);
  const [wrong, setWrong] = useState('');
  const before = useAsk('GET /api/pictures', { query: { offset } });
  return (
    <Asking open wide close={close} title={phrase('event.choosePicture')} actions={null}>
      <FileUpload.Root
        accept="image/*"
        maxFiles={1}
        maxFileSize={mostBytes}
        onFileAccept={({ files: [chosen] }) => chosen && setFile(chosen)}
        onFileReject={({ files }) =>
          files.length > 0 &&
          setWrong(
            phrase(
              files.some((f) => f.errors.includes('FILE_TOO_LARGE'))
                ? 'event.pictureOver20'
                : 'event.noPictureFile',
            ),
          )
        }
      >
        <FileUpload.HiddenInput aria-label={phrase('event.newPicture')} />
        <FileUpload.Dropzone
          disableClick
          padding="18px"
          border="1px dashed"
          borderColor="rule"
          textAlign="center"
          width="100%"
          _hover={{ borderColor: 'verdigris' }}
        >
          <FileUpload.Trigger asChild>
            <Button look="main">{phrase('event.newPicture')}</Button>
          </FileUpload.Trigger>
          <chakra.p color="soft" fontSize="small" marginTop="6px">
            {phrase('event.orDropIt')}
          </chakra.p>
        </FileUpload.Dropzone>
      </FileUpload.Root>
      {wrong && (
        <chakra.p role="alert" color="madder" marginTop="6px">
          {wrong}
        </chakra.p>
      )}
      <chakra.h3 margin="16px 0 6px">{phrase('event.usedBefore')}</chakra.h3>
      <Loaded of={before}>
        {({ pictures, more }) =>
          pictures.length === 0 ? (
            <Empty>{phrase('event.noPictureYet')}</Empty>
          ) : (
            <>
              <chakra.ul
                listStyleType="none"
                padding="0"
                margin="0"
                display="grid"
                gridTemplateColumns="repeat(auto-fill, minmax(140px, 1fr))"
                gap="10px"
              >
                {pictures.map((p) => (
                  <li key={p.id}>
                    <Button
                      look="plain"
                      padding="0"
                      display="block"
                      width="100%"
                      aria-label={phrase('event.takePicture', { alt: p.alt.en })}
                      onClick={() => take(p)}
                    >
                      <Picture of={p} ratio="3 / 2" sizes="160px" />
                    </Button>
                  </li>
                ))}
              </chakra.ul>
              <Paging offset={offset} size={atOnce} shown={pictures.length} more={more} set={setOffset} />
            </>
          )
        }
      </Loaded>
      {file && <BringIn file={file} take={take} close={() => setFile(null)} />}
    </Asking>
  );
}

/** A new picture: what is on it, how it is cut, and where its matter is. */
function BringIn({
  file,
  take,
  close,
}: {
  file: File;
  take: (picture: KeptPicture) => void;
  close: () => void;
}) {
  const address = useAddressOf(file);
  const [content, setContent] = useState('');
  const [focus, setFocus] = useState({ x: 0.5, y: 0.5 });
  useEffect(() => {
    let current = true;
    void base64Of(file).then((text) => current && setContent(text));
    return () => {
      current = false;
    };
  }, [file]);
  const form = useForm({
    values: { en: '', fr: '', shape: 'whole' },
    request: (v) =>
      prepare(picturesContract, 'POST /api/pictures', {
        body: { content, alt: altOf(v), shape: v.shape as Shape, focus },
      }),
    fieldOf: (path) => path.replace('alt.', '').replace('content', 'shape'),
    after: take,
  });
  return (
    <FormDialog
      form={form}
      wide
      title={phrase('event.newPicture')}
      submit={phrase('event.usePicture')}
      close={close}
    >
      {address && (
        <FocusPoint
          src={address}
          alt=""
          focus={focus}
          set={setFocus}
          ratio={form.values.shape === 'wide' ? '2 / 1' : form.values.shape === 'square' ? '1 / 1' : null}
        />
      )}
      <AltFields form={form} />
      <Choose
        form={form}
        name="shape"
        label={phrase('event.cut')}
        choices={shapes.map((shape) => ({ value: shape, label: shapeWords[shape] }))}
      />
    </FormDialog>
  );
}

const shapeWords: Readonly<Record<Shape, string>> = {
  whole: phrase('event.cutWhole'),
  wide: phrase('event.cutWide'),
  square: phrase('event.cutSquare'),
};

/** An address under which a chosen file can be seen, as long as it is shown. */
function useAddressOf(file: File): string | null {
  const [address, setAddress] = useState<string | null>(null);
  useEffect(() => {
    const made = URL.createObjectURL(file);
    setAddress(made);
    return () => URL.revokeObjectURL(made);
  }, [file]);
  return address;
}
