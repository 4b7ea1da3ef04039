/**
 * How name tags are printed: one A6 a page; four A6 on a sheet of A4 to cut; folded from A5, so that both sides say the name; ten labels
 * of 85 by 54 mm on a sheet of A4; one such label from a label printer.
 */
export const nameTagFormats = ['four', 'one', 'folded', 'labels', 'label'] as const;
export type NameTagFormat = (typeof nameTagFormats)[number];

/** A place for a tag on a page, in points (1/72 inch) from the top left. */
export interface TagPlace {
  x: number;
  y: number;
  width: number;
  height: number;
  /** Upside down: the back of what is folded. */
  turned: boolean;
}

export interface TagSheet {
  page: { width: number; height: number };
  /** The places of one tag, where it stands on a page more than once, one tag after the other. */
  tags: readonly (readonly TagPlace[])[];
  /** Lines to cut or fold along. */
  lines: readonly { from: [number, number]; to: [number, number]; fold: boolean }[];
}

/** Millimetres as points. */
export const mm = (of: number): number => (of * 72) / 25.4;

const place = (x: number, y: number, width: number, height: number, turned = false): TagPlace => ({
  x: mm(x),
  y: mm(y),
  width: mm(width),
  height: mm(height),
  turned,
});
const size = (width: number, height: number) => ({ width: mm(width), height: mm(height) });
const line = (x1: number, y1: number, x2: number, y2: number, fold = false) => ({
  from: [mm(x1), mm(y1)] as [number, number],
  to: [mm(x2), mm(y2)] as [number, number],
  fold,
});
const [a4, a5, a6] = [size(210, 297), size(148, 210), size(148, 105)];
const label = { width: 85, height: 54, left: 20, top: 13.5, columns: 2, rows: 5 };

/** The sheet of a format, after ISO 216 for A4, A5 and A6. */
export const tagSheets: Readonly<Record<NameTagFormat, TagSheet>> = {
  one: { page: a6, tags: [[place(0, 0, 148, 105)]], lines: [] },
  four: {
    page: a4,
    tags: [0, 1, 2, 3].map((n) => [place((n % 2) * 105, n < 2 ? 0 : 148.5, 105, 148.5)]),
    lines: [line(105, 0, 105, 297), line(0, 148.5, 210, 148.5)],
  },
  label: {
    page: size(label.width, label.height),
    tags: [[place(0, 0, label.width, label.height)]],
    lines: [],
  },
  folded: {
    page: a5,
    tags: [[place(0, 105, 148, 105), place(0, 0, 148, 105, true)]],
    lines: [line(0, 105, 148, 105, true)],
  },
  labels: {
    page: a4,
    tags: Array.from({ length: label.columns * label.rows }, (_, n) => [
      place(
        label.left + (n % label.columns) * label.width,
        label.top + Math.floor(n / label.columns) * label.height,
        label.width,
        label.height,
      ),
    ]),
    lines: [],
  },
};

/** How wide a text is at a size, in points. */
export type Measure = (text: string, size: number) => number;

/** A text in lines that fit, and how large it is written. */
export interface Fitted {
  size: number;
  lines: string[];
}

/** The words of a text in as few lines as they fit in; null where a word is wider than a line. */
function wrapped(text: string, width: number, at: number, measure: Measure): string[] | null {
  const lines: string[] = [];
  for (const word of text.split(/\s+/u).filter(Boolean)) {
    if (measure(word, at) > width) return null;
    const longer = lines.length ? `${lines.at(-1)} ${word}` : word;
    if (lines.length && measure(longer, at) <= width) lines[lines.length - 1] = longer;
    else lines.push(word);
  }
  return lines;
}

/**
 * Writes a text as large as it fits into a width and so many lines, between two sizes in points. One that is too long at the smallest
 * is cut, and says so by an ellipsis.
 */
export function fitted(
  text: string,
  {
    width,
    lines: most,
    largest,
    smallest,
  }: { width: number; lines: number; largest: number; smallest: number },
  measure: Measure,
): Fitted {
  for (let at = largest; at >= smallest; at -= 0.5) {
    const lines = wrapped(text, width, at, measure);
    if (lines && lines.length <= most) return { size: at, lines };
  }
  const letters = [...text.trim()];
  const lines: string[] = [];
  let from = 0;
  while (from < letters.length && lines.length < most) {
    const last = lines.length === most - 1;
    let to = letters.length;
    const asLine = () => letters.slice(from, to).join('').trim() + (last && to < letters.length ? '…' : '');
    while (to > from + 1 && measure(asLine(), smallest) > width) to -= 1;
    // Broken between words where there is one to break at.
    const space = letters.slice(from, to).lastIndexOf(' ');
    if (!last && to < letters.length && space > 0) to = from + space;
    lines.push(asLine());
    from = to;
  }
  return { size: smallest, lines };
}
