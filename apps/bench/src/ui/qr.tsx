import QRCode from 'qrcode';
import { useMemo } from 'react';
import { View } from 'react-native';
import Svg, { Path, Rect } from 'react-native-svg';

/** A QR code on the screen: black on white in any theme, or no scanner reads it. @param label where the text is a secret that is not read out. */
export function QrCode({ text, size, label }: { text: string; size: number; label?: string }) {
  const { n, d } = useMemo(() => {
    const { modules } = QRCode.create(text, { errorCorrectionLevel: 'M' });
    let path = '';
    for (let r = 0; r < modules.size; r++)
      for (let c = 0; c < modules.size; c++) if (modules.get(r, c) === 1) path += `M${c + 4} ${r + 4}h1v1h-1z`;
    return { n: modules.size + 8, d: path };
  }, [text]);
  return (
    <View role="img" aria-label={label ?? `QR code of ${text}`} testID="qr">
      <Svg width={size} height={size} viewBox={`0 0 ${n} ${n}`}>
        <Rect width={n} height={n} fill="#FFFFFF" />
        <Path d={d} fill="#000000" />
      </Svg>
    </View>
  );
}
