import { DISPATCH_ABOUT, type DispatchBodies, type EntryOf, type LoggedEntry } from '@gavrel/core';

type DispatchEntry = LoggedEntry & { [K in keyof DispatchBodies]: EntryOf<K> }[keyof DispatchBodies];

export const isDispatch = (e: LoggedEntry): e is DispatchEntry => e.kind in DISPATCH_ABOUT;

/** One entry about sending packs away, in a line. */
export function dispatchWords(e: DispatchEntry): string {
  switch (e.kind) {
    case 'consignment-described':
      return `consignment${e.body.name ? ` ${e.body.name}` : ' described'}`;
    case 'consigned':
      return 'to go with a consignment';
    case 'withdrawn':
      return `taken off its consignment${e.body.reason ? `: ${e.body.reason}` : ''}`;
    case 'plan-kept':
      return `planned in ${e.body.packages.length} packages`;
    case 'packed':
      return 'packed';
    case 'unpacked':
      return 'taken out of its package';
    case 'package-closed':
      return `package closed${e.body.weighed ? `, ${e.body.weighed.digits} ${e.body.weighed.unit}` : ''}${e.body.seal ? `, seal ${e.body.seal}` : ''}`;
    case 'package-opened':
      return 'package opened';
    case 'package-counted':
      return `package counted: ${e.body.count}`;
    case 'consignment-handed-over':
      return `left with ${e.body.to}${e.body.number ? `, ${e.body.number}` : ''}`;
    case 'consignment-arrived':
      return `arrived${e.body.receipt ? `: ${e.body.receipt}` : ''}`;
    case 'consignment-ended':
      return `${e.body.how === 'returned' ? 'came back' : e.body.how}: ${e.body.reason}`;
    case 'box-described':
      return `box ${e.body.name}: ${e.body.stock} here`;
    case 'carrier-described':
      return `carrier ${e.body.name}`;
    case 'notice-filed':
      return `notice${e.body.retired ? ' ended' : ''}: ${e.body.title}`;
  }
}
