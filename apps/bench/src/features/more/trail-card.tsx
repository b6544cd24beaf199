import type { Person, TrailItem } from '@gavrel/contract';
import { useCallback, useEffect, useState } from 'react';
import { View } from 'react-native';
import { api, errorMessage } from '../../device/api';
import { Card } from '../../ui/frame';
import { Button } from '../../ui/buttons';
import { clockWords } from '../../ui/say';
import { Words } from '../../ui/words';
import { trailWords } from './people-words';

const PAGE = 20;

/** Who came in, and who changed what for whom: the newest first. @param all it is read again when they change. */
export function TrailCard({ all }: { all: readonly Person[] }) {
  const [items, setItems] = useState<readonly TrailItem[]>([]);
  const [more, setMore] = useState(false);
  const [trouble, setTrouble] = useState('');
  const read = useCallback(async (known: readonly TrailItem[]) => {
    const before = known.length > 0 ? `&before=${known[known.length - 1]!.id}` : '';
    try {
      const page = await api<TrailItem[]>('GET', `/trail?limit=${PAGE}${before}`);
      setItems([...known, ...page]);
      setMore(page.length === PAGE);
      setTrouble('');
    } catch (e) {
      setTrouble(errorMessage(e));
    }
  }, []);
  useEffect(() => void read([]), [read, all]);
  const nameOf = (id: string | null) => all.find((p) => p.id === id)?.name ?? 'somebody';
  return (
    <Card title="Who came in, and who changed what" testID="card-trail">
      {trouble ? <Words bold>{trouble}</Words> : null}
      {items.map((t) => (
        <View key={t.id}>
          <Words>{trailWords(t, nameOf)}</Words>
          <Words size={14} soft>
            {clockWords(t.at)}
          </Words>
        </View>
      ))}
      {more ? <Button label="Older" onPress={() => read(items)} testID="trail-older" /> : null}
    </Card>
  );
}
