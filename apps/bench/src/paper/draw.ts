import fontkit from '@pdf-lib/fontkit';
import { PDFDocument, type PDFFont, type PDFPage, rgb } from 'pdf-lib';
import QRCode from 'qrcode';

/** Bytes of the two faces that go into the paper. */
export interface Faces {
  readonly words: Uint8Array;
  readonly bold: Uint8Array;
}

/** What stands on a pack's tag, so that it works without the program. */
export interface TagPaper {
  readonly tag: string;
  readonly condition: 'sound' | 'spent' | 'unproven' | 'damaged' | 'critical';
  readonly order: string;
  readonly date: string;
  readonly finding: string;
  readonly nextLook: string;
  readonly place: string;
}

/** What stands on a place: its name, what may lie in it, and its code. */
export interface PlacePaper {
  readonly name: string;
  readonly kind: string;
  readonly holds: readonly TagPaper['condition'][];
}

/** A picture on a paper; without bytes where it is not to be had. */
export interface ReportPicture {
  readonly words: string;
  readonly type: 'image/jpeg' | 'image/png';
  readonly bytes: Uint8Array | null;
}

export interface ReportSection {
  readonly title: string;
  readonly lines: readonly string[];
  readonly pictures?: readonly ReportPicture[];
}

export interface ReportPaper {
  readonly workshop: string;
  readonly title: string;
  readonly owner: string;
  readonly date: string;
  readonly sections: readonly ReportSection[];
  readonly foot: string;
  /** Printed white on black across the head of every page. */
  readonly band?: string | undefined;
}

const MM = 72 / 25.4;
const INK = rgb(0, 0, 0);
const PAPER = rgb(1, 1, 1);

interface Sheet {
  readonly doc: PDFDocument;
  readonly words: PDFFont;
  readonly bold: PDFFont;
}

async function sheet(faces: Faces, title: string): Promise<Sheet> {
  const doc = await PDFDocument.create();
  doc.registerFontkit(fontkit);
  doc.setTitle(title);
  doc.setCreator('Gavrel');
  return {
    doc,
    words: await doc.embedFont(faces.words, { subset: true }),
    bold: await doc.embedFont(faces.bold, { subset: true }),
  };
}

/** Breaks a text into lines that fit a width in points. */
export function wrapped(text: string, font: Pick<PDFFont, 'widthOfTextAtSize'>, size: number, width: number): string[] {
  const out: string[] = [];
  let line = '';
  for (const word of text.split(/\s+/)) {
    const longer = line === '' ? word : `${line} ${word}`;
    if (line !== '' && font.widthOfTextAtSize(longer, size) > width) {
      out.push(line);
      line = word;
    } else line = longer;
  }
  return line === '' ? out : [...out, line];
}

/** A QR code as filled squares, with its quiet zone of four modules. x, y: upper left, points. */
function qr(page: PDFPage, text: string, x: number, y: number, side: number): void {
  const { modules } = QRCode.create(text, { errorCorrectionLevel: 'M' });
  const m = side / (modules.size + 8);
  page.drawRectangle({ x, y: y - side, width: side, height: side, color: PAPER });
  for (let row = 0; row < modules.size; row++) {
    for (let col = 0; col < modules.size; col++) {
      if (modules.get(row, col) === 0) continue;
      page.drawRectangle({ x: x + (col + 4) * m, y: y - (row + 5) * m, width: m * 1.02, height: m * 1.02, color: INK });
    }
  }
}

/** The five shapes, as on the screen, in a box of the given side; x, y: upper left. */
function shape(page: PDFPage, condition: TagPaper['condition'], x: number, y: number, side: number): void {
  const k = side / 24;
  const ring = { x: x + side / 2, y: y - side / 2, size: 8.6 * k, borderColor: INK, borderWidth: 2.6 * k };
  switch (condition) {
    case 'sound':
      return page.drawCircle(ring);
    case 'spent':
      page.drawCircle(ring);
      return page.drawSvgPath('M3.4 12 a8.6 8.6 0 0 0 17.2 0 Z', { x, y, scale: k, color: INK });
    case 'unproven':
      return page.drawCircle({ ...ring, borderDashArray: [5.6 * k, 3.4 * k] });
    case 'damaged':
      return page.drawSvgPath('M12 2 L22.5 21 H1.5 Z', { x, y, scale: k, color: INK });
    case 'critical':
      page.drawRectangle({ x: x + 2 * k, y: y - 22 * k, width: 20 * k, height: 20 * k, color: INK });
      return page.drawRectangle({ x: x + 5 * k, y: y - 14 * k, width: 14 * k, height: 4 * k, color: PAPER });
  }
}

