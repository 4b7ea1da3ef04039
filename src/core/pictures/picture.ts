/** A picture as pages show it. */
export interface ShownPicture {
  id: string;
  /** What is on it, for those who do not see it. */
  alt: { en: string; fr?: string | undefined };
  /** Pixels of the largest size that is kept. */
  width: number;
  height: number;
  /** Where the matter is, as shares of width and height from the top left: it stays in view when sides are cut. */
  focusX: number;
  focusY: number;
}

/** The widths in pixels that pictures are kept in; smaller ones as they are. */
const widths = [400, 800, 1600] as const;

/** The widths a picture is kept in: of those there are, up to its own. */
export const widthsOf = (width: number): number[] => {
  const kept = widths.filter((w) => w < width);
  return width <= widths.at(-1)! ? [...kept, width] : [...widths];
};

export const shapes = ['whole', 'wide', 'square'] as const;
/** How a picture is cut: not at all, twice as wide as high, or as wide as high. */
export type Shape = (typeof shapes)[number];
const ratios: Readonly<Record<Exclude<Shape, 'whole'>, number>> = { wide: 2, square: 1 };

export interface Cut {
  left: number;
  top: number;
  width: number;
  height: number;
}

/**
 * The largest part of a picture of a shape that has the focus as near to its middle as the edges allow; whole pixels, never
 * empty, never beyond the edges.
 */
export function cutAround(
  picture: { width: number; height: number },
  shape: Shape,
  focus: { x: number; y: number },
): Cut {
  const { width: wide, height: high } = picture;
  if (shape === 'whole') return { left: 0, top: 0, width: wide, height: high };
  const ratio = ratios[shape];
  const width = Math.max(1, Math.min(wide, Math.round(high * ratio)));
  const height = Math.max(1, Math.min(high, Math.round(width / ratio)));
  const at = (middle: number, part: number, whole: number) =>
    Math.round(Math.min(Math.max(middle * whole - part / 2, 0), whole - part));
  return { left: at(focus.x, width, wide), top: at(focus.y, height, high), width, height };
}

/** Where the focus of a picture is once a part of it was cut out: shares of that part. */
export const focusIn = (
  cut: Cut,
  picture: { width: number; height: number },
  focus: { x: number; y: number },
): { x: number; y: number } => {
  const share = (middle: number, whole: number, from: number, part: number) =>
    Math.min(Math.max((middle * whole - from) / part, 0), 1);
  return {
    x: share(focus.x, picture.width, cut.left, cut.width),
    y: share(focus.y, picture.height, cut.top, cut.height),
  };
};
