import { readFileSync } from 'node:fs';
import { createRequire } from 'node:module';
import { dirname, join } from 'node:path';
import type { TDocumentDefinitions } from 'pdfmake/interfaces';

const require = createRequire(import.meta.url);

interface FontPacking {
  toSfnt(woff: Buffer): Uint8Array;
}
interface PdfMaker {
  virtualfs: { writeFileSync(name: string, bytes: Buffer): void };
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
  const { toSfnt } = require('woff2sfnt-sfnt2woff') as FontPacking;
  const { virtualfs } = maker;
  // Unpacked once: a packed one is unpacked anew for each document, which takes longer than all the rest.
  const file = (weight: number, style: string) => {
    const name = `${weight}-${style}.ttf`;
    virtualfs.writeFileSync(
      name,
      Buffer.from(toSfnt(readFileSync(join(folder, `atkinson-hyperlegible-next-latin-${weight}-${style}.woff`)))),
    );
    return name;
  };
  maker.setUrlAccessPolicy(() => false);
  maker.setLocalAccessPolicy(() => false);
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
  return pdfMaker()
    .createPdf({ version: '1.7', ...document })
    .getBuffer();
}
