import Imported from 'react-apexcharts';

// The package is CommonJS; its component may come wrapped.
export const Chart = ((Imported as unknown as { default?: typeof Imported }).default ??
  Imported) as typeof Imported;

/** Charts bring styles of their own; they carry the page's nonce like all others. */
const nonce = document.querySelector<HTMLMetaElement>('meta[name="style-nonce"]')?.content ?? '';

/** A colour of the theme as it is now. */
export const colour = (name: string) =>
  getComputedStyle(document.documentElement).getPropertyValue(`--${name}`).trim();

/** What every chart of ours has in common. */
export const quietChart = {
  nonce,
  toolbar: { show: false },
  zoom: { enabled: false },
  animations: { enabled: false },
  fontFamily: 'inherit',
  background: 'transparent',
} as const;
