import { chakra } from '@chakra-ui/react';
import { useEffect, useRef, useState } from 'react';
import { ButtonLabel } from '#web/kit/Button.tsx';
import { phrase } from '#web/words/phrase.ts';
import { codeReader, pictureOf } from './reading.ts';

/** For so long a code that stays before the camera is not read again, in milliseconds. */
const again = 3_000;

/**
 * Reads pass codes: from the camera where there is one, or from a picture of the code. While it `rests` the camera stays on and nothing is
 * read: the next person need not wait for it.
 */
export function Scanner({ read, rests }: { read: (code: string) => void; rests: boolean }) {
  const video = useRef<HTMLVideoElement>(null);
  const [noCamera, setNoCamera] = useState(false);
  const [unread, setUnread] = useState(false);
  const now = useRef({ read, rests });
  now.current = { read, rests };
  useEffect(() => {
    let stream: MediaStream | null = null;
    let over = false;
    const stop = () => {
      stream?.getTracks().forEach((t) => {
        t.stop();
      });
    };
    const look = async (from: HTMLVideoElement) => {
      const reader = await codeReader();
      const last = { code: '', at: 0 };
      while (!over) {
        await new Promise(requestAnimationFrame);
        if (over) break;
        if (now.current.rests) {
          // The pass that was just dealt with may still be there.
          last.at = Date.now();
          continue;
        }
        // Some browsers stop a video that is not seen.
        if (from.paused) await from.play();
        const picture = await pictureOf(from, [from.videoWidth, from.videoHeight]);
        const code = picture && (await reader.read(picture));
        if (!code || over || now.current.rests) continue;
        const seen = code === last.code && Date.now() - last.at < again;
        Object.assign(last, { code, at: Date.now() });
        if (!seen) now.current.read(code);
      }
      reader.close();
    };
    if (navigator.mediaDevices)
      navigator.mediaDevices
        .getUserMedia({ video: { facingMode: 'environment' } })
        .then(async (opened) => {
          stream = opened;
          const from = video.current;
          if (over || !from) return stop();
          from.srcObject = opened;
          await from.play();
          await look(from);
        })
        .catch(() => {
          if (!over) setNoCamera(true);
        });
    else setNoCamera(true);
    return () => {
      over = true;
      stop();
    };
  }, []);
  const fromPicture = async (file: File | undefined) => {
    if (!file) return;
    const reader = await codeReader();
    const code = await createImageBitmap(file)
      .then(async (whole) => {
        const { width, height } = whole;
        whole.close();
        const picture = await pictureOf(file, [width, height]);
        return picture && reader.read(picture);
      })
      .catch(() => null);
    reader.close();
    setUnread(!code);
    if (code) read(code);
  };
  return (
    <chakra.div marginBottom="12px" hidden={rests}>
      {!noCamera && (
        <chakra.video
          ref={video}
          muted
          playsInline
          width="100%"
          maxHeight="300px"
          background="#000"
          objectFit="cover"
        >
          <track kind="captions" />
        </chakra.video>
      )}
      {(noCamera || unread) && (
        <chakra.p className="need" role="status" marginBottom="8px">
          {phrase(unread ? 'door.thereIsNoReadable' : 'door.noCameraCanBe')}
        </chakra.p>
      )}
      <ButtonLabel size="touch" cursor="pointer">
        {phrase('door.chooseAPicture')}
        <chakra.input
          type="file"
          accept="image/*"
          srOnly
          onChange={(e) => {
            void fromPicture(e.target.files?.[0]);
            // The same picture can be chosen again.
            e.target.value = '';
          }}
        />
      </ButtonLabel>
    </chakra.div>
  );
}
