import { useEffect, useRef } from 'react';
import { View } from 'react-native';
import { SPACE, useTokens } from '../../theme';
import { Button } from '../../ui/buttons';
import { Card } from '../../ui/frame';
import { Figures, Words } from '../../ui/words';
import { durationWords } from './words';

/** Something that can be done: what it found stands in the place of its key once it was. */
export interface Doing {
  readonly id: string;
  readonly words: string;
  readonly minutes: number;
  /** What it found, line by line; null: not done. */
  readonly found: readonly string[] | null;
  readonly may: boolean;
}

const slug = (id: string): string => id.replace(/ /g, '-');

/** What was found, line by line. */
export function FoundLines({ lines }: { lines: readonly string[] }) {
  return (
    <>
      {lines.map((l, i) => (
        <Words key={`${i} ${l}`} size={15}>
          {l}
        </Words>
      ))}
    </>
  );
}

/** Something that was done, in the place of its key; the focus stays where the key was. */
function DoneRow({ doing, focused }: { doing: Doing; focused: boolean }) {
  const t = useTokens();
  const row = useRef<View>(null);
  useEffect(() => {
    if (focused) row.current?.focus();
  }, [focused]);
  return (
    <View
      ref={row}
      tabIndex={-1}
      testID={`done-${slug(doing.id)}`}
      style={{ borderLeftWidth: 4, borderColor: t.ink, paddingLeft: SPACE, paddingVertical: 4, outlineWidth: 0 }}
    >
      <Words bold>{doing.words}</Words>
      <FoundLines lines={doing.found ?? []} />
    </View>
  );
}

/**
 * Everything that can be done, safe and unsafe side by side: nothing on the keys says which is which.
 * @param last what was done last, since this stands here.
 */
export function ActionsCard({
  title = 'What do you do?',
  minutes,
  all,
  last,
  onAct,
}: {
  title?: string;
  minutes: number;
  all: readonly Doing[];
  last: string | undefined;
  onAct: (id: string) => void;
}) {
  return (
    <Card title={title} right={<Figures>{durationWords(minutes)}</Figures>} testID="actions">
      {all.map((d) => (
        <View key={d.id} aria-live="polite">
          {d.found ? (
            <DoneRow doing={d} focused={d.id === last} />
          ) : (
            <Button label={d.words} height={56} disabled={!d.may} onPress={() => onAct(d.id)} testID={`do-${slug(d.id)}`}>
              <View style={{ flexDirection: 'row', justifyContent: 'space-between', alignSelf: 'stretch', gap: SPACE }}>
                <Words bold style={{ flex: 1 }}>
                  {d.words}
                </Words>
                <Figures size={15}>{durationWords(d.minutes)}</Figures>
              </View>
            </Button>
          )}
        </View>
      ))}
    </Card>
  );
}
