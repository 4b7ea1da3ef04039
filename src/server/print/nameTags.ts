import { fitted, mm, type NameTagFormat, type TagPlace, tagSheets } from '#core/print/nameTags.ts';
import { drawCode, inks, pdfOf, widthOf, writeLine } from './pdf.ts';

/** What stands on one tag. */
export interface NameTag {
  /** Above all: what somebody is called, then the rest of the name. */
  given: string;
  family: string;
  /** Beneath, a line each. */
  lines: readonly string[];
  /** The code of the pass to scan; null for none. */
  code: string | null;
}

/** Name tags as a PDF. The picture is cut already to the proportions of a tag, as a JPEG. */
export const nameTagsPdf = (
  tags: readonly NameTag[],
  {
    format,
    title,
    above,
    picture,
  }: { format: NameTagFormat; title: string; above: string; picture: Buffer | null },
): Promise<Buffer> => {
  const sheet = tagSheets[format];
  return pdfOf({ size: [sheet.page.width, sheet.page.height], margin: 0, title }, (pdf) => {
    for (let from = 0; from < tags.length; from += sheet.tags.length) {
      pdf.addPage();
      tags.slice(from, from + sheet.tags.length).forEach((tag, at) => {
        for (const place of sheet.tags[at]!) {
          pdf.save();
          // The back of what is folded is read from the other side.
          if (place.turned)
            pdf.rotate(180, { origin: [place.x + place.width / 2, place.y + place.height / 2] });
          drawTag(pdf, tag, place, above, picture);
          pdf.restore();
        }
      });
      for (const { from: start, to, fold } of sheet.lines) {
        pdf
          .moveTo(...start)
          .lineTo(...to)
          .lineWidth(0.5)
          .strokeColor(inks.line);
        if (fold) pdf.dash(4, { space: 4 });
        pdf.stroke();
        if (fold) pdf.undash();
      }
    }
  });
};

/** How high a line is beside the size of its letters: as much as ours reach up and down. */
const lineHeight = 1.38;

/** Sizes of a tag by its height: those of A6 lying down, scaled. */
function drawTag(
  pdf: PDFKit.PDFDocument,
  { given, family, lines, code }: NameTag,
  { x, y, width, height }: TagPlace,
  above: string,
  picture: Buffer | null,
): void {
  const scale = Math.min(width / mm(105), height / mm(54)) > 1 ? Math.min(width / mm(105), 1.25) : 0.72;
  const margin = mm(8) * scale;
  const inner = width - 2 * margin;
  if (picture) {
    pdf.image(picture, x, y, { width, height });
    // Whatever the picture, the name is read from three metres away.
    pdf
      .fillOpacity(0.86)
      .rect(x + margin / 2, y + margin / 2, width - margin, height - margin)
      .fill('#FFFFFF')
      .fillOpacity(1);
  }
  const measure = (face: 'name' | 'text') => (text: string, size: number) => widthOf(pdf, face, text, size);
  const put = (
    face: 'name' | 'text',
    text: string,
    at: number,
    room: { lines: number; largest: number; smallest: number },
    color: string,
  ): number => {
    const is = fitted(text, { width: inner, ...room }, measure(face));
    pdf.fillColor(color);
    let top = at;
    for (const line of is.lines) {
      writeLine(pdf, face, line, { x: x + margin, y: top, size: is.size, width: inner, align: 'center' });
      top += is.size * lineHeight;
    }
    return top;
  };
  const codeSize = code ? Math.min(mm(26), height * 0.26) : 0;
  let top = put('text', above, y + margin, { lines: 1, largest: 11 * scale, smallest: 6 }, inks.soft);
  const bottom = y + height - margin - (code ? codeSize + 4 : 0);
  // The name stands in the middle of what is left.
  const nameRoom = { lines: 2, largest: 44 * scale, smallest: 12 };
  const rest = { lines: 1, largest: 13 * scale, smallest: 6 };
  const first = fitted(given || family, { width: inner, ...nameRoom }, measure('name'));
  const second =
    given && family
      ? fitted(family, { width: inner, lines: 2, largest: 24 * scale, smallest: 9 }, measure('name'))
      : null;
  const high =
    first.lines.length * first.size * lineHeight +
    (second ? second.lines.length * second.size * lineHeight : 0) +
    lines.length * rest.largest * 1.35;
  top = Math.max(top + 4, top + (bottom - top - high) / 2);
  top = put('name', given || family, top, nameRoom, inks.ink);
  if (second) top = put('name', family, top, { lines: 2, largest: 24 * scale, smallest: 9 }, inks.ink);
  top += 4 * scale;
  for (const line of lines) {
    if (top + rest.smallest > bottom) break;
    top = put('text', line, top, rest, inks.soft) + 1;
  }
  if (code)
    drawCode(pdf, code, { x: x + (width - codeSize) / 2, y: y + height - margin - codeSize, size: codeSize });
}
