import { createRequire } from 'node:module';
import { dirname, join } from 'node:path';
import type { TDocumentDefinitions } from 'pdfmake/interfaces';

const require = createRequire(import.meta.url);

interface PdfMaker {
  setUrlAccessPolicy(may: (url: string) => boolean): void;
  setLocalAccessPolicy(may: (path: string) => boolean): void;
  setFonts(fonts: Record<string, Record<string, string>>): void;
  createPdf(document: TDocumentDefinitions): { getBuffer(): Promise<Buffer> };
}

/** The font of every document, shipped with the program. */
export const FONT = 'AtkinsonNext';
let maker: PdfMaker | undefined;

function pdfMaker(): PdfMaker {
  if (maker) return maker;
  maker = require('pdfmake') as PdfMaker;
  const folder = join(dirname(require.resolve('@fontsource/atkinson-hyperlegible-next/package.json')), 'files');
  const file = (weight: number, style: string) => join(folder, `atkinson-hyperlegible-next-latin-${weight}-${style}.woff`);
  maker.setUrlAccessPolicy(() => false);
  maker.setLocalAccessPolicy((path) => path.startsWith(folder));
  maker.setFonts({
    [FONT]: { normal: file(400, 'normal'), bold: file(700, 'normal'), italics: file(400, 'italic'), bolditalics: file(700, 'italic') },
  });
  return maker;
}

export const INK = '#1c2331';
export const SOFT = '#5a6272';
const RULE = '#ded8ca';

/** The layout of tables: a rule under each row, none beside. */
export const RULED = {
  hLineColor: () => RULE,
  hLineWidth: (i: number) => (i === 0 ? 0 : 0.7),
  vLineWidth: () => 0,
  paddingTop: () => 4,
  paddingBottom: () => 4,
  paddingLeft: (i: number) => (i === 0 ? 0 : 6),
  paddingRight: () => 6,
};

/** Writes a document as PDF. */
export async function pdfOf(document: TDocumentDefinitions): Promise<Buffer> {
  return pdfMaker().createPdf(document).getBuffer();
}
