import { FIRE_RULES, SHIPPING_RULES, WASTE_RULES } from '@gavrel/core';
import { router } from 'expo-router';
import { useMemo, useState } from 'react';
import { View } from 'react-native';
import { useAppSelector } from '../../state';
import { ScanField } from '../../entry/scan-field';
import { Button, onArrows } from '../../ui/buttons';
import { Sheet } from '../../ui/sheet';
import { Figures, Words } from '../../ui/words';
import { scannedTarget, targetsOf, type Target } from './targets';

const MOST = 12;
const RULES = [...SHIPPING_RULES, ...WASTE_RULES, ...FIRE_RULES];

/** One field that leads anywhere: type a tag, a place, a model, a rule or a screen; Enter opens the first, a scanned tag or place opens by itself. */
export function Finder({ onClose }: { onClose: () => void }) {
  const [typed, setTyped] = useState('');
  const { packs, notebooks, places, holds } = useAppSelector((s) => s.logbook);
  const all = useMemo(() => ({ packs, notebooks, places, rules: RULES }), [packs, notebooks, places]);
  const found = useMemo(() => targetsOf(all, typed, MOST), [all, typed]);
  const go = (t: Target | undefined) => {
    if (!t) return;
    onClose();
    router.push(t.to);
  };
  const scanned = (code: string): boolean => {
    setTyped(code);
    const target = scannedTarget(targetsOf(all, code, MOST), code);
    go(target);
    return target !== undefined;
  };
  return (
    <Sheet title="Find" onClose={onClose}>
      <ScanField
        label="Tag, place, model, rule or screen"
        value={typed}
        onChange={setTyped}
        onScan={scanned}
        onEnter={() => go(found[0])}
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
