import type { ReactNode } from 'react';
import { Modal, Pressable, ScrollView, View } from 'react-native';
import { useAppSelector } from '../state';
import { SPACE, useTokens, useWide } from '../theme';
import { useBackCloses } from './back';
import { useFocusReturns } from './focus';
import { useNoSecondTap } from './second-tap';
import { Button } from './buttons';
import { StorageErrorBar } from './storage-error';
import { useShownText } from './display';
import { Heading } from './words';

/**
 * A sheet that comes up from below; on a wide screen it stands at the right edge. Escape and the ground close the top one; the keys stay in it, and go back to where they came from.
 */
export function Sheet({
  title,
  onClose,
  children,
  footer,
}: {
  title: string;
  onClose: () => void;
  children: ReactNode;
  footer?: ReactNode;
}) {
  const t = useTokens();
  const shown = useShownText();
  const wide = useWide();
  const locked = useAppSelector((s) => s.view.locked);
  useBackCloses(onClose);
  useFocusReturns();
  useNoSecondTap();
  return (
    <Modal transparent visible={!locked} onRequestClose={onClose} animationType="none" aria-label={shown(title)}>
      <View style={{ flex: 1, justifyContent: 'flex-end', alignItems: wide ? 'flex-end' : 'stretch' }}>
        <Pressable
          aria-hidden
          tabIndex={-1}
          onPress={onClose}
          style={{ position: 'absolute', inset: 0, backgroundColor: 'rgba(12,12,9,0.55)' }}
        />
        <View
          style={{
            backgroundColor: t.ground,
            borderTopWidth: 3,
            borderTopColor: t.ink,
            maxHeight: wide ? '100%' : '94%',
            width: wide ? 460 : '100%',
            height: wide ? '100%' : undefined,
          }}
        >
          <View
            style={{
              flexDirection: 'row',
              alignItems: 'center',
              justifyContent: 'space-between',
              paddingLeft: SPACE,
              paddingRight: 4,
              minHeight: 52,
            }}
          >
            <Heading style={{ flex: 1 }}>{title}</Heading>
            <Button label="Close" tone="quiet" onPress={onClose} testID="close-sheet" />
          </View>
          <StorageErrorBar testID="storage-error-here" />
          <ScrollView
            style={{ flexShrink: 1 }}
            contentContainerStyle={{ padding: SPACE, paddingTop: 0, gap: SPACE }}
            keyboardShouldPersistTaps="handled"
            tabIndex={0}
          >
            {children}
          </ScrollView>
          {footer ? <View style={{ padding: SPACE }}>{footer}</View> : null}
        </View>
      </View>
    </Modal>
  );
}
