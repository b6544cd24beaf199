import { View } from 'react-native';
import { Row } from '../ui/frame';
import { Field } from '../ui/field';
import { type TakeCode, useCamera } from './camera';

/** A code, by a keyboard scanner, by hand, or by the camera. */
export function ScanField({
  label,
  value,
  onChange,
  onScan,
  onEnter = () => void onScan(value),
  many,
  paused,
  asTag,
  longest,
  testID,
}: {
  label: string;
  value: string;
  onChange: (v: string) => void;
  /** A whole code: as the camera read it, or after Enter. */
  onScan: TakeCode;
  /** What Enter does where that is something else. */
  onEnter?: () => void;
  /** The camera stays on after a code. */
  many?: boolean;
  /** Something waits for an answer: the camera takes nothing meanwhile. */
  paused?: boolean;
  /** The code becomes the tag of something new. */
  asTag?: boolean;
  longest?: number;
  testID: string;
}) {
  const camera = useCamera(onScan, { paused, many, asTag });
  return (
    <View style={{ gap: 6 }}>
      <Row>
        <View style={{ flex: 1, minWidth: 180 }}>
          <Field label={label} value={value} onChange={onChange} onSubmit={onEnter} autoFocus longest={longest} testID={testID} />
        </View>
        {camera.key}
      </Row>
      {camera.view}
    </View>
  );
}
