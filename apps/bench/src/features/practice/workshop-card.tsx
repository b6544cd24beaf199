import { counted } from '@gavrel/core';
import type { PractisedBy } from '@gavrel/contract';
import { GRADES, gradesPassed } from '@gavrel/core/practice';
import { useEffect, useState } from 'react';
import { View } from 'react-native';
import { api, errorMessage } from '../../device/api';
import { useAppSelector } from '../../state';
import { useTokens } from '../../theme';
import { Card } from '../../ui/frame';
import { agoWords } from '../../ui/say';
import { Words } from '../../ui/words';

/** Who practised what, when and how; those with an unsafe act the last time first. For the lead. */
export function WorkshopCard() {
  const t = useTokens();
  const people = useAppSelector((s) => s.session.session?.people ?? []);
  const [all, setAll] = useState<readonly PractisedBy[] | null>(null);
  const [trouble, setTrouble] = useState('');
  useEffect(() => {
    let here = true;
    api<PractisedBy[]>('GET', '/practice').then(
      (got) => here && setAll(got),
      (e: unknown) => here && setTrouble(errorMessage(e)),
    );
    return () => {
      here = false;
    };
  }, []);
  const rows = people
    .map((p) => {
      // The newest first, as they come.
      const of = (all ?? []).filter((x) => x.person === p.id);
      return { ...p, of, passed: gradesPassed(of), unsafe: (of[0]?.harm ?? 0) > 0 };
    })
    .sort((a, b) => Number(b.unsafe) - Number(a.unsafe) || b.of.length - a.of.length || (a.name < b.name ? -1 : 1));
  return (
    <Card title="Who practised" testID="who-practised">
      {trouble ? <Words bold>{trouble}</Words> : null}
      {all === null
        ? null
        : rows.map(({ id, name, of, passed, unsafe }) => (
            <View key={id} style={{ borderTopWidth: 1, borderColor: t.wash, paddingVertical: 8 }}>
              <Words bold>{name}</Words>
              <Words size={15} bold={unsafe}>
                {of.length === 0
                  ? 'not yet'
                  : [
                      counted(of.length, 'session'),
                      `${of.filter((p) => p.harm > 0).length} with an unsafe act${unsafe ? ', also the last one' : ''}`,
                      `${passed.length} of ${GRADES.length} grades passed`,
                      `last ${agoWords(of[0]!.at)}`,
                    ].join(' · ')}
              </Words>
            </View>
          ))}
    </Card>
  );
}
