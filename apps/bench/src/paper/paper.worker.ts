import { marksPdf, type MarksPaper } from './marks';
import { blanksPdf, type Faces, placePdf, type PlacePaper, reportPdf, type ReportPaper, tagPdf, type TagPaper } from './draw';

export type Order =
  | { readonly kind: 'tag'; readonly paper: TagPaper }
  | { readonly kind: 'place'; readonly paper: PlacePaper }
  | { readonly kind: 'blanks'; readonly numbers: readonly string[] }
  | { readonly kind: 'report'; readonly paper: ReportPaper }
  | { readonly kind: 'marks'; readonly paper: MarksPaper };

/** Makes one paper off the interface's thread. */
async function make(order: Order, faces: Faces): Promise<Uint8Array> {
  switch (order.kind) {
    case 'tag':
      return tagPdf(order.paper, faces);
    case 'place':
      return placePdf(order.paper, faces);
    case 'blanks':
      return blanksPdf(order.numbers, faces);
    case 'marks':
      return marksPdf(order.paper, faces);
    case 'report':
      return reportPdf(order.paper, faces);
  }
}

self.onmessage = (e: MessageEvent<{ order: Order; faces: Faces }>) => {
  make(e.data.order, e.data.faces).then(
    (bytes) => self.postMessage({ bytes }),
    (error: unknown) => self.postMessage({ error: String(error) }),
  );
};
