import { FIRE_RULES, SHIPPING_RULES, WASTE_RULES } from '@gavrel/core';
import { router } from 'expo-router';
import { useMemo, useState } from 'react';
import { View } from 'react-native';
import { useAppSelector } from '../../state';
import { Button, onArrows } from '../../ui/buttons';
import { Field } from '../../ui/field';
import { Sheet } from '../../ui/sheet';
import { Figures, Words } from '../../ui/words';
import { targetsOf, type Target } from './targets';

const MOST = 12;
const RULES = [...SHIPPING_RULES, ...WASTE_RULES, ...FIRE_RULES];

/** One field that leads anywhere: type a tag, a place, a model, a rule or a screen; Enter opens the first. */
export function Finder({ onClose }: { onClose: () => void }) {
  const [typed, setTyped] = useState('');
  const { packs, notebooks, places, holds } = useAppSelector((s) => s.logbook);
  const found = useMemo(
    () => targetsOf({ packs, notebooks, places, rules: RULES }, typed, MOST),
    [packs, notebooks, places, typed],
  );
  const go = (t: Target | undefined) => {
    if (!t) return;
    onClose();
    router.push(t.to);
  };
  return (
    <Sheet title="Find" onClose={onClose}>
      <Field
        label="Tag, place, model, rule or screen"
        value={typed}
        onChange={setTyped}
        onSubmit={() => go(found[0])}
        autoFocus
        testID="finder"
      />
      <View aria-label="Found" style={{ gap: 6 }} {...({ role: 'listbox', onKeyDown: onArrows } as object)}>
        {found.map((t) => (
          <Button key={t.key} label={`${t.what} ${t.words}`} role="option" height={56} onPress={() => go(t)} testID="finder-line">
            <View style={{ width: '100%', flexDirection: 'row', gap: 10, alignItems: 'center' }}>
              <Words size={14} soft style={{ width: 52 }}>
                {t.what}
              </Words>
              <Figures bold style={{ flexShrink: 0, maxWidth: '60%' }}>
                {t.words}
              </Figures>
              <Words size={14} soft lines={1} style={{ flex: 1, textAlign: 'right' }}>
                {t.more}
              </Words>
            </View>
          </Button>
        ))}
      </View>
      {typed.trim() !== '' && found.length === 0 ? (
        <Words
          live
        >{`Nothing here is called that.${holds ? ' This device holds a part of the log: Packs asks the server.' : ''}`}</Words>
      ) : null}
    </Sheet>
  );
}
