import { byWorth, offer, type Offer, type OfferQuestion, waysToAsk } from '@gavrel/core/consignment';

export type Answer =
  | { readonly kind: 'progress'; readonly done: number; readonly of: number; readonly offers: readonly Offer[] }
  | { readonly kind: 'done'; readonly offers: readonly Offer[] }
  | { readonly kind: 'trouble'; readonly words: string };

/** Plans every way off the interface's thread; each is shown as soon as it is there. */
function work(q: OfferQuestion, say: (a: Answer) => void): void {
  const ways = waysToAsk(q);
  const offers: Offer[] = [];
  for (const [done, { mode, carrier }] of ways.entries()) {
    // As they come: a line that moved would be tapped for another.
    say({ kind: 'progress', done, of: ways.length, offers: [...offers] });
    offers.push(offer(q, mode, carrier));
  }
  say({ kind: 'done', offers: offers.sort(byWorth) });
}

self.onmessage = (e: MessageEvent<OfferQuestion>) => {
  try {
    work(e.data, (a) => self.postMessage(a));
  } catch (error) {
    self.postMessage({ kind: 'trouble', words: error instanceof Error ? error.message : String(error) } satisfies Answer);
  }
};
