/**
 * How an event's page is laid out. `scroll`: everything on one calm scroll. `essentials`: what, when and where, with the form
 * beside it. `programme`: what happens when comes first.
 */
export const pageStyles = ['scroll', 'essentials', 'programme'] as const;
export type PageStyle = (typeof pageStyles)[number];

/** Light or dark, or as the reader's own device has it. */
export const pageThemes = ['reader', 'light', 'dark'] as const;
export type PageTheme = (typeof pageThemes)[number];

export interface PageLook {
  style: PageStyle;
  theme: PageTheme;
}

/** A look that is asked for in an address, over the one an event has: to see it before it is chosen. */
export function lookFrom(address: URLSearchParams, look: PageLook): PageLook {
  const style = address.get('style');
  const theme = address.get('theme');
  return {
    style: pageStyles.find((s) => s === style) ?? look.style,
    theme: pageThemes.find((t) => t === theme) ?? look.theme,
  };
}
