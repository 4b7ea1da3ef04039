import { chakra } from '@chakra-ui/react';
import { useCallback, useEffect, useRef, useState } from 'react';

/**
 * HTML as somebody else’s program draws it, in a frame of its own: nothing in it runs, and nothing of ours is in its reach. It is as high
 * as what it shows.
 */
export function HtmlFrame({ html, title, width = '100%' }: { html: string; title: string; width?: string }) {
  const frame = useRef<HTMLIFrameElement>(null);
  const [height, setHeight] = useState(200);
  const show = useCallback(() => frame.current?.contentWindow?.postMessage(html, '*'), [html]);
  useEffect(() => {
    show();
    const told = (event: MessageEvent) => {
      if (event.source !== frame.current?.contentWindow) return;
      if (event.data === 'ready') show();
      else if (typeof event.data === 'number') setHeight(Math.min(4000, Math.max(80, event.data)));
    };
    window.addEventListener('message', told);
    return () => window.removeEventListener('message', told);
  }, [show]);
  return (
    <chakra.iframe
      ref={frame}
      title={title}
      src="/api/frame"
      sandbox="allow-scripts"
      width={width}
      maxWidth="100%"
      height={`${height}px`}
      border="1px solid"
      borderColor="line"
      marginInline="auto"
      display="block"
    />
  );
}
