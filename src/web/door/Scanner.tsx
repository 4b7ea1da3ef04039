import { chakra } from '@chakra-ui/react';
import jsQR from 'jsqr';
import { useEffect, useRef, useState } from 'react';
import { ButtonLabel } from '#web/kit/Button.tsx';
import { phrase } from '#web/words/phrase.ts';

/** Reads pass codes: from the camera where there is one, or from a picture of the code. */
export function Scanner({ read }: { read: (code: string) => void }) {
  const video = useRef<HTMLVideoElement>(null);
  const [trouble, setTrouble] = useState<string | null>(null);
  const done = useRef(read);
  done.current = read;
  useEffect(() => {
    let stream: MediaStream | null = null;
    let frame = 0;
    let over = false;
    const canvas = document.createElement('canvas');
    const look = () => {
      if (over || !video.current) return;
      const code = codeIn(canvas, video.current, video.current.videoWidth, video.current.videoHeight);
      if (code) done.current(code);
      else frame = requestAnimationFrame(look);
    };
    navigator.mediaDevices
      ?.getUserMedia({ video: { facingMode: 'environment' } })
      .then(async (s) => {
        if (over) {
          for (const t of s.getTracks()) t.stop();
          return;
        }
        stream = s;
        video.current!.srcObject = s;
        await video.current!.play();
        look();
      })
      .catch(() => setTrouble(phrase('door.noCameraCanBe')));
    if (!navigator.mediaDevices) setTrouble(phrase('door.noCameraCanBe'));
    return () => {
      over = true;
      cancelAnimationFrame(frame);
      stream?.getTracks().forEach((t) => {
        t.stop();
      });
    };
  }, []);
  const fromPicture = async (file: File | undefined) => {
    if (!file) return;
    const picture = await createImageBitmap(file).catch(() => null);
    const code = picture && codeIn(document.createElement('canvas'), picture, picture.width, picture.height);
    if (code) read(code);
    else setTrouble(phrase('door.thereIsNoReadable'));
  };
  return (
    <chakra.div marginBottom="12px">
      {!trouble && (
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
      {trouble && (
        <p className="need" role="status">
          {trouble}
        </p>
      )}
      <ButtonLabel size="touch" cursor="pointer">
        {phrase('door.chooseAPicture')}
        <chakra.input
          type="file"
          accept="image/*"
          srOnly
          onChange={(e) => void fromPicture(e.target.files?.[0])}
        />
      </ButtonLabel>
    </chakra.div>
  );
}

/** The code in a picture, drawn at a size that reads fast; null where there is none. */
function codeIn(
  canvas: HTMLCanvasElement,
  source: CanvasImageSource,
  width: number,
  height: number,
): string | null {
  if (!width || !height) return null;
  const scale = Math.min(1, 900 / Math.max(width, height));
  canvas.width = Math.round(width * scale);
  canvas.height = Math.round(height * scale);
  const context = canvas.getContext('2d', { willReadFrequently: true })!;
  context.drawImage(source, 0, 0, canvas.width, canvas.height);
  const { data } = context.getImageData(0, 0, canvas.width, canvas.height);
  return jsQR(data, canvas.width, canvas.height)?.data ?? null;
}