/** A tag of 62 x 100 mm for a label roll: shape, word, date, finding, next look, and the tag as a QR code. */
export async function tagPdf(p: TagPaper, faces: Faces): Promise<Uint8Array> {
  const s = await sheet(faces, `tag ${p.tag}`);
  const [w, h] = [62 * MM, 100 * MM];
  const page = s.doc.addPage([w, h]);
  const text = (t: string, x: number, y: number, size: number, font = s.words) =>
    page.drawText(t, { x, y, size, font, color: INK });
  shape(page, p.condition, 4 * MM, h - 4 * MM, 15 * MM);
  text(p.condition, 22 * MM, h - 12 * MM, 22, s.bold);
  text(p.tag, 22 * MM, h - 19 * MM, 15, s.bold);
  page.drawLine({ start: { x: 4 * MM, y: h - 22 * MM }, end: { x: w - 4 * MM, y: h - 22 * MM }, thickness: 1.2, color: INK });
  let y = h - 28 * MM;
  const rows: readonly (readonly [string, string])[] = [
    ['order', p.order],
    ['found', p.finding],
    ['since', p.date],
    ['next look', p.nextLook],
    ['place', p.place],
  ];
  for (const [name, value] of rows) {
    text(name, 4 * MM, y, 8);
    for (const line of wrapped(value || '________________', s.bold, 11, w - 26 * MM).slice(0, 2)) {
      text(line, 20 * MM, y, 11, s.bold);
      y -= 4.8 * MM;
    }
    y -= 0.8 * MM;
  }
  qr(page, p.tag, (w - 30 * MM) / 2, 35 * MM, 30 * MM);
  return s.doc.save();
}

/** A card for a door or a lid: name, what may lie there by shape and word, and its name as a QR code. 100 x 150 mm. */
export async function placePdf(p: PlacePaper, faces: Faces): Promise<Uint8Array> {
  const s = await sheet(faces, p.name);
  const [w, h] = [100 * MM, 150 * MM];
  const page = s.doc.addPage([w, h]);
  let y = h - 14 * MM;
  for (const line of wrapped(p.name, s.bold, 24, w - 16 * MM).slice(0, 2)) {
    page.drawText(line, { x: 8 * MM, y, size: 24, font: s.bold, color: INK });
    y -= 10 * MM;
  }
  page.drawText(p.kind, { x: 8 * MM, y, size: 12, font: s.words, color: INK });
  y -= 6 * MM;
  for (const condition of p.holds) {
    shape(page, condition, 8 * MM, y, 8 * MM);
    page.drawText(condition, { x: 20 * MM, y: y - 6 * MM, size: 14, font: s.bold, color: INK });
    y -= 10 * MM;
  }
  qr(page, p.name, (w - 44 * MM) / 2, 62 * MM, 44 * MM);
  const foot = 'Smoke or hiss: leave, alarm, call. The local code decides.';
  page.drawText(foot, { x: 8 * MM, y: 7 * MM, size: 9, font: s.words, color: INK });
  return s.doc.save();
}

const BLANK = ['volts', 'mAh', 'Wh', 'cells', 'mounting', 'thickness', 'found', 'place'] as const;

