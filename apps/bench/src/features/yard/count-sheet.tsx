import type { PlaceState } from '@gavrel/core/place';
import { useState } from 'react';
import { draft } from '../../device/write';
import { useActions } from '../../state/context';
import { CodesKey } from '../../entry/codes-key';
import { ScanField } from '../../entry/scan-field';
import { Button } from '../../ui/buttons';
import { Sheet } from '../../ui/sheet';
import { Figures, Words } from '../../ui/words';
import { useScanned } from './scanned';
import { useYard } from '../../stock/use-yard';

/** Counts a place by scan: what is there, what is missing, and what does not belong. It moves nothing by itself. */
export function CountSheet({ state, onClose }: { state: PlaceState; onClose: () => void }) {
  const actions = useActions();
  const yard = useYard();
  const scanned = useScanned(yard);
  const [code, setCode] = useState('');
  const [seen, setSeen] = useState<readonly string[]>([]);
  const [strangers, setStrangers] = useState<readonly string[]>([]);
  const own = new Set(state.items.map((i) => i.id));
  const here = seen.filter((id) => own.has(id));
  const others = seen.filter((id) => !own.has(id));
  /** @returns whether it lies here by the record. */
  const take = async (given: string): Promise<boolean> => {
    const { found } = await scanned(given);
    if (found && 'pack' in found) setSeen((s) => (s.includes(found.pack.id) ? s : [...s, found.pack.id]));
    else if (given !== '') setStrangers((s) => (s.includes(given) ? s : [...s, given]));
    return found !== null && 'pack' in found && found.pack.place === state.place.id;
  };
  const takeAll = async (codes: readonly string[]) => {
    for (const c of codes) await take(c.trim());
  };
  const scan = (given: string): Promise<boolean> => {
    setCode('');
    return take(given.trim());
  };
  const keep = async () => {
    await actions.write(
      [draft('place-counted', [`place:${state.place.id}`], { seen, ...(strangers.length > 0 && { strangers }) })],
      `${state.place.name} counted`,
    );
    onClose();
  };
  const missing = state.items.filter((i) => !seen.includes(i.id));
  return (
    <Sheet
      title={`Count ${state.place.name}`}
      onClose={onClose}
      footer={
        <Button
          label={`Keep: ${here.length} of ${own.size}${others.length + strangers.length > 0 ? `, ${others.length + strangers.length} strangers` : ''}`}
          tone="next"
          height={64}
          onPress={() => keep()}
          testID="keep-count"
        />
      }
    >
      <Words>Read the tags from outside. Never unpack a damaged pack to count it.</Words>
      <ScanField label="Scan or type" value={code} onChange={setCode} onScan={scan} many testID="count-scan" />
      <CodesKey onCodes={(codes) => void takeAll(codes)} />
      {missing.length > 0 ? <Words bold>Not seen yet</Words> : null}
      <Figures size={15}>{missing.map((i) => i.tag).join('  ')}</Figures>
      {others.length + strangers.length > 0 ? <Words bold>Do not belong here</Words> : null}
      {others.map((id) => (
        <Figures key={id} size={15}>{`${yard.facts[id]?.tag ?? ''}, known elsewhere`}</Figures>
      ))}
      {strangers.map((s) => (
        <Figures key={s} size={15}>{`${s}, not known here`}</Figures>
      ))}
    </Sheet>
  );
}
