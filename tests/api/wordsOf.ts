import { getDocument } from 'pdfjs-dist/legacy/build/pdf.mjs';

/** The words on each page of a PDF, line by line. */
export async function wordsOf(pdf: Uint8Array): Promise<string[]> {
  const reading = getDocument({ data: Uint8Array.from(pdf), verbosity: 0 });
  const document = await reading.promise;
  const pages: string[] = [];
  for (let at = 1; at <= document.numPages; at += 1) {
    const { items } = await (await document.getPage(at)).getTextContent();
    pages.push(items.map((item) => ('str' in item ? item.str + (item.hasEOL ? '\n' : '') : '')).join(''));
  }
  await reading.destroy();
  return pages;
}