/** Numbered blank slips for a power cut, eight on an A4 page, each with its number as a QR code. */
export async function blanksPdf(numbers: readonly string[], faces: Faces): Promise<Uint8Array> {
  const s = await sheet(faces, 'blank slips');
  const [w, h] = [210 * MM, 297 * MM];
  const [cw, ch] = [w / 2, h / 4];
  numbers.forEach((number, i) => {
    const page = i % 8 === 0 ? s.doc.addPage([w, h]) : s.doc.getPage(s.doc.getPageCount() - 1);
    const [x, top] = [(i % 2) * cw, h - Math.floor((i % 8) / 2) * ch];
    page.drawRectangle({
      x: x + 4 * MM,
      y: top - ch + 4 * MM,
      width: cw - 8 * MM,
      height: ch - 8 * MM,
      borderColor: INK,
      borderWidth: 0.8,
    });
    page.drawText(number, { x: x + 8 * MM, y: top - 13 * MM, size: 18, font: s.bold, color: INK });
    page.drawText('Not looked at is unproven. Swollen, wet, smell, warm: apart, outdoors.', {
      x: x + 8 * MM,
      y: top - ch + 7 * MM,
      size: 7,
      font: s.words,
      color: INK,
    });
    qr(page, number, x + cw - 30 * MM, top - 6 * MM, 24 * MM);
    BLANK.forEach((name, n) => {
      const y = top - (20 + n * 5.6) * MM;
      page.drawText(name, { x: x + 8 * MM, y, size: 8, font: s.words, color: INK });
      page.drawLine({
        start: { x: x + 24 * MM, y: y - 1 },
        end: { x: x + (n < 4 ? 70 : 98) * MM, y: y - 1 },
        thickness: 0.6,
        color: INK,
      });
    });
  });
  return s.doc.save();
}

/** A paper of sections, for the owner or for the box. What does not fit goes on a second page. */
export async function reportPdf(p: ReportPaper, faces: Faces): Promise<Uint8Array> {
  const s = await sheet(faces, p.title);
  const [w, h] = [210 * MM, 297 * MM];
  const left = 20 * MM;
  const width = w - 40 * MM;
  const bands = p.band === undefined ? [] : wrapped(p.band, s.bold, 11, width);
  const addPage = () => {
    const fresh = s.doc.addPage([w, h]);
    const height = bands.length * 15 + 10;
    if (bands.length > 0) fresh.drawRectangle({ x: 0, y: h - height, width: w, height, color: INK });
    bands.forEach((line, i) => fresh.drawText(line, { x: left, y: h - 17 - i * 15, size: 11, font: s.bold, color: PAPER }));
    return fresh;
  };
  const top = h - 18 * MM - bands.length * 15;
  let page = addPage();
  let y = top;
  const text = (t: string, size: number, font = s.words) => {
    for (const line of wrapped(t, font, size, width)) {
      y -= size * 1.42;
      if (y < 24 * MM) {
        page = addPage();
        y = top - size * 1.42;
      }
      page.drawText(line, { x: left, y, size, font, color: INK });
    }
  };
  const draw = async ({ bytes, type, words }: ReportPicture) => {
    // A file that is no picture after all costs its picture, not the paper.
    const image = bytes && (await (type === 'image/png' ? s.doc.embedPng(bytes) : s.doc.embedJpg(bytes)).catch(() => null));
    if (!image) return text(`${words}: not to be had here`, 11);
    const size = image.scaleToFit(80 * MM, 80 * MM);
    if (y - size.height - 24 < 24 * MM) {
      page = addPage();
      y = top;
    }
    y -= size.height + 6;
    page.drawImage(image, { x: left, y, ...size });
    text(words, 9);
  };
  text(p.workshop, 11);
  text(p.title, 20, s.bold);
  text([p.owner && `for ${p.owner}`, p.date].filter(Boolean).join(', '), 11);
  for (const section of p.sections.filter((x) => x.lines.length > 0)) {
    y -= 14;
    page.drawLine({ start: { x: left, y }, end: { x: left + width, y }, thickness: 1.2, color: INK });
    y -= 4;
    text(section.title, 13, s.bold);
    for (const line of section.lines) text(line, 11);
    for (const picture of section.pictures ?? []) await draw(picture);
  }
  page.drawText(p.foot, { x: left, y: 14 * MM, size: 8, font: s.words, color: INK });
  return s.doc.save();
}
