import type { PackPage, PackRow } from '@gavrel/contract';
import { useEffect, useState } from 'react';
import { View } from 'react-native';
import { api } from '../device/api';
import { useAppSelector } from '../state';
import { SPACE } from '../theme';
import { Button } from '../ui/buttons';
import { ConditionShape } from '../ui/shape';
import { Figures, Words } from '../ui/words';

/** What the server finds and this device does not hold. */
export function AtServer({ search, onOpen }: { search: string; onOpen: (row: PackRow) => unknown }) {
  const holds = useAppSelector((s) => s.logbook.holds !== null);
  const here = useAppSelector((s) => s.logbook.packs);
  const [rows, setRows] = useState<readonly PackRow[]>([]);
  const asked = search.trim();
  useEffect(() => {
    setRows([]);
    if (!holds || asked.length < 2) return;
    let over = false;
    const timer = setTimeout(() => {
      // Away: what is here is all there is, and the bar below says so. An answer to what was typed before is none.
      api<PackPage>('GET', `/packs?limit=20&search=${encodeURIComponent(asked)}`).then(
        (p) => over || setRows(p.items),
        () => undefined,
      );
    }, 400);
    return () => {
      over = true;
      clearTimeout(timer);
    };
  }, [holds, asked]);
  const more = rows.filter((r) => !here[r.id]);
  if (more.length === 0) return null;
  return (
    <View style={{ padding: SPACE, gap: 6 }} testID="at-server">
      <Words bold>At the server</Words>
      {more.map((r) => (
        <Button key={r.id} label={r.tag} height={56} onPress={() => onOpen(r)} testID={`fetch-${r.tag}`}>
          <View style={{ width: '100%', flexDirection: 'row', alignItems: 'center', gap: 10 }}>
            <ConditionShape condition={r.condition} size={22} />
            <Figures bold>{r.tag}</Figures>
            <Figures size={14} soft style={{ flex: 1 }} lines={1}>
              {r.typeCode}
            </Figures>
          </View>
        </Button>
      ))}
    </View>
  );
}
