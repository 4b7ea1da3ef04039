import { chakra } from '@chakra-ui/react';
import { type PageLook, pageStyles, pageThemes } from '#core/events/look.ts';
import { ButtonAnchor } from '#web/kit/Button.tsx';
import { phrase } from '#web/words/phrase.ts';
import { OneOf } from '../../kit/Choosing.tsx';
import { useAsk } from '../../parts/ask.ts';
import type { SectionProps } from './section.ts';

const styleWords: Readonly<Record<PageLook['style'], string>> = {
  scroll: phrase('event.styleScroll'),
  essentials: phrase('event.styleEssentials'),
  programme: phrase('event.styleProgramme'),
};
const themeWords: Readonly<Record<PageLook['theme'], string>> = {
  reader: phrase('event.themeReader'),
  light: phrase('event.themeLight'),
  dark: phrase('event.themeDark'),
};

/** How the page is laid out, and whether it is light or dark; seen before it is chosen, by the preview link. */
export function Look({ draft: { plan, change }, page }: SectionProps) {
  const { look } = plan;
  const token = useAsk('GET /api/events/:id/preview', { params: { id: page.id } }).data?.token;
  return (
    <>
      <div className="pair">
        <OneOf
          label={phrase('event.pageLook')}
          headed
          value={look.style}
          set={(style) => change({ look: { ...look, style: style as PageLook['style'] } })}
          choices={pageStyles.map((style) => ({ value: style, label: styleWords[style] }))}
        />
        <OneOf
          label={phrase('event.lightOrDark')}
          value={look.theme}
          set={(theme) => change({ look: { ...look, theme: theme as PageLook['theme'] } })}
          choices={pageThemes.map((theme) => ({ value: theme, label: themeWords[theme] }))}
        />
      </div>
      {token ? (
        <chakra.div className="acts">
          {pageStyles.map((style) => (
            <ButtonAnchor
              key={style}
              look="link"
              color="verdigris"
              href={`/p/${token}?${new URLSearchParams({ style, theme: look.theme })}`}
              target="_blank"
              rel="noreferrer"
            >
              {phrase('event.seeLook')}: {styleWords[style]}
            </ButtonAnchor>
          ))}
        </chakra.div>
      ) : (
        <p className="soft">{phrase('event.makePreviewFirst')}</p>
      )}
    </>
  );
}
